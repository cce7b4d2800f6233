"""The grid of variants: values of their own, written together, merged, judged, undone; stock live at once; SKUs of one alone."""

from __future__ import annotations

from typing import Any

import pytest

from tests.service.values.test_variants import (
    BLUE,
    LARGE,
    RED,
    SMALL,
    give,
    make_product,
    make_set,
    of,
    option,
    put_set,
)
from young_fabric.core.base.errors import Refusal
from young_fabric.core.subjects.stock import MOST_STOCK
from young_fabric.service import history
from young_fabric.service.acting.actors import Clash, Work
from young_fabric.service.defining import definitions
from young_fabric.service.products import products
from young_fabric.service.sales import quotes, variant_values
from young_fabric.service.sales.variant_values import VariantGrid, VariantStock
from young_fabric.service.values import variant_writer
from young_fabric.service.values.value_states import ValueEdit


@pytest.fixture
def product(work: Work) -> int:
    key = make_set(work, "Woods", option("colour", RED, BLUE), option("size", SMALL, LARGE))
    give(work, "sketchbooks", key)
    return make_product(work, "SB-1")


def grid(work: Work, product: int) -> VariantGrid:
    return variant_values.grid(work, product)


def put(work: Work, variant: int, version: int | None = None, **values: Any) -> None:
    variant_writer.put_many(work, [ValueEdit(variant, version, values)])


def test_the_grid_tells_what_each_variant_is_and_costs(work: Work, product: int) -> None:
    found = grid(work, product)
    assert [row.name for row in found.rows] == ["Red · Small", "Red · Large", "Blue · Small", "Blue · Large"]
    assert [row.price for row in found.rows] == ["40.00"] * 4
    assert found.formula == "2 × 2 = 4"
    assert found.options == (("colour", "Colour"), ("size", "Size"))
    assert {row.lacks for row in found.rows} == {("pictures",)}
    clash = "Another variant has SB-1-RED"
    assert [(row.sku, row.made_sku, row.clash) for row in found.rows[:2]] == [
        ("SB-1-RED", "SB-1-RED", ""),
        ("SB-1", "SB-1-RED", "Marsh book has SB-1-RED"),
    ], clash


def test_values_are_read_judged_and_undone_together(work: Work, product: int) -> None:
    first, second, *_ = of(work, product)
    edits = [
        ValueEdit(first.id, 1, {"price": "45,5", "shipping_weight": "2 kg"}),
        ValueEdit(second.id, 1, {"price": "50", "sku": "MINE-1"}),
    ]
    variant_writer.put_many(work, edits)
    rows = {row.id: row for row in grid(work, product).rows}
    assert rows[first.id].cells["price"].wrong != "", "it is no number in this locale, and stays as typed"
    assert rows[first.id].cells["price"].typed == "45,5"
    assert rows[first.id].price == "40.00"
    assert rows[first.id].cells["shipping_weight"].shown == "2,000\u00a0g"
    assert (rows[second.id].price, rows[second.id].sku, rows[second.id].version) == ("50.00", "MINE-1", 2)
    [of_first] = history.history(work, "variant", f"{product}/{first.id}", None)
    assert "not understood" in " ".join(of_first.lines)
    history.undo_last(work)
    assert all(not row.cells for row in grid(work, product).rows)
    history.redo_last(work)
    assert {row.id: row.cells for row in grid(work, product).rows} == {key: row.cells for key, row in rows.items()}


def test_two_people_keep_what_each_wrote_and_clash_only_on_one_cell(work: Work, product: int) -> None:
    variant = of(work, product)[0].id
    put(work, variant, 1, price="45")
    put(work, variant, 1, unit_cost="20")
    cells = grid(work, product).rows[0].cells
    assert (cells["price"].shown, cells["unit_cost"].shown) == ("€45.00", "€20.00")
    with pytest.raises(Clash):
        put(work, variant, 1, price="46")
    with pytest.raises(Refusal) as caught:
        put(work, variant, 99, price="46")
    assert caught.value.code == "version"


