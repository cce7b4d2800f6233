"""Changes in words."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.pages.test_resolve import definitions
from young_fabric.core.nouns.registry import NOUNS, describe
from young_fabric.core.subjects.products import describe_product, describe_stock

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
        ("product_type", TYPE, {**TYPE, "sets": ["basics", "care"]}, "takes Care"),
        ("product_type", TYPE, {**TYPE, "needs": {"opacity": "required"}}, "Opacity required"),
        ("product_type", TYPE, {**TYPE, "parent": "paper"}, "now under Paper"),
        ("display_setting", None, {**SETTING, "set": {"shown": True}}, "now shown on the product page, by Watercolour"),
        (
            "display_setting",
            {**SETTING, "set": {"shown": True}},
            None,
            "back to inherited on the product page, by Watercolour",
        ),
        (
            "display_setting",
            {**SETTING, "set": {"empty": "dash"}},
            {**SETTING, "set": {"empty": "omit"}},
            "when empty left out on the product page, by Watercolour",
        ),
        ("value_list", LIST, {**LIST, "values": [{**LIST["values"][0], "retired": True}]}, "retired: A"),
        (
            "value_list",
            LIST,
            {**LIST, "values": [*LIST["values"], {"code": "b", "label": "B", "synonyms": [], "retired": False}]},
            "1 value added: B",
        ),
        ("product", PRODUCT, {**PRODUCT, "values": {**PRODUCT["values"], "price": "12"}}, "Price 9.8 → 12"),
        ("product", PRODUCT, {**PRODUCT, "offered": False}, "kept out of the shop"),
        ("product", PRODUCT, {**PRODUCT, "unread": {"weight": "heavy"}}, "Weight “heavy”, not understood"),
        ("stock", {"amount": None}, {"amount": 3}, "Stock not counted → 3"),
    ],
)
def test_a_change_is_told_in_words(noun: str, before: Any, after: Any, line: str) -> None:
    others = {"product": describe_product, "stock": describe_stock}
    if noun in others:
        assert line in others[noun](before, after, definitions())
    else:
        assert line in describe(NOUNS[noun], before, after, definitions())
