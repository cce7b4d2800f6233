"""What stands above the listing of a thing that holds values of its own: its picture, its words, and what else shoppers get."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from young_fabric.core.nouns.fields.built_in import COVER, BuiltInField
from young_fabric.core.pages.document import Entry, ShownBlock
from young_fabric.core.subjects.product_labels import Names
from young_fabric.core.subjects.values import FieldRules

DEVICES = ("desktop", "tablet", "phone")


@dataclass(frozen=True)
class Heading:
    """A banner node or none, and a block of entries, which may be empty."""

    banner: Any
    block: ShownBlock


def heading_of(names: Names, noun: str, key: str) -> Heading:
    """The heading of a thing's listing, made of its good values for shoppers."""
    banner, entries = None, []
    defs = names.defs
    thing = defs.things[noun][key]
    for name, field in defs.fields_of_thing(noun, thing).items():
        sort, value = thing.filled.get(name, ("", None))
        value = names.put_in(field, value)
        rules = FieldRules(field, defs.spec(field))
        if sort != "value" or field.audience != "shoppers" or rules.judge(value) is not None:
            continue
        node = rules.shower({})(value)
        if isinstance(field, BuiltInField) and field.role == COVER.role:
            banner = node
            continue
        label_at = "hidden" if not field.own else field.rules.label
        entries.append(Entry(name, field.label, label_at, node, value, DEVICES))
    return Heading(banner, ShownBlock("heading", "fields", "", tuple(entries)))
