"""Live listings: where cards stand, kept in parts that know how many they hold, so that no page counts or skips a listing."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, NamedTuple

from sqlalchemy import Text, bindparam, cast, func, select, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from young_fabric.store.copying import copy_rows
from young_fabric.store.tables import ListedCardRow, ListingPartRow, LiveDocumentRow

C = ListedCardRow
P = ListingPartRow
D = LiveDocumentRow
PART = 96
"""How many cards a part holds when it is made; one that holds twice as many is made anew."""
MOST_STEPS = 200
"""More changes to a listing than these, and its parts are made anew."""
_PLACE = {
    "listing": "text",
    "product_id": "int4",
    "card": "text",
    "rank": "int4",
    "number": "text",
    "text": "text",
    "position": "int4",
    "hash": "text",
    "since": "int4",
}
_END = text(
    "UPDATE listed_card AS c SET until = :until FROM jsonb_to_recordset(:rows) AS r(listing text, product_id int, card text) "
    "WHERE c.until IS NULL AND c.product_id = r.product_id AND c.listing = r.listing AND c.card = r.card "
    "RETURNING c.listing, c.product_id, c.card, c.rank, c.number::text, c.text, c.position"
).bindparams(bindparam("rows", type_=JSONB()))


class CardPlace(NamedTuple):
    """What tells one card in one listing."""

    listing: str
    product_id: int
    card: str


class ListingStep(NamedTuple):
    """A card put into a listing (1) or taken out of it (-1), and where."""

    listing: str
    rank: int
    number: str
    text: str
    product_id: int
    position: int
    card: str
    by: int


class ListingSteps:
    """What was put into listings and taken out: steps of listings with few, and which have too many to keep."""

    def __init__(self) -> None:
        self.few: dict[str, list[ListingStep]] = {}
        self.wide: set[str] = set()

    def take(self, steps: Iterable[ListingStep]) -> None:
        """Add steps; of a listing with more than MOST_STEPS only its name is kept."""
        for step in steps:
            if step.listing in self.wide:
                continue
            kept = self.few.setdefault(step.listing, [])
            kept.append(step)
            if len(kept) > MOST_STEPS:
                self.wide.add(step.listing)
                del self.few[step.listing]


@dataclass(frozen=True)
class ListingPart:
    """Where a part of a listing begins, and how many cards stand before it and in it."""

    start: tuple[int, Decimal, str, int, int, str]
    before: int
    cards: int


def open_places(session: Session, ids: Sequence[int]) -> dict[CardPlace, str]:
    """The hash of each place where cards of some products stand."""
    query = select(C.listing, C.product_id, C.card, C.hash).where(
        C.until.is_(None), C.product_id == func.any(list(ids))
    )
    return {CardPlace(row[0], row[1], row[2]): row[3] for row in session.execute(query)}


def products_in(session: Session, listings: Sequence[str], after: int, limit: int) -> list[int]:
    """The next products with cards in any of some listings."""
    query = select(C.product_id).where(C.until.is_(None), C.listing == func.any(list(listings)), C.product_id > after)
    return list(session.scalars(query.distinct().order_by(C.product_id).limit(limit)))


def put(
    session: Session, gone: Sequence[CardPlace], rows: Sequence[Mapping[str, Any]], release: int
) -> list[ListingStep]:
    """End places and add others from a release on; gives the steps the parts are to be counted by."""
    steps: list[ListingStep] = []
    if gone:
        ended = session.execute(_END, {"rows": [place._asdict() for place in gone], "until": release})
        steps += [ListingStep(row[0], row[3], row[4], row[5], row[1], row[6], row[2], -1) for row in ended]
    if rows:
        copy_rows(session, C.__tablename__, _PLACE, [{**row, "since": release} for row in rows])
        members = ("listing", "rank", "number", "text", "product_id", "position", "card")
        steps += [ListingStep(**{member: row[member] for member in members}, by=1) for row in rows]
    return steps


def settle(session: Session, steps: ListingSteps, collation: str) -> None:
    """Count the parts of listings anew by what was put in and taken out; listings with many steps are parted anew."""
    wide = list(steps.wide)
    few = [step._asdict() for rows in steps.few.values() for step in rows]
    if few:
        session.execute(_count_steps(collation), {"rows": few})
        wide += session.scalars(
            select(P.listing).where(P.listing == func.any([*steps.few]), P.cards > 2 * PART).distinct()
        )
        parted = set(session.scalars(select(P.listing).where(P.listing == func.any([*steps.few])).distinct()))
        wide += [listing for listing in steps.few if listing not in parted]
    part_anew(session, sorted(set(wide)), collation)


def _key(prefix: str, collation: str) -> str:
    quoted = '"' + collation.replace('"', "") + '"'
    return f"{prefix}.rank, {prefix}.number, {prefix}.text COLLATE {quoted}, {prefix}.product_id, {prefix}.position, {prefix}.card"


def _count_steps(collation: str) -> Any:
    last = _key("p", collation).replace(", p.", " DESC, p.") + " DESC"
    return text(
        "UPDATE listing_part AS part SET cards = part.cards + found.by FROM ("  # noqa: S608
        "SELECT at.listing, at.number_in_listing, sum(r.by)::int AS by "
        "FROM jsonb_to_recordset(:rows) AS r(listing text, rank int, number numeric, text text, product_id int, "
        "position int, card text, by int), LATERAL (SELECT p.listing, p.number_in_listing FROM listing_part AS p WHERE p.listing = r.listing "
        f"AND ({_key('p', collation)}) <= ({_key('r', collation)}) ORDER BY {last} LIMIT 1) AS at "
        "GROUP BY at.listing, at.number_in_listing) AS found "
        "WHERE part.listing = found.listing AND part.number_in_listing = found.number_in_listing"
    ).bindparams(bindparam("rows", type_=JSONB()))


def part_anew(session: Session, listings: Sequence[str] | None, collation: str) -> None:
    """Make the parts of listings (all: None) anew from the cards that stand in them."""
    if listings is not None and not listings:
        return
    only = "" if listings is None else "AND listing = ANY(:listings)"
    values = {} if listings is None else {"listings": list(listings)}
    gone = "DELETE FROM listing_part" + ("" if listings is None else " WHERE listing = ANY(:listings)")  # noqa: S608
    session.execute(text(gone), values)
    order = _key("c", collation)
    session.execute(
        text(
            "INSERT INTO listing_part (listing, number_in_listing, rank, number, text, product_id, position, card, cards) "  # noqa: S608
            "SELECT listing, n / :part, CASE n WHEN 0 THEN -1 ELSE rank END, CASE n WHEN 0 THEN 0 ELSE number END, "
            "CASE n WHEN 0 THEN '' ELSE text END, CASE n WHEN 0 THEN 0 ELSE product_id END, "
            "CASE n WHEN 0 THEN 0 ELSE position END, CASE n WHEN 0 THEN '' ELSE card END, "
            "least(:part, total - n) FROM (SELECT c.*, row_number() OVER (PARTITION BY c.listing ORDER BY "
            f"{order}) - 1 AS n, count(*) OVER (PARTITION BY c.listing) AS total FROM listed_card AS c "
            f"WHERE c.until IS NULL {only}) AS placed WHERE n % :part = 0"
        ),
        {**values, "part": PART},
    )


def totals(session: Session) -> dict[str, int]:
    """Listing → live cards in it."""
    return {row[0]: int(row[1]) for row in session.execute(select(P.listing, func.sum(P.cards)).group_by(P.listing))}


class Moves(NamedTuple):
    """How many products come into a listing, and go out of it, with the next release."""

    come: int = 0
    go: int = 0


def beside(
    session: Session, surface: str, wanted: Sequence[Sequence[str]], without: Sequence[int], limit: int, collation: str
) -> list[LiveDocumentRow]:
    """The first live card of each of some products, in order of title: of those that stand in any listing of each of some groups of
    listings."""
    order = _key("c", collation)
    first, *others = wanted
    asked = {f"in_{number}": list(found) for number, found in enumerate(others)}
    also = "".join(
        " AND EXISTS (SELECT FROM listed_card AS o WHERE o.until IS NULL AND o.product_id = c.product_id "
        f"AND o.listing = ANY(:{name}))"
        for name in asked
    )
    query = text(
        f"SELECT d.id FROM (SELECT DISTINCT ON ({order}) c.* FROM listed_card AS c WHERE c.until IS NULL "  # noqa: S608
        f"AND c.listing = {'ANY(:first)' if len(first) > 1 else ':first'} AND c.position = 0 AND c.product_id <> ALL(:without){also} "
        f"ORDER BY {order} LIMIT :limit) AS c JOIN live_document AS d ON d.until IS NULL AND d.subject = 'product' "
        f"AND d.subject_id = c.product_id::text AND d.surface = :surface AND d.card = c.card ORDER BY {order}"
    )
    values = {"first": list(first) if len(first) > 1 else first[0], "without": list(without), "limit": limit, **asked}
    ids = list(session.scalars(query, {**values, "surface": surface}))
    rows = {row.id: row for row in session.scalars(select(D).where(D.id == func.any(ids)))}
    return [rows[number] for number in ids]


def moves(session: Session, collection: str, listing: str) -> Moves:
    """Offered products of a collection of the draft held against the cards live in its listing."""
    row = session.execute(
        text(
            "SELECT count(*) FILTER (WHERE l.product_id IS NULL), count(*) FILTER (WHERE d.id IS NULL) "
            "FROM (SELECT id FROM product WHERE collections @> ARRAY[:collection] AND offered) AS d FULL OUTER JOIN "
            "(SELECT DISTINCT product_id FROM listed_card WHERE listing = :listing AND until IS NULL) AS l ON l.product_id = d.id"
        ),
        {"collection": collection, "listing": listing},
    ).one()
    return Moves(row[0], row[1])


def parts(session: Session, listing: str) -> list[ListingPart]:
    """The parts of a listing, in order."""
    query = select(P.rank, P.number, P.text, P.product_id, P.position, P.card, P.cards).where(P.listing == listing)
    out: list[ListingPart] = []
    before = 0
    for row in session.execute(query.order_by(P.number_in_listing)):
        out.append(ListingPart((row[0], row[1], row[2], row[3], row[4], row[5]), before, row[6]))
        before += row[6]
    return out


def cards(
    session: Session, surface: str, listing: str, known: Sequence[ListingPart], offset: int, limit: int, collation: str
) -> list[LiveDocumentRow]:
    """The live cards of a listing from a position on, found from the part they stand in."""
    part = next((part for part in reversed(known) if part.before <= offset), None)
    if part is None:
        return []
    order = _key("c", collation)
    found = text(
        "SELECT d.id FROM (SELECT c.* FROM listed_card AS c WHERE c.until IS NULL "  # noqa: S608
        f"AND c.listing = :listing AND ({order}) >= (:rank, :number, :text, :product_id, :position, :card) "
        f"ORDER BY c.listing, {order} LIMIT :limit OFFSET :skip) AS s JOIN live_document AS d ON d.until IS NULL "
        "AND d.subject = 'product' AND d.subject_id = s.product_id::text AND d.surface = :surface AND d.card = s.card "
        f"ORDER BY {_key('s', collation)}"
    )
    start = dict(zip(("rank", "number", "text", "product_id", "position", "card"), part.start, strict=True))
    values = {**start, "listing": listing, "limit": limit, "skip": offset - part.before, "surface": surface}
    ids = list(session.scalars(found, values))
    rows = {row.id: row for row in session.scalars(select(D).where(D.id == func.any(ids)))}
    return [rows[number] for number in ids]


def first_products(session: Session, listing: str, limit: int, collation: str) -> list[int]:
    """The first products with live cards in a listing, in order, each once: one look at the index for each."""
    order = _key("c", collation)
    head = "c.rank, c.number, c.text, c.product_id"
    after = order.removesuffix(", c.position, c.card")
    last = after.replace("c.", "l.")
    there = "FROM listed_card AS c WHERE c.until IS NULL AND c.listing = :listing"
    query = text(
        f"WITH RECURSIVE found AS ((SELECT {head}, 1 AS nth {there} ORDER BY c.listing, {order} LIMIT 1) "  # noqa: S608
        f"UNION ALL (SELECT n.*, l.nth + 1 FROM found AS l, LATERAL (SELECT {head} {there} AND ({after}) > ({last}) "
        f"ORDER BY c.listing, {order} LIMIT 1) AS n WHERE l.nth < :limit)) SELECT product_id FROM found ORDER BY nth"
    )
    return list(session.scalars(query, {"listing": listing, "limit": limit}))


def without_documents(session: Session, surface: str, limit: int = 20) -> list[tuple[str, int, str]]:
    """The first places where a card stands that there is not: (listing, product, card). There should be none."""
    there = select(D.id).where(
        D.until.is_(None), D.surface == surface, D.subject_id == cast(C.product_id, Text), D.card == C.card
    )
    found = select(C.listing, C.product_id, C.card).where(C.until.is_(None), ~there.exists())
    return [(row[0], row[1], row[2]) for row in session.execute(found.limit(limit))]
