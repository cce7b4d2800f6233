"""What goes with what is chosen, and why the rest does not; how a price comes about; why an option shows."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from itertools import product as times
from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH
from young_fabric.core.display.cascade import Resolved
from young_fabric.core.nouns.options.option_sets import OptionSet
from young_fabric.core.nouns.options.said_options import said_option
from young_fabric.core.options.chooser import value_states
from young_fabric.core.options.goods import Goods, VariantFacts
from young_fabric.core.options.offers import Given, offer_of
from young_fabric.core.pages.plans import Plans
from young_fabric.core.pages.why import of_product
from young_fabric.core.pages.why_options import why_option, why_value
from young_fabric.core.subjects.products import Product

SHEETS = SALTMARSH.option_sets["sheet_formats"]
FORMATS = [value.code for value in SHEETS.options[0].values]
EDGES = [value.code for value in SHEETS.options[1].values]


def goods(options: OptionSet = SHEETS, **more: Any) -> Goods:
    offer = offer_of([options], SALTMARSH)
    names = times(*(axis.values for axis in offer.axes))
    variants = {found: VariantFacts(number, stock=2) for number, found in enumerate(names, start=1)}
    given = {"variants": variants, **more}
    return Goods(offer, "EUR", own=VariantFacts(price=Decimal(10)), **given)


def states(of: Goods, **chosen: str) -> dict[str, dict[str, tuple[str, str]]]:
    given = {key: Given(code, code, {}, ()) for key, code in chosen.items()}
    found = value_states(of, given)
    return {key: {code: (at.state, at.words) for code, at in row.items()} for key, row in found.items()}


def test_all_goes_with_nothing_chosen() -> None:
    assert {at for row in states(goods()).values() for at in row.values()} == {("offered", "")}


def test_what_is_sold_out_with_what_is_chosen_is_told() -> None:
    sold = {
        names: replace(facts, stock=0) for names, facts in goods().variants.items() if names == (FORMATS[0], EDGES[0])
    }
    found = states(goods(variants={**goods().variants, **sold}), format=FORMATS[0])
    assert found["edge"][EDGES[0]] == ("sold_out", "Sold out")
    assert found["edge"][EDGES[1]] == ("offered", "")
    assert found["format"][FORMATS[0]] == ("offered", "")
    whole = states(goods(variants={**goods().variants, **sold}), format=FORMATS[0], edge=EDGES[0])
    assert whole["format"][FORMATS[0]][0] == whole["edge"][EDGES[0]][0] == "sold_out"
    assert whole["format"][FORMATS[1]] == ("offered", "")


def test_what_is_left_out_says_with_what_it_does_not_go() -> None:
    out = replace(SHEETS, left_out=({"format": (FORMATS[0],), "edge": (EDGES[0],)},))
    made = {names: facts for names, facts in goods().variants.items() if names != (FORMATS[0], EDGES[0])}
    found = states(goods(out, variants=made), format=FORMATS[0])
    label = SHEETS.options[0].values[0].label
    assert found["edge"][EDGES[0]][0] == "left_out"
    assert label in found["edge"][EDGES[0]][1]
    assert found["edge"][EDGES[1]] == ("offered", "")
    apart = states(goods(variants=made), format=FORMATS[0])
    assert (apart["edge"][EDGES[0]][0], label in apart["edge"][EDGES[0]][1]) == ("left_out", True), "not made at all"


def test_a_value_of_which_none_is_left_goes_with_nothing() -> None:
    found = states(goods(stocks={("edge", EDGES[0]): 0, ("edge", EDGES[1]): 1}))
    assert (found["edge"][EDGES[0]][0], found["edge"][EDGES[1]][0]) == ("sold_out", "offered")
    cut = goods(SALTMARSH.option_sets["cut_to_size"], stocks={("cut_size", "small"): 0})
    assert [at[0] for at in states(cut)["cut_size"].values()] == ["sold_out", "offered", "offered"]


def said(key: str, of: str) -> Any:
    found = said_option(SALTMARSH, f"{of}.{key}")
    assert found is not None
    return found


@pytest.mark.parametrize(
    ("of", "option", "code", "ok", "words"),
    [
        ("sheet_formats", "edge", "deckle", True, "Deckle can be chosen"),
        ("sheet_formats", "edge", "nothing", False, "Edge has no value nothing"),
    ],
)
def test_why_a_value_can_be_chosen_or_not(of: str, option: str, code: str, ok: bool, words: str) -> None:
    found = goods(SALTMARSH.option_sets[of])
    (step,) = why_value(SALTMARSH, found, said(option, of), value_states(found, {}), code)
    assert (step.ok, step.text, step.mend is None) == (ok, words, ok)


@pytest.mark.parametrize(
    ("surface", "settings", "through", "wanted"),
    [
        (
            "product_page",
            {},
            "through the type Easels",
            [
                (True, "The product is in the shop"),
                (True, "Easel woods is offered through the type Easels"),
                (True, "Shown by default"),
                (True, "The layout Page of easels has a place for options"),
                (True, "It shows on the product page, chosen by buttons by Easels"),
            ],
        ),
        (
            "product_page",
            {"shown": Resolved(False, "type:easels")},
            "",
            [
                (True, "The product is in the shop"),
                (False, "Easel woods is not offered: not through Easels, by its condition or by hand"),
                (False, "Not shown by the setting on Easels"),
                (True, "The layout Page of easels has a place for options"),
            ],
        ),
        (
            "compare",
            {},
            "by hand",
            [
                (True, "The product is in the shop"),
                (True, "Easel woods is offered by hand"),
                (False, "Options do not stand on the compare table"),
                (False, "The layout Compare has no place for options"),
            ],
        ),
    ],
)
def test_why_an_option_shows_is_told_step_by_step(
    surface: str, settings: dict[str, Resolved], through: str, wanted: list[tuple[bool, str]]
) -> None:
    easel = of_product(Product(1, "easels", {"title": "Easel", "price": "10"}))
    option = said("easel_wood", "easel_woods")
    resolved = {"shown": Resolved(True, "default"), "chosen_by": Resolved("buttons", "type:easels"), **settings}
    steps = why_option(SALTMARSH, Plans(SALTMARSH).of_type("easels", surface), easel, option, resolved, through)
    assert [(step.ok, step.text) for step in steps] == wanted
    assert [step.mend is not None for step in steps] == [
        not step.ok and "do not stand" not in step.text for step in steps
    ]
