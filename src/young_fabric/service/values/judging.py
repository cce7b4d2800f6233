"""What a change of definitions means for the values products hold: which would be wrong, and marking them.

Up to 2,000 products are marked in the same transaction; more are left to the `judge` job, and counts say so until then.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.definitions.reach import Reach
from young_fabric.core.kinds import Spec
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.core.subjects.gatherers import gathered_otherwise
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.asking import hand_in
from young_fabric.service.planning import plans
from young_fabric.store.repos import fills, jobs, products, shop

MOST_AT_ONCE = 2_000
BATCH = 1_000
JUDGE, CONVERT = "judge", "convert"
MARKING = (JUDGE, CONVERT)
"""The kinds of job that put marks right."""


@dataclass(frozen=True)
class Touched:
    """What a change bears on: fields to judge anew, each on products of its reach, and products whose needs differ."""

    fields: Mapping[str, Reach]
    needs: Reach

    def __bool__(self) -> bool:
        return bool(self.fields or self.needs)

    @property
    def all(self) -> Reach:
        """All it bears on."""
        found = self.needs
        for reach in self.fields.values():
            found = found | reach
        return found


def touched_by(before: Definitions, after: Definitions) -> Touched:
    """What of the marks beside products a change of definitions bears on."""
    nothing = Reach()
    fields: dict[str, Reach] = {}
    for key, definition in after.product_fields.items():
        had, have = before.holders.get(key, nothing), after.holders.get(key, nothing)
        reach = Reach(had.types ^ have.types, had.collections ^ have.collections)
        old = before.fields.get(key)
        if old is not None and _judged_by(old, before) != _judged_by(definition, after):
            reach = had | have
        reach = reach | Reach(tightened_otherwise(before, after, key) & have.types)
        if reach:
            fields[key] = reach
    assessed = Assessor(before), Assessor(after)
    types = {
        key
        for key in after.types
        if key not in before.types or assessed[0].required(Group(key)) != assessed[1].required(Group(key))
    }
    limiting = {*before.limited_sets, *after.limited_sets}
    collections = {key for key in limiting if _brought(before, key) != _brought(after, key)}
    return Touched(fields, Reach(frozenset(types), frozenset(collections)))


def tightened_otherwise(before: Definitions, after: Definitions, key: str) -> frozenset[str]:
    """The types that have other limits for a field than before, by what they or those above say of it."""
    if not any(key in thing.own for defs in (before, after) for thing in defs.types.values()):
        return frozenset()
    both = before.types.keys() & after.types.keys()
    return frozenset(of for of in both if _limits(before, of, key) != _limits(after, of, key))


def _limits(defs: Definitions, of: str, key: str) -> Any:
    found = (effective.field for effective in defs.effective(of) if effective.field.key == key)
    own, tight = defs.fields.get(key), next(found, None)
    return None if own is None or tight is None or tight.limits == own.limits else dict(tight.limits)


def _brought(defs: Definitions, collection: str) -> list[Any]:
    """What decides which fields a collection brings that are required."""
    keys = [name for key in defs.limited_sets.get(collection, ()) for name in defs.sets[key].fields]
    found = [(key, defs.fields[key].need, defs.fields[key].default is None) for key in keys]
    stricter = [
        (key, name, other.needs[name]) for key, other in defs.types.items() for name in keys if name in other.needs
    ]
    return [*found, *stricter]


def _judged_by(definition: Field, defs: Definitions) -> str:
    """A hash of what decides which values of a field are right."""
    parts = (definition.kind, definition.many, definition.options, definition.limits)
    return content_hash([*parts, _codes(defs.spec(definition))])


def _codes(spec: Spec) -> list[Any]:
    """The codes that values, and cells of columns, are chosen of."""
    return [
        list(spec.choices.by_code) if spec.choices is not None and spec.choices.looks is not None else None,
        *[_codes(part.spec) for part in spec.parts],
    ]


def judged_otherwise(before: Definitions, after: Definitions) -> list[str]:
    """The shop's own fields, there before and after, of which other values are right, or which read them otherwise."""
    return [
        key
        for key, definition in after.fields.items()
        if key in before.fields and _judged_by(before.fields[key], before) != _judged_by(definition, after)
    ]


def rejudge(work: Work, before: Definitions, after: Definitions) -> None:
    """Keep marks, counts and gaps in step with a change of definitions, at once or by a job. Called under `shop.lock_definitions`."""
    touched = touched_by(before, after)
    if not touched:
        return
    wanted = products.touched(touched.needs, touched.fields)
    if products.count_where(work.session, wanted, MOST_AT_ONCE + 1) > MOST_AT_ONCE:
        reach = touched.all
        within = {"types": sorted(reach.types), "collections": sorted(reach.collections)}
        args = {"fields": sorted(touched.fields), **within}
        hand_in(work, JUDGE, args)
        return
    ids = products.ids_where(work.session, wanted, 0, MOST_AT_ONCE)
    reassess(work.session, Assessor(after), ids, touched.fields)


@dataclass(frozen=True)
class Reassessed:
    """How many products differed from what was kept of them, and which are offered other option sets now."""

    count: int
    offered: tuple[int, ...] = ()


def reassess(session: Session, assessor: Assessor, ids: Sequence[int], keys: Iterable[str] | None) -> Reassessed:
    """Put products into what gathers them, and judge some fields (all: None) anew; gives what differed.

    Marks, gaps, what they are in and counts are put right. Of a product that moves, every field is judged.
    """
    wanted = None if keys is None else frozenset(keys)
    steps = fills.FillSteps()
    differed = 0
    offered: list[int] = []
    for start in range(0, len(ids), BATCH):
        marked, placed = [], []
        for product_id, record in products.lock(session, ids[start : start + BATCH]).items():
            product = assessor.placed(record.product)
            otherwise = gathered_otherwise(record.product, product)
            moved = any(gatherer.groups for gatherer in otherwise)
            wrong = assessor.wrong(product, record.wrong, None if moved else wanted)
            gaps = assessor.has_gaps(product, wrong)
            if wrong == frozenset(record.wrong) and gaps == record.gaps and not otherwise:
                continue
            marked.append((product_id, sorted(wrong), gaps))
            if any(gatherer.offers for gatherer in otherwise):
                offered.append(product_id)
            if otherwise:
                placed.append(product)
            steps.count(record.product, record.wrong, record.gaps, -1)
            steps.count(product, wrong, gaps, 1)
        products.mark_many(session, marked)
        products.place_many(session, placed)
        differed += len(marked)
    fills.add(session, steps)
    return Reassessed(differed, tuple(offered))


def being_judged(work: Work) -> bool:
    """Whether marks are still being put right after a change of definitions."""
    return any(jobs.open_of(work.session, kind) for kind in MARKING)


def judge_batch(work: Work, reach: Reach, keys: Sequence[str] | None, after: int) -> tuple[int, int]:
    """Put the next products of a reach right, by the definitions as they are now; gives (last id, how many)."""
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    ids = products.ids_where(work.session, products.within(reach), after, BATCH)
    if ids:
        reassess(work.session, plans.draft_of(work.session).assessor, ids, keys)
    return (ids[-1] if ids else after), len(ids)