def test_a_typed_sku_is_nobody_else_s(work: Work, product: int) -> None:
    first, second, *_ = of(work, product)
    other = make_product(work, "SB-2")
    for sku in ("SB-2", "SB-2-RED"):
        with pytest.raises(Refusal) as caught:
            put(work, first.id, sku=sku)
        assert (caught.value.code, caught.value.where) == ("taken", ("edits", first.id, "sku"))
    for given, words in (("A", ["Two variants", "Two variants"]), ("SB-2", ["Marsh book has", "Marsh book has"])):
        with pytest.raises(Refusal) as caught:
            variant_writer.put_many(work, [ValueEdit(row.id, None, {"sku": given}) for row in (first, second)])
        told = [caught.value, *caught.value.also]
        assert [refusal.where for refusal in told] == [("edits", row.id, "sku") for row in (first, second)]
        assert all(refusal.message.startswith(start) for refusal, start in zip(told, words, strict=True))
    variant_writer.put_many(work, [ValueEdit(first.id, None, {"sku": "A"}), ValueEdit(second.id, None, {"sku": "B"})])
    variant_writer.put_many(work, [ValueEdit(first.id, None, {"sku": "B"}), ValueEdit(second.id, None, {"sku": "A"})])
    assert [row.sku for row in grid(work, product).rows[:2]] == ["B", "A"], "they change places in one stroke"
    products.fill(work, other, None, {"sku": "SB-9"})
    put(work, first.id, sku="SB-2")
    put(work, first.id, sku="")
    assert grid(work, product).rows[0].sku == "SB-1-RED"


def test_stock_is_live_at_once_told_when_it_changed_meanwhile_and_undone(work: Work, product: int) -> None:
    variant = of(work, product)[0].id
    variant_values.put_stocks(work, [VariantStock(variant, None, 5)])
    with pytest.raises(Clash):
        variant_values.put_stocks(work, [VariantStock(variant, None, 6)])
    with pytest.raises(Refusal) as caught:
        variant_values.put_stocks(work, [VariantStock(variant, 5, MOST_STOCK + 1)])
    assert caught.value.code == "above"
    variant_values.put_stocks(work, [VariantStock(variant, 5, MOST_STOCK)])
    history.undo_last(work)
    assert grid(work, product).rows[0].stock == 5


def test_what_a_variant_holds_is_kept_while_it_is_retired(work: Work, product: int) -> None:
    variant = of(work, product)[3].id
    put(work, variant, price="70", sku="LAST-1")
    put_set(work, "woods", left_out=[{"colour": ["blue"], "size": ["large"]}])
    row = grid(work, product).rows[-1]
    assert (row.id, row.retired, row.sku, row.cells["price"].shown) == (variant, True, "", "€70.00")
    put(work, of(work, product)[0].id, sku="LAST-1")
    put_set(work, "woods", left_out=[])
    row = grid(work, product).rows[-1]
    assert (row.id, row.retired, row.sku) == (variant, False, "SB-1")
    assert row.clash == "Marsh book has LAST-1"


def test_fields_of_variants_stand_in_the_grid(work: Work, product: int) -> None:
    definitions.create(work, "field", "Shelf", {"key": "ss_shelf", "kind": "text", "subject": "variant"})
    variant = of(work, product)[0].id
    put(work, variant, ss_shelf="A 12")
    found = grid(work, product)
    assert found.rows[0].cells["ss_shelf"].shown == "A 12"
    assert "ss_shelf" in [field.key for field in found.fields]
    for wrong in ("title", "ss_wood", "nowhere"):
        with pytest.raises(Refusal) as caught:
            put(work, variant, **{wrong: "x"})
        assert caught.value.code == "unknown_field"


def test_the_quote_takes_what_a_variant_has_of_its_own(work: Work, product: int) -> None:
    variant = of(work, product)[0].id
    put(work, variant, price="70", unit_cost="30")
    variant_values.put_stocks(work, [VariantStock(variant, None, 1)])
    found = quotes.quote_product(work, product, {"colour": "red", "size": "small"}, 1)
    assert found.price is not None
    assert (found.price.total, found.cost, found.available, found.variant) == ("70.00", "30.00", 1, variant)
    beyond = quotes.quote_product(work, product, {"colour": "red", "size": "small"}, 2)
    assert [problem.refusal.code for problem in beyond.problems] == ["sold_out"]
