"""Fields of variants are as those of products: converted, merged, counted, held fast and taken back; and values variants are made of."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy import Engine, text

from tests.conftest import person
from tests.service.values.test_variants import SMALL, choices, give, make_product, make_set, of, option, version_of
from young_fabric.core.base.errors import Refusal
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import definitions, field_merging, fields, option_sets, value_lists, value_merging
from young_fabric.service.defining.field_merging import FieldMerge
from young_fabric.service.defining.value_merging import ValueMerge
from young_fabric.service.foreseeing.value_effects import ValueEffects, kinds_that_fit
from young_fabric.service.long_work import job_runs
from young_fabric.service.releasing import release
from young_fabric.service.sales.variant_values import VariantStock, put_stocks
from young_fabric.service.values import judging, variant_writer
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.store.base import make_sessions
from young_fabric.store.repos import stored_values
from young_fabric.store.repos import variants as rows

MERGE = ValueMerge("wood", "elm", "ash")


def make_field(work: Work, name: str, kind: str, **options: Any) -> str:
    return str(
        definitions.create(work, "field", name, {"kind": kind, "subject": "variant", "options": options}).thing.key
    )


def change_field(work: Work, key: str, **members: Any) -> None:
    definitions.change(work, "field", key, version_of(work, "field", key), members)


def effects_of(work: Work, key: str, **members: Any) -> ValueEffects:
    thing = definitions.changed_thing(work, "field", key, members)
    found = definitions.consequences(work, "field", key, thing).effects
    assert found is not None
    return found


def fill(work: Work, key: str, variant: int, typed: Any) -> None:
    variant_writer.put_many(work, [ValueEdit(variant, None, {key: typed})])


def held(work: Work, product: int, key: str) -> list[tuple[str, Any]]:
    """What a product's variants hold for a field, understood or not, in order."""
    out: list[tuple[str, Any]] = []
    for variant in of(work, product):
        out += [("value", variant.values[key])] if key in variant.values else []
        out += [("typed", variant.unread[key])] if key in variant.unread else []
    return out


@pytest.fixture
def product(work: Work) -> int:
    given = [{"code": code, "label": code.title(), "effect": {"sku": code.upper()}} for code in ("red", "blue", "peat")]
    give(work, "sketchbooks", make_set(work, "Covers", option("colour", *given)))
    return make_product(work, "SB-1")


def test_values_follow_a_kind_after_that_was_told_and_undoing_gives_all_back(work: Work, product: int) -> None:
    key = make_field(work, "Leaves", "text")
    first, second, _ = of(work, product)
    fill(work, key, first.id, "48")
    fill(work, key, second.id, "a few")
    found = effects_of(work, key, kind="whole")
    assert (found.values, found.lost) == (2, 1)
    assert [(row.noun, row.key, row.name) for row in found.examples if row.how == "lost"] == [
        ("variant", f"{product}/{second.id}", "Marsh book: Blue")
    ]
    assert kinds_that_fit(work, key).looked == 2
    change_field(work, key, kind="whole")
    assert held(work, product, key) == [("value", "48"), ("typed", "a few")]
    history.undo_last(work)
    assert held(work, product, key) == [("value", "48"), ("value", "a few")]


def test_what_no_longer_fits_comes_back_as_it_was_typed(work: Work, product: int) -> None:
    key = make_field(work, "Leaves", "text")
    first = of(work, product)[0]
    fill(work, key, first.id, "a few")
    fill(work, key, first.id, "")
    change_field(work, key, kind="whole")
    change = next(
        row
        for row in history.history(work, "variant", f"{product}/{first.id}", None)
        if row.lines[0].startswith("Leaves “a few” →")
    )
    history.undo(work, change.id)
    assert held(work, product, key) == [("typed", "a few")]


