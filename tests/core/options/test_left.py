"""What is left to sell: counted of the product, its variants and single values, and when it is nothing at all."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Any

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.options.effects import Amount, Effect
from young_fabric.core.nouns.options.option_sets import OptionSet
from young_fabric.core.nouns.options.options import Option, OptionValue
from young_fabric.core.nouns.options.said_options import SaidOption
from young_fabric.core.options.chooser import ValueState
from young_fabric.core.options.combinations import Axis, combine, count
from young_fabric.core.options.goods import Goods, VariantFacts
from young_fabric.core.options.left import combinations_of, counted, left_of_choice, nothing_left, own_stocks
from young_fabric.core.options.offers import Given, Offer, offer_of
from young_fabric.core.options.quote import quote
from young_fabric.core.pages.why_options import why_price, why_value
from young_fabric.core.subjects.stock import CHOICE_STOCK, PRODUCT_STOCK, VARIANT_STOCK, StockKey

NOTHING = Definitions(Shop())
RED, BLUE = OptionValue("red", "Red"), OptionValue("blue", "Blue", effect=Effect(Amount("amount", "2")))
COLOUR = Option("colour", "Colour", values=(RED, BLUE))
SIZE = Option("size", "Size", values=(OptionValue("s", "Small"), OptionValue("l", "Large")))
WRAP = Option("wrap", "Wrap", "tick", required=False)
BOX = Option("box", "Box", "one_of", values=(OptionValue("tin", "Tin"), OptionValue("wood", "Wood")))


def offer(*options: Option, **more: Any) -> Offer:
    return offer_of([OptionSet("covers", "Covers", options, **more)], NOTHING)


def goods(*options: Option, **more: Any) -> Goods:
    return Goods(offer(*options), "EUR", **more)


def test_what_is_counted_of_a_choice() -> None:
    varied = goods(COLOUR, WRAP, variants={("red",): VariantFacts(7, stock=3), ("blue",): VariantFacts(8)})
    assert counted(varied, ("red",), {}) == {StockKey(VARIANT_STOCK, (7,)): 3}
    assert counted(varied, ("blue",), {}) == {}
    plain = goods(WRAP, own=VariantFacts(5, stock=2), stocks={("wrap", ""): 1, ("gone", "x"): 9})
    assert counted(plain, None, {}) == {StockKey(PRODUCT_STOCK, (5,)): 2}
    wrapped = counted(plain, None, {"wrap": Given(True, "yes", {}, ())})
    assert wrapped == {StockKey(PRODUCT_STOCK, (5,)): 2, StockKey(CHOICE_STOCK, ("covers", "wrap", "")): 1}
    assert left_of_choice(plain, None, {"wrap": Given(True, "yes", {}, ())}) == 1
    assert counted(replace(varied, own=VariantFacts(5, stock=2)), None, {}) == {}, (
        "of what has variants none is its own"
    )


def test_stock_of_values_counts_in_the_set_that_offers_the_option() -> None:
    held = {"covers": {("colour", "red"): 4, ("other", "x"): 1}, "second": {("colour", "red"): 9}}
    assert own_stocks(offer(COLOUR), held) == {("colour", "red"): 4}


@pytest.mark.parametrize(
    ("made", "nothing"),
    [
        (goods(COLOUR, variants={("red",): VariantFacts(7, stock=0), ("blue",): VariantFacts(8, stock=0)}), True),
        (goods(COLOUR, variants={("red",): VariantFacts(7, stock=0), ("blue",): VariantFacts(8, stock=1)}), False),
        (goods(COLOUR, variants={("red",): VariantFacts(7, stock=0), ("blue",): VariantFacts(8)}), False),
        (goods(COLOUR), True),
        (goods(COLOUR, tried=True), False),
        (goods(COLOUR, tried=True, stocks={("colour", "red"): 0}), False),
        (goods(COLOUR, tried=True, stocks={("colour", "red"): 0, ("colour", "blue"): 0}), True),
        (goods(WRAP), False),
        (goods(WRAP, own=VariantFacts(5, stock=0)), True),
        (goods(WRAP, own=VariantFacts(5, stock=-1)), True),
        (goods(WRAP, own=VariantFacts(5, stock=1)), False),
        (goods(BOX, stocks={("box", "tin"): 0}), False),
        (goods(BOX, stocks={("box", "tin"): 0, ("box", "wood"): 0}), True),
        (goods(replace(BOX, required=False), stocks={("box", "tin"): 0, ("box", "wood"): 0}), False),
        (goods(WRAP, stocks={("wrap", ""): 0}), False),
        (goods(replace(WRAP, required=True), stocks={("wrap", ""): 0}), True),
    ],
)
def test_nothing_is_left_where_it_can_not_be_chosen_at_all(made: Goods, nothing: bool) -> None:
    assert nothing_left(made) is nothing


def test_combinations_are_those_of_variants_or_all_that_could_be_made() -> None:
    assert combinations_of(goods(COLOUR, SIZE)) == []
    known = {("red", "s"): VariantFacts(1)}
    assert combinations_of(goods(COLOUR, SIZE, variants=known, tried=True)) == [("red", "s")]
    without = offer(COLOUR, SIZE, left_out=({"colour": ("red",), "size": ("l",)},))
    assert combinations_of(Goods(without, "EUR", tried=True)) == [("red", "s"), ("blue", "s"), ("blue", "l")]
    assert combinations_of(goods(WRAP, tried=True)) == []


def test_of_nothing_there_is_no_combination() -> None:
    assert (list(combine([])), count([])) == ([], 0)
    assert (list(combine([Axis("a", ())])), count([Axis("a", ("x",)), Axis("b", ())])) == ([], 0)


def test_sets_that_make_too_many_together_are_told() -> None:
    def many(key: str) -> OptionSet:
        values = tuple(OptionValue(f"v{number}", f"V {number}") for number in range(60))
        return OptionSet(key, key.title(), (Option(key, key.title(), values=values),))

    made = offer_of([many("first"), many("second")], NOTHING)
    assert [(clash.code, clash.sets) for clash in made.clashes] == [("too_many", ("first", "second"))]
    assert made.clashes[0].words.startswith("First and Second are too many together: ")
    assert offer_of([many("first")], NOTHING).clashes == ()


@pytest.mark.parametrize(
    ("own", "given", "wanted"),
    [
        (
            VariantFacts(5),
            {"colour": "red"},
            (False, "There is no price yet: neither the product nor the variant has one"),
        ),
        (VariantFacts(5, price=Decimal(40)), {"colour": "blue"}, (True, "€40.00")),
    ],
)
def test_how_a_price_comes_about(own: VariantFacts, given: dict[str, Any], wanted: tuple[bool, str]) -> None:
    made = goods(COLOUR, own=own, tried=True)
    step = why_price(made, quote(made, given, 1, date(2026, 5, 4)))
    assert (step.ok, step.text[: len(wanted[1])]) == wanted
    if step.ok:
        assert "the product's price" in step.text
        assert "Colour Blue €2.00" in step.text


def test_a_variants_own_price_is_told_as_such() -> None:
    made = goods(COLOUR, own=VariantFacts(5, price=Decimal(40)), variants={("red",): VariantFacts(7, price=Decimal(9))})
    step = why_price(made, quote(made, {"colour": "red"}, 1, date(2026, 5, 4)))
    assert "the variant's own price" in step.text
    assert "€9.00" in step.text


def test_why_a_value_can_not_be_chosen() -> None:
    made = goods(COLOUR, tried=True)
    listed = replace(COLOUR, list="hues")
    kept = ValueList("hues", "Hues", (ListValue("moss", "Moss", (), True), ListValue("peat", "Peat")))
    defs = Definitions(Shop(), {"value_list": {"hues": kept}})
    not_made = Refusal("left_out", "Red is not made in Large")
    states = {"colour": {"red": ValueState("left_out", not_made), "blue": ValueState("left_out")}}

    def told(code: str, option: Option = listed, within: Definitions = defs) -> tuple[bool | None, str, str]:
        [step] = why_value(within, made, SaidOption("covers", option), states, code)
        return step.ok, step.text, step.mend.text if step.mend else ""

    look = "Look at the option"
    assert told("moss") == (False, "Moss is retired in the list Hues", "Offer it again")
    assert told("peat") == (False, "Peat is in the list, and Colour does not take it", look)
    assert told("gone") == (False, "Colour has no value gone", look)
    assert told("peat", COLOUR) == (False, "Colour has no value peat", look)
    assert told("x" * 61) == (False, f"Colour has no value {'x' * 60}", look)
    assert told("red") == (False, "Red is not made in Large", look)
    assert told("blue") == (False, "Blue can't be chosen", look)
    states.clear()
    assert told("red") == (True, "Red can be chosen", "")
