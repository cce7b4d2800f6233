"""Products in their table: lists, counts, streams and marks, on the demo's goods."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session

from young_fabric.core.nouns.definitions import Product
from young_fabric.store.repos import products
from young_fabric.store.repos.products import Search
from young_fabric.store.states import hash_of


def titles(session: Session, search: Search) -> list[str]:
    return [one.product.title for one in products.page(session, search, None, 100)]


def first(session: Session, words: str) -> products.Stored:
    return products.page(session, Search(words=words), None, 1)[0]


def new(session: Session, **values: object) -> Product:
    made = Product(products.next_id(session), "easels", {"title": "Trestle", **values})
    products.write(session, made, 1, (), False, hash_of("product", made))
    return made


def test_a_product_is_read_as_it_was_written(session: Session) -> None:
    made = Product(
        products.next_id(session),
        "easels",
        {"title": "Trestle", "slug": "trestle", "sku": "TR-1", "price": "12.5", "ss_folds": False},
        {"ss_weighs": "heavy"},
        False,
    )
    products.write(session, made, 4, ["ss_weighs"], True, hash_of("product", made))
    assert products.get(session, [made.id, 0]) == {made.id: products.Stored(made, 4, ("ss_weighs",))}
    products.set_stock(session, made.id, 3)
    assert products.get(session, [made.id])[made.id].product.stock == 3
    assert products.stock_of(session, [made.id]) == {made.id: 3}
    products.set_stock(session, made.id, None)
    assert products.stock_of(session, [made.id]) == {}
    assert products.hashes(session, [made.id]) == {made.id: hash_of("product", made)}
    products.remove(session, made.id)
    assert products.get(session, [made.id]) == {}


def test_ids_are_never_given_twice(session: Session) -> None:
    one = products.next_id(session)
    assert products.next_id(session) > one


@pytest.mark.parametrize(
    ("words", "found"),
    [
        ("fen etch", {"Fen Etching 300", "Fen Etching 250 Buff"}),
        ("FE-30", {"Fen Etching 300"}),
        ("etching fen 300", {"Fen Etching 300"}),
        ("fen' | etching", {"Fen Etching 300", "Fen Etching 250 Buff"}),
        (":*", set()),
        ("&!", set()),
    ],
)
def test_words_find_by_their_beginnings_whatever_signs_they_hold(session: Session, words: str, found: set[str]) -> None:
    assert set(titles(session, Search(words=words))) == found


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
        seen += [one.product.id for one in rows]
        after = (rows[-1].product.title, rows[-1].product.id)
    assert len(seen) == len(set(seen)) == products.count(session, Search())


def test_a_stream_holds_one_batch_at_a_time_and_leaves_none_out(session: Session) -> None:
    batches = list(products.stream(session, None, 9))
    assert {len(batch) for batch in batches[:-1]} == {9}
    ids = [one.id for batch in batches for one in batch]
    assert ids == sorted(set(ids))
    assert len(ids) == products.count(session, Search())
    only = [one for batch in products.stream(session, ["gouache"], 3) for one in batch]
    assert {one.type for one in only} == {"gouache"}
    assert len(only) == 8


def test_values_are_streamed_with_their_marks(session: Session) -> None:
    rows = [row for batch in products.stream_values(session, "ss_paper_weight", None, 4) for row in batch]
    assert len(rows) == products.count(session, Search(having="ss_paper_weight"))
    over = [title for _, _, title, value, wrong, _ in rows if "ss_paper_weight" in wrong and value]
    assert over == ["Tideline Board 850"]


def test_marks_of_wrong_values_are_put_once_and_taken_away(session: Session) -> None:
    one = first(session, "Fen Etching 300")
    for _ in range(2):
        products.flag_wrong(session, "price", [one.product.id], True)
    assert products.get(session, [one.product.id])[one.product.id].wrong.count("price") == 1
    products.flag_wrong(session, "price", [one.product.id], False)
    assert "price" not in products.get(session, [one.product.id])[one.product.id].wrong
    products.flag_wrong(session, "price", [], True)


def test_gaps_are_marked_for_one_type_and_no_other(session: Session) -> None:
    before = set(titles(session, Search(gaps=True)))
    products.mark_gaps(session, "easels", ("ss_folds", "ss_holds", "ss_weighs"))
    added = set(titles(session, Search(gaps=True))) - before
    assert added == {"Sandbar Field Easel"}, "its weight is not filled"
    products.mark_gaps(session, "easels", ())
    assert set(titles(session, Search(gaps=True))) == before


def test_fills_are_counted_by_steps_as_a_recount_does(session: Session) -> None:
    kept = products.fill_counts(session)
    products.recount_fill(session)
    counted = products.fill_counts(session)
    without_noughts = {key: {t: n for t, n in rows.items() if n} for key, rows in kept.items()}
    assert {key: rows for key, rows in without_noughts.items() if rows} == counted
    products.add_fill(session, "easels", ["ss_wood"], ["ss_holds"])
    assert products.fill_counts(session, ["ss_wood"])["ss_wood"]["easels"] == counted["ss_wood"]["easels"] + 1
    assert products.fill_counts(session, ["ss_holds"])["ss_holds"]["easels"] == counted["ss_holds"]["easels"] - 1


def test_codes_in_use_are_found_in_single_and_many_values(session: Session) -> None:
    assert products.users_of_codes(session, ["ss_wood"], ["elm"]) == 1
    assert products.users_of_codes(session, ["ss_suits"], ["etching"]) > 1
    assert products.users_of_codes(session, ["ss_wood"], ["nothing"]) == 0
    assert products.users_of_codes(session, [], ["elm"]) == products.users_of_codes(session, ["ss_wood"], []) == 0


def test_what_is_taken_and_what_addresses_are_like(session: Session) -> None:
    one = first(session, "Fen Etching 300").product
    assert products.taken(session, "sku", "FE-300", 0) == one.id
    assert products.taken(session, "sku", "FE-300", one.id) is None
    assert products.slugs_like(session, "fen-etching") == {"fen-etching-300", "fen-etching-250-buff"}
    assert products.slugs_like(session, "fen_") == set(), "signs of patterns are taken as they are"


def test_counts_by_type_and_lacking(session: Session) -> None:
    counts = products.counts_by_type(session)
    assert (counts["watercolour"], counts["easels"], sum(counts.values())) == (14, 4, 64)
    assert products.counts_by_type(session, "ss_wood") == {"easels": 4}
    lacking = products.lacking_counts(session, {"ss_weighs": ["easels"], "sku": ["easels"]})
    assert lacking == {"ss_weighs": 1, "sku": 0}
    assert products.lacking_counts(session, {}) == {}
    assert products.wrong_counts(session) == {"ss_paper_weight": 1, "ss_pressure": 1}
