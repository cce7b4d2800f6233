"""Which documents a release would really change through one thing: drafts rendered and held against what is live."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.plans import Plans, changed_groups, reached_groups
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.pages import proofs
from young_fabric.service.planning import plans
from young_fabric.service.planning.naming import renamed_referrers
from young_fabric.service.planning.offering import offered_documents, reoffered
from young_fabric.service.releasing.alone import Alone
from young_fabric.service.releasing.live_documents import live_documents
from young_fabric.service.releasing.release_batches import single_products
from young_fabric.service.writing import writes
from young_fabric.store.repos import products, releases
from young_fabric.store.repos.releases import DocumentKey

BATCH = 50
MOST_SHOWN = 24
MOST_LOOKED_AT = 600


@dataclass(frozen=True)
class DifferingProduct:
    """A product, and the surfaces on which it would look different."""

    id: int
    title: str
    type: str
    surfaces: tuple[str, ...]


@dataclass(frozen=True)
class DifferingProducts:
    """The first products that differ; `whole` when all that the thing may touch were looked at."""

    rows: list[DifferingProduct]
    whole: bool


def differing(work: Work, noun: str, key: str) -> DifferingProducts:
    """Products that differ from what is live, among those that a changed thing may touch. Raises Refusal."""
    work.need(Right.LOOK)
    made = plans.draft_plans(work.session)
    if noun == PRODUCT.code:
        found = products.get(work.session, [int(key)] if key.isascii() and key.isdecimal() and len(key) < 10 else [])
        return DifferingProducts(_held_against_live(work, made, [record.product for record in found.values()]), True)
    writes.noun_of(noun)
    single = single_products([(noun, key)])
    if single:
        found = products.get(work.session, single)
        return DifferingProducts(_held_against_live(work, made, [record.product for record in found.values()]), True)
    alone = _alone(work, made, noun, key)
    if alone is not None:
        return alone
    rows: list[DifferingProduct] = []
    looked_at = 0
    for batch in _candidates(work, made, noun, key):
        if looked_at >= MOST_LOOKED_AT or len(rows) >= MOST_SHOWN:
            return DifferingProducts(rows[:MOST_SHOWN], False)
        looked_at += len(batch)
        rows += _held_against_live(work, made, batch)
    return DifferingProducts(rows[:MOST_SHOWN], len(rows) <= MOST_SHOWN)


def _alone(work: Work, made: Plans, noun: str, key: str) -> DifferingProducts | None:
    """Those that differ by the thing itself, by title; None where they are too many to be looked at one by one."""
    live = plans.live_plans(work.session)
    counts = plans.group_counts(work.session, live.defs, speaking=live.defs.speaking | made.defs.speaking)
    found = Alone(work, live, made, counts, [(noun, key)]).of(noun, key)
    if not found.exact:
        return None
    records = products.get(work.session, list(found.products))
    rows = [
        DifferingProduct(number, record.product.title, record.product.type, found.products[number])
        for number, record in sorted(records.items(), key=lambda pair: (pair[1].product.title.casefold(), pair[0]))
    ]
    return DifferingProducts(rows[:MOST_SHOWN], len(rows) <= MOST_SHOWN)


def _candidates(work: Work, made: Plans, noun: str, key: str) -> Iterator[list[Product]]:
    """Products of the groups that read the thing and render differently, by title; those with a value first."""
    live = plans.live_plans(work.session)
    groups = plans.group_counts(work.session, live.defs, speaking=live.defs.speaking | made.defs.speaking)
    new = {group for group in groups if group.type not in live.defs.types}
    differ = frozenset().union(*changed_groups(live, made, groups).values(), new)
    reached = (reached_groups(made, groups, noun, key) | reached_groups(live, groups, noun, key)) & differ
    reached_by_offer = (noun, key) in offered_documents(work.session, live.defs, made.defs, [(noun, key)])
    renamed = products.any_of_some(
        [
            renamed_referrers(work.session, [(noun, key)], live.defs, made.defs),
            reoffered(live.defs, made.defs) if reached_by_offer else None,
        ]
    )
    if renamed is not None:
        yield from _pages_of(work, made, products.Search(also=renamed))
    if not reached:
        return
    field = NOUNS[noun].bearing.field_of_key(key)
    known = field if field in made.defs.fields else None
    types = tuple(sorted({group.type for group in reached}))
    for having, lacking in ((known, None), (None, known)) if known else ((None, None),):
        yield from _pages_of(work, made, products.Search(types=types, having=having, lacking=lacking))


def _pages_of(work: Work, made: Plans, wanted: products.Search) -> Iterator[list[Product]]:
    after = None
    while page := products.page(work.session, wanted, after, BATCH, collation=made.defs.shop.collation):
        yield [record.product for record in page]
        after = (page[-1].product.title, page[-1].product.id)


def _held_against_live(work: Work, made: Plans, batch: Sequence[Product]) -> list[DifferingProduct]:
    found = surfaces_of(work, made, [product.id for product in batch], batch)
    return [
        DifferingProduct(product.id, product.title, product.type, tuple(found[product.id]))
        for product in batch
        if found[product.id]
    ]


def surfaces_of(work: Work, made: Plans, ids: Sequence[int], batch: Sequence[Product]) -> dict[int, Counter[str]]:
    """Product → how many of its documents would be different, by surface. `batch` are those of the products that there are in the
    draft."""
    own = proofs.own_settings(work, [product.id for product in batch])
    live: dict[int, dict[DocumentKey, str]] = {number: {} for number in ids}
    for key, digest in releases.open_hashes(work.session, PRODUCT.code, ids).items():
        live[int(key[1])][key] = digest
    drafts: dict[int, dict[DocumentKey, str]] = {}
    for product, shown in zip(batch, proofs.showing_of(work, made).of(work.session, batch), strict=True):
        documents = live_documents(made, shown, own.get(str(product.id), ())) if product.offered else {}
        drafts[product.id] = {key: row["hash"] for key, row in documents.items()}
    out = {}
    for number, theirs in live.items():
        mine = drafts.get(number, {})
        out[number] = Counter(key[0] for key in {**mine, **theirs} if mine.get(key) != theirs.get(key))
    return out
