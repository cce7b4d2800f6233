"""Who has what: the sheet of types and fields, and what changes of it do to the values of products."""

from __future__ import annotations

from typing import Any

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions, field_sets, type_sheet
from young_fabric.service.foreseeing import field_moves
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.values import recount
from young_fabric.service.writing import writes


def put(work: Work, key: str, **given: Any) -> None:
    definitions.change(work, "product_type", key, writes.need_current(work, "product_type", key).version, given)


def moves_of(work: Work, key: str, **given: Any) -> Any:
    thing = definitions.changed_thing(work, "product_type", key, given)
    return definitions.consequences(work, "product_type", key, thing).moves


def of_type(work: Work, key: str) -> list[Any]:
    return [row.product for row in products.search(work, products.Filters(type=key), None).rows]


def test_the_sheet_tells_who_has_what_from_where_and_how_well_filled(work: Work) -> None:
    sheet = type_sheet.sheet(work)
    assert [column.path for column in sheet.types] == sorted(column.path for column in sheet.types)
    cells = sheet.cells
    assert (cells["paint"]["ss_pigment"].how, cells["paint"]["ss_pigment"].sets) == ("set", ["paint_basics"])
    assert (cells["watercolour"]["ss_pigment"].how, cells["watercolour"]["ss_pigment"].by) == ("inherited", "paint")
    assert cells["oil"]["ss_density"].how == "here"
    assert "ss_density" not in cells["paint"]
    opacity = cells["watercolour"]["ss_opacity"]
    assert opacity.filled == sum("ss_opacity" in product.values for product in of_type(work, "watercolour"))
    rows = [field.key for group in sheet.groups for field in group.fields]
    assert len(rows) == len(set(rows))
    assert sheet.groups[-1].set is None
    assert "ss_density" in {field.key for field in sheet.groups[-1].fields}


def test_types_that_ask_for_different_needs_are_told_with_which_holds(work: Work) -> None:
    put(work, "paint", needs={**writes.need_current(work, "product_type", "paint").thing.needs, "ss_opacity": "wanted"})
    cell = type_sheet.sheet(work).cells["watercolour"]["ss_opacity"]
    assert [(ask.type, ask.need) for ask in cell.asks] == [("paint", "wanted"), ("watercolour", "required")]
    assert cell.need == "required"


def test_moving_a_type_keeps_values_aside_and_gives_them_back(work: Work) -> None:
    gouache = of_type(work, "gouache")
    held = sum("ss_pigment" in product.values for product in gouache)
    told = moves_of(work, "gouache", parent=None)
    move = next(move for move in told.gone if move.key == "ss_pigment")
    assert (move.products, move.values) == (len(gouache), held)
    assert not told.come
    put(work, "gouache", parent=None)
    assert all("ss_pigment" not in products.get(work, product.id).outcomes for product in gouache)
    back = moves_of(work, "gouache", parent="paint")
    assert next(move for move in back.come if move.key == "ss_pigment").values == held
    put(work, "gouache", parent="paint")
    assert products.get(work, gouache[0].id).product.values == gouache[0].values
    assert products.get(work, gouache[0].id).outcomes["ss_pigment"].state == "good"
    assert not recount.recount(work.session)


def test_a_set_goes_from_one_type_to_another_and_values_follow_their_fields(work: Work) -> None:
    easels = of_type(work, "easels")
    definitions.change(work, "product_type", "easels", 1, {"sets": ["origin"]})
    told = moves_of(work, "sketchbooks", sets=["books", "origin", "furniture"])
    assert {move.key for move in told.come} >= {"ss_wood", "ss_holds"}
    assert all(move.values == 0 for move in told.come if move.key == "ss_wood")
    put(work, "sketchbooks", sets=["books", "origin", "furniture"])
    assert "ss_wood" in products.get(work, of_type(work, "sketchbooks")[0].id).outcomes
    assert products.get(work, easels[0].id).product.values["ss_wood"] == easels[0].values["ss_wood"]
    history.undo_last(work)
    history.undo_last(work)
    assert products.get(work, easels[0].id).outcomes["ss_wood"].state == "good"


def test_a_change_that_brings_and_takes_nothing_moves_nothing(work: Work) -> None:
    told = moves_of(work, "gouache", name="Gouache colour")
    assert (told.gone, told.come) == ([], [])


def test_what_another_type_would_do_to_a_product_is_told_with_its_values(work: Work) -> None:
    product = of_type(work, "gouache")[0]
    told = field_moves.type_change(work, product.id, "easels")
    gone = {move.key: move.shown for move in told.gone}
    assert gone["ss_pigment"]
    assert {move.key for move in told.come} >= {"ss_wood", "ss_holds"}
    assert {move.shown for move in told.come if move.key == "ss_wood"} == {""}
    defs = plans.draft(work.session)
    told_of = next(key for key in gone if defs.all_fields[key].kind in ("rating", "one_of", "whole", "yes_no"))
    products.fill(work, product.id, product_version(work, product.id), {told_of: "much of it"})
    kept = {move.key: move.shown for move in field_moves.type_change(work, product.id, "easels").gone}
    assert kept[told_of] == "much of it", "what was not understood is told as it was typed"
    history.undo_last(work)
    products.fill(work, product.id, product_version(work, product.id), {}, "easels")
    back = field_moves.type_change(work, product.id, "gouache")
    assert {move.key: move.shown for move in back.come}["ss_pigment"] == gone["ss_pigment"]
    with pytest.raises(Refusal):
        field_moves.type_change(work, product.id, "nothing")


def product_version(work: Work, number: int) -> int:
    return products.get(work, number).version


def test_how_well_a_set_is_filled_is_told(work: Work) -> None:
    books = field_sets.overview(work, "books")[0]
    held = of_type(work, "sketchbooks")
    assert books.values == len(held) * len(books.thing.fields)
    assert books.filled == sum(key in product.values for product in held for key in books.thing.fields)
