"""The steps of the chain that definitions decide, each with its outcome in words and the place to mend it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

from young_fabric.core.base.conditions import tests_of
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.cascade import Resolved
from young_fabric.core.display.choices import EVERY_DEVICE
from young_fabric.core.display.layouts import Arrangement, Block, block_devices
from young_fabric.core.display.surfaces import Surface
from young_fabric.core.nouns.fields import fields
from young_fabric.core.nouns.fields.conditions import condition_words, value_words
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.layouts import display_settings, layouts
from young_fabric.core.nouns.layouts.display_settings import origin_name
from young_fabric.core.nouns.types.product_types import EffectiveField
from young_fabric.core.pages.when import Holding, When


class Mend(NamedTuple):
    """A place to mend a failure: what to do, and the thing to open (noun or subject, key); where one press mends it, what
    that is to say (`says`, properties of a display setting)."""

    text: str
    noun: str
    key: str
    says: Mapping[str, Any] | None = None


BLOCK = "block"
"""What a place in a layout is called where it is opened; its key is `layout/block`."""


def mend_block(text: str, layout: Arrangement, block: Block) -> Mend:
    """The block of a layout that is to be changed."""
    return Mend(text, BLOCK, f"{layout.key}/{block.id}")


class Step(NamedTuple):
    """One step of the chain for one field: passed, failed, or None when it could not be asked."""

    name: str
    ok: bool | None
    text: str
    mend: Mend | None = None


def step_applies(defs: Definitions, effective: EffectiveField) -> Step:
    """Where the product has the field from."""
    if effective.collection is not None and effective.set is not None:
        by = defs.things["collection"][effective.collection].name
        return Step("applies", True, f"The set {defs.sets[effective.set].name} comes with being in {by}")
    if effective.record_type is not None:
        return Step("applies", True, f"Records of {defs.things['record_type'][effective.record_type].name} have it")
    if effective.type is None:
        return Step("applies", True, "Every product has it")
    name = defs.types[effective.type].name
    if effective.set is None:
        return Step("applies", True, f"{name} takes it as a single field")
    return Step("applies", True, f"{name} takes it from the set {defs.sets[effective.set].name}")


def step_audience(field: Field, surface: Surface) -> Step:
    """Whether the surface may show the field."""
    mend = Mend("Change who it is for", fields.NOUN.code, field.key) if field.own else None
    if field.audience not in surface.readers:
        words = {
            "staff": "It is for staff, and never leaves the studio",
            "feeds": "It is for other systems, shoppers don't see it",
            "shoppers": "It is for shoppers, other systems don't get it",
        }
        return Step("audience", False, words[field.audience], mend)
    return Step("audience", True, "It is for shoppers" if field.audience == "shoppers" else "It is for other systems")


def step_shown(defs: Definitions, field: Field, settings: Mapping[str, Resolved], surface: Surface) -> Step:
    """Whether the setting in force shows it, and who said so."""
    shown = settings["shown"]
    by = "by default" if shown.origin == "default" else f"by the setting on {origin_name(defs, shown.origin)}"
    verb = "Shown" if shown.value else "Not shown"
    key = f"{shown.origin}/{field.key}/{surface.code}"
    mend = None if shown.value else Mend("Show it there", display_settings.NOUN.code, key, {"shown": True})
    return Step("shown", bool(shown.value), f"{verb} on the {surface.name} {by}", mend)


def step_slot(defs: Definitions, layout: Arrangement, chosen: Resolved, blocks: tuple[str, ...]) -> Step:
    """Whether the layout in force has a place."""
    name = f"The layout {layout.name}, {_chosen_by(defs, chosen)},"
    if not blocks:
        mend = Mend("Give it a place there", layouts.NOUN.code, layout.key)
        return Step("slot", False, f"{name} has no slot that takes it", mend)
    found = [block for block in layout.blocks() if block.id in blocks]
    names = " and ".join(block_name(block) for block in found)
    return Step("slot", True, f"{name} has a place for it, in {names}")


def _chosen_by(defs: Definitions, chosen: Resolved) -> str:
    if chosen.origin == "default":
        return "which the surface has by default"
    return f"which {origin_name(defs, chosen.origin)} has"


def block_name(block: Block) -> str:
    """What a block is called in sentences: by its heading, or what it is known by."""
    return block.heading or block.id.replace("_", " ")


def step_block(defs: Definitions, holdings: Sequence[Holding], values: Mapping[str, Any], layout: Arrangement) -> Step:
    """Whether a block that takes the field shows: none of what it stands in is hidden, and all their conditions hold."""
    failed: Step | None = None
    for holding in holdings:
        hidden = holding.hidden
        if hidden is not None:
            words = f"{block_name(hidden)} is hidden in the layout {layout.name}"
            failed = failed or Step("block", False, words, mend_block("Show it there", layout, hidden))
            continue
        unmet = next(
            (
                (block, when)
                for block, when in zip(holding.chain, holding.conditions, strict=True)
                if when is not None and not when.holds(values)
            ),
            None,
        )
        if unmet is None:
            return Step("block", True, f"{block_name(holding.chain[-1])} shows")
        words = f"{block_name(unmet[0])} shows only when {condition_words(unmet[1].tree, defs)}"
        mend = mend_block("Change its condition", layout, unmet[0])
        failed = failed or Step("block", False, f"{words}: {met_values(defs, unmet[1], values)}", mend)
    return failed or Step("block", None, "There is no block to ask")


def step_condition(
    defs: Definitions, field: Field, when: When | None, values: Mapping[str, Any], origin: str, surface: Surface
) -> Step:
    """Whether the field's own condition holds."""
    if when is None:
        return Step("condition", True, "It shows under any condition")
    words = f"It shows only when {condition_words(when.tree, defs)}, by {origin_name(defs, origin)}"
    if when.holds(values):
        return Step("condition", True, words)
    mend = Mend("Change the condition", display_settings.NOUN.code, f"{origin}/{field.key}/{surface.code}")
    return Step("condition", False, f"{words}: {met_values(defs, when, values)}", mend)


