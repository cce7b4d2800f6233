"""What a change of definitions means for the values products hold: which would be wrong, and marking them.

Up to 2,000 products are marked in the same transaction; more are left to the `judge` job, and counts say so until then.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

from sqlalchemy.orm import Session

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.nouns.definitions import Definitions
from young_fabric.core.nouns.fields import Field
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.core.subjects.values import FieldRules
from young_fabric.service import plans
from young_fabric.service.actors import Work
from young_fabric.store.repos import fills, jobs, products, shop

EXAMPLES = 5
MOST_AT_ONCE = 2_000
BATCH = 1_000
JUDGE = "judge"


@dataclass
class LimitBreaches:
    """How many stored values a definition makes wrong, out of how many, with some of the products (id, title)."""

    values: int = 0
    wrong: int = 0
    examples: list[tuple[int, str]] = field(default_factory=list)


def breaches(work: Work, definition: Field, defs: Definitions) -> LimitBreaches:
    """Which stored values would break the limits of a definition."""
    found = LimitBreaches()
    judge = FieldRules(definition, defs.spec(definition)).judge
    for batch in products.stream_values(work.session, definition.key):
        for product_id, title, value in batch:
            found.values += 1
            if judge(value):
                found.wrong += 1
                if len(found.examples) < EXAMPLES:
                    found.examples.append((product_id, title))
    return found


@dataclass(frozen=True)
class Touched:
    """What a change bears on: fields to judge anew, each on products of some types, and types whose needs differ."""

    fields: Mapping[str, frozenset[str]]
    types: frozenset[str]

    def __bool__(self) -> bool:
        return bool(self.fields or self.types)


def touched_by(before: Definitions, after: Definitions) -> Touched:
    """What of the marks beside products a change of definitions bears on."""
    had, have = _types_by_field(before), _types_by_field(after)
    fields: dict[str, frozenset[str]] = {}
    for key, definition in after.fields.items():
        types = had.get(key, frozenset()) ^ have.get(key, frozenset())
        old = before.fields.get(key)
        if old is not None and _judged_by(old, before) != _judged_by(definition, after):
            types = have.get(key, frozenset()) | had.get(key, frozenset())
        if types:
            fields[key] = types
    assessed = Assessor(before), Assessor(after)
    needs = {
        key for key in after.types if key not in before.types or assessed[0].required(key) != assessed[1].required(key)
    }
    return Touched(fields, frozenset(needs))


def _judged_by(definition: Field, defs: Definitions) -> str:
    """A hash of what decides which values of a field are right."""
    choices = defs.spec(definition).choices
    codes = list(choices.by_code) if choices is not None else None
    parts = (definition.kind, definition.many, definition.options, definition.limits)
    return content_hash([*parts, codes])


def _types_by_field(defs: Definitions) -> dict[str, frozenset[str]]:
    """Own field → the types that have it."""
    found: dict[str, set[str]] = {}
    for type_key in defs.types:
        for effective in defs.effective(type_key):
            if effective.field.own:
                found.setdefault(effective.field.key, set()).add(type_key)
    return {key: frozenset(types) for key, types in found.items()}


def rejudge(work: Work, before: Definitions, after: Definitions) -> None:
    """Keep marks, counts and gaps in step with a change of definitions, at once or by a job."""
    touched = touched_by(before, after)
    if not touched:
        return
    counts = fills.counts_by_type(work.session)
    wide = frozenset(key for key in touched.types if counts.get(key))
    reach = sum(counts.get(key, 0) for key in wide)
    for key, types in touched.fields.items():
        reach += products.count_holding(work.session, key, sorted(types))
    if reach > MOST_AT_ONCE:
        args = {"fields": sorted(touched.fields), "types": sorted(wide.union(*touched.fields.values()))}
        job = jobs.add(work.session, JUDGE, work.actor.id, None, args, work.now)
        work.asked.append(job)
        return
    ids: set[int] = set()
    for key, types in touched.fields.items():
        ids.update(products.ids_holding(work.session, key, sorted(types), 0, MOST_AT_ONCE))
    ids.update(products.ids_of_types(work.session, sorted(wide), 0, MOST_AT_ONCE))
    reassess(work.session, Assessor(after), sorted(ids), touched.fields)


def reassess(session: Session, assessor: Assessor, ids: Sequence[int], keys: Iterable[str] | None) -> int:
    """Judge some fields (all: None) of products anew, and put marks, gaps and fills right; gives how many differed."""
    wanted = None if keys is None else frozenset(keys)
    steps = fills.Steps()
    differed = 0
    for start in range(0, len(ids), BATCH):
        rows = []
        for product_id, record in products.lock(session, ids[start : start + BATCH]).items():
            product = record.product
            wrong = assessor.wrong(product, record.wrong, wanted)
            gaps = assessor.has_gaps(product, wrong)
            if wrong == frozenset(record.wrong) and gaps == record.gaps:
                continue
            rows.append((product_id, sorted(wrong), gaps))
            steps.count(product, record.wrong, record.gaps, -1)
            steps.count(product, wrong, gaps, 1)
        products.mark_many(session, rows)
        differed += len(rows)
    fills.add(session, steps)
    return differed


def being_judged(work: Work) -> bool:
    """Whether marks are still being put right after a change of definitions."""
    return bool(jobs.open_of(work.session, JUDGE))


def judge_batch(work: Work, types: Sequence[str], keys: Sequence[str] | None, after: int) -> tuple[int, int]:
    """Put the next products of some types right, by the definitions as they are now; gives (last id, how many)."""
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    ids = products.ids_of_types(work.session, types, after, BATCH)
    if ids:
        reassess(work.session, plans.draft_of(work.session).assessor, ids, keys)
    return (ids[-1] if ids else after), len(ids)
