"""Use cases of option sets: who is offered them and how, copies, pasted values, stock of values, remarks, and what follows."""

from __future__ import annotations

from typing import Any

import pytest

from tests.service.values.test_variants import (
    BLUE,
    LARGE,
    PEAT,
    RED,
    SMALL,
    give,
    make_product,
    make_set,
    option,
    put_set,
    version_of,
)
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.core.subjects.stock import MOST_STOCK
from young_fabric.service import history
from young_fabric.service.acting.actors import Clash, Work
from young_fabric.service.defining import definitions, option_sets, value_remarks
from young_fabric.service.foreseeing.variant_effects import VariantEffects
from young_fabric.service.pages import weave
from young_fabric.service.sales import quotes, variant_values
from young_fabric.service.sales.variant_values import VariantStock
from young_fabric.service.values import variant_writer
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.service.writing import by_hand


def follows(work: Work, key: str, **changed: Any) -> VariantEffects | None:
    thing = definitions.changed_thing(work, "option_set", key, changed)
    return definitions.consequences(work, "option_set", key, thing).variants


def test_each_way_of_offering_is_told_and_clashes_too(work: Work) -> None:
    cheap, other = make_product(work, "SB-1"), make_product(work, "SB-2")
    first = make_set(work, "Covers", option("colour", RED, BLUE))
    give(work, "sketchbooks", first)
    books = {"field": "type", "op": "is", "value": "sketchbooks"}
    condition = {"all": [books, {"field": "price", "op": "lt", "value": "41"}]}
    more = make_set(work, "More", option("colour", PEAT), condition=condition)
    by_hand.paste(work, "option_set", more, "SB-2, NONE-1\tSB-2", "kept_out")
    found = {row.product.id: row for row in option_sets.offered(work, first).rows}
    assert (found[cheap].how, found[cheap].reason, found[cheap].variants) == ("type", "of Sketchbooks", 2)
    assert [clash.code for clash in found[cheap].clashes] == ["option_twice"]
    assert found[other].clashes == ()
    assert option_sets.offered(work, first).total == len(found)
    use_words = "Type is or is below Sketchbooks and Price below €41.00"
    rows = {row.product.id: row for row in option_sets.offered(work, more).rows}
    assert (rows[cheap].how, rows[cheap].reason) == ("matches", use_words)
    assert other not in rows
    by_hand.by_hand(work, "option_set", more, [other], "picked")
    assert {row.product.id: row.how for row in option_sets.offered(work, more).rows}[other] == "picked"
    [use] = option_sets.overview(work, more)
    assert use.products == option_sets.offered(work, more).total == len(rows) + 1
    assert (use.gathered, use.words) == (True, use_words)


def test_a_copy_is_offered_to_nobody(work: Work) -> None:
    key = make_set(work, "Covers", option("colour", RED, BLUE), condition={"field": "price", "op": "filled"})
    made = definitions.copy(work, "option_set", key).thing
    assert (made.name, made.condition, made.picked) == ("Covers, copy", None, ())
    assert [value.code for value in made.options[0].values] == ["red", "blue"]


def test_pasted_values_keep_what_those_there_do(work: Work) -> None:
    key = make_set(work, "Covers", option("colour", RED, BLUE), option("name", kind="text"))
    text = "Red #aa2233\nChalk White #f6f5f0\nChalk white"
    read = option_sets.paste_values(work, key, "colour", text, 1, apply=False)
    assert ([value.label for value in read.reading.added], read.version) == (["Chalk White"], 1)
    option_sets.paste_values(work, key, "colour", text, 1, apply=True)
    values = option_sets.overview(work, key)[0].thing.options[0].values
    assert [(value.code, value.effect.sku, value.swatch.colours) for value in values] == [
        ("red", "red", ("#aa2233",)),
        ("blue", "blu", ()),
        ("chalk-white", "", ("#f6f5f0",)),
    ]
    with pytest.raises(Refusal):
        option_sets.paste_values(work, key, "name", "A", 2, apply=True)


def test_stock_of_a_value_is_counted_recorded_and_holds_the_set(work: Work) -> None:
    key = make_set(work, "Covers", option("colour", RED, BLUE))
    product = make_product(work, "SB-1")
    option_sets.put_stock(work, key, "colour", "red", None, 1)
    with pytest.raises(Clash):
        option_sets.put_stock(work, key, "colour", "red", None, 2)
    for code, amount, wrong in (("gold", 1, "unknown_value"), ("red", MOST_STOCK + 1, "above")):
        with pytest.raises(Refusal) as caught:
            option_sets.put_stock(work, key, "colour", code, 1, amount)
        assert caught.value.code == wrong
    option_sets.put_stock(work, key, "colour", "red", 1, MOST_STOCK)
    history.undo_last(work)
    tried = quotes.try_set(work, key, {}, product, {"colour": "red"}, 2)
    assert [problem.refusal.code for problem in tried.quote.problems] == ["sold_out"]
    with pytest.raises(Refusal, match="1 stocks of its values"):
        definitions.remove(work, "option_set", key, version_of(work, "option_set", key))
    option_sets.put_stock(work, key, "colour", "red", 1, None)
    definitions.remove(work, "option_set", key, version_of(work, "option_set", key))


