"""What was live from which release on, the notes of drafts, and the record of changes."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from tests.conftest import NOW
from young_fabric.store.repos import changes, releases, shop
from young_fabric.store.tables import ChangeRow, LiveCardRow, LiveDocRow, LiveThingRow, PersonRow, UnreleasedRow

FIRST, SECOND, THIRD = 101, 102, 103
ONE, OTHER = 900_001, 900_002


def person(session: Session) -> int:
    return session.scalars(select(PersonRow.id).order_by(PersonRow.id)).first() or 0


def release(session: Session, number: int) -> None:
    releases.add(
        session, number=number, at=NOW, person_id=person(session), note="", things=0, pages=0, cards=0, plans={}
    )


def doc(product: int, digest: str, since: int) -> dict[str, Any]:
    head = {"product_id": product, "slug": f"p-{product}", "title": f"P {product}", "hash": digest, "since": since}
    return {**head, "type_key": "easels", "page": {}, "facts": {}}


def card(product: int, digest: str, since: int, types: list[str]) -> dict[str, Any]:
    head = {"product_id": product, "slug": f"p-{product}", "title": f"P {product}", "hash": digest, "since": since}
    return {**head, "types": types, "card": {}}


def thing(key: str, digest: str, since: int) -> dict[str, Any]:
    return {"noun": "field", "key": key, "hash": digest, "state": {"is": digest}, "since": since}


@pytest.fixture
def three(session: Session) -> Session:
    """Three releases: a thing and a page are changed by the second, another page comes with it and goes with the third."""
    releases.add_rows(session, LiveThingRow, [thing("x", "old", FIRST)])
    releases.add_rows(session, LiveDocRow, [doc(ONE, "old", FIRST)])
    release(session, FIRST)
    releases.close_things(session, [("field", "x")], SECOND)
    releases.close_rows(session, LiveDocRow, [ONE], SECOND)
    releases.add_rows(session, LiveThingRow, [thing("x", "new", SECOND), thing("y", "new", SECOND)])
    releases.add_rows(session, LiveDocRow, [doc(ONE, "new", SECOND), doc(OTHER, "new", SECOND)])
    release(session, SECOND)
    releases.close_rows(session, LiveDocRow, [OTHER], THIRD)
    release(session, THIRD)
    return session


def live(session: Session) -> dict[int, str]:
    return releases.open_hashes(session, LiveDocRow, [ONE, OTHER])


def test_the_newest_release_is_the_current_one(three: Session) -> None:
    assert shop.shop_of(three)[2] == THIRD
    assert [row.number for row, _ in releases.newest(three, 2)] == [THIRD, SECOND]
    assert [row.number for row, _ in releases.newest(three, 1, SECOND)] == [FIRST]
    found = releases.get(three, SECOND)
    assert found is not None
    assert found.number == SECOND


def test_rows_hold_from_one_release_up_to_before_another(three: Session) -> None:
    query = select(LiveDocRow.product_id, LiveDocRow.hash).where(LiveDocRow.product_id.in_([ONE, OTHER]))
    for number, rows in ((FIRST, {(ONE, "old")}), (SECOND, {(ONE, "new"), (OTHER, "new")}), (THIRD, {(ONE, "new")})):
        assert {tuple(row) for row in three.execute(query.where(releases.at(LiveDocRow, number)))} == rows


def test_going_back_makes_the_old_content_live_and_counts_what_changed(three: Session) -> None:
    things, pages, cards = releases.go_back(three, FIRST, THIRD + 1)
    assert live(three) == {ONE: "old"}
    assert releases.open_things(three, keys=[("field", "x"), ("field", "y")]) == {
        ("field", "x"): ("old", {"is": "old"})
    }
    assert pages >= 1
    assert things >= 2
    assert cards >= 0
    assert {("field", "x"), ("field", "y")} <= set(releases.switched_things(three, THIRD + 1))


def test_going_back_to_what_is_live_changes_nothing(three: Session) -> None:
    assert releases.go_back(three, THIRD, THIRD + 1) == (0, 0, 0)
    assert live(three) == {ONE: "new"}


def test_going_there_and_back_is_as_before(three: Session) -> None:
    releases.go_back(three, SECOND, THIRD + 1)
    assert live(three) == {ONE: "new", OTHER: "new"}
    releases.go_back(three, THIRD, THIRD + 2)
    assert live(three) == {ONE: "new"}


def test_pages_and_cards_are_found_by_address_product_and_type(three: Session) -> None:
    found = releases.page_of(three, f"p-{ONE}")
    assert found is not None
    assert found.hash == "new"
    assert releases.page_of(three, f"p-{OTHER}") is None
    assert releases.page_of_product(three, OTHER) is None
    releases.add_rows(
        three, LiveCardRow, [card(ONE, "c", THIRD, ["drums", "music"]), card(OTHER, "c", THIRD, ["music"])]
    )
    rows, total = releases.cards(three, "music", 0, 1)
    assert ([row.product_id for row in rows], total) == ([ONE], 2)
    assert [row.product_id for row in releases.cards(three, "music", 1, 5)[0]] == [OTHER]
    assert releases.card_counts(three)["music"] == 2
    shelves = releases.first_cards(three, ["drums", "music", "none"], 1)
    assert {key: len(rows) for key, rows in shelves.items()} == {"drums": 1, "music": 1, "none": 0}
    assert releases.first_cards(three, [], 3) == {}


def test_only_one_state_of_a_thing_is_open(three: Session) -> None:
    with pytest.raises(Exception, match="uq_live_thing_open"), three.begin_nested():
        releases.add_rows(three, LiveThingRow, [thing("x", "third", THIRD)])


def noted(session: Session) -> dict[str, str | None]:
    rows = session.execute(select(UnreleasedRow.key, UnreleasedRow.hash).where(UnreleasedRow.noun == "field"))
    return {row[0]: row[1] for row in rows}


def test_a_draft_is_unreleased_while_its_hash_is_not_the_live_one(three: Session) -> None:
    count = changes.unreleased_count(three)
    for key, digest, waits in (
        ("x", "newer", True),
        ("x", "new", False),
        ("x", None, True),
        ("z", "made", True),
        ("z", None, False),
    ):
        changes.mark(three, "field", key, digest)
        assert (("field", key) in changes.unreleased(three, "field")) == waits, (key, digest)
        changes.mark(three, "field", key, "new" if key == "x" else None)
    assert changes.unreleased_count(three) == count


def test_definitions_are_listed_before_however_many_products(three: Session) -> None:
    for number in range(5):
        changes.mark(three, "product", str(ONE + number), "changed")
    changes.mark(three, "type", "drums", "changed")
    nouns = [noun for noun, _ in changes.unreleased(three)]
    assert nouns == sorted(nouns, key=lambda noun: noun == "product")
    assert ("type", "drums") in changes.unreleased(three, limit=nouns.index("product"))


def test_released_notes_are_forgotten_and_others_kept(three: Session) -> None:
    for key, digest in (("x", "new"), ("y", "newer"), ("z", None), ("w", changes.UNKNOWN)):
        changes.mark(three, "field", key, digest)
    changes.forget_released(three)
    left = noted(three)
    assert left["y"] == "newer"
    assert not {"x", "z", "w"} & left.keys()


def test_notes_made_in_bulk_never_overwrite_a_writers(three: Session) -> None:
    changes.mark(three, "field", "x", "by a writer")
    changes.mark_all(three, "field", {"x": "by the release", "y": "by the release"})
    changes.mark_all(three, "field", {})
    assert noted(three)["x"] == "by a writer"
    assert noted(three)["y"] == "by the release"


def record(session: Session, key: str, **more: Any) -> int:
    row = {"noun": "field", "name": key, "before": None, "after": {"is": key}, "group_id": key, "undoes": None}
    return changes.add(session, at=NOW, person_id=person(session), key=key, **{**row, **more})


def test_changes_are_listed_last_first_and_grouped(session: Session) -> None:
    one, two = record(session, "k", group_id="g"), record(session, "k", group_id="g")
    other = record(session, "l")
    assert [row.id for row, _ in changes.history(session, "field", "k", None, 9)] == [two, one]
    assert [row.id for row, _ in changes.history(session, "field", "k", two, 9)] == [one]
    assert [row.id for row, _ in changes.history(session, None, None, None, 1)] == [other]
    assert [row.id for row in changes.group(session, "g")] == [two, one]
    assert changes.last_at(session, "field", "k") == NOW
    assert changes.last_at(session, "field", "nothing") is None


def test_what_was_undone_and_what_comes_next(session: Session) -> None:
    who = person(session)
    one, two = record(session, "k"), record(session, "l")
    undoing = record(session, "l", undoes=two)
    assert changes.undone(session, [one, two]) == {two}
    last = changes.last_undoable(session, who)
    assert last is not None
    assert last.id == one
    redoable = changes.last_redoable(session, who)
    assert redoable is not None
    assert redoable.id == undoing
    again = record(session, "l", undoes=undoing)
    assert changes.undone(session, [two]) == set(), "the undoing was undone"
    last = changes.last_undoable(session, who)
    assert last is not None
    assert last.id == again
    assert changes.last_redoable(session, who) is None
    with pytest.raises(Exception, match="uq_change_undoes"), session.begin_nested():
        record(session, "l", undoes=two)
    assert session.get(ChangeRow, two) is not None
