"""Products in their table: lists, counts, streams and marks, on the demo's goods."""

from __future__ import annotations

import pytest
from sqlalchemy import text
from sqlalchemy.orm import Session

from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.stock import PRODUCT_STOCK
from young_fabric.store.repos import fills, product_groups, products, stocks, stored_values
from young_fabric.store.repos.fills import FillCount
from young_fabric.store.repos.products import Search


def titles(session: Session, search: Search) -> list[str]:
    return [record.product.title for record in products.page(session, search, None, 100)]


def first(session: Session, words: str) -> products.ProductRecord:
    return products.page(session, Search(words=words), None, 1)[0]


def new(session: Session, **values: object) -> Product:
    made = Product(products.next_id(session), "easels", {"title": "Trestle", **values})
    products.write_many(session, [products.row_of(made, 1, (), False, "hash")])
    return made


def test_a_product_is_read_as_it_was_written(session: Session) -> None:
    made = Product(
        products.next_id(session),
        "easels",
        {"title": "Trestle", "slug": "trestle", "sku": "TR-1", "price": "12.5", "ss_folds": False},
        {"ss_weighs": "heavy"},
        False,
    )
    products.write_many(session, [products.row_of(made, 4, ["ss_weighs"], True, "hash")])
    assert products.get(session, [made.id, 0]) == {made.id: products.ProductRecord(made, 4, ("ss_weighs",), True)}
    assert products.lock(session, [made.id]) == products.get(session, [made.id])
    stocks.hold(session, PRODUCT_STOCK, [(made.id,)])
    stocks.put(session, PRODUCT_STOCK, {(made.id,): 3})
    assert products.get(session, [made.id])[made.id].product.stock == 3
    assert stocks.read(session, PRODUCT_STOCK, [(made.id,)]) == {(made.id,): 3}
    stocks.put(session, PRODUCT_STOCK, {(made.id,): None})
    assert stocks.read(session, PRODUCT_STOCK, [(made.id,)]) == {}
    assert products.hashes(session, [made.id]) == {made.id: "hash"}
    products.remove(session, [made.id])
    assert products.get(session, [made.id]) == {}


def test_ids_are_never_given_twice(session: Session) -> None:
    before = products.next_id(session)
    assert products.next_id(session) > before


@pytest.mark.parametrize(
    ("words", "found"),
    [
        ("fen etch", {"Fen Etching 300", "Fen Etching 250 Buff"}),
        ("FE-300", {"Fen Etching 300"}),
        ("e-300", {"Fen Etching 300"}),
        ("-LML-15", {"Saltmarsh Watercolour Lemon 15 ml"}),
        ("etching 300", {"Fen Etching 300"}),
        ("fen' | etching", set()),
        ("%", set()),
        ("_tching", set()),
        ("\\", set()),
    ],
)
def test_words_find_by_any_part_of_title_or_sku(session: Session, words: str, found: set[str]) -> None:
    rows = session.execute(text("SELECT title FROM product WHERE search LIKE '%-lml-15%'")).scalars().all()
    if words == "-LML-15":
        found = set(rows)
        assert found
    assert set(titles(session, Search(words=words))) == found


def test_a_gtin_is_found_by_its_end(session: Session) -> None:
    made = new(session, gtin="4006381333931")
    assert titles(session, Search(words="333931")) == [made.title]


def test_types_gaps_and_having_narrow_alike_in_lists_and_counts(session: Session) -> None:
    for search in (
        Search(types=("gouache",)),
        Search(types=()),
        Search(gaps=True),
        Search(gaps=True, types=("sketchbooks",)),
        Search(having="gtin"),
        Search(having="sku"),
        Search(lacking="ss_sizing", types=("drawing_paper", "printmaking_paper", "watercolour_paper")),
        Search(wrong="ss_pressure"),
        Search(offered=False),
    ):
        assert len(titles(session, search)) == products.count(session, search), search
    assert titles(session, Search(types=("sketchbooks",), gaps=True)) == ["Limpet Pocket Book"]


def test_pages_follow_on_without_gap_or_overlap(session: Session) -> None:
    new(session, slug="t-1")
    new(session, slug="t-2")
    seen: list[int] = []
    after = None
    while True:
        rows = products.page(session, Search(), after, 7)
        if not rows:
            break
        seen += [record.product.id for record in rows]
        after = (rows[-1].product.title, rows[-1].product.id)
    assert len(seen) == len(set(seen)) == products.count(session, Search())


def test_a_stream_holds_one_batch_at_a_time_and_leaves_none_out(session: Session) -> None:
    batches = list(product_groups.stream(session, None, 9))
    assert {len(batch) for batch in batches[:-1]} == {9}
    ids = [product.id for batch in batches for product in batch]
    assert ids == sorted(set(ids))
    assert len(ids) == products.count(session, Search())
    groups = [group for group in product_groups.groups(session) if group[0] == "gouache"]
    assert len(groups) > 1, "some are in collections"
    only = [product for batch in product_groups.stream(session, groups, 3) for product in batch]
    assert {product.type for product in only} == {"gouache"}
    assert len(only) == 8
    assert (
        list(product_groups.stream(session, [("gouache", ("sale",))], 3))
        == list(product_groups.stream(session, [], 3))
        == []
    )


