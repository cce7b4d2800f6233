"""Variants: one combination of a product's options, with values of its own, and how their changes are told."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from young_fabric.core.base.wording.counting import counted
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import State
from young_fabric.core.nouns.fields.built_in import BUILT_IN, BuiltInField
from young_fabric.core.nouns.fields.cells import stored_words
from young_fabric.core.nouns.fields.fields import VARIANTS, Field

OFFERED = "offered"
"""Under which name a release freezes what is offered of a product: its option sets, and its variants."""
VARIANT_CHOICES = "variant_choices"
"""Under which name the history has what a variant is made of, where another value came to stand for one of its own."""
MOST_LINES = 12
OWN: Mapping[str, BuiltInField] = {
    key: replace(field, need="optional") for key, field in BUILT_IN.items() if field.varies
}
"""The built-in fields a variant can have of its own."""


@dataclass(frozen=True, slots=True)
class Variant:
    """A combination (option → code) of a product, at a position. `values` are what it has of its own by field key, `unread` what
    was typed and not understood; `sku` is the one it goes by, None where it goes by the product's. `retired` ones are not
    offered now and keep all they hold. `stock` None means not counted; `id` 0 is of none that is stored."""

    id: int
    product: int
    position: int
    choices: Mapping[str, str]
    values: Mapping[str, Any] = field(default_factory=dict)
    unread: Mapping[str, Any] = field(default_factory=dict)
    sku: str | None = None
    retired: bool = False
    version: int = 1
    stock: int | None = None


def describe_offered(before: State | None, after: State | None, defs: Definitions) -> list[str]:
    """What shoppers are offered of a product, in short lines: its option sets and its variants; never raises."""
    old, new = before or {}, after or {}
    out = []
    for key in dict.fromkeys([*(new.get("sets") or ()), *(old.get("sets") or ())]):
        name = defs.option_sets[key].name if key in defs.option_sets else key
        if (key in (old.get("sets") or ())) != (key in (new.get("sets") or ())):
            out.append(f"{name} {'offered' if key in (new.get('sets') or ()) else 'no longer offered'}")
    was = {found["id"]: found for found in old.get("variants") or ()}
    now = {found["id"]: found for found in new.get("variants") or ()}
    for words, count in (("new", len(now.keys() - was.keys())), ("retired", len(was.keys() - now.keys()))):
        if count:
            out.append(f"{counted(count, 'variant')} {words}")
    for number in [number for number in now if number in was and now[number] != was[number]]:
        name = now[number].get("sku") or ", ".join(map(str, (now[number].get("choices") or {}).values()))
        lines = describe_variant(was[number], now[number], defs)
        if lines == ["no difference"]:
            lines = [f"SKU {was[number].get('sku')} → {now[number].get('sku')}"]
        out += [f"{name}: {line}" for line in lines]
        if len(out) > MOST_LINES:
            return [*out[:MOST_LINES], "and more"]
    return out or ["no difference"]


def offered_of_state(product_id: int, state: State) -> tuple[tuple[str, ...], list[Variant]]:
    """The option sets by condition or by hand, and the variants of a product, as a release froze them."""
    found = [
        Variant(row["id"], product_id, row["position"], row["choices"], row["values"], row["unread"], row["sku"])
        for row in state["variants"]
    ]
    return tuple(state["sets"]), found


def fields_of_variants(defs: Definitions) -> Mapping[str, Field]:
    """The fields variants have: those of products that vary, and own ones by name."""
    return {**OWN, **defs.fields_of(VARIANTS)}


def state_of_variant(variant: Variant) -> dict[str, Any]:
    """What people edit of a variant, as JSON values."""
    return {"values": dict(variant.values), "unread": dict(variant.unread)}


def variant_of_state(variant_id: int, state: State) -> Variant:
    """A variant with the values of a state; where it belongs is not part of that."""
    return Variant(variant_id, 0, 0, {}, state["values"], state["unread"])


def describe_variant(before: State | None, after: State | None, defs: Definitions) -> list[str]:
    """A change of a variant in short lines; never raises, whatever was stored."""
    old, new = before or {}, after or {}
    was, now = old.get("values") or {}, new.get("values") or {}
    typed, types = old.get("unread") or {}, new.get("unread") or {}
    known = fields_of_variants(defs)
    out = []
    for key in dict.fromkeys([*now, *types, *was, *typed]):
        if was.get(key) == now.get(key) and typed.get(key) == types.get(key):
            continue
        name = known[key].name if key in known else key
        if key in types:
            out.append(f"{name} “{str(types[key])[:60]}”, not understood")
        else:
            out.append(f"{name} {stored_words(key, was.get(key), defs)} → {stored_words(key, now.get(key), defs)}")
    return out or ["no difference"]
