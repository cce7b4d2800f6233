"""Variants follow what products offer: made, kept, retired and brought back, with SKUs that one product or variant has."""

from __future__ import annotations

import random
from typing import Any

import pytest
from sqlalchemy import text

from young_fabric.core.base.errors import Refusal
from young_fabric.core.options.combinations import combine
from young_fabric.core.options.offers import Offer
from young_fabric.core.subjects.variants import Variant
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.planning import offering, plans
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.service.sales.variant_values import VariantStock, put_stocks
from young_fabric.service.values import variants
from young_fabric.store.repos import jobs as job_rows
from young_fabric.store.repos import products as rows
from young_fabric.store.repos import variants as variant_rows

RED, BLUE, PEAT = (
    {"code": code, "label": code.title(), "effect": {"sku": code[:3]}} for code in ("red", "blue", "peat")
)
SMALL, LARGE = ({"code": code, "label": code.title()} for code in ("small", "large"))


def option(key: str, *values: dict[str, Any], **more: Any) -> dict[str, Any]:
    return {"key": key, "name": key.title(), "values": list(values), **more}


def make_set(work: Work, name: str, *options: dict[str, Any], **more: Any) -> str:
    return str(definitions.create(work, "option_set", name, {"options": list(options), **more}).thing.key)


def put_set(work: Work, key: str, **members: Any) -> None:
    definitions.change(work, "option_set", key, version_of(work, "option_set", key), members)


def version_of(work: Work, noun: str, key: str) -> int:
    return plans.draft_of(work.session).loaded.versions[noun, key]


def give(work: Work, type_key: str, *sets: str) -> None:
    version = version_of(work, "product_type", type_key)
    definitions.change(work, "product_type", type_key, version, {"option_sets": list(sets)})


def make_product(work: Work, sku: str | None = None, type_key: str = "sketchbooks") -> int:
    made = products.create(work, type_key, "Marsh book")
    if sku:
        products.fill(work, made.product.id, None, {"sku": sku, "price": "40"})
    return made.product.id


def of(work: Work, product: int, *, retired: bool = False) -> list[Variant]:
    found = variant_rows.of_products(work.session, [product]).get(product, [])
    return [variant for variant in found if variant.retired == retired]


def choices(work: Work, product: int, *, retired: bool = False) -> list[tuple[str, ...]]:
    keys = [axis.key for axis in offer_of(work, product).axes]
    return [tuple(variant.choices[key] for key in keys) for variant in of(work, product, retired=retired)]


def offer_of(work: Work, product: int) -> Offer:
    return offering.Offers(plans.draft(work.session)).of(rows.get(work.session, [product])[product].product)


def skus(work: Work, product: int) -> list[str | None]:
    return [variant.sku for variant in of(work, product)]


def test_a_set_given_to_a_type_makes_the_variants_of_its_products(work: Work) -> None:
    product = make_product(work, "SB-1")
    key = make_set(work, "Woods", option("colour", RED, BLUE), option("size", SMALL, LARGE))
    assert of(work, product) == []
    give(work, "sketchbooks", key)
    assert choices(work, product) == [("red", "small"), ("red", "large"), ("blue", "small"), ("blue", "large")]
    assert skus(work, product) == ["SB-1-RED", None, "SB-1-BLU", None], "of two that come to the same the first has it"
    later = make_product(work, "SB-2")
    assert choices(work, later) == choices(work, product)
    give(work, "sketchbooks")
    assert of(work, product) == []
    assert len(of(work, product, retired=True)) == 4


def test_what_is_left_out_is_retired_with_its_stock_and_comes_back_with_all_it_held(work: Work) -> None:
    product = make_product(work, "SB-1")
    key = make_set(work, "Woods", option("colour", RED, BLUE), option("size", SMALL, LARGE))
    give(work, "sketchbooks", key)
    before = of(work, product)
    put_stocks(work, [VariantStock(before[3].id, None, 7)])
    put_set(work, key, left_out=[{"colour": ["blue"], "size": ["large"]}])
    assert choices(work, product) == [("red", "small"), ("red", "large"), ("blue", "small")]
    retired = of(work, product, retired=True)
    assert [(variant.id, variant.stock, variant.sku) for variant in retired] == [(before[3].id, 7, None)]
    history.undo_last(work)
    after = of(work, product)
    assert [variant.id for variant in after] == [variant.id for variant in before]
    assert after[3].stock == 7


