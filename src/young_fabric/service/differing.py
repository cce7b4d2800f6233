"""Which pages and cards a release would really change through one thing: drafts rendered and held against what is live."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from young_fabric.core.definitions import Product
from young_fabric.core.plans import Plans, changed_types, reached_types
from young_fabric.service import plans
from young_fabric.service.actors import Right, Work
from young_fabric.service.release import live_rows, single_products
from young_fabric.store.repos import products, releases
from young_fabric.store.repos.things import settings_of_products
from young_fabric.store.tables import LiveCardRow, LiveDocRow

BATCH = 50
MOST_SHOWN = 24
MOST_LOOKED_AT = 600


@dataclass(frozen=True)
class Differing:
    """A product, and whether its page or its card would look different."""

    id: int
    title: str
    type: str
    page: bool
    card: bool


@dataclass(frozen=True)
class Found:
    """The first products that differ; `whole` when all that the thing may touch were looked at."""

    rows: list[Differing]
    whole: bool


def differing(work: Work, noun: str, key: str) -> Found:
    """Products whose page or card differs from what is live, among those that a changed thing may touch."""
    work.need(Right.LOOK)
    all_plans = plans.draft_plans(work.session)
    single = single_products([(noun, key)])
    if single:
        found = products.get(work.session, single)
        return Found(_held_against_live(work, all_plans, [one.product for one in found.values()]), True)
    rows: list[Differing] = []
    looked_at = 0
    for batch in _candidates(work, all_plans, noun, key):
        if looked_at >= MOST_LOOKED_AT or len(rows) >= MOST_SHOWN:
            return Found(rows[:MOST_SHOWN], False)
        looked_at += len(batch)
        rows += _held_against_live(work, all_plans, batch)
    return Found(rows[:MOST_SHOWN], len(rows) <= MOST_SHOWN)


def _candidates(work: Work, all_plans: Plans, noun: str, key: str) -> Iterator[list[Product]]:
    """Products of the types that read the thing and render differently, by title; those with a value first."""
    live = plans.live_plans(work.session)
    differ = frozenset().union(*changed_types(live, all_plans).values(), all_plans.defs.types.keys() - live.defs.types)
    reached = (reached_types(all_plans, noun, key) | reached_types(live, noun, key)) & differ
    if not reached:
        return
    field = key if noun == "field" else key.split("/")[1] if noun == "setting" else None
    named = field if field in all_plans.defs.fields else None
    for having, lacking in ((named, None), (None, named)) if named else ((None, None),):
        wanted = products.Search(types=tuple(sorted(reached)), having=having, lacking=lacking)
        after = None
        while page := products.page(work.session, wanted, after, BATCH):
            yield [one.product for one in page]
            after = (page[-1].product.title, page[-1].product.id)


def _held_against_live(work: Work, all_plans: Plans, batch: Sequence[Product]) -> list[Differing]:
    ids = [one.id for one in batch]
    own = settings_of_products(work.session, ids)
    live = [releases.open_hashes(work.session, table, ids) for table in (LiveDocRow, LiveCardRow)]
    out = []
    for one in batch:
        drafts = live_rows(all_plans, one, own.get(one.id, ())) if one.offered else ({}, {})
        page, card = (draft.get("hash") != rows.get(one.id) for draft, rows in zip(drafts, live, strict=True))
        if page or card:
            out.append(Differing(one.id, one.title, one.type, page, card))
    return out
