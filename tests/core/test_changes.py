"""Changes in words, and taking them back."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_resolve import definitions
from young_fabric.core.changes import describe, merge_back

FIELD: dict[str, Any] = {"name": "Weight", "label": "Weight", "limits": {"max": "850"}, "need": "optional", "help": ""}
TYPE: dict[str, Any] = {"name": "Paint", "slug": "paint", "parent": None, "sets": ["basics"], "fields": [], "needs": {}}
SETTING: dict[str, Any] = {
    "scope": {"kind": "type", "key": "water"},
    "field": "granul",
    "surface": "product_page",
    "set": {},
}
LIST: dict[str, Any] = {"name": "L", "values": [{"code": "a", "label": "A", "synonyms": [], "retired": False}]}
PRODUCT: dict[str, Any] = {"type": "water", "values": {"price": "9.8", "title": "T"}, "unread": {}, "offered": True}


@pytest.mark.parametrize(
    ("noun", "before", "after", "line"),
    [
        ("field", None, FIELD, "new"),
        ("field", FIELD, None, "removed"),
        ("field", FIELD, {**FIELD, "limits": {"max": "640"}}, "largest 850 → 640"),
        ("field", FIELD, {**FIELD, "label": "Gram weight"}, "label “Weight” → “Gram weight”"),
        ("type", TYPE, {**TYPE, "sets": ["basics", "care"]}, "takes Care"),
        ("type", TYPE, {**TYPE, "needs": {"opacity": "required"}}, "Opacity required"),
        ("type", TYPE, {**TYPE, "parent": "paper"}, "now under Paper"),
        ("setting", None, {**SETTING, "set": {"shown": True}}, "now shown on the product page, by Watercolour"),
        ("setting", {**SETTING, "set": {"shown": True}}, None, "back to inherited on the product page, by Watercolour"),
        (
            "setting",
            {**SETTING, "set": {"empty": "dash"}},
            {**SETTING, "set": {"empty": "omit"}},
            "when empty left out on the product page, by Watercolour",
        ),
        ("list", LIST, {**LIST, "values": [{**LIST["values"][0], "retired": True}]}, "retired: A"),
        (
            "list",
            LIST,
            {**LIST, "values": [*LIST["values"], {"code": "b", "label": "B", "synonyms": [], "retired": False}]},
            "1 value added: B",
        ),
        ("product", PRODUCT, {**PRODUCT, "values": {**PRODUCT["values"], "price": "12"}}, "Price 9.8 → 12"),
        ("product", PRODUCT, {**PRODUCT, "offered": False}, "kept out of the shop"),
        ("product", PRODUCT, {**PRODUCT, "unread": {"weight": "heavy"}}, "Weight “heavy”, not understood"),
        ("stock", {"amount": None}, {"amount": 3}, "not counted → 3"),
    ],
)
def test_a_change_is_told_in_words(noun: str, before: Any, after: Any, line: str) -> None:
    assert line in describe(noun, before, after, definitions())


def test_an_undo_leaves_later_changes_of_other_members_alone() -> None:
    merged, clashes = merge_back(
        {"a": 1, "b": {"x": 1, "y": 1}}, {"a": 2, "b": {"x": 2, "y": 1}}, {"a": 2, "b": {"x": 2, "y": 9}, "c": 3}
    )
    assert (merged, clashes) == ({"a": 1, "b": {"x": 1, "y": 9}, "c": 3}, [])


def test_an_undo_is_refused_where_a_later_change_is_in_the_way() -> None:
    assert merge_back({"a": 1}, {"a": 2}, {"a": 3})[1] == ["a"]


_states = st.dictionaries(st.sampled_from("abc"), st.integers(0, 3))


@given(_states, _states)
def test_an_undo_right_after_gives_back_what_was(before: dict[str, int], after: dict[str, int]) -> None:
    assert merge_back(before, after, after) == (before, [])