def test_an_option_added_and_taken_away_leaves_everything_where_it_was(work: Work) -> None:
    product = make_product(work, "SB-1")
    key = make_set(work, "Woods", option("colour", RED, BLUE))
    give(work, "sketchbooks", key)
    before = of(work, product)
    put_set(work, key, options=[option("colour", RED, BLUE), option("size", SMALL, LARGE)])
    assert choices(work, product) == [("red", "small"), ("red", "large"), ("blue", "small"), ("blue", "large")]
    kept = of(work, product)
    assert [kept[0].id, kept[2].id] == [variant.id for variant in before]
    history.undo_last(work)
    assert of(work, product) == before


def test_a_sku_is_one_product_s_or_one_variant_s(work: Work) -> None:
    key = make_set(work, "Woods", option("colour", RED, BLUE))
    give(work, "sketchbooks", key)
    product = make_product(work, "SB-1")
    assert skus(work, product) == ["SB-1-RED", "SB-1-BLU"]
    other = make_product(work)
    with pytest.raises(Refusal) as caught:
        products.fill(work, other, None, {"sku": "SB-1-RED"})
    assert (caught.value.code, caught.value.message) == (
        "taken",
        "A variant of Marsh book has the SKU SB-1-RED already",
    )
    products.fill(work, other, None, {"sku": "SB-2-RED"})
    products.fill(work, product, None, {"sku": "SB-2"})
    assert skus(work, product) == [None, "SB-2-BLU"], "the other product has it"
    products.fill(work, other, None, {"sku": "SB-3"})
    products.fill(work, product, None, {"sku": "SB-1"})
    assert skus(work, product) == ["SB-1-RED", "SB-1-BLU"]
    counted = work.session.execute(text("SELECT count(*) FROM taken_sku WHERE sku LIKE 'SB-%'")).scalar_one()
    assert counted == 6


def test_a_product_removed_and_brought_back_has_its_variants(work: Work) -> None:
    key = make_set(work, "Woods", option("colour", RED, BLUE))
    give(work, "sketchbooks", key)
    product = make_product(work, "SB-1")
    before = of(work, product)
    put_stocks(work, [VariantStock(before[1].id, None, 3)])
    products.remove(work, product, None)
    assert variant_rows.get(work.session, [variant.id for variant in before]) == {}
    assert variant_rows.taken_skus(work.session, ["SB-1-RED"]) == {}
    history.undo_last(work)
    after = of(work, product)
    assert [(variant.id, variant.sku) for variant in after] == [(variant.id, variant.sku) for variant in before]
    assert after[1].stock == 3


def test_sets_are_offered_by_condition_and_by_hand_too(work: Work) -> None:
    cheap, dear = make_product(work, "SB-1"), make_product(work, "SB-2")
    products.fill(work, dear, None, {"price": "400"})
    condition = {
        "all": [{"field": "price", "op": "lt", "value": "100"}, {"field": "type", "op": "is", "value": "sketchbooks"}]
    }
    key = make_set(work, "Woods", option("colour", RED, BLUE), condition=condition)
    assert (len(of(work, cheap)), len(of(work, dear))) == (2, 0)
    put_set(work, key, picked=[dear], kept_out=[cheap])
    assert (len(of(work, cheap)), len(of(work, dear))) == (0, 2)
    put_set(work, key, picked=[], kept_out=[])
    products.fill(work, dear, None, {"price": "40"})
    assert (len(of(work, cheap)), len(of(work, dear))) == (2, 2)
    with pytest.raises(Refusal) as caught:
        put_set(work, key, picked=[2**30])
    assert caught.value.code == "not_found"


def test_values_of_a_list_make_and_retire_variants(work: Work) -> None:
    grows = option("wood", takes="grows", list="wood")
    key = make_set(work, "Woods", grows)
    give(work, "sketchbooks", key)
    product = make_product(work, "SB-1")
    listed = plans.draft(work.session).lists["wood"]
    assert choices(work, product) == [(value.code,) for value in listed.values if not value.retired]
    state = [{"code": value.code, "label": value.label} for value in listed.values]
    version = version_of(work, "value_list", "wood")
    definitions.change(work, "value_list", "wood", version, {"values": [*state, {"code": "yew", "label": "Yew"}]})
    assert choices(work, product)[-1] == ("yew",)
    gone = [*state, {"code": "yew", "label": "Yew", "retired": True}]
    definitions.change(work, "value_list", "wood", version + 1, {"values": gone})
    assert ("yew",) not in choices(work, product)


