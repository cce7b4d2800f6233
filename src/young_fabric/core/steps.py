"""The steps of the chain that definitions decide, each with its outcome in words and the place to mend it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from young_fabric.core.definitions import Definitions
from young_fabric.core.display import SURFACES, Resolved
from young_fabric.core.fields import Field
from young_fabric.core.layouts import Layout
from young_fabric.core.product_types import EffectiveField


class Mend(NamedTuple):
    """A place to mend a failure: what to do, and the thing to open (noun, key)."""

    text: str
    noun: str
    key: str


class Step(NamedTuple):
    """One step of the chain for one field: passed, failed, or None when it could not be asked."""

    name: str
    ok: bool | None
    text: str
    mend: Mend | None = None


def scope_name(defs: Definitions, origin: str) -> str:
    """`type:paint` → `Paint`, `shop` → `the shop`, as sentences have it."""
    kind, _, key = origin.partition(":")
    if kind == "type":
        return defs.types[key].name if key in defs.types else key
    return {"shop": "the shop", "default": "default", "product": "this product"}.get(kind, key)


def step_applies(defs: Definitions, one: EffectiveField) -> Step:
    """Where the product has the field from."""
    if one.type is None:
        return Step("applies", True, "Every product has it")
    name = defs.types[one.type].name
    if one.set is None:
        return Step("applies", True, f"{name} takes it as a single field")
    return Step("applies", True, f"{name} takes it from the set {defs.sets[one.set].name}")


def step_audience(this: Field, surface: str) -> Step:
    """Whether the surface may show the field."""
    mend = Mend("Change who it is for", "field", this.key)
    if this.audience == "staff":
        return Step("audience", False, "It is for staff, and never leaves the studio", mend if this.own else None)
    if this.audience == "feeds" and surface != "structured_data":
        return Step("audience", False, "It is for other systems, shoppers don't see it", mend if this.own else None)
    return Step("audience", True, "It is for shoppers" if this.audience == "shoppers" else "It is for other systems")


def step_shown(defs: Definitions, this: Field, settings: Mapping[str, Resolved], surface: str) -> Step:
    """Whether the setting in force shows it, and who said so."""
    shown = settings["shown"]
    by = "by default" if shown.origin == "default" else f"by the setting on {scope_name(defs, shown.origin)}"
    verb = "Shown" if shown.value else "Not shown"
    mend = None if shown.value else Mend("Show it there", "setting", f"{shown.origin}/{this.key}/{surface}")
    return Step("shown", bool(shown.value), f"{verb} on the {SURFACES[surface]} {by}", mend)


def step_slot(layout: Layout, blocks: tuple[str, ...]) -> Step:
    """Whether the layout in force has a place."""
    if not blocks:
        return Step("slot", False, f"The layout {layout.name}, which the shop uses, has no slot that takes it")
    found = [block for block in layout.blocks() if block.id in blocks]
    names = " and ".join(block.heading or block.id for block in found)
    return Step("slot", True, f"The layout {layout.name} has a place for it, in {names}")
