"""Limits of layouts, their blocks and steps: each at it, and one beyond."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH
from young_fabric.core.base import locales
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.layouts import MOST_DEEP
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.nouns.layouts.layouts import MOST_BLOCKS, check_layout
from young_fabric.core.nouns.options.said_options import is_option_key, set_of_option_key
from young_fabric.core.subjects.values import FieldRules, Reading
from young_fabric.store.states import thing_of

FIELDS = [key for key, field in sorted(SALTMARSH.fields.items()) if field.kind == "text"]


def layout(blocks: list[dict[str, Any]], *more: tuple[str, list[dict[str, Any]]]) -> Any:
    regions = [{"id": "main", "blocks": blocks}, *[{"id": name, "blocks": inner} for name, inner in more]]
    return thing_of("layout", {"key": "own", "name": "Own", "surface": "product_page", "regions": regions, "steps": []})


def code_of(made: Any) -> str | None:
    try:
        check_layout(made, SALTMARSH)
    except Refusal as refusal:
        return refusal.code
    return None


@pytest.mark.parametrize(
    "kind", [kind for kind in BLOCK_KINDS.values() if 0 < kind.most_fields <= 20 and not kind.kinds]
)
def test_a_block_takes_as_many_fields_as_its_kind_says_and_no_more(kind: Any) -> None:
    def taking(count: int) -> str | None:
        block = {"id": "some", "kind": kind.code, "takes": {"fields": FIELDS[:count], "sets": [], "sections": []}}
        return code_of(layout([block]))

    assert len(FIELDS) > kind.most_fields
    assert taking(kind.most_fields) is None
    assert taking(kind.most_fields + 1) == "too_many"


def nested(deep: int) -> Any:
    """A layout of panels in each other, so many."""
    inner: list[tuple[str, list[dict[str, Any]]]] = []
    for level in range(deep):
        within = [{"id": f"b{level + 1}", "kind": "panels", "regions": [f"r{level + 1}"]}] if level < deep - 1 else []
        inner.append((f"r{level}", within))
    return layout([{"id": "b0", "kind": "panels", "regions": ["r0"]}], *inner)


def test_blocks_stand_in_each_other_so_deep_and_no_deeper() -> None:
    assert code_of(nested(MOST_DEEP)) is None
    assert code_of(nested(MOST_DEEP + 1)) == "nested"


def test_a_layout_holds_so_many_blocks_and_no_more() -> None:
    def of(count: int) -> Any:
        return layout([{"id": f"w{number}", "kind": "words", "words": "Hello"} for number in range(count)])

    assert code_of(of(MOST_BLOCKS)) is None
    assert code_of(of(MOST_BLOCKS + 1)) is not None


@pytest.mark.parametrize(("regions", "fits"), [(1, False), (2, True), (4, True), (5, False)])
def test_columns_are_so_many(regions: int, fits: bool) -> None:
    kind = BLOCK_KINDS["columns"]
    assert (kind.fewest_regions, kind.most_regions) == (2, 4)
    names = [f"c{number}" for number in range(regions)]
    made = layout([{"id": "cols", "kind": "columns", "regions": names}], *[(name, []) for name in names])
    assert (code_of(made) is None) is fits


def test_where_a_block_stands() -> None:
    card, page = SURFACES["listing_card"], SURFACES["product_page"]
    assert not card.paged
    assert [BLOCK_KINDS["price"].stands_on(surface) for surface in (card, page)] == [True, True]
    assert [BLOCK_KINDS["related"].stands_on(surface) for surface in (card, page)] == [False, True]
    assert not BLOCK_KINDS["referrers"].stands_on(page)
    assert BLOCK_KINDS["referrers"].stands_on(SURFACES["record_page"])


@pytest.mark.parametrize("key", sorted(SALTMARSH.all_fields))
def test_nothing_typed_is_no_value_whatever_the_field(key: str) -> None:
    field = SALTMARSH.all_fields[key]
    rules = FieldRules(field, SALTMARSH.spec(field))
    assert [rules.read(typed) for typed in (None, "", [])] == [Reading()] * 3


def test_an_option_is_meant_by_its_set_and_key() -> None:
    assert (is_option_key("easel_woods.wood"), is_option_key("ss_wood")) == (True, False)
    assert set_of_option_key("easel_woods.wood") == "easel_woods"


def test_yes_and_no_stand_in_the_language_of_the_shop_and_in_english_where_none_are_known() -> None:
    assert (locales.show_yes_no(True, "de"), locales.show_yes_no(False, "de")) == ("Ja", "Nein")
    assert (locales.show_yes_no(True, "eo"), locales.show_yes_no(False, "eo")) == ("Yes", "No")
