"""What a release looks at, batch by batch: never more of the catalogue at once than a batch of it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

from sqlalchemy.orm import Session

from young_fabric.core.definitions.groups import Group
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.variants import OFFERED
from young_fabric.service.planning import plans
from young_fabric.service.planning.naming import renamed_referrers
from young_fabric.service.planning.offering import reoffered
from young_fabric.service.releasing import placing
from young_fabric.store.repos import changes, fills, product_groups, products
from young_fabric.store.tables import ReleaseRow

BATCH = 500
RENDERING, PLACING, FREEZING = 6, 2, 1
"""What each takes of one product or thing, against the others."""
ThingKey = tuple[str, str]


@dataclass(frozen=True)
class Looked:
    """What a release looks at: changed definitions, groups that render differently, collections listed otherwise, and which
    products refer to something that is called otherwise (None: none do)."""

    keys: Sequence[ThingKey]
    stored: Sequence[fills.GroupKey]
    collections: Sequence[str]
    referring: Any = None


class Batch(NamedTuple):
    """Products to look at, as a whole or only for where they stand, which of them changed, and changed ones that are gone."""

    products: Sequence[Product]
    whole: bool
    changed: frozenset[int]
    gone: Sequence[int] = ()

    @property
    def work(self) -> int:
        """How much work the batch is, in the measure of RENDERING and the others."""
        each = RENDERING if self.whole else PLACING
        return len(self.products) * each + (len(self.changed) + len(self.gone)) * FREEZING


def look(
    session: Session, draft: plans.Draft, keys: Sequence[ThingKey], last: ReleaseRow | None
) -> tuple[Looked, dict[Group, str]]:
    """What a release made of the draft looks at after the `last` one, of which `keys` are the definitions that changed; and the hash of
    every group."""
    groups = plans.stored_groups(session, draft.defs)
    hashes = {group: draft.plans.group_hash(group) for group in groups}
    old = {(row[0], tuple(row[1])): row[2] for row in last.plan_hashes} if last else {}
    changed = [group for group, digest in hashes.items() if old.get((group.type, group.collections)) != digest]
    stored = [key for group in changed for key in groups[group]]
    if last is None:
        # Nothing stands anywhere, and every group is looked at as a whole.
        return Looked(keys, stored, []), hashes
    live = plans.live_plans(session).defs
    renamed = [renamed_referrers(session, keys, live, draft.defs), reoffered(live, draft.defs)]
    relisted = placing.relisted(live, draft.assessor.memberships)
    return Looked(keys, stored, relisted, products.any_of_some(renamed)), hashes


def single_products(keys: Sequence[ThingKey]) -> list[int]:
    """Of changed things, the products, and those that have changed definitions of their own."""
    found = {int(key) for noun, key in keys if noun in (PRODUCT.code, OFFERED)}
    for noun, key in keys:
        subject = NOUNS[noun].bearing.subject_of_key(key) if noun in NOUNS else None
        if subject is not None and subject[0] == PRODUCT.code:
            found.add(int(subject[1]))
    return sorted(found)


def work_ahead(session: Session, looked: Looked, changed_products: int) -> int:
    """How much there is to do, in the measure of RENDERING and the others."""
    stored, among = set(looked.stored), set(looked.collections)
    own = single_products(looked.keys)
    seen = _changed(session, own)
    counts = fills.counts_by_group(session)
    whole = sum(counts.get(key, 0) for key in stored)
    whole += sum(count for key, count in changes.unreleased_by_group(session).items() if key not in stored)
    whole += sum(
        number not in seen and group not in stored for number, group in products.groups_of(session, own).items()
    )
    whole += products.count_where(session, looked.referring) if looked.referring is not None else 0
    placed = sum(count for key, count in counts.items() if key not in stored and among.intersection(key[1]))
    return whole * RENDERING + placed * PLACING + (len(looked.keys) + changed_products) * FREEZING


def batches(session: Session, looked: Looked) -> Iterator[Batch]:
    """Groups that render differently, then single products, then those that may have moved to or in a collection.

    Changed products that are gone come with the single ones. No product comes as a whole twice.
    """
    stored = set(looked.stored)
    if looked.stored:
        for found in product_groups.stream(session, looked.stored, BATCH):
            yield Batch(found, True, _changed(session, [product.id for product in found]))
    # What was put live in a batch differs no more, so who came is kept by number.
    came: set[int] = set()
    for ids in changes.unreleased_products(session, BATCH):
        came.update(ids)
        yield _single(session, ids, frozenset(ids), stored)
    own = single_products(looked.keys)
    for start in range(0, len(own), BATCH):
        ids = own[start : start + BATCH]
        yield _single(session, [number for number in ids if number not in came], frozenset(), stored)
    came.update(own)
    yield from _referring(session, looked, came, stored)

    def rest(groups: Mapping[int, fills.GroupKey]) -> list[int]:
        return [number for number, group in groups.items() if number not in came and group not in stored]

    for found in placing.stream_relisted(session, looked.collections, BATCH, rest):
        yield Batch(found, False, frozenset())


def _referring(session: Session, looked: Looked, came: set[int], stored: set[fills.GroupKey]) -> Iterator[Batch]:
    """Products that refer to something called otherwise, those seen to left out."""
    after = 0
    while looked.referring is not None:
        ids = products.ids_where(session, looked.referring, after, BATCH)
        if not ids:
            return
        after = ids[-1]
        fresh = [number for number in ids if number not in came]
        came.update(fresh)
        yield _single(session, fresh, frozenset(), stored)


def _changed(session: Session, ids: Sequence[int]) -> frozenset[int]:
    return frozenset(changes.unreleased_among(session, ids))


def _single(session: Session, ids: Sequence[int], changed: frozenset[int], stored: set[fills.GroupKey]) -> Batch:
    groups = products.groups_of(session, ids)
    standing = [number for number in ids if number in groups and groups[number] not in stored]
    found = products.get(session, standing)
    gone = [number for number in ids if number in changed and number not in groups]
    return Batch([found[number].product for number in standing], True, changed.intersection(standing), gone)