def met_values(defs: Definitions, when: When, values: Mapping[str, Any]) -> str:
    """The values a condition met, in words."""
    out = []
    for key in dict.fromkeys(test["field"] for test in tests_of(when.tree)):
        field = defs.all_fields.get(key)
        if field is None:
            continue
        value = values.get(key)
        items = value if isinstance(value, list) else [value]
        text = "empty" if value is None else ", ".join(value_words(key, item, defs) for item in items[:4])
        out.append(f"{field.name} is {text[:60]}")
    return "; ".join(out) or "it does not"


def step_device(
    layout: Arrangement, holdings: Sequence[Holding], own: Sequence[str], setting: Mend | None, device: str
) -> Step:
    """On which widths something shows that says so by itself (`own`) and stands in blocks that do, and whether the `device`
    that is looked at, "" for none, is one of them."""
    shown = [[name for name in own if _wide_enough(holding, name)] for holding in holdings] or [list(own)]
    seen = [name for name in EVERY_DEVICE if any(name in names for names in shown)]
    if len(seen) == len(EVERY_DEVICE):
        return Step("device", True, "On every width")
    words = f"On {' and '.join(seen)} only" if seen else "On no width"
    if seen and device in ("", *seen):
        return Step("device", True, words)
    mend = setting if device not in own or not holdings else _narrowing(layout, holdings, device)
    return Step("device", False, f"{words}{f', not on {device}' if seen else ''}", mend)


def _wide_enough(holding: Holding, device: str) -> bool:
    return all(device in block_devices(block) for block in holding.chain)


def _narrowing(layout: Arrangement, holdings: Sequence[Holding], device: str) -> Mend | None:
    blocks = [block for holding in holdings for block in holding.chain if device not in block_devices(block)]
    return mend_block("Change its widths", layout, blocks[0]) if blocks else None
