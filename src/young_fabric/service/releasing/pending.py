"""What a release made now would change, in words and in numbers of documents by surface."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from young_fabric.core.base.wording.counting import counted
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.nouns.content import collections
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.listed import of_collection
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.variants import OFFERED
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.foreseeing.bounds import Bounds, told_apart
from young_fabric.service.foreseeing.counted import MOST_RENDERED, Counted
from young_fabric.service.foreseeing.record_pages import record_pages
from young_fabric.service.planning import plans
from young_fabric.service.planning.naming import count_referring_to_renamed_products, referring_documents
from young_fabric.service.planning.offering import offered_documents
from young_fabric.service.releasing import placing
from young_fabric.service.releasing.alone import Alone
from young_fabric.service.releasing.differing import surfaces_of
from young_fabric.service.releasing.holding import HoldingBack
from young_fabric.service.releasing.release import draft_states
from young_fabric.service.releasing.release_batches import batches, look, single_products
from young_fabric.service.releasing.telling import GROUPS, group_of, read_state, thing_words
from young_fabric.store.repos import changes, labels, listings, products, releases, shop
from young_fabric.store.repos.changes import OF_PRODUCTS
from young_fabric.store.repos.listings import Moves

MOST_LISTED = 200
Touched = Mapping[str, Mapping[Group, int]]
Differing = Mapping[int, Counter[str]]
"""Product → documents of it that differ, by surface."""


@dataclass(frozen=True)
class PendingThing:
    """One thing that differs from what is live, in words, with how many documents it alone makes differ by surface: so many at most
    where not `exact`."""

    group: str
    noun: str
    key: str
    name: str
    lines: list[str]
    surfaces: Mapping[str, int]
    exact: bool
    example: int | None
    held_back: str | None


@dataclass(frozen=True)
class Pending:
    """All that would change: how many things in all, documents by surface (so many at most where not `exact`), and the things listed."""

    count: int
    surfaces: Mapping[str, int]
    exact: bool
    things: list[PendingThing]


def pending_count(work: Work) -> int:
    """How many things differ from what is live."""
    return changes.unreleased_count(work.session)


def pending(work: Work) -> Pending:
    """What a release made now would change."""
    work.need(Right.LOOK)
    keys = changes.unreleased(work.session, limit=MOST_LISTED)
    draft, live = plans.draft_of(work.session), plans.live_plans(work.session)
    speaking = told_apart(live, draft.plans)
    counts = plans.group_counts(work.session, live.defs, speaking=speaking)
    states = draft_states(work, keys)
    moves = _moves(work, live.defs, draft)
    was = releases.open_things(work.session, keys=keys) if keys else {}
    differ = _singles(work, draft.plans, keys)
    alone = Alone(work, live, draft.plans, counts, [thing for thing in keys if not single_products([thing])])
    why_held = _held_back(work, draft, keys)
    things = []
    offered = [int(key) for noun, key in keys if noun == OFFERED]
    titles = {number: label.title for number, label in labels.labels(work.session, offered).items()}
    for noun, key in keys:
        before, after = read_state(noun, was.get((noun, key))), read_state(noun, states.get((noun, key)))
        name, lines = thing_words(noun, key, before, after, draft.defs, titles)
        single = single_products([(noun, key)])
        found = _single(single[0], differ) if single else alone.of(noun, key)
        surfaces = {**found.surfaces, **record_pages(live, draft.plans, [(noun, key)])}
        if noun == collections.NOUN.code and key in moves:
            lines, surfaces = _with_moves(live.defs, key, moves[key], lines, surfaces, alone.bounds)
        example = single[0] if single and not (noun == PRODUCT.code and after is None) else None
        held = why_held.get(int(key)) if noun in OF_PRODUCTS else None
        things.append(PendingThing(group_of(noun), noun, key, name, lines, surfaces, found.exact, example, held))
    things.sort(key=lambda thing: (GROUPS.index(thing.group), -sum(thing.surfaces.values()), thing.name))
    count = changes.unreleased_count(work.session)
    found = _all(work, live, draft, counts, alone, differ, moves, [(thing.noun, thing.key) for thing in things])
    totals = {**found.surfaces, **record_pages(live, draft.plans, keys)}
    return Pending(count, totals, found.exact, things)


def _counted_all(work: Work, draft: plans.Draft, keys: Sequence[tuple[str, str]]) -> Counted | None:
    """What a release would make differ, held against what is live one by one; None where it would look at many products."""
    last = releases.get(work.session, shop.shop_of(work.session)[2])
    if last is None:
        return None
    looked, _ = look(work.session, draft, [key for key in keys if key[0] in NOUNS], last)
    found: list[Product] = []
    gone: list[int] = []
    for batch in batches(work.session, looked):
        found += batch.products
        gone += batch.gone
        if len(found) + len(gone) > MOST_RENDERED:
            return None
    reasons = HoldingBack(work.session, draft.assessor, draft.showing.offers).reasons(
        [product for product in found if product.offered]
    )
    standing = [product for product in found if product.id not in reasons]
    differ = surfaces_of(work, draft.plans, [*(product.id for product in standing), *gone], standing)
    count: Counter[str] = sum(differ.values(), Counter())
    return Counted({code: count[code] for code in product_surfaces()}, True)


def _single(number: int, differ: Differing) -> Counted:
    return Counted({code: differ[number][code] for code in product_surfaces()}, True)


def _all(
    work: Work,
    live: Plans,
    draft: plans.Draft,
    counts: Mapping[Group, int],
    alone: Alone,
    differ: Differing,
    moves: Mapping[str, Moves],
    keys: Sequence[tuple[str, str]],
) -> Counted:
    """What a release would make differ in all, whatever there is of it."""
    exact = _counted_all(work, draft, changes.unreleased(work.session, list(NOUNS)))
    if exact is not None:
        return exact
    bounds = alone.bounds
    totals = _totals(alone.touched, bounds, _single_counts(work, differ, live.defs, told_apart(live, draft.plans)))
    moved = sum(sum(found) for key, found in moves.items() if key in live.defs.speaking)
    called = _called(work, live, draft.plans, keys)
    renamed = count_referring_to_renamed_products(work.session, draft.defs)
    names = {
        code: renamed + sum(by_surface.get(code, 0) for by_surface in called.values()) for code in product_surfaces()
    }

    def most(code: str, count: int) -> int:
        every = sum(bounds.of_group(code, group) for group in counts)
        return min(count + bounds.of_products(code, moved + names[code]), max(every, count))

    return Counted({code: most(code, count) for code, count in totals.items()}, False)


def _held_back(work: Work, draft: plans.Draft, keys: Sequence[tuple[str, str]]) -> dict[int, str]:
    """Product → why a release would hold it back, of those that changed themselves."""
    ids = sorted({int(key) for noun, key in keys if noun in OF_PRODUCTS})
    found = [record.product for record in products.get(work.session, ids).values() if record.product.offered]
    return HoldingBack(work.session, draft.assessor, draft.showing.offers).reasons(found)


def _called(
    work: Work, live: Plans, draft: Plans, keys: Sequence[tuple[str, str]]
) -> dict[tuple[str, str], Mapping[str, int]]:
    """Changed definition → surface → documents that differ because they show its name, or because they offer otherwise."""
    found: dict[tuple[str, str], Mapping[str, int]] = dict(referring_documents(work.session, live.defs, draft, keys))
    for thing, counts in offered_documents(work.session, live.defs, draft.defs, keys).items():
        old = found.get(thing, {})
        found[thing] = {code: old.get(code, 0) + counts.get(code, 0) for code in {*old, *counts}}
    return found


def _moves(work: Work, live: Definitions, draft: plans.Draft) -> dict[str, Moves]:
    """Collection → products that come in and go out, of those listed otherwise than is live."""
    keys = placing.relisted(live, draft.assessor.memberships)
    return {key: listings.moves(work.session, key, str(of_collection(key))) for key in keys}


def _with_moves(
    defs: Definitions, key: str, found: Moves, lines: list[str], surfaces: Mapping[str, int], bounds: Bounds
) -> tuple[list[str], dict[str, int]]:
    """A collection's change with the products it moves, whose pages differ when it says something that is live.

    What it says only now makes groups that differ from what is live, and is counted with them.
    """
    moves = (
        [f"{counted(found.come, 'product comes', 'products come')} in, {counted(found.go, 'goes', 'go')} out"]
        if any(found)
        else []
    )
    more = sum(found) if key in defs.speaking else 0
    return [*lines, *moves], {code: count + bounds.of_products(code, more) for code, count in surfaces.items()}


class Singles(NamedTuple):
    """Products that changed themselves, at most: those there are by surface and group, those removed by surface."""

    there: Mapping[str, Counter[Group]]
    gone: Mapping[str, int]


def _totals(touched: Touched, bounds: Bounds, single: Singles) -> dict[str, int]:
    """Documents at most by surface: what definitions touch of each group, and single products."""
    return {
        code: bounds.of_products(code, single.gone[code])
        + sum(
            min(
                touched.get(code, {}).get(group, 0) + bounds.of_products(code, max(single.there[code][group], 0)),
                bounds.of_group(code, group),
            )
            for group in bounds.counts
        )
        for code in product_surfaces()
    }


def _single_counts(work: Work, differ: Differing, defs: Definitions, speaking: frozenset[str]) -> Singles:
    """Products that changed themselves, without those that are known not to differ on a surface."""
    single: Counter[Group] = Counter()
    by_group = changes.unreleased_by_group(work.session)
    for (type_key, within), count in by_group.items():
        single[defs.group_of(type_key, within, speaking)] += count
    own = [key for key in changes.unreleased(work.session, list(NOUNS)) if NOUNS[key[0]].bearing.subject_of_key(key[1])]
    for stored in products.groups_of(work.session, single_products(own)).values():
        single[defs.group_of(*stored, speaking)] += 1
    known = products.groups_of(work.session, list(differ))
    there = {code: Counter(single) for code in product_surfaces()}
    for number, stored in known.items():
        for code in there.keys() - set(differ[number]):
            there[code][defs.group_of(*stored, speaking)] -= 1
    removed = max(changes.changed_products(work.session) - sum(by_group.values()), 0)
    same = Counter(code for number in differ.keys() - known for code in there.keys() - set(differ[number]))
    return Singles(there, {code: max(removed - same[code], 0) for code in there})


def _singles(work: Work, made: Plans, keys: Sequence[tuple[str, str]]) -> Differing:
    """What differs of those that changed themselves: each is rendered and held against what is live."""
    ids = single_products(keys)
    found = products.get(work.session, ids)
    return surfaces_of(work, made, ids, [record.product for record in found.values()])