def test_values_of_a_field_come_in_parts(session: Session) -> None:
    rows: list[tuple[int, object]] = []
    while part := stored_values.values_after(
        session, stored_values.OF_PRODUCTS, "ss_paper_weight", rows[-1][0] if rows else 0, 4
    ):
        rows += part
    assert len(rows) == products.count(session, Search(having="ss_paper_weight"))
    assert {type(value) for _, value in rows} == {dict}
    assert len(stored_values.values_after(session, stored_values.OF_PRODUCTS, "title", 0, 500)) == 65


def test_exact_codes_are_found(session: Session) -> None:
    found = first(session, "Fen Etching 300").product
    assert products.ids_with_code(session, "FE-300") == products.ids_with_code(session, "fe-300") == (found.id,)
    assert products.ids_with_code(session, "FE-3") == ()
    assert [record.product.id for record in products.page(session, Search(ids=(found.id,)), None, 9)] == [found.id]
    rest = products.page(session, Search(words="etching", without=(found.id,)), None, 9)
    assert found.id not in [record.product.id for record in rest]


def test_marks_are_put_for_many_at_once(session: Session) -> None:
    record = first(session, "Fen Etching 300")
    products.mark_many(session, [(record.product.id, ["price", "gtin"], True)])
    assert products.get(session, [record.product.id])[record.product.id].wrong == ("gtin", "price")
    products.mark_many(session, [(record.product.id, [], False)])
    products.mark_many(session, [])
    assert products.get(session, [record.product.id])[record.product.id].gaps is False


def test_fills_are_counted_by_steps_as_a_recount_does(session: Session) -> None:
    assert fills.recount(session) == []
    before = {key: groups["easels", ()] for key, groups in fills.by_group(session, ["ss_wood", "ss_holds"]).items()}
    place = ("ss_wood", "easels", ())
    steps = {
        place: FillCount(1, 2),
        ("ss_holds", "easels", ()): FillCount(-1, 0),
        ("ss_folds", "easels", ()): FillCount(),
    }
    fills.add(session, fills.FillSteps(steps))
    good, wrong = before["ss_wood"]
    assert fills.by_group(session, ["ss_wood"])["ss_wood"]["easels", ()] == (good + 1, wrong + 2)
    good_holds, _ = before["ss_holds"]
    assert fills.by_group(session, ["ss_holds"])["ss_holds"]["easels", ()] == (good_holds - 1, 0)
    assert (place, (good + 1, wrong + 2), (good, wrong)) in fills.recount(session)
    assert fills.recount(session) == []


def test_codes_in_use_are_found_in_single_and_many_values(session: Session) -> None:
    def holding(**patterns: list[object]) -> int:
        return products.count_where(session, stored_values.containing(patterns))

    assert holding(ss_wood=["elm"]) == 1
    assert holding(ss_suits=[["etching"]]) > 1
    assert holding(ss_wood=["nothing"]) == holding(ss_wood=[]) == holding() == 0
    assert holding(ss_wood=["elm"], ss_suits=[["etching"]]) == 1 + holding(ss_suits=[["etching"]])
    counts = stored_values.item_counts(session, stored_values.OF_PRODUCTS, ['$."ss_suits"[*]', '$."ss_wood"[*]'])
    assert counts["etching"] == holding(ss_suits=[["etching"]])
    assert counts["elm"] == 1
    assert stored_values.item_counts(session, stored_values.OF_PRODUCTS, []) == {}


def test_who_holds_a_code_and_what_addresses_are_like(session: Session) -> None:
    product = first(session, "Fen Etching 300").product
    assert products.holders(session, "sku", ["FE-300", "none"]) == {"FE-300": (product.id, product.title)}
    new(session, slug="fen-etching-300-2")
    new(session, slug="fen-etching-300-wide")
    assert products.slugs_like(session, "fen-etching-300") == {"fen-etching-300", "fen-etching-300-2"}
    assert products.slugs_like(session, "fen_") == set(), "signs of patterns are taken as they are"


def test_counts_by_type_and_lacking(session: Session) -> None:
    counts = fills.counts_by_type(session)
    assert (counts["watercolour"], counts["easels"], sum(counts.values())) == (14, 4, 65)
    easels = {("easels", ()): 1, ("easels", ("outdoors",)): 3}
    assert {group: sum(count) for group, count in fills.by_group(session, ["ss_wood"])["ss_wood"].items()} == easels
    lacking = fills.lacking_counts(session, {"ss_weighs": list(easels), "sku": list(easels)})
    assert lacking == {"ss_weighs": 1, "sku": 0}
    assert fills.lacking_counts(session, {}) == {}
    assert fills.wrong_counts(session) == {"ss_paper_weight": 1, "ss_pressure": 1}
    assert fills.counts_by_group(session)["easels", ()] == 1
    assert fills.counts_by_collection(session)["outdoors"] == sum(
        count for (_, within), count in fills.counts_by_group(session).items() if "outdoors" in within
    )
    assert products.groups_of(session, [1])[1][1] == ("first_box", "lightfast", "outdoors", "small_change")
    first(session, "Fen Etching 300")
    session.execute(text("UPDATE product SET collections = '{spring,gifts}' WHERE title LIKE 'Fen Etching%'"))
    fills.recount(session)
    assert sorted(product_groups.groups(session)) == sorted(fills.counts_by_group(session))
    session.execute(text("DELETE FROM stock"))
    session.execute(text("DELETE FROM product"))
    assert product_groups.groups(session) == []
