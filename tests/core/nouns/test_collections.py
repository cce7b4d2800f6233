"""Collections: who is in them, in which order, which fields they bring, and conditions as people write them."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.helpers import defs_of, field
from young_fabric.core.base.conditions import COMPARISONS, OPS, TAKES
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.ranks import is_rank, rank_between
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.kinds import KINDS
from young_fabric.core.nouns.content.collections import MOST_BY_HAND, NOUN, Collection, in_order
from young_fabric.core.nouns.fields.conditions import (
    MOST_TESTS,
    MOST_VALUES,
    condition_words,
    offered_tests,
    read_condition,
)
from young_fabric.core.nouns.fields.fields import NOUN as FIELD
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.types.field_sets import FieldSet, Section
from young_fabric.core.nouns.types.product_types import ProductType
from young_fabric.core.pages.plans import Plans
from young_fabric.core.pages.why import why
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.core.subjects.memberships import EVERY, KEPT_OUT, LAST, MATCHES, PICKED, Memberships, Narrowing
from young_fabric.core.subjects.products import Product


def definitions(*collections: Collection, **more: Any) -> Definitions:
    suits = ValueList("suits", "Suits", (ListValue("plein_air", "Plein air"), ListValue("studio", "Studio")))
    fields = {
        "suits": field("suits", "Suits", "Suits", "many_of", list="suits"),
        "width": field("width", "Folded width", "Width", "measure", unit="mm"),
        "since": field("since", "Made since", "Since", "date"),
        "band": field("band", "Elastic band", "Band", "yes_no"),
        "tip": field("tip", "Field tip", "Tip", "text"),
    }
    types = {
        "paint": ProductType("paint", "Paint", None, "paint", fields=("suits", "since")),
        "water": ProductType("water", "Watercolour", "paint", "water"),
        "books": ProductType("books", "Sketchbooks", None, "books", fields=("width", "band", "suits")),
    }
    found = {thing.key: thing for thing in collections}
    return defs_of(lists={"suits": suits}, fields=fields, types=types, collections=found, **more)


def product(number: int = 1, type: str = "water", **values: Any) -> Product:
    return Product(number, type, {"title": f"Product {number}", **values})


def collection(key: str = "outdoors", **more: Any) -> Collection:
    return Collection(key, key.title(), key, **more)


def read(tree: Any) -> Any:
    return read_condition(tree, definitions())


@pytest.mark.parametrize(
    ("test", "value"),
    [
        ({"field": "width", "op": "lt", "value": "15 cm"}, {"amount": "150", "unit": "mm"}),
        (
            {"field": "width", "op": "between", "value": ["1 cm", "20"]},
            [{"amount": "10", "unit": "mm"}, {"amount": "20", "unit": "mm"}],
        ),
        ({"field": "suits", "op": "is", "value": "Plein air"}, "plein_air"),
        ({"field": "suits", "op": "any_of", "value": ["plein_air", "Studio"]}, ["plein_air", "studio"]),
        ({"field": "suits", "op": "none_of", "value": "Plein air, Studio"}, ["plein_air", "studio"]),
        ({"field": "band", "op": "is", "value": "yes"}, True),
        ({"field": "since", "op": "ge", "value": "2020-01-31"}, "2020-01-31"),
        ({"field": "price", "op": "le", "value": "€ 9.80"}, "9.8"),
        ({"field": "contents", "op": "le", "value": "15 ml"}, {"count": 1, "amount": "15", "unit": "ml"}),
        ({"field": "title", "op": "starts_with", "value": " Fen "}, "Fen"),
        ({"field": "type", "op": "any_of", "value": ["paint"]}, ["paint"]),
        ({"field": "pictures", "op": "empty", "value": "ignored"}, None),
    ],
)
def test_typed_tests_become_values_and_stay_so(test: dict[str, Any], value: Any) -> None:
    once = read({name: given for name, given in test.items() if name != "value"} | {"typed": test["value"]})
    assert once.get("value") == value
    assert read(once) == once, "what was read is read to itself"


@pytest.mark.parametrize(
    ("tree", "code", "where"),
    [
        ({"field": "width", "op": "lt", "typed": "wide"}, "number", ("value",)),
        ({"all": [{"field": "width", "op": "lt"}]}, "required", ("all", 0, "value")),
        ({"any": [{}, {"field": "suits", "op": "is", "typed": "Sea"}]}, "choice", ("any", 1, "value")),
        ({"field": "width", "op": "between", "typed": ["1"]}, "required", ("value",)),
        ({"field": "suits", "op": "any_of", "value": []}, "required", ("value",)),
        ({"field": "type", "op": "is", "value": "sea"}, "unknown_product_type", ("value",)),
        ({"field": "unit_price", "op": "lt", "value": "1"}, "unknown_field", ("field",)),
        ({"field": "collection", "op": "is", "value": "x"}, "unknown_field", ("field",)),
        ({"field": "width", "op": "near", "value": "1"}, "condition", ("op",)),
        ({"all": "both"}, "condition", ()),
        ([], "condition", ()),
        ({"field": "title", "op": "contains", "value": "x" * 201}, "long", ("value",)),
    ],
)
def test_what_can_t_be_asked_is_told_at_its_place(tree: Any, code: str, where: tuple[Any, ...]) -> None:
    with pytest.raises(Refusal) as caught:
        read(tree)
    assert (caught.value.code, caught.value.where[: len(where)]) == (code, where)


@pytest.mark.parametrize(("tests", "values"), [(MOST_TESTS, 1), (1, MOST_VALUES)])
def test_limits_of_a_condition(tests: int, values: int) -> None:
    tree = {"all": [{"field": "title", "op": "any_of", "value": ["a"] * values}] * tests}
    assert read(tree)
    more = {
        "all": [{"field": "title", "op": "any_of", "value": ["a"] * (values + (values > 1))}] * (tests + (tests > 1))
    }
    with pytest.raises(Refusal, match="at most"):
        read(more)


def test_every_kind_can_be_asked_and_every_test_has_words() -> None:
    for kind in KINDS.values():
        assert kind.comparison in COMPARISONS, kind.code
    assert TAKES.keys() == OPS.keys()
    for comparison in COMPARISONS:
        for op, words, takes in offered_tests(comparison, "x"):
            assert op in OPS
            assert words
            assert takes in ("none", "one", "two", "many")


def test_conditions_in_words() -> None:
    tree = read(
        {
            "any": [
                {
                    "all": [
                        {"field": "type", "op": "is", "value": "paint"},
                        {"field": "since", "op": "lt", "value": "2020-01-01"},
                    ]
                },
                {"none": [{"field": "suits", "op": "any_of", "value": ["plein_air", "studio"]}]},
                {"field": "width", "op": "between", "typed": ["1 cm", "2 cm"]},
            ]
        }
    )
    assert condition_words(tree, definitions()) == (
        "(Type is or is below Paint and Made since before 1 Jan 2020) or "
        "not (Suits is one of Plein air, Studio) or Folded width between 10\u00a0mm and 20\u00a0mm"
    ).replace("1 Jan 2020", condition_words({"field": "since", "op": "is", "value": "2020-01-01"}, definitions())[14:])
    assert condition_words(None, definitions()) == "by hand only"
    assert condition_words({}, definitions()) == "every product"
    assert condition_words({"field": "gone", "op": "odd", "value": {"x": [1]}}, definitions())


def test_who_is_in_a_collection() -> None:
    in_paint = {"field": "type", "op": "is", "value": "paint"}
    defs = definitions(
        collection("hand", picked=(2, 3)),
        collection("paint", condition=in_paint, kept_out=(2,)),
        collection("every", condition={}),
        collection("nobody", condition={"any": []}, rank="0.5"),
        collection("both", condition=in_paint, picked=(2,), kept_out=(2, 1)),
    )
    asked = Memberships(defs)
    assert asked.of(product(1)) == ("every", "paint")
    assert asked.of(product(2)) == ("both", "every", "hand"), "picked by hand is in, kept out or not"
    assert asked.of(product(3, "books")) == ("every", "hand")
    assert [asked.how("paint", product(number)) for number in (1, 2)] == [MATCHES, KEPT_OUT]
    assert [asked.how("hand", product(number)) for number in (1, 2)] == [None, PICKED]
    assert next(thing.key for thing in in_order(defs)) == "nobody"


def test_order_in_a_collection() -> None:
    defs = definitions(
        collection("hand", picked=(7, 3), condition={}),
        collection("new", condition={}, order="newest"),
        collection("price", condition={}, order="price"),
        collection("wide", condition={}, order="width"),
        collection("since", condition={}, order="since"),
    )
    asked = Memberships(defs)
    goods = [
        product(3, price="4", width={"amount": "2", "unit": "cm"}, since="2001-01-01"),
        product(7, price="10", width={"amount": "3", "unit": "mm"}),
        product(9, width="odd"),
    ]

    def order(key: str) -> list[int]:
        def place(thing: Product) -> Any:
            found = asked.place(key, thing)
            return found.rank, Decimal(found.number), found.text, thing.id

        return [thing.id for thing in sorted(goods, key=place)]

    assert order("hand") == [7, 3, 9]
    assert order("new") == [9, 7, 3]
    assert order("price") == [3, 7, 9], "those without a price last"
    assert order("wide") == [7, 3, 9], "measures are converted, what is none stands last"
    assert order("since") == [3, 7, 9]
    assert asked.place("price", goods[2]).rank == LAST + 1


def test_sets_come_with_collections_in_their_order() -> None:
    sets = {
        "field_work": FieldSet("field_work", "Field work", (Section("s", "S", ("tip", "since")),), ("outdoors",)),
        "spring": FieldSet("spring", "Spring", (Section("s", "S", ("tip",)),), ("new",)),
    }
    first, second = collection("outdoors", rank="2"), collection("new", rank="1")
    defs = definitions(first, second, sets=sets)
    assert defs.speaking == {"outdoors", "new"}
    group = defs.group_of("books", ("outdoors", "new"))
    assert group == Group("books", ("new", "outdoors"))
    brought = [(found.field.key, found.set, found.collection) for found in defs.applicable(group) if found.collection]
    assert brought == [("tip", "spring", "new"), ("since", "field_work", "outdoors")]
    assert "tip" not in {found.field.key for found in defs.effective("books")}
    typed = defs.having("product_type", "books", replace(defs.types["books"], sets=("field_work",)))
    assert "tip" not in {found.field.key for found in typed.effective("books")}, "limited is limited"
    assert defs.holders["tip"].collections == {"outdoors", "new"}
    assert Assessor(defs).fillable(group)["tip"] == "optional"
    inside = replace(product(4, "books", tip="Go far"), collections=("new", "outdoors"))
    plans = Plans(defs)
    steps = why(defs, plans.of_product(inside, "product_page"), inside, "tip")
    assert steps[1].ok
    assert "comes with being in New" in steps[1].text
    outside = product(4, "books")
    steps = why(defs, plans.of_product(outside, "product_page"), outside, "tip")
    assert not steps[1].ok
    assert "to products in New, Outdoors" in steps[1].text
    assert (steps[1].mend.noun, steps[1].mend.key) == ("product", "4")


def test_a_plan_is_made_anew_when_a_set_is_limited_or_collections_change_places() -> None:
    tip = FieldSet("field_work", "Field work", (Section("s", "S", ("tip",)),), ("outdoors",))
    defs = definitions(collection("outdoors"), sets={"field_work": tip})
    group = defs.group_of("books", ("outdoors",))
    before = Plans(defs).of_group(group, "product_page")
    other = FieldSet("more", "More", (Section("s", "S", ("since",)),), ("outdoors",))
    assert before.reads.hold(defs)
    assert not before.reads.hold(defs.having("field_set", "more", other))
    assert ("field_set", "field_work") in before.reads.marks


@given(st.lists(st.integers(0, 40), max_size=12), st.randoms(use_true_random=False))
def test_ranks_leave_room(moves: list[int], chance: Any) -> None:
    ranks: list[str] = []
    for move in moves:
        at = move % (len(ranks) + 1)
        made = rank_between(ranks[at - 1] if at else None, ranks[at] if at < len(ranks) else None)
        if made is not None:
            assert is_rank(made)
            ranks.insert(at, made)
    assert ranks == sorted(ranks, key=Decimal)


def test_ranks_run_out_of_room_and_say_so() -> None:
    low, high = "1", "2"
    for _ in range(300):
        made = rank_between(low, high)
        if made is None:
            break
        high = made
    else:
        pytest.fail("there was room for ever")
    assert rank_between("1", "1") is None


@pytest.mark.parametrize(
    ("members", "code"),
    [
        ({"name": " "}, "required"),
        ({"slug": "No good"}, "pattern"),
        ({"rank": "first"}, "rank"),
        ({"picked": (1, 1)}, "twice"),
        ({"picked": (0,)}, "not_found"),
        ({"kept_out": (2**31,)}, "not_found"),
        ({"kept_out": tuple(range(1, MOST_BY_HAND + 2))}, "too_many"),
        ({"order": "gone"}, "unknown_field"),
        ({"condition": {"field": "gone", "op": "is", "value": "1"}}, "unknown_field"),
        ({"condition": {"field": "width", "op": "lt", "typed": "15 cm"}}, "condition"),
    ],
)
def test_unsound_collections_are_refused(members: dict[str, Any], code: str) -> None:
    defs = definitions()
    NOUN.check(collection(kept_out=tuple(range(1, MOST_BY_HAND + 1))), defs)
    with pytest.raises(Refusal) as caught:
        NOUN.check(replace(collection(), **members), defs)
    assert caught.value.code == code


def test_what_a_collection_refers_to() -> None:
    condition = read(
        {
            "all": [
                {"field": "type", "op": "any_of", "value": ["paint"]},
                {"none": [{"field": "band", "op": "is", "value": True}]},
                {"field": "title", "op": "filled"},
            ]
        }
    )
    thing = collection(condition=condition, order="width", filled={"words": ("value", "x"), "tip": ("value", "y")})
    found = {(ref.noun, ref.key, ref.loose, ref.apart) for ref in NOUN.referring.refers(thing)}
    assert found == {
        ("product_type", "paint", False, True),
        ("field", "band", False, True),
        ("field", "width", False, True),
        ("field", "tip", True, False),
    }
    loose = next(ref for ref in NOUN.referring.refers(thing) if ref.loose)
    assert NOUN.referring.without(thing, loose).filled == {"words": ("value", "x")}


def test_fields_of_collections_are_no_fields_of_products() -> None:
    mood = replace(field("mood", "Mood", "Mood", "text"), subject="collection")
    defs = definitions().having("field", "mood", mood)
    FIELD.check(mood, defs)
    assert list(defs.fields_of("collection")) == ["words", "picture", "mood"]
    assert "mood" not in defs.all_fields
    assert "mood" in defs.fields
    with pytest.raises(Refusal) as caught:
        FIELD.check(replace(mood, subject="moon"), defs)
    assert caught.value.where == ("subject",)


TESTS = st.sampled_from(
    [
        {"field": "type", "op": "is", "value": "paint"},
        {"field": "type", "op": "is_not", "value": "paint"},
        {"field": "suits", "op": "is", "value": "plein_air"},
        {"field": "suits", "op": "empty"},
        {"field": "width", "op": "lt", "value": {"amount": "10", "unit": "mm"}},
        {"field": "band", "op": "is", "value": False},
        {"field": "band", "op": "none_of", "value": [True]},
        {},
    ]
)
TREES = st.recursive(
    TESTS,
    lambda inner: st.builds(
        lambda join, parts: {join: parts}, st.sampled_from(["all", "any", "none"]), st.lists(inner, max_size=3)
    ),
    max_leaves=8,
)
VALUES = st.fixed_dictionaries(
    {},
    optional={
        "suits": st.sampled_from([["plein_air"], ["studio", "plein_air"]]),
        "width": st.sampled_from([{"amount": "2", "unit": "mm"}, {"amount": "2", "unit": "m"}]),
        "band": st.booleans(),
    },
)


@given(TREES, VALUES, st.sampled_from(["paint", "water", "books"]))
def test_narrowing_leaves_nobody_out_who_meets_a_condition(tree: Any, values: Any, type_key: str) -> None:
    asked = Memberships(definitions())
    found = product(1, type_key, **values)

    def inside(part: Narrowing) -> bool:
        if part.every:
            return True
        if part.field is not None:
            return part.field in found.values
        if part.types is not None:
            return found.type in part.types
        return any(map(inside, part.any)) if part.any is not None else all(map(inside, part.all))

    if asked.meets(tree, asked.values(found)):
        assert inside(asked.narrowing(tree))


def test_narrowing_narrows() -> None:
    asked = Memberships(definitions())
    assert asked.narrowing({"field": "type", "op": "is", "value": "paint"}).types == {"paint", "water"}
    assert asked.narrowing({"all": [{}, {"field": "band", "op": "filled"}]}) == Narrowing(
        all=(Narrowing(field="band"),)
    )
    assert asked.narrowing({"field": "band", "op": "is_not", "value": True}) == EVERY
    assert asked.narrowing(None) == Narrowing(any=())
