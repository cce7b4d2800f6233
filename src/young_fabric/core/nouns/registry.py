"""The registry of nouns, each standing after those it refers to: one more is one module and one line here."""

from __future__ import annotations

from young_fabric.core.nouns.base import Known, Noun, State
from young_fabric.core.nouns.content import collections, record_types, records, shared_copies
from young_fabric.core.nouns.fields import fields
from young_fabric.core.nouns.layouts import display_settings, layouts
from young_fabric.core.nouns.lists import value_lists
from young_fabric.core.nouns.options import option_sets
from young_fabric.core.nouns.types import field_sets, product_types

NOUNS: dict[str, Noun] = {
    noun.code: noun
    for noun in (
        value_lists.NOUN,
        record_types.NOUN,
        shared_copies.NOUN,
        fields.NOUN,
        records.NOUN,
        collections.NOUN,
        field_sets.NOUN,
        option_sets.NOUN,
        product_types.NOUN,
        layouts.NOUN,
        display_settings.NOUN,
    )
}
"""Every noun by its code."""


def describe(noun: Noun, before: State | None, after: State | None, defs: Known) -> list[str]:
    """A change in short lines, the weightiest first; `defs` give names to keys."""
    if before is None:
        return noun.telling.made(after or {}, defs)
    if after is None:
        return noun.telling.gone(before, defs)
    return noun.telling.describe(before, after, defs)
