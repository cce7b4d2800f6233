"""What was live from which release on, the notes of drafts, and the record of changes."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from tests.conftest import NOW
from young_fabric.store.glances import of_session
from young_fabric.store.repos import changes, live_pages, releases, shop
from young_fabric.store.tables import ChangeRow, PersonRow, UnreleasedRow

FIRST, SECOND, THIRD = 101, 102, 103
FIRST_ID, OTHER_ID = 900_001, 900_002
PAGE, CARD = "product_page", "listing_card"


def person(session: Session) -> int:
    return session.scalars(select(PersonRow.id).order_by(PersonRow.id)).first() or 0


def release(session: Session, number: int) -> None:
    head = {"number": number, "at": NOW, "person_id": person(session), "note": ""}
    releases.add(session, **head, things=0, counts={}, plan_hashes=[])


def document(surface: str, product: int, digest: str, *under: str) -> dict[str, Any]:
    head = {"surface": surface, "subject_id": str(product), "card": "", "address": f"p-{product}"}
    shown = {"title": f"P {product}", "listed": surface == CARD, "under": list(under) or ["easels"]}
    return {**head, **shown, "document": {}, "format": 2, "hash": digest}


def thing(key: str, digest: str, since: int) -> dict[str, Any]:
    return {"noun": "field", "key": key, "format": 2, "hash": digest, "state": {"is": digest}, "since": since}


def put(session: Session, release: int, *rows: dict[str, Any]) -> None:
    releases.add_documents(session, "product", rows, release)


@pytest.fixture
def three(session: Session) -> Session:
    """Three releases: a thing and a page are changed by the second, another page comes with it and goes with the third."""
    releases.add_things(session, [thing("x", "old", FIRST)])
    put(session, FIRST, document(PAGE, FIRST_ID, "old"))
    release(session, FIRST)
    releases.close_things(session, [("field", "x")], SECOND)
    releases.add_things(session, [thing("x", "new", SECOND), thing("y", "new", SECOND)])
    changed = [document(PAGE, FIRST_ID, "new"), document(PAGE, OTHER_ID, "new")]
    releases.end_documents(session, "product", [(PAGE, str(FIRST_ID), "")], SECOND)
    releases.add_documents(session, "product", changed, SECOND)
    release(session, SECOND)
    releases.close_documents(session, "product", [OTHER_ID], THIRD)
    release(session, THIRD)
    return session


def live(session: Session) -> dict[int, str]:
    found = releases.open_hashes(session, "product", [FIRST_ID, OTHER_ID])
    return {int(key[1]): digest for key, digest in found.items()}


def test_the_newest_release_is_the_current_one(three: Session) -> None:
    assert shop.shop_of(three)[2] == THIRD
    assert [row.number for row, _ in releases.newest(three, 2)] == [THIRD, SECOND]
    assert [row.number for row, _ in releases.newest(three, 1, SECOND)] == [FIRST]
    found = releases.get(three, SECOND)
    assert found is not None
    assert found.number == SECOND


def test_going_back_makes_the_old_content_live_and_counts_what_changed(three: Session) -> None:
    things, counts = releases.go_back(three, FIRST, THIRD + 1)
    assert live(three) == {FIRST_ID: "old"}
    assert releases.open_things(three, keys=[("field", "x"), ("field", "y")]) == {("field", "x"): (2, {"is": "old"})}
    assert counts[PAGE] >= 1
    assert things >= 2
    assert {("field", "x"), ("field", "y")} <= set(releases.switched_things(three, THIRD + 1))


def test_going_back_to_what_is_live_changes_nothing(three: Session) -> None:
    assert releases.go_back(three, THIRD, THIRD + 1) == (0, {})
    assert live(three) == {FIRST_ID: "new"}


def test_going_there_and_back_is_as_before(three: Session) -> None:
    releases.go_back(three, SECOND, THIRD + 1)
    assert live(three) == {FIRST_ID: "new", OTHER_ID: "new"}
    releases.go_back(three, THIRD, THIRD + 2)
    assert live(three) == {FIRST_ID: "new"}


def test_documents_are_found_by_address_and_subject(three: Session) -> None:
    assert [row.subject_id for row in live_pages.at(of_session(three), [PAGE], f"p-{FIRST_ID}").documents] == [
        str(FIRST_ID)
    ]
    assert live_pages.at(of_session(three), [PAGE], f"p-{OTHER_ID}").documents == []
    assert releases.documents_of(three, "product", OTHER_ID) == []
    put(three, THIRD, document(CARD, FIRST_ID, "c", "drums", "music"))
    found = live_pages.at(of_session(three), [CARD, PAGE], f"p-{FIRST_ID}").documents
    assert [row.surface for row in found] == [CARD, PAGE]


def test_any_number_of_products_can_go_at_once(session: Session) -> None:
    releases.close_documents(session, "product", range(1_000_000, 1_070_000), FIRST)
    releases.close_things(session, [("product", str(number)) for number in range(3_000)], FIRST)


def test_only_one_document_of_a_surface_is_open(three: Session) -> None:
    with pytest.raises(Exception, match="uq_live_document_open"), three.begin_nested():
        put(three, THIRD, document(PAGE, FIRST_ID, "third"))


def test_only_one_state_of_a_thing_is_open(three: Session) -> None:
    with pytest.raises(Exception, match="uq_live_thing_open"), three.begin_nested():
        releases.add_things(three, [thing("x", "third", THIRD)])


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
        changes.note(three, {("field", key): digest})
        assert (("field", key) in changes.unreleased(three, ["field"])) == waits, (key, digest)
        changes.note(three, {("field", key): "new" if key == "x" else None})
    assert changes.unreleased_count(three) == count


def test_definitions_are_listed_before_however_many_products(three: Session) -> None:
    for number in range(5):
        changes.note(three, {("product", str(FIRST_ID + number)): "changed"})
    changes.note(three, {("product_type", "drums"): "changed"})
    nouns = [noun for noun, _ in changes.unreleased(three)]
    assert nouns == sorted(nouns, key=lambda noun: noun == "product")
    assert ("product_type", "drums") in changes.unreleased(three, limit=nouns.index("product"))


def test_released_notes_are_forgotten_and_others_kept(three: Session) -> None:
    for key, digest in (("x", "new"), ("y", "newer"), ("z", None), ("w", changes.UNKNOWN)):
        changes.note(three, {("field", key): digest})
    changes.forget_released(three)
    left = noted(three)
    assert left["y"] == "newer"
    assert not {"x", "z", "w"} & left.keys()


def test_notes_made_in_bulk_never_overwrite_a_writers(three: Session) -> None:
    changes.note(three, {("field", "x"): "by a writer"})
    changes.note_missing(three, "field", {"x": "by the release", "y": "by the release"})
    changes.note_missing(three, "field", {})
    assert noted(three)["x"] == "by a writer"
    assert noted(three)["y"] == "by the release"


def record(session: Session, key: str, **more: Any) -> int:
    row = {"noun": "field", "name": key, "lines": ["new"], "patch": {"is": {}}, "format": 2, "group_id": key}
    row |= {"version": changes.last_version(session, "field", key) + 1, "undoes": None}
    row |= {"key": key, **more}
    shared = {"at": NOW, "person_id": person(session), "group_id": row.pop("group_id")}
    return changes.add_many(session, [row], **shared)[0]


def test_changes_are_listed_last_first_and_grouped(session: Session) -> None:
    first, two = record(session, "k", group_id="g"), record(session, "k", group_id="g")
    other = record(session, "l")
    assert [row.id for row, _ in changes.history(session, "field", "k", None, 9)] == [two, first]
    assert [row.id for row, _ in changes.history(session, "field", "k", two, 9)] == [first]
    assert [row.id for row, _ in changes.history(session, None, None, None, 1)] == [other]
    assert [row.id for row in changes.of_group(session, "g", ["field"])] == [two, first]
    assert list(changes.others_of_group(session, "g", ["field"], 1)) == []
    assert [row.id for rows in changes.others_of_group(session, "g", ["layout"], 1) for row in rows] == [two, first]
    assert not changes.undone_in_group(session, "g")
    assert [row.version for row in changes.since_version(session, "field", "k", 1)] == [2]
    assert changes.last_version(session, "field", "nothing") == 0
    assert changes.last_versions(session, "field", ["k", "l", "m"]) == {"k": 2, "l": 1}


def test_what_was_undone_and_what_comes_next(session: Session) -> None:
    who = person(session)
    first, two = record(session, "k"), record(session, "l")
    undoing = record(session, "l", undoes=two)
    assert changes.undone(session, [first, two]) == {two}
    last = changes.last_undoable(session, who)
    assert last is not None
    assert last.id == first
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