def test_a_field_with_values_is_held_and_its_use_is_told(work: Work, product: int) -> None:
    key = make_field(work, "Leaves", "text")
    first, second, _ = of(work, product)
    fill(work, key, first.id, "48")
    with pytest.raises(Refusal) as caught:
        change_field(work, key, subject="product")
    assert caught.value.code == "values_exist"
    with pytest.raises(Refusal) as caught:
        definitions.remove(work, "field", key, version_of(work, "field", key))
    assert caught.value.message == "Leaves is used by 1 variant with a value"
    fill(work, key, second.id, "20")
    with pytest.raises(Refusal) as caught:
        definitions.remove(work, "field", key, version_of(work, "field", key))
    assert "2 variants with a value" in caught.value.message
    use = fields.overview(work, key)[0]
    assert (use.filled, use.wrong) == (2, 0)
    assert use.products >= 3
    for variant in (first, second):
        fill(work, key, variant.id, "")
    definitions.remove(work, "field", key, version_of(work, "field", key))


def test_a_thing_that_a_variant_names_is_held_fast(work: Work, product: int) -> None:
    key = make_field(work, "Maker", "record", record_type="maker")
    maker = next(iter(sorted(plans_records(work, "maker"))))
    fill(work, key, of(work, product)[0].id, maker)
    for noun, number in (("record", maker),):
        with pytest.raises(Refusal) as caught:
            definitions.remove(work, noun, number, version_of(work, noun, number))
        assert caught.value.code == "in_use"
        assert "Marsh book" in str(caught.value.message) or "more product" in str(caught.value.message)


def plans_records(work: Work, of_type: str) -> list[str]:
    made = definitions.create(work, "record", "Sedge and Rush", {"type": of_type}).thing
    return [made.key]


def test_values_of_a_list_are_merged_on_variants_too(work: Work, product: int) -> None:
    key = make_field(work, "Spine", "many_of", list="wood")
    first, second, _ = of(work, product)
    fill(work, key, first.id, ["elm", "ash"])
    fill(work, key, second.id, ["elm"])
    uses = {use.code: use.held for use in value_lists.usage(work, "wood")}
    assert uses["elm"]["variant"] == 2
    touched = value_merging.reach(work, MERGE)
    assert (touched.held["variant"], touched.made) == (2, 0)
    assert value_merging.merge_values(work, MERGE) is None
    assert held(work, product, key) == [("value", ["ash"]), ("value", ["ash"])]
    history.undo_last(work)
    assert held(work, product, key) == [("value", ["elm", "ash"]), ("value", ["elm"])]


def woods(*codes: str, key: str = "frame", **more: Any) -> dict[str, Any]:
    values = [{"code": code, "effect": {"sku": code.upper()}} for code in codes]
    return {"key": key, "name": key.title(), "takes": "some", "list": "wood", "values": values, **more}


def test_variants_made_of_a_value_are_made_of_the_other_with_their_stock(work: Work) -> None:
    covers = make_set(work, "Frames", woods("elm", "pine"), option("size", SMALL))
    give(work, "sketchbooks", covers)
    product = make_product(work, "SB-1")
    elm, pine = of(work, product)
    put_stocks(work, [VariantStock(elm.id, None, 7), VariantStock(pine.id, None, 2)])
    fill(work, "price", elm.id, "31")
    option_sets.put_stock(work, covers, "frame", "elm", None, 4)
    touched = value_merging.reach(work, MERGE)
    assert (touched.made, touched.meeting) == (sum(1 for _ in every_elm(work)), 0)
    value_merging.merge_values(work, MERGE)
    after = of(work, product)
    assert [(variant.id, variant.choices["frame"], variant.stock) for variant in after] == [
        (elm.id, "ash", 7),
        (pine.id, "pine", 2),
    ]
    assert after[0].values["price"] == elm_price(work, elm.id)
    assert of(work, product, retired=True) == []
    assert option_sets.stocks_of(work, [covers])[covers] == {("frame", "elm"): 4}, "the live shop counts it still"
    assert history.history(work, "variant_choices", f"{product}/{elm.id}", None)[0].lines == [
        "Elm · Small → Ash · Small"
    ]
    history.undo_last(work)
    again = of(work, product)
    assert [(variant.id, variant.choices["frame"], variant.stock) for variant in again] == [
        (elm.id, "elm", 7),
        (pine.id, "pine", 2),
    ]
    assert of(work, product, retired=True) == []
    assert option_sets.stocks_of(work, [covers])[covers] == {("frame", "elm"): 4}
    history.redo_last(work)
    assert [variant.choices["frame"] for variant in of(work, product)] == ["ash", "pine"]


