"""What of a product is wrong, what it lacks, and what of that is judged anew."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH
from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.groups import Group
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.core.subjects.products import Product, describe_product
from young_fabric.core.subjects.stock import MOST_STOCK, check_amount
from young_fabric.core.subjects.variants import describe_variant

ASKED = Assessor(SALTMARSH)
GOOD = {"title": "Easel", "ss_wood": "ash", "ss_holds": {"amount": "40", "unit": "cm"}, "price": "80"}


def easel(**values: Any) -> Product:
    return Product(1, "easels", {**GOOD, **values})


def test_what_is_required_and_not_filled_is_a_gap() -> None:
    assert set(ASKED.required(Group("easels"))) >= {"ss_holds", "ss_wood", "title"}
    whole = {key: GOOD.get(key, "x") for key in ASKED.required(Group("easels"))}
    assert not ASKED.has_gaps(Product(1, "easels", whole), ())
    for key in whole:
        assert ASKED.has_gaps(
            Product(1, "easels", {name: value for name, value in whole.items() if name != key}), ()
        ), key
    assert ASKED.has_gaps(Product(1, "easels", whole), ["price"])


def test_what_is_wrong_is_found_anew_or_left_as_it_was() -> None:
    odd = easel(ss_wood="plastic", ss_holds="40")
    assert ASKED.wrong(odd) == {"ss_wood", "ss_holds"}
    assert ASKED.wrong(odd, keys=["ss_wood"]) == {"ss_wood"}
    assert ASKED.wrong(odd, ["title", "nothing"], ["ss_wood"]) == {"ss_wood", "title"}
    assert ASKED.wrong(easel(), ["ss_wood"], ["ss_wood"]) == frozenset()
    assert ASKED.wrong(easel(ss_pigment="odd")) == frozenset(), "no field of easels"
    assert ASKED.is_wrong(Product(1, "easels", GOOD, {"ss_wood": "?"}), "ss_wood")
    assert not ASKED.is_wrong(easel(), "ss_made_in")


@pytest.mark.parametrize(
    ("before", "after", "lines"),
    [
        (None, {}, ["new"]),
        ({}, None, ["removed"]),
        ({"offered": True}, {"offered": False}, ["kept out of the shop"]),
        ({"offered": False}, {"offered": True}, ["put in the shop"]),
        ({"type": "easels"}, {"type": "paint"}, ["now a Paint"]),
        ({"type": "easels"}, {"type": "gone"}, ["now a gone"]),
        ({"values": {"ss_wood": "oak"}}, {"values": {"ss_wood": "beech"}}, ["Wood “oak” → “beech”"]),
        ({"values": {"ss_wood": "oak"}}, {"values": {}}, ["Wood “oak” → nothing"]),
        ({"values": {}}, {"values": {"nothing": "x"}}, ["nothing nothing → “x”"]),
        ({}, {"unread": {"ss_holds": "much"}}, ["Holds up to “much”, not understood"]),
        ({"unread": {"ss_holds": "much"}}, {"unread": {"ss_holds": "much"}}, ["no difference"]),
    ],
)
def test_a_change_of_a_product_is_told_by_its_own_lines(before: Any, after: Any, lines: list[str]) -> None:
    assert describe_product(before, after, SALTMARSH) == lines


@pytest.mark.parametrize(
    ("before", "after", "lines"),
    [
        (None, None, ["no difference"]),
        ({"values": {}}, {"values": {"sku": "A"}}, ["SKU nothing → “A”"]),
        ({"values": {"sku": "A"}}, {"values": {"sku": "A"}}, ["no difference"]),
        ({}, {"unread": {"price": "much"}}, ["Price “much”, not understood"]),
        ({"unread": {"price": "much"}}, {"values": {"price": "3"}}, ["Price nothing → 3"]),
        ({"values": {"gone": 1}}, {}, ["gone 1 → nothing"]),
    ],
)
def test_a_change_of_a_variant_is_told_by_its_own_lines(before: Any, after: Any, lines: list[str]) -> None:
    assert describe_variant(before, after, SALTMARSH) == lines


def test_stock_is_none_or_a_whole_number_of_pieces() -> None:
    for amount in (None, 0, MOST_STOCK):
        check_amount(amount)
    for amount, code in ((-1, "below"), (MOST_STOCK + 1, "above")):
        with pytest.raises(Refusal) as refused:
            check_amount(amount)
        assert refused.value.code == code
