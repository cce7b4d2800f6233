"""Live listings: cards in their places, parts that count them, pages found without counting or skipping."""

from __future__ import annotations

import random
from typing import Any

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from young_fabric.core.subjects.memberships import LAST
from young_fabric.store.repos import listings, releases
from young_fabric.store.repos.listings import MOST_STEPS, PART, CardPlace
from young_fabric.store.tables import ListedCardRow

MUSIC, DRUMS = "collection:music", "product_type:drums"
CARD = "listing_card"
FIRST = 900_000


def row(number: int, title: str, listing: str = MUSIC, rank: int = LAST, amount: str = "0") -> dict[str, Any]:
    place = {"rank": rank, "number": amount, "text": title, "position": 0, "hash": f"{rank}{amount}{title}"}
    return {"listing": listing, "product_id": FIRST + number, "card": "", **place}


def put(session: Session, release: int, *rows: dict[str, Any], gone: tuple[CardPlace, ...] = ()) -> None:
    steps = listings.ListingSteps()
    steps.take(listings.put(session, gone, rows, release))
    listings.settle(session, steps, "de-x-icu")


def documents(session: Session, numbers: range, release: int = 201) -> None:
    head = {"surface": CARD, "card": "", "listed": True, "under": ["x"], "document": {}, "format": 2, "hash": "h"}
    rows = [{**head, "subject_id": str(FIRST + n), "address": f"p-{n}", "title": f"P {n}"} for n in numbers]
    releases.add_documents(session, "product", rows, release)


def page(session: Session, listing: str, offset: int, limit: int) -> list[int]:
    known = listings.parts(session, listing)
    found = listings.cards(session, CARD, listing, known, offset, limit, "de-x-icu")
    return [int(document.subject_id) - FIRST for document in found]


def test_cards_stand_by_rank_number_text_and_id(session: Session) -> None:
    documents(session, range(8))
    titles = ["Zinc", "Ätz", "Apfel", "apfel b", "Apfel"]
    put(
        session,
        201,
        *[row(number, title) for number, title in enumerate(titles)],
        row(5, "picked", rank=0),
        row(6, "cheap", amount="-2.5"),
        row(7, "without", rank=LAST + 1),
    )
    assert page(session, MUSIC, 0, 9) == [5, 6, 2, 4, 3, 1, 0, 7]
    assert page(session, MUSIC, 2, 2) == [2, 4]
    assert page(session, MUSIC, 8, 2) == []
    assert page(session, DRUMS, 0, 2) == []
    assert listings.totals(session)[MUSIC] == 8


@pytest.mark.parametrize("count", [PART - 1, PART, PART + 1, 2 * PART + 1])
def test_parts_are_as_large_as_told(session: Session, count: int) -> None:
    documents(session, range(count))
    put(session, 201, *[row(number, f"T {number:04}") for number in range(count)])
    parts = listings.parts(session, MUSIC)
    assert [part.cards for part in parts] == [PART] * (count // PART) + ([count % PART] if count % PART else [])
    assert page(session, MUSIC, count - 3, 24) == [count - 3, count - 2, count - 1]


def test_counts_of_parts_follow_any_steps(session: Session) -> None:
    """Whatever is put in and taken out, in few steps or many, parts count what is there and pages are in order."""
    chance = random.Random(7)
    there: dict[int, str] = {}
    documents(session, range(1200))
    for release in range(201, 225):
        gone = chance.sample(sorted(there), min(len(there), chance.choice([0, 1, 5, 60])))
        fresh = [n for n in chance.sample(range(1200), chance.choice([1, 3, 40, MOST_STEPS, 300])) if n not in there]
        for number in gone:
            there.pop(number)
        rows = []
        for number in fresh:
            there[number] = f"{chance.choice(['a', 'ä', 'B', 'z'])} {chance.randrange(50)}"
            rows.append(row(number, there[number]))
        put(session, release, *rows, gone=tuple(CardPlace(MUSIC, FIRST + number, "") for number in gone))
        parts = listings.parts(session, MUSIC)
        assert sum(part.cards for part in parts) == len(there) == listings.totals(session).get(MUSIC, 0)
        assert all(part.cards <= 2 * PART for part in parts)
        offset = chance.randrange(len(there) or 1)
        whole = page(session, MUSIC, 0, 1200)
        assert sorted(whole) == sorted(there)
        assert page(session, MUSIC, offset, 24) == whole[offset : offset + 24]


def test_going_back_brings_the_places_back(session: Session) -> None:
    documents(session, range(3))
    put(session, 201, row(0, "a"), row(1, "b"))
    put(session, 202, row(2, "c"), row(0, "z"), gone=(CardPlace(MUSIC, FIRST, ""), CardPlace(MUSIC, FIRST + 1, "")))
    assert page(session, MUSIC, 0, 9) == [2, 0]
    releases.go_back(session, 201, 203)
    listings.part_anew(session, None, "de-x-icu")
    assert page(session, MUSIC, 0, 9) == [0, 1]
    assert listings.open_places(session, [FIRST + 2]) == {}
    assert set(listings.products_in(session, [MUSIC], FIRST, 5)) == {FIRST + 1}
    ended = session.scalars(select(ListedCardRow.product_id).where(ListedCardRow.until == 203)).all()
    assert sorted(ended) == [FIRST, FIRST + 2]