def every_elm(work: Work) -> list[int]:
    found = work.session.execute(text("SELECT id FROM variant WHERE NOT retired AND choices ->> 'frame' = 'elm'"))
    return [row[0] for row in found]


def elm_price(work: Work, variant: int) -> Any:
    return rows.get(work.session, [variant])[variant].values["price"]


@pytest.mark.parametrize(
    ("stocks", "becomes"),
    [((7, 2), (0, 9)), ((7, None), (7, None)), ((None, 2), (None, 2)), ((None, None), (None, None))],
)
def test_of_two_that_come_to_the_same_one_stays_and_has_the_stock_of_both(
    work: Work, stocks: tuple[int | None, int | None], becomes: tuple[int | None, int | None]
) -> None:
    give(work, "sketchbooks", make_set(work, "Frames", woods("elm", "ash")))
    product = make_product(work, "SB-1")
    elm, ash = of(work, product)
    counted = [
        VariantStock(variant.id, None, stock) for variant, stock in zip((elm, ash), stocks, strict=True) if stock
    ]
    put_stocks(work, counted)
    touched = value_merging.reach(work, MERGE)
    assert touched.made == touched.meeting == len(every_elm(work))
    release.release(work, "before")
    value_merging.merge_values(work, MERGE)
    (stays,), (gone,) = of(work, product), of(work, product, retired=True)
    assert (stays.id, gone.id) == (ash.id, elm.id)
    assert (gone.stock, stays.stock) == stocks, "the live shop sells it still"
    assert stays.sku == "SB-1-ASH", "with what its own value does"
    history.undo_last(work)
    assert [(variant.id, variant.stock) for variant in of(work, product)] == [(elm.id, stocks[0]), (ash.id, stocks[1])]
    history.redo_last(work)
    release.release(work, "after")
    (stays,), (gone,) = of(work, product), of(work, product, retired=True)
    assert (gone.stock, stays.stock) == becomes
    definitions.change(work, "product_type", "easels", version_of(work, "product_type", "easels"), {"name": "Easel"})
    release.release(work, "again")
    assert of(work, product)[0].stock == becomes[1], "once"


@pytest.mark.parametrize(
    ("stocks", "codes", "becomes"),
    [
        ((4, 3), ("elm", "ash"), {("frame", "ash"): 7}),
        ((4, None), ("elm", "ash"), {("frame", "ash"): 4}),
        ((4,), ("elm",), {("frame", "ash"): 4}),
        ((None, 3), ("elm", "ash"), {("frame", "ash"): 3}),
        ((1_000_000_000, 3), ("elm", "ash"), {("frame", "ash"): 1_000_000_000}),
    ],
)
def test_stock_of_a_value_goes_to_the_other_with_the_release(
    work: Work, stocks: tuple[int | None, int | None], codes: tuple[str, ...], becomes: dict[tuple[str, str], int]
) -> None:
    key = make_set(work, "Frames", woods(*codes))
    for code, stock in zip(codes, stocks, strict=True):
        if stock is not None:
            option_sets.put_stock(work, key, "frame", code, None, stock)
    before = option_sets.stocks_of(work, [key]).get(key, {})
    release.release(work, "before")
    value_merging.merge_values(work, MERGE)
    assert option_sets.stocks_of(work, [key]).get(key, {}) == before, "the live shop counts it still"
    release.release(work, "after")
    assert option_sets.stocks_of(work, [key]).get(key, {}) == becomes


def test_an_option_of_the_same_key_from_elsewhere_is_left_alone(work: Work) -> None:
    own = [{"code": "elm", "label": "Elm"}, {"code": "oak", "label": "Oak"}]
    give(
        work, "sketchbooks", make_set(work, "Own frames", option("frame", *own)), make_set(work, "Frames", woods("elm"))
    )
    product = make_product(work, "SB-1")
    before = choices(work, product)
    elm, oak = of(work, product)
    put_stocks(work, [VariantStock(elm.id, None, 3), VariantStock(oak.id, None, 4)])
    value_merging.merge_values(work, MERGE)
    release.release(work, "merged")
    assert choices(work, product) == before
    assert [variant.stock for variant in of(work, product)] == [3, 4]


