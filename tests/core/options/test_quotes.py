"""Quotes: lines that add up, what is asked of shoppers, SKUs, weights and what can be had."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.options.effects import Amount, Effect, amount_words, check_effect, read_amount
from young_fabric.core.nouns.options.option_sets import OptionSet
from young_fabric.core.nouns.options.options import Option, OptionValue
from young_fabric.core.options.goods import Goods, VariantFacts
from young_fabric.core.options.offers import offer_of, sets_of_type
from young_fabric.core.options.quote import Quote, quote

TODAY = date(2026, 5, 4)


def value(code: str, sku: str = "", **amounts: Amount) -> OptionValue:
    return OptionValue(code, code.title(), effect=Effect(**amounts, sku=sku))


COLOURS = Option(
    "colour",
    "Colour",
    values=(value("french", "FRB", price=Amount("percent", "8")), value("lemon", "LML"), value("peat", "PEA")),
)
SIZES = Option(
    "size",
    "Tube size",
    values=(
        value("five", "5", weight=Amount("replace", "9.6")),
        value(
            "fifteen", "15", price=Amount("amount", "4.1"), weight=Amount("amount", "20"), cost=Amount("percent", "50")
        ),
    ),
)
NAME = Option(
    "name",
    "Name on the tube",
    "text",
    required=False,
    limits={"max_length": 18},
    effect=Effect(Amount("amount", "3", "once"), Amount("amount", "1"), sku="N"),
)
TUBES = OptionSet("tubes", "Tubes", (COLOURS, SIZES, NAME), left_out=({"colour": ("peat",), "size": ("fifteen",)},))
DEFS = Definitions(Shop(), {"option_set": {"tubes": TUBES}})
OWN = VariantFacts(sku="SAW", price=Decimal("9.80"), weight=Decimal(12), cost=Decimal(4))


def goods(*sets: OptionSet, **more: Any) -> Goods:
    return Goods(offer_of(sets or (TUBES,), DEFS), "EUR", own=OWN, **{"tried": True, **more})


def asked(choices: dict[str, Any], quantity: int = 1, of: Goods | None = None) -> Quote:
    return quote(of or goods(), choices, quantity, TODAY)


def codes(found: Quote) -> list[tuple[str, str]]:
    return [(problem.option, problem.refusal.code) for problem in found.problems]


def test_a_line_tells_each_effect_and_adds_up() -> None:
    found = asked({"colour": "french", "size": "fifteen", "name": "For Odile"}, 2)
    assert [(line.name, line.chosen, line.amount, line.effect.charge) for line in found.lines] == [
        ("Colour", "French", "0.78", "each"),
        ("Tube size", "Fifteen", "4.10", "each"),
        ("Name on the tube", "For Odile", "3.00", "once"),
    ]
    assert found.price is not None
    assert (found.price.each, found.price.once, found.price.total) == ("14.68", "3.00", "32.36")
    assert found.sku == "SAW-FRB-15-N"
    assert (found.weight, found.cost) == ("66", "12.00")
    assert not found.problems


@given(
    st.fixed_dictionaries(
        {
            "colour": st.sampled_from(["french", "lemon", "peat"]),
            "size": st.sampled_from(["five", "fifteen"]),
            "name": st.text(max_size=30),
        }
    ),
    st.integers(1, 50),
)
def test_lines_always_add_up_and_a_quote_is_of_the_request_alone(choices: dict[str, Any], quantity: int) -> None:
    found = asked(choices, quantity)
    again = asked(dict(reversed(choices.items())), quantity)
    assert found._replace(problems=()) == again._replace(problems=())
    assert codes(found) == codes(again)
    assert found.price is not None
    each = sum(Decimal(line.amount) for line in found.lines if line.effect.charge == "each")
    once = sum(Decimal(line.amount) for line in found.lines if line.effect.charge == "once")
    assert Decimal(found.price.base) + each == Decimal(found.price.each)
    assert Decimal(found.price.total) == Decimal(found.price.each) * quantity + once


def test_what_is_missing_or_not_offered_is_told_at_its_option() -> None:
    assert codes(asked({})) == [("colour", "required"), ("size", "required")]
    assert codes(asked({"colour": "gold", "size": "five"})) == [("colour", "choice")]
    assert codes(asked({"colour": "lemon", "size": "five", "name": "x" * 18})) == []
    assert codes(asked({"colour": "lemon", "size": "five", "name": "x" * 19})) == [("name", "long")]
    left_out = asked({"colour": "peat", "size": "fifteen"})
    assert codes(left_out) == [("", "left_out")]
    assert left_out.problems[0].refusal.message == "Fifteen is not made in Peat"


def test_labels_are_read_as_codes_are() -> None:
    assert asked({"colour": " FRENCH ", "size": "Five"}).combination == ("french", "five")


@pytest.mark.parametrize("quantity", [0, -1, True, 1.5, "2"])
def test_a_quantity_is_a_whole_number_of_one_or_more(quantity: Any) -> None:
    with pytest.raises(Refusal) as caught:
        asked({}, quantity)
    assert caught.value.code == "quantity"


def test_a_variant_says_its_own_price_sku_weight_and_stock() -> None:
    mine = VariantFacts(7, "OWN-1", Decimal(20), Decimal(25), Decimal(100), Decimal(6), 2)
    of = goods(variants={("lemon", "fifteen"): mine, ("lemon", "five"): VariantFacts(8)})
    found = asked({"colour": "lemon", "size": "fifteen"}, 2, of)
    assert found.price is not None
    assert (found.price.each, found.sku, found.weight, found.cost, found.variant) == (
        "24.10",
        "OWN-1",
        "240",
        "18.00",
        7,
    )
    assert found.former_price == Decimal(25)
    assert not found.problems
    beyond = asked({"colour": "lemon", "size": "fifteen"}, 3, of)
    assert [problem.refusal.message for problem in beyond.problems] == ["Only 2 left"]
    assert codes(asked({"colour": "french", "size": "five"}, 1, of)) == [("", "left_out")]
    assert asked({"colour": "lemon", "size": "five"}, 999, of).available is None


def test_values_and_requests_can_have_stock_of_their_own() -> None:
    of = goods(stocks={("size", "five"): 1, ("name", ""): 0})
    assert codes(asked({"colour": "lemon", "size": "five"}, 1, of)) == []
    assert codes(asked({"colour": "lemon", "size": "five"}, 2, of)) == [("", "sold_out")]
    assert codes(asked({"colour": "lemon", "size": "fifteen", "name": "A"}, 1, of)) == [("", "sold_out")]


def test_a_set_that_replaces_makes_the_price_itself() -> None:
    found = asked({"colour": "french", "size": "fifteen"}, 1, goods(replace(TUBES, price="replace")))
    assert found.price is not None
    assert (found.price.base, found.price.each) == ("0.00", "4.10")


def test_without_a_price_a_line_can_not_be_ordered() -> None:
    of = replace(goods(), own=replace(OWN, price=None))
    assert codes(asked({"colour": "lemon", "size": "five"}, 1, of)) == [("", "no_price")]


def test_two_sets_stand_in_order_and_their_clashes_are_told() -> None:
    other = OptionSet(
        "more", "More", (replace(SIZES, name="Sizes"), replace(NAME, key="note", name="Note")), price="replace"
    )
    defs = Definitions(Shop(), {"option_set": {"tubes": TUBES, "more": other}})
    offer = offer_of((TUBES, other), defs)
    assert list(offer.by_key) == ["colour", "size", "name", "note"]
    assert [(clash.code, clash.option, clash.sets) for clash in offer.clashes] == [
        ("option_twice", "size", ("tubes", "more")),
        ("add_and_replace", "", ("tubes", "more")),
    ]
    assert offer.replaces == frozenset()
    assert offer_of((other, TUBES), defs).replaces == {"price"}


def test_policies_make_the_sku() -> None:
    chosen = {"colour": "lemon", "size": "five", "name": "A"}
    assert asked(chosen, 1, goods(replace(TUBES, sku="keep"))).sku == "SAW"
    assert asked(chosen, 1, goods(replace(TUBES, sku="replace", separator="."))).sku == "LML.5.N"


def test_values_of_a_list_follow_it() -> None:
    listed = ValueList("hues", "Hues", (ListValue("a", "A"), ListValue("b", "B", retired=True), ListValue("c", "C")))
    defs = Definitions(Shop(), {"value_list": {"hues": listed}})
    grows = Option("hue", "Hue", takes="grows", list="hues", values=(OptionValue("c", effect=Effect(sku="CC")),))
    some = replace(grows, takes="some", values=(OptionValue("c"), OptionValue("b"), OptionValue("gone")))
    assert [
        (found.code, found.effect.sku) for found in offer_of((OptionSet("s", "S", (grows,)),), defs).options[0].values
    ] == [("a", ""), ("c", "CC")]
    assert [found.code for found in offer_of((OptionSet("s", "S", (some,)),), defs).options[0].values] == ["c"]
    assert sets_of_type(("nowhere",), defs) == ()


DAY = Option("day", "Delivery", "date", limits={"from_days": 2, "to_days": 30})
MANY = Option("extras", "Extras", "many_of", values=(value("a"), value("b"), value("c")), limits={"max_count": 2})
TICK = Option("wrap", "Gift wrap", "tick", required=False, effect=Effect(Amount("amount", "2", "once")))
PICTURE = Option("art", "Picture", "file", limits={"max_megabytes": "2", "min_width": 800, "min_height": 600})
UPLOAD = {"file": "a" * 64, "name": "sea.jpg", "type": "picture", "bytes": 2_000_000, "width": 800, "height": 600}


def problem_of(option: Option, typed: Any) -> str | None:
    found = quote(goods(OptionSet("s", "S", (option,))), {option.key: typed}, 1, TODAY)
    return found.problems[0].refusal.code if found.problems else None


def test_days_count_from_the_day_of_asking() -> None:
    for days, wrong in ((1, "below"), (2, None), (30, None), (31, "above")):
        assert problem_of(DAY, (TODAY + timedelta(days=days)).isoformat()) == wrong
    free = replace(DAY, limits={})
    assert problem_of(free, TODAY.isoformat()) is None
    assert problem_of(free, (TODAY - timedelta(days=1)).isoformat()) == "below"
    assert problem_of(free, "soon") == "date"


def test_many_are_counted_and_ticks_charged_when_given() -> None:
    assert problem_of(MANY, ["a", "b"]) is None
    assert problem_of(MANY, ["a", "b", "c"]) == "many"
    wrapped = goods(OptionSet("s", "S", (TICK,)))
    assert [quote(wrapped, {"wrap": typed}, 1, TODAY).lines != () for typed in ("yes", True, "no", False, "")] == [
        True,
        True,
        False,
        False,
        False,
    ]


@pytest.mark.parametrize(
    ("changed", "wrong"),
    [
        ({}, None),
        ({"bytes": 2_000_001}, "file_size"),
        ({"width": 799}, "small"),
        ({"height": 599}, "small"),
        ({"type": "pdf"}, "file_kind"),
        ({"type": "exe"}, "file"),
        ({"file": "../etc"}, "file"),
        ({"name": ""}, "file"),
        ({"name": "x" * 201}, "file"),
    ],
)
def test_uploads_meet_their_limits(changed: dict[str, Any], wrong: str | None) -> None:
    assert problem_of(PICTURE, {**UPLOAD, **changed}) == wrong


@given(
    st.dictionaries(
        st.sampled_from(["day", "extras", "wrap", "art", "colour"]),
        st.recursive(
            st.none() | st.booleans() | st.integers() | st.text(max_size=8),
            lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=5), inner, max_size=3),
            max_leaves=6,
        ),
    )
)
def test_whatever_is_sent_is_understood_or_told(choices: dict[str, Any]) -> None:
    found = quote(goods(OptionSet("s", "S", (DAY, MANY, TICK, PICTURE, COLOURS))), choices, 1, TODAY)
    assert {problem.option for problem in found.problems} | found.given.keys() >= {"day", "extras", "art", "colour"}


@pytest.mark.parametrize(
    ("typed", "kept", "words"),
    [
        ("1.20", Amount("amount", "1.2"), "+ €1.20"),
        ("+ 1.20", Amount("amount", "1.2"), "+ €1.20"),
        ("-2", Amount("amount", "-2"), "− €2.00"),
        ("− €2", Amount("amount", "-2"), "− €2.00"),
        ("8 %", Amount("percent", "8"), "+ 8\u00a0%"),
        ("-12.5%", Amount("percent", "-12.5"), "− 12.5\u00a0%"),
        ("= 25", Amount("replace", "25"), "= €25.00"),
        ("3 once", Amount("amount", "3", "once"), "+ €3.00 once"),
        ("12 % once", Amount("percent", "12", "once"), "+ 12\u00a0% once"),
    ],
)
def test_amounts_are_read_as_they_are_written(typed: str, kept: Amount, words: str) -> None:
    read = read_amount(Amount("typed", typed), "price", "en", "EUR")
    assert read == kept
    assert read is not None
    assert amount_words(read, "price", "en", "EUR") == words
    assert read_amount(Amount("typed", words.replace("\u00a0", " ")), "price", "en", "EUR") == kept


def test_nothing_and_nought_do_nothing() -> None:
    assert [read_amount(Amount("typed", typed), "price", "en", "EUR") for typed in ("", "0", "0 %", " once ")] == [
        None
    ] * 4
    with pytest.raises(Refusal):
        read_amount(Amount("typed", "a lot"), "price", "en", "EUR")
    assert read_amount(Amount("typed", "0.5 kg"), "weight", "en", "EUR") == Amount("amount", "500")


@pytest.mark.parametrize(
    ("amount", "code"),
    [
        (Amount("amount", "100000000"), None),
        (Amount("amount", "100000001"), "above"),
        (Amount("percent", "-100"), None),
        (Amount("percent", "-101"), "below"),
        (Amount("replace", "-1"), "below"),
        (Amount("replace", "1", "once"), "replace_once"),
        (Amount("typed", "1"), "number"),
        (Amount("amount", "1,0"), "number"),
    ],
)
def test_amounts_have_limits(amount: Amount, code: str | None) -> None:
    if code is None:
        check_effect(Effect(amount))
        return
    with pytest.raises(Refusal) as caught:
        check_effect(Effect(amount))
    assert (caught.value.code, caught.value.where) == (code, ("price",))
