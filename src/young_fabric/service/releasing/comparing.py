"""Two releases held against each other: what each thing said, and which pages were otherwise."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.variants import OFFERED
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.releasing.differing import DifferingProduct, DifferingProducts
from young_fabric.service.releasing.release import need_release
from young_fabric.service.releasing.telling import GROUPS, group_of, read_state, thing_words
from young_fabric.store.repos import labels, past, products

MOST_TOLD = 200
MOST_SHOWN = 24


@dataclass(frozen=True)
class ThingBetween:
    """A thing that was otherwise with one release than with another, in words."""

    group: str
    noun: str
    key: str
    name: str
    lines: list[str]


@dataclass(frozen=True)
class Between:
    """What two releases differ in: how many things, the first of them in words, documents that differ by surface, and the first
    products of these."""

    before: int
    after: int
    count: int
    things: list[ThingBetween]
    surfaces: Mapping[str, int]
    differing: DifferingProducts


def between(work: Work, before: int, after: int) -> Between:
    """What was otherwise with the release `after` than with `before` (0: before the first). Raises Refusal `not_found`, `same`."""
    work.need(Right.LOOK)
    for number in (before, after):
        if number:
            need_release(work, number)
    if before == after:
        raise Refusal("same", "A release does not differ from itself", ("before",), "Choose another to compare with")
    found = past.things_between(work.session, [*NOUNS, PRODUCT.code, OFFERED], before, after, MOST_TOLD)
    was, now = (past.states_at(work.session, found.rows, number) for number in (before, after))
    defs = plans.draft(work.session)
    offered = [int(key) for noun, key in found.rows if noun == OFFERED]
    titles = {number: label.title for number, label in labels.labels(work.session, offered).items()}
    things = []
    for noun, key in found.rows:
        old, new = (read_state(noun, held.get((noun, key))) for held in (was, now))
        name, lines = thing_words(noun, key, old, new, defs, titles)
        things.append(ThingBetween(group_of(noun), noun, key, name, lines))
    things.sort(key=lambda thing: (GROUPS.index(thing.group), thing.name))
    counts = past.documents_between(work.session, before, after)
    return Between(before, after, found.total, things, counts, _products(work, before, after))


def _products(work: Work, before: int, after: int) -> DifferingProducts:
    """Those that differ, the first of them; such as are gone are told by their number."""
    found = past.subjects_between(work.session, PRODUCT.code, before, after, MOST_SHOWN)
    records = products.get(work.session, [int(key) for key, _ in found.rows])
    rows = []
    for key, surfaces in found.rows:
        record = records.get(int(key))
        title = record.product.title if record is not None else f"Product {key}, removed since"
        rows.append(DifferingProduct(int(key), title, record.product.type if record is not None else "", surfaces))
    return DifferingProducts(rows, found.total <= len(rows))