def test_an_undo_that_would_make_two_of_the_same_is_refused(work: Work) -> None:
    key = make_set(work, "Frames", woods("elm"))
    give(work, "sketchbooks", key)
    product = make_product(work, "SB-1")
    value_merging.merge_values(work, MERGE)
    change = history.history(work, "variant_choices", None, None)[0]
    moved = of(work, product)[0]
    value_merging.merge_values(work, ValueMerge("wood", "ash", "pine"))
    assert of(work, product)[0].choices == {"frame": "pine"}
    with pytest.raises(Refusal) as caught:
        history.undo(work, change.id)
    assert caught.value.code in ("undone", "version")
    assert of(work, product)[0].id == moved.id


def test_two_fields_of_variants_become_one(work: Work, product: int) -> None:
    stays, goes = make_field(work, "Leaves", "whole"), make_field(work, "Sheets", "whole")
    first, second, third = of(work, product)
    for variant, key, typed in ((first, goes, "48"), (second, goes, "20"), (second, stays, "24"), (third, stays, "5")):
        fill(work, key, variant.id, typed)
    merge = FieldMerge(goes, stays)
    touched = field_merging.reach(work, merge)
    assert (touched.moves, touched.differ, touched.counted) == (1, 1, ("variant", "variants"))
    assert touched.examples == (("variant", (f"{product}/{second.id}", "Marsh book: Blue")),)
    with pytest.raises(Refusal) as caught:
        field_merging.merge_fields(work, merge)
    assert caught.value.message == "1 variant has a value in both, and not the same"
    fill(work, stays, second.id, "20")
    field_merging.merge_fields(work, merge)
    assert held(work, product, stays) == [("value", "48"), ("value", "20"), ("value", "5")]
    history.undo_last(work)
    assert held(work, product, goes) == [("value", "48"), ("value", "20")]


def test_fields_of_different_sorts_are_not_merged(work: Work) -> None:
    key = make_field(work, "Leaves", "text")
    with pytest.raises(Refusal) as caught:
        field_merging.reach(work, FieldMerge(key, "ss_made_in"))
    assert caught.value.code == "kind"


def test_more_than_fit_a_request_follow_by_a_job(own_engine: Engine, monkeypatch: pytest.MonkeyPatch) -> None:
    shop = make_sessions(own_engine)
    with shop() as session:
        rosa = person(session, 0)
    monkeypatch.setattr(judging, "MOST_AT_ONCE", 1)
    for module in ("converting", "variant_choices"):
        monkeypatch.setattr(f"young_fabric.service.values.{module}.BATCH", 1)
    asked: list[int] = []
    with unit_of_work(shop, rosa) as work:
        give(work, "sketchbooks", make_set(work, "Frames", woods("elm", "pine"), option("size", SMALL)))
        product = make_product(work, "SB-1")
        key = make_field(work, "Leaves", "text")
        for variant in of(work, product):
            fill(work, key, variant.id, "48")
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        change_field(work, key, kind="whole")
        assert held(work, product, key) == [("value", "48")] * 2
    assert job_runs.run(shop, asked.pop()) == "done"
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        assert held(work, product, key) == [("value", "48")] * 2
        assert value_merging.merge_values(work, MERGE) is not None
    assert job_runs.run(shop, asked.pop()) == "done"
    with unit_of_work(shop, rosa) as work:
        assert choices(work, product) == [("ash", "small"), ("pine", "small")]
        assert [variant.values[key] for variant in of(work, product)] == ["48"] * 2


def test_the_use_of_more_fields_than_a_row_has_columns_is_counted(work: Work, product: int) -> None:
    key = make_field(work, "Leaves", "text")
    fill(work, key, of(work, product)[0].id, "48")
    others = [f"ss_other_{number}" for number in range(2_000)]
    found = stored_values.filled(work.session, stored_values.TABLES["variant"], [*others, key])
    assert len(found) == 2_001
    assert found[key][1:] == (1, 0)
    assert found[others[0]][1:] == (0, 0)
    assert found[key][0] >= 3
