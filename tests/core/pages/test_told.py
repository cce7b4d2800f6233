"""What people are told, word by word: changes, why a product is listed, how a price comes about, what a setting says; and small answers
that others stand on."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Any

import pytest

from tests.core.helpers import defs_of, field
from tests.core.nouns.test_collections import collection, definitions, product
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import DisplaySetting, Scope
from young_fabric.core.display.properties import PROPERTIES
from young_fabric.core.interchange.feed import FeedItem, record, table
from young_fabric.core.kinds.base import told_apart
from young_fabric.core.kinds.shown import Text
from young_fabric.core.listing.listings import places
from young_fabric.core.listing.why_listed import why_listed
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.content.record_types import RecordType
from young_fabric.core.nouns.layouts.display_settings import check_setting
from young_fabric.core.nouns.options.effects import Amount, Effect
from young_fabric.core.nouns.options.option_sets import OptionSet
from young_fabric.core.nouns.options.options import Option, OptionValue
from young_fabric.core.nouns.registry import NOUNS, describe
from young_fabric.core.options.goods import Goods, VariantFacts
from young_fabric.core.options.left import is_sold_out
from young_fabric.core.options.offers import offer_of
from young_fabric.core.options.quote import quote
from young_fabric.core.pages.document import Entry, RenderDoc, ShownBlock, ShownRegion
from young_fabric.core.pages.listed import Listing, of_collection, of_type
from young_fabric.core.pages.why_options import why_price
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.core.subjects.memberships import Memberships

VALUE: dict[str, Any] = {"code": "a", "label": "A", "synonyms": ["aa"], "retired": False, "note": ""}
OTHER: dict[str, Any] = {"code": "b", "label": "B", "synonyms": [], "retired": False, "note": ""}
LIST: dict[str, Any] = {"name": "L", "values": [VALUE, OTHER]}
RED, BLUE = OptionValue("red", "Red"), OptionValue("blue", "Blue")
COVERS = OptionSet("covers", "Covers", (Option("colour", "Colour", values=(RED, BLUE)),))
MAKERS = RecordType("maker", "Makers", ("ss_since", "ss_place"))


def covers(*values: OptionValue, **more: Any) -> dict[str, Any]:
    return state_of(replace(COVERS, options=(Option("colour", "Colour", values=values, **more),)))


@pytest.mark.parametrize(
    ("noun", "before", "after", "lines"),
    [
        ("value_list", LIST, {**LIST, "values": [{**VALUE, "note": "new"}, OTHER]}, ["note changed: A"]),
        ("value_list", LIST, {**LIST, "values": [{**VALUE, "synonyms": []}, OTHER]}, ["synonyms changed: A"]),
        ("value_list", LIST, {**LIST, "values": [OTHER, VALUE]}, ["order changed"]),
        ("value_list", LIST, LIST, ["no difference"]),
        ("option_set", covers(RED, BLUE), covers(BLUE, RED), ["Colour: order of values changed"]),
        ("option_set", covers(RED), covers(RED, BLUE), ["Colour: Blue added"]),
        (
            "record_type",
            state_of(MAKERS),
            state_of(replace(MAKERS, fields=MAKERS.fields[::-1])),
            ["order of fields changed"],
        ),
        (
            "record_type",
            state_of(MAKERS),
            state_of(replace(MAKERS, fields=MAKERS.fields[:1])),
            ["fields taken off: ss_place"],
        ),
    ],
)
def test_a_change_is_told_by_just_these_lines(noun: str, before: Any, after: Any, lines: list[str]) -> None:
    assert describe(NOUNS[noun], before, after, definitions()) == lines


def test_what_a_property_says_of_a_value_and_of_none() -> None:
    assert PROPERTIES["unit"].words("") == "in the field's unit"
    assert PROPERTIES["unit"].words("cm") == "in cm"
    assert PROPERTIES["decimals"].words(2) != PROPERTIES["decimals"].words("filled")


def test_why_a_product_is_on_a_listing_is_told_step_by_step() -> None:
    in_paint = {"field": "type", "op": "is", "value": "paint"}
    defs = definitions(collection("hand", picked=(2, 3)), collection("paint", condition=in_paint, kept_out=(2,)))
    asked = Memberships(defs)
    first, second = (replace(found, collections=asked.of(found)) for found in (product(1), product(2)))

    def steps_of(found: Any, listing: Listing) -> list[tuple[str, bool | None, str]]:
        return [(step.name, step.ok, step.text) for step in why_listed(asked, found, listing)]

    in_shop = ("visible", True, "The product is in the shop")
    assert steps_of(first, of_type("paint")) == [
        in_shop,
        ("belongs", True, "Its type is Paint › Watercolour, which stands on the listing of Paint"),
        ("shows", True, "It stands on the listing, in the order of the listing"),
    ]
    assert steps_of(first, of_type("books")) == [
        in_shop,
        ("belongs", False, "Its type is Paint › Watercolour, and Sketchbooks lists its own and those below it"),
    ]
    assert steps_of(second, of_collection("hand"))[-1] == (
        "shows",
        True,
        "It stands on the listing, number 1 of those picked",
    )
    assert steps_of(second, of_collection("paint"))[1:] == [("belongs", False, "It was kept out of Paint by hand")]
    assert steps_of(replace(first, offered=False), of_type("paint"))[0][1] is False


def test_a_value_that_was_not_understood_puts_a_product_on_no_listing_of_the_same() -> None:
    defs = definitions()
    # As if some layout found products that have the same.
    defs.__dict__["alike"] = frozenset({"suits"})
    asked, found = Memberships(defs), product(1, suits=["studio"])
    of_same = set(places(asked, found)) - set(places(asked, replace(found, unread={"suits": "odd"})))
    assert len(of_same) == 1


def test_a_condition_is_kept_as_it_is_read() -> None:
    defs = definitions()
    read = {"field": "band", "op": "is", "value": True}

    def setting(condition: Any) -> DisplaySetting:
        return DisplaySetting(Scope("type", "books"), "width", "product_page", {"condition": condition})

    check_setting(setting(read), defs)
    for condition in ({**read, "typed": "yes"}, {"field": "band", "op": "is", "typed": "yes"}):
        with pytest.raises(Refusal, match="not as it is kept"):
            check_setting(setting(condition), defs)


def test_the_outcome_of_every_field_that_can_be_filled() -> None:
    asked = Assessor(definitions())
    found = asked.outcomes(product(1, "books", band=True, width="odd"))
    assert {key: outcome.state for key, outcome in found.items() if key in ("band", "width", "suits")} == {
        "band": "good",
        "width": "wrong",
        "suits": "empty",
    }


def test_records_and_rows_of_the_feed() -> None:
    defs = defs_of(fields={"tags": field("tags", "Tags", "Tags", "text", many=True)})
    entry = Entry("tags", "Tags", "beside", Text("A, B"), ["A", "B"], ())
    doc = RenderDoc("feed", 4, ShownRegion("main", (ShownBlock("all", "fields", entries=(entry,)),)))
    there, gone = FeedItem(4, "books", "marsh", doc), FeedItem(5, "books", "", None)
    assert record(there)["fields"] == {"tags": {"label": "Tags", "value": ["A", "B"], "text": "A, B"}}
    assert record(gone) == {"id": 5, "gone": True}
    rows = table(defs, [there, gone], False)
    assert '"A\nB"' in rows
    assert ",yes," in rows.splitlines()[-1]
    # One value whose kind is a list is written as the kind writes it.
    suits = Entry("suits", "Suits", "beside", Text("Plein air, Studio"), ["plein_air", "studio"], ())
    chosen = FeedItem(
        6, "books", "fen", RenderDoc("feed", 6, ShownRegion("main", (ShownBlock("a", "f", "", (suits,)),)))
    )
    assert '"Plein air, Studio"' in table(definitions(), [chosen], False)


def test_a_price_that_a_choice_replaces_is_told_to_be_of_that_choice() -> None:
    dear = OptionValue("gilt", "Gilt edge", effect=Effect(price=Amount("replace", "12")))
    offered = offer_of([OptionSet("edges", "Edges", (Option("edge", "Edge", values=(RED, dear)),))], defs_of())
    variants = {(code,): VariantFacts(id=number) for number, code in enumerate(("red", "gilt"), 1)}
    goods = Goods(offered, "EUR", own=VariantFacts(id=1, price=Decimal("40")), variants=variants)
    plain = why_price(goods, quote(goods, {"edge": "red"}, 1, date(2026, 3, 1))).text
    gilt = why_price(goods, quote(goods, {"edge": "gilt"}, 2, date(2026, 3, 1))).text
    assert plain == "€40.00, the product's price: €40.00 for 1"
    assert gilt == "€12.00, what Gilt edge says: €24.00 for 2"


@pytest.mark.parametrize(("stock", "gone"), [(0, True), (-1, True), (1, False), (None, False)])
def test_a_variant_is_sold_out_when_it_is_counted_and_none_is_left(stock: int | None, gone: bool) -> None:
    offered = offer_of([COVERS], defs_of())
    goods = Goods(offered, "EUR", variants={("red",): VariantFacts(id=1, stock=stock)})
    assert is_sold_out(goods, ("red",)) is gone
    assert is_sold_out(goods, ("blue",)) is False, "one that is not there is not counted"


def test_values_are_told_apart_by_what_can_be_remembered() -> None:
    seen = {told_apart(value) for value in (["a"], ["a", "b"], ("a",), 1, True, "1", {"x": 1}, {"x": True})}
    assert len(seen) == 7, "a list and a tuple of the same are the same"
