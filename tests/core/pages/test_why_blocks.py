"""Why a block shows, on the pages of a whole shop: what is in it, what hides it, and what can be done."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, having, state
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.pages.plans import Plans
from young_fabric.core.pages.record_pages import values_of
from young_fabric.core.pages.steps import Step
from young_fabric.core.pages.why import of_product
from young_fabric.core.pages.why_blocks import why_block
from young_fabric.core.subjects.product_labels import Names
from young_fabric.core.subjects.products import Product

EASEL = Product(5, "easels", {"title": "Heron easel", "ss_wood": "ash"})


def chain(block: str, product: Product = EASEL, defs: Definitions = SALTMARSH) -> dict[str, Step]:
    plan = Plans(defs).of_product(product, "product_page")
    return {step.name: step for step in why_block(defs, plan, of_product(product), block)}


def easels(*puts: tuple[str, Any]) -> Definitions:
    return having(("layout", state("layout", "easels", *puts)))


def steps_of(*steps: dict[str, Any]) -> Definitions:
    """The page of easels with more steps over its base."""
    more = [{"key": f"{step['op']}:{step['id']}", **step} for step in steps]
    return easels(("steps", [*state("layout", "easels")["steps"], *more]))


def adding(block: dict[str, Any]) -> Definitions:
    return steps_of({"op": "add", "id": block["id"], "region": "main", "after": None, "block": block})


@pytest.mark.parametrize(
    ("block", "ok", "words"),
    [
        ("top", True, "In it shows title, stock, to basket"),
        ("title", True, "It shows Title"),
        ("details", True, "It shows Wood"),
        ("stock", True, "It has something to show"),
        ("asked", True, "It has something to show"),
        ("options", False, "There is nothing in it to show"),
        ("description", False, "The field it takes does not show; Description: There is no value"),
        ("price", False, "None of the 2 fields it takes shows; Price: There is no value"),
        ("numbers", False, "None of the 2 fields it takes shows; SKU: There is no value"),
    ],
)
def test_what_is_in_a_block_is_told(block: str, ok: bool, words: str) -> None:
    found = chain(block)
    assert (found["content"].ok, found["content"].text) == (ok, words)
    assert ("shows" in found) is ok


def test_of_many_fields_the_first_three_are_named() -> None:
    filled = {"ss_wood": "ash", "ss_folds": True, "ss_assembly": "Two screws"}
    three = replace(EASEL, values={**EASEL.values, **filled})
    names = chain("details", three)["content"].text
    assert names.count(",") == 2
    assert "more" not in names
    four = replace(three, values={**three.values, "ss_weighs": {"amount": "4", "unit": "kg"}})
    assert chain("details", four)["content"].text.endswith(" and 1 more")


def test_what_stands_in_the_way_is_told_with_the_way_on() -> None:
    out = chain("details", replace(EASEL, offered=False))
    assert (out["visible"].ok, out["visible"].text) == (False, "The product is kept out of the shop")
    assert out["visible"].mend is not None
    assert (out["visible"].mend.text, out["visible"].mend.key) == ("Put it in the shop", "5")
    assert "shows" not in out
    gone = chain("nothing")
    assert gone["slot"].text == "The layout Page of easels has no such block"
    assert (gone["slot"].mend and gone["slot"].mend.text) == "Add it there"
    bare = chain("details", replace(EASEL, values={"title": "Heron easel"}))
    assert bare["content"].text == "None of the 13 fields it takes shows; Wood: There is no value", (
        "what lacks a value, not what staff alone see"
    )
    assert (bare["content"].mend and bare["content"].mend.text) == "Fill it"


def test_a_block_whose_words_hold_what_is_empty_names_it() -> None:
    said = {"id": "hint", "kind": "words", "words": "{ss_wood} {ss_folds}"}
    defs = adding(said)
    assert chain("hint", replace(EASEL, values={"title": "x"}), defs)["content"].text == (
        "There is nothing in it to show: what its words hold is empty (Folds flat, Wood)"
    )


def test_a_block_of_a_shared_copy_tells_whose_words_it_shows() -> None:
    defs = adding({"id": "care", "kind": "copy", "copy": "brush_care"})
    copy = defs.things["shared_copy"]["brush_care"]
    assert chain("care", EASEL, defs)["content"].text == f"It shows the shared copy {copy.name}"
    own = {"outdoors": copy.words}
    spoken = defs.having("shared_copy", "brush_care", replace(copy, own=own))
    within = replace(EASEL, collections=("outdoors",))
    name = spoken.things["collection"]["outdoors"].name
    assert chain("care", within, spoken)["content"].text == (
        f"It shows the shared copy {copy.name}, in the words of {name}"
    )
    gone = defs.having("shared_copy", "brush_care", None)
    assert chain("care", EASEL, gone)["content"].ok is False


def test_a_hidden_block_and_a_condition_that_does_not_hold_are_told() -> None:
    hidden = steps_of({"op": "set", "id": "details", "props": {"hidden": True}})
    assert chain("details", EASEL, hidden)["block"].text == "Details is hidden in the layout Page of easels"
    assert chain("details", EASEL, hidden)["content"].text == "What is in it is not asked"
    asked = {"field": "ss_folds", "op": "is", "value": True}
    only = steps_of({"op": "set", "id": "details", "props": {"condition": asked}})
    found = chain("details", EASEL, only)["block"]
    assert found.ok is False
    assert found.text.startswith("Details shows only when Folds flat is Yes: ")
    folds = replace(EASEL, values={**EASEL.values, "ss_folds": True})
    assert chain("details", folds, only)["block"].ok is True
    of_type = steps_of(
        {"op": "set", "id": "details", "props": {"condition": {"field": "type", "op": "is", "value": "paper"}}}
    )
    assert chain("details", EASEL, of_type)["block"].ok is False
    easel = steps_of(
        {"op": "set", "id": "details", "props": {"condition": {"field": "type", "op": "is", "value": "easels"}}}
    )
    assert chain("details", EASEL, easel)["block"].ok is True


def test_a_block_of_a_record_s_page_is_told_like_one_of_a_product() -> None:
    record = SALTMARSH.things["record"]["callan_joinery"]
    values = values_of(record, Names(SALTMARSH, {}))
    assert values.values["title"] == "Callan Joinery"
    assert values.values["ss_maker_place"] == "Callan Head"
    plan = Plans(SALTMARSH).of_records("maker")
    steps = {step.name: step for step in why_block(SALTMARSH, plan, of_product(values), "about")}
    assert steps["visible"].text == "Records of Maker have a page"
    assert steps["shows"].ok
    none = having(("record_type", state("record_type", "maker", ("page", False))))
    out = why_block(none, Plans(none).of_records("maker"), of_product(values), "about")[0]
    assert (out.ok, out.text) == (False, "Records of Maker have no page")
    kept = replace(record, filled={"ss_maker_place": ("typed", "?"), "ss_gone": ("value", "x")})
    unread = values_of(kept, Names(SALTMARSH, {}))
    assert (unread.values, unread.unread) == ({"title": "Callan Joinery"}, {"ss_maker_place": "?"})