def test_a_value_an_option_speaks_of_is_held_fast(work: Work) -> None:
    listed = plans.draft(work.session).lists["wood"]
    make_set(work, "Woods", option("wood", {"code": listed.values[0].code}, takes="some", list="wood"))
    version = version_of(work, "value_list", "wood")
    with pytest.raises(Refusal) as caught:
        definitions.change(work, "value_list", "wood", version, {"values": []})
    assert caught.value.code == "in_use"
    with pytest.raises(Refusal):
        definitions.remove(work, "value_list", "wood", version)


def test_many_variants_are_matched_by_a_job_that_stops_no_release(work: Work) -> None:
    made = [make_product(work, f"SB-{number}") for number in range(3)]
    there = rows.count(work.session, rows.Search(types=("sketchbooks",)))
    values = [{"code": f"v{number}", "label": f"V {number}"} for number in range(2_000 // (there - 1))]
    key = make_set(work, "Woods", option("colour", *values))
    give(work, "sketchbooks", key)
    assert of(work, made[0]) == []
    assert variant_rows.unmatched(work.session) == {key}
    release.check(work, "")
    [asked] = job_rows.open_of(work.session, variants.MATCH)
    args, last = asked.args, 0
    assert variants.total(work, args) == there
    while True:
        last, count, _ = variants.match_batch(work, args, last)
        if not count:
            break
    assert len(of(work, made[0])) == len(values)
    assert variant_rows.unmatched(work.session) == frozenset()


@pytest.mark.parametrize("seed", range(2))
def test_after_anything_variants_are_what_is_offered_and_nothing_is_ever_lost(work: Work, seed: int) -> None:
    chance = random.Random(seed)
    values = [RED, BLUE, PEAT]
    key = make_set(work, "Woods", option("colour", RED, BLUE))
    other = make_set(
        work, "Sizes", option("size", SMALL, LARGE), condition={"field": "price", "op": "lt", "value": "50"}
    )
    numbers = [make_product(work, f"SB-{number}") for number in range(3)]
    ever: dict[int, set[int]] = {number: set() for number in numbers}

    def change_set() -> None:
        names = chance.sample(["colour", "edge"], chance.randint(0, 2))
        put_set(
            work,
            key,
            options=[option(name, *chance.sample(values, chance.randint(1, 3))) for name in names],
            left_out=[],
        )

    def leave_out() -> None:
        known = [found.key for found in plans.draft(work.session).option_sets[key].options]
        put_set(work, key, left_out=[{chance.choice(known): [chance.choice(["red", "blue"])]}] if known else [])

    def offer() -> None:
        give(work, "sketchbooks", *chance.sample([key, other], chance.randint(0, 2)))

    def price() -> None:
        products.fill(work, chance.choice(numbers), None, {"price": chance.choice(["10", "90"])})

    def undo() -> None:
        history.undo_last(work)

    for _ in range(16):
        chance.choice([change_set, leave_out, offer, price, undo])()
        for number in numbers:
            offered = offer_of(work, number)
            wanted = list(combine(offered.axes, offered.left_out))
            assert [variant.choices for variant in of(work, number)] == wanted
            all_of = {variant.id for variant in (*of(work, number), *of(work, number, retired=True))}
            assert ever[number] <= all_of
            ever[number] = all_of
    for number in numbers:
        assert variants.put(work, [number]) == 0, "matching twice changes nothing"


def test_a_sku_that_somebody_took_meanwhile_is_left_to_them(work: Work, monkeypatch: pytest.MonkeyPatch) -> None:
    make_product(work, "SB-1-RED")
    product = make_product(work, "SB-1")
    asked = []
    free = variants.with_free_skus

    def late(work: Work, wanted: Any) -> Any:
        asked.append(len(wanted))
        return list(wanted) if len(asked) == 1 else free(work, wanted)

    monkeypatch.setattr(variants, "with_free_skus", late)
    give(work, "sketchbooks", make_set(work, "Woods", option("colour", RED, BLUE)))
    assert skus(work, product) == [None, "SB-1-BLU"]
    assert len(asked) > 1
