"""The steps of the chain that definitions decide, each with its outcome in words and the place to mend it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from young_fabric.core.display.cascade import Resolved
from young_fabric.core.display.surfaces import Surface
from young_fabric.core.nouns import display_settings, fields
from young_fabric.core.nouns.definitions import Definitions
from young_fabric.core.nouns.display_settings import origin_name
from young_fabric.core.nouns.fields import Field
from young_fabric.core.nouns.product_types import EffectiveField
from young_fabric.core.pages.layouts import Layout


class Mend(NamedTuple):
    """A place to mend a failure: what to do, and the thing to open (noun or subject, key)."""

    text: str
    noun: str
    key: str


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
    mend = None if shown.value else Mend("Show it there", display_settings.NOUN.code, key)
    return Step("shown", bool(shown.value), f"{verb} on the {surface.name} {by}", mend)


def step_slot(layout: Layout, blocks: tuple[str, ...]) -> Step:
    """Whether the layout in force has a place."""
    if not blocks:
        return Step("slot", False, f"The layout {layout.name}, which the shop uses, has no slot that takes it")
    found = [block for block in layout.blocks() if block.id in blocks]
    names = " and ".join(block.heading or block.id for block in found)
    return Step("slot", True, f"The layout {layout.name} has a place for it, in {names}")
