"""Products and variants as states and back, what they are gathered into, and where they stand."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH
from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.reach import Reach
from young_fabric.core.kinds import Spec
from young_fabric.core.nouns.fields.cells import stored_words
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.subjects.assessing import MOST_GROUPS, Assessor
from young_fabric.core.subjects.derived import DERIVED
from young_fabric.core.subjects.gatherers import GATHERERS, Gatherer, gathered_otherwise, put_in
from young_fabric.core.subjects.memberships import ordered_by
from young_fabric.core.subjects.products import Product, product_of_state, state_of_product
from young_fabric.core.subjects.values import FieldRules
from young_fabric.core.subjects.variants import Variant, state_of_variant, variant_of_state

PRODUCT = Product(5, "easels", {"title": "Heron", "ss_wood": "ash"}, {"price": "dear"}, offered=False)


def test_a_product_goes_to_its_state_and_back() -> None:
    state = state_of_product(PRODUCT)
    assert state == {
        "type": "easels",
        "values": {"title": "Heron", "ss_wood": "ash"},
        "unread": {"price": "dear"},
        "offered": False,
    }
    assert product_of_state(5, state) == PRODUCT
    state["values"]["title"] = "another"
    assert PRODUCT.values["title"] == "Heron", "a state is a copy"


def test_a_variant_goes_to_its_state_and_back() -> None:
    variant = Variant(7, 5, 2, {"wood": "ash"}, {"price": "9"}, {"weight": "heavy"}, "A-1")
    state = state_of_variant(variant)
    assert state == {"values": {"price": "9"}, "unread": {"weight": "heavy"}}
    again = variant_of_state(7, state)
    assert (again.id, again.values, again.unread) == (7, variant.values, variant.unread)
    assert (again.product, again.position) == (0, 0)


def test_what_a_product_is_gathered_into() -> None:
    gatherer = Gatherer("range")
    assert gatherer.note("reds") == "range:reds"
    assert gatherer.of(PRODUCT) == ()
    put = put_in(PRODUCT, {"collection": ("a", "b"), "option_set": ()})
    assert (put.collections, put.option_sets, put.gathered) == (("a", "b"), (), {})
    assert [GATHERERS[noun].of(put) for noun in ("collection", "option_set")] == [("a", "b"), ()]
    assert [found.noun for found in gathered_otherwise(PRODUCT, put)] == ["collection"]
    assert gathered_otherwise(put, put) == []


def test_what_has_no_member_of_its_own_stands_among_gathered(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(GATHERERS, "range", Gatherer("range"))
    put = put_in(PRODUCT, {"range": ("reds",), "collection": ()})
    assert put.gathered == {"range": ("reds",)}
    assert GATHERERS["range"].of(put) == ("reds",)
    assert put_in(put, {"range": (), "collection": ()}).gathered == {}
    assert [found.noun for found in gathered_otherwise(PRODUCT, put)] == ["range"]


def test_a_product_is_placed_by_every_gatherer() -> None:
    assessor = Assessor(SALTMARSH)
    placed = assessor.placed(PRODUCT)
    assert placed.collections == assessor.memberships.of(PRODUCT)
    assert placed.values == PRODUCT.values


def test_groups_are_kept_so_many_and_then_begun_anew() -> None:
    assessor = Assessor(SALTMARSH)
    first = assessor.group("easels", ())
    assert assessor.group("easels", ()) is first
    for number in range(MOST_GROUPS - 1):
        assessor.group("easels", (f"gone_{number}",))
    assert assessor.group("easels", ()) is first, "as many as are kept"
    assessor.group("easels", ("one_more",))
    assert assessor.group("easels", ()) is not first
    assert assessor.group("easels", ()) == first


def test_a_unit_price_that_is_too_large_is_refused() -> None:
    compute = DERIVED["unit_price"].bind(Spec(currency="EUR"))
    contents = {"count": 1, "amount": "100", "unit": "ml"}
    assert compute(("5", contents)) == {"amount": "5", "reference": "100", "unit": "ml"}
    with pytest.raises(Refusal) as found:
        compute(("1e999999", contents))
    assert (found.value.code, found.value.message) == ("number", "the numbers are too large to reckon with")


@pytest.mark.parametrize(
    ("key", "value", "words"),
    [
        ("ss_wood", "ash", "“ash”"),
        ("ss_maker", "fen_mill", "Fen Mill"),
        ("ss_maker", ["fen_mill", 5], "Fen Mill, 5"),
        ("ss_goes_with", 5, "5"),
        ("ss_wood", None, "nothing"),
        ("ss_gone", "x", "“x”"),
        ("pictures", [], "0 pictures"),
        ("title", "Heron", "“Heron”"),
    ],
)
def test_any_value_in_a_few_words(key: str, value: Any, words: str) -> None:
    assert stored_words(key, value, SALTMARSH) == words


@pytest.mark.parametrize(("said", "wanted"), [("by_hand", "b, a, c"), ("reverse", "c, a, b"), ("alphabet", "a, b, c")])
def test_several_values_stand_in_the_order_that_is_said(said: str, wanted: str) -> None:
    rules = FieldRules(Field("f", "F", "F", "text", many=True), Spec())
    assert rules.shower({"item_order": said})(["b", "a", "c"]).plain == wanted


def test_places_by_a_field_read_the_first_of_several() -> None:
    compare = {"ss_width": "number"}
    assert ordered_by("ss_width", Product(1, "easels", {"ss_width": ["5", "9"]}), compare) == ordered_by(
        "ss_width", Product(1, "easels", {"ss_width": "5"}), compare
    )
    none = ordered_by("ss_width", Product(1, "easels", {}), compare)
    assert ordered_by("ss_width", Product(1, "easels", {"ss_width": []}), compare) == none
    assert Decimal(5) < Decimal(9)


def test_reach_joins_and_takes_in() -> None:
    easels, outdoors = Reach(frozenset({"easels"})), Reach(collections=frozenset({"outdoors"}))
    both = easels | outdoors
    assert both == Reach(frozenset({"easels"}), frozenset({"outdoors"}))
    assert [bool(reach) for reach in (Reach(), easels, outdoors)] == [False, True, True]
    assert [both.takes_in("paint", found) for found in ((), ("outdoors",), ("indoors",))] == [False, True, False]
    assert [easels.takes_in(found, ()) for found in ("easels", "paint")] == [True, False]