def test_what_follows_for_variants_is_told_and_not_done(work: Work) -> None:
    product = make_product(work, "SB-1")
    key = make_set(work, "Covers", option("colour", RED, BLUE), option("size", SMALL, LARGE))
    give(work, "sketchbooks", key)
    count = option_sets.overview(work, key)[0].products
    rows = variant_values.grid(work, product).rows
    variant_values.put_stocks(work, [VariantStock(rows[3].id, None, 7)])
    variant_writer.put_many(work, [ValueEdit(rows[2].id, None, {"price": "50"})])
    assert follows(work, key, name="Other") is not None
    assert not follows(work, key, name="Other")
    found = follows(work, key, left_out=[{"colour": ["blue"], "size": ["large"]}])
    assert found is not None
    assert (found.products, found.kept, found.retired, found.retired_stock) == (count, 3 * count, count, 7)
    dearer = option("colour", RED, {**BLUE, "effect": {"price": {"mode": "typed", "value": "10 %"}, "sku": "BL"}})
    found = follows(work, key, options=[dearer, option("size", SMALL, LARGE)])
    assert found is not None
    changed = {(row.product, row.choice): (row.before, row.after) for row in found.price_examples}
    priced = {pair: row for pair, row in changed.items() if pair[0] == product}
    assert found.prices >= 2
    assert all(before != after for before, after in changed.values())
    assert priced in (
        {},
        {(product, "Blue · Small"): ("50.00", "55.00"), (product, "Blue · Large"): ("40.00", "44.00")},
    )
    assert variant_values.grid(work, product).rows[2].price == "50.00", "nothing is written"
    grown = follows(work, key, options=[option("colour", RED, BLUE, PEAT), option("size", SMALL, LARGE)])
    assert grown is not None
    assert grown.added == 2 * count
    put_set(work, key, left_out=[{"colour": ["blue"], "size": ["large"]}])
    back = follows(work, key, left_out=[])
    assert back is not None
    assert (back.back, back.added) == (count, 0)


def test_remarks_tell_of_swatches(work: Work) -> None:
    values = [
        {"code": "a", "label": "A", "swatch": {"colours": ["#23339c"]}},
        {"code": "b", "label": "B", "swatch": {"colours": ["#2538a0"]}},
        {"code": "c", "label": "C", "swatch": {"colours": ["#f6f5f0"]}},
        {"code": "d", "label": "D"},
    ]
    key = make_set(work, "Covers", option("colour", *values))
    assert [(remark.value, remark.code, remark.other) for remark in value_remarks.of_option_set(work, key)] == [
        ("d", "no_swatch", ""),
        ("c", "pale", ""),
        ("a", "alike", "b"),
    ]


def test_a_set_is_tried_as_it_would_be(work: Work) -> None:
    key = make_set(work, "Covers", option("colour", RED, BLUE), option("size", SMALL, LARGE))
    tried = quotes.try_set(work, key, {}, None, {"colour": "red"}, 1, "20")
    assert tried.product is None
    assert (tried.formula, tried.count, tried.cells) == ("2 × 2 = 4", 4, ("in",) * 4)
    assert tried.quote.price is not None
    assert tried.quote.price.total == "20.00"
    changed = {"left_out": [{"colour": ["red"], "size": ["large"]}]}
    tried = quotes.try_set(work, key, changed, make_product(work, "SB-1"), {"colour": "red", "size": "small"}, 1)
    assert (tried.formula, tried.cells) == ("2 × 2 − 1 = 3", ("in", "left", "in", "in"))
    assert tried.states["size"]["large"].words == "Large is not made in Red"
    values = [{"code": f"v{n}", "label": f"V {n}"} for n in range(50)]
    many = {"options": [option("a", *values), option("b", *values[:41])], "left_out": []}
    tried = quotes.try_set(work, key, many, None, {}, 1)
    assert tried.wrong is not None
    assert tried.wrong.code == "too_many"


def test_the_weave_has_rows_for_options_that_are_wanted_nowhere_they_can_not_stand(work: Work) -> None:
    key = make_set(work, "Covers", option("colour", RED, BLUE))

    def states() -> dict[str, str]:
        groups = {group.title: group for group in weave.weave(work, Scope("shop")).groups}
        assert groups["Covers"].note == "option set, 1 option"
        [row] = groups["Covers"].rows
        return {cell.surface: cell.state for cell in row.cells}

    assert (states()["product_page"], states()["compare"]) == ("inherited", "off")
    definitions.display(work, Scope("shop"), f"{key}.colour", "product_page", {"shown": False}, None)
    assert states()["product_page"] == "hidden"
    definitions.display(work, Scope("shop"), "*", "compare", {"shown": True}, None)
    assert states()["compare"] == "off", "all fields are wanted there, which says nothing of options"
