"""What a release made now would change, in words and in numbers of pages and cards."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from young_fabric.core.changes import describe
from young_fabric.core.plans import Plans, changed_types, reached_types
from young_fabric.service import plans
from young_fabric.service.actors import Right, Work
from young_fabric.service.release import draft_states, single_products
from young_fabric.service.writes import name_of
from young_fabric.store.repos import changes, products, releases
from young_fabric.store.states import thing_of

MOST_LISTED = 200
GROUPS = {
    "setting": "How it shows",
    "field": "What it is",
    "list": "What it is",
    "set": "What it is",
    "type": "What it is",
    "product": "Products",
}


@dataclass(frozen=True)
class PendingThing:
    """One thing that differs from what is live, in words, with how many pages and cards it touches."""

    group: str
    noun: str
    key: str
    name: str
    lines: list[str]
    pages: int
    cards: int
    example: int | None


@dataclass(frozen=True)
class Pending:
    """All that would change: how many things in all, pages and cards at most, and the things listed."""

    count: int
    pages: int
    cards: int
    things: list[PendingThing]


def pending_count(work: Work) -> int:
    """How many things differ from what is live."""
    return changes.unreleased_count(work.session)


def pending(work: Work) -> Pending:
    """What a release made now would change."""
    work.need(Right.LOOK)
    keys = changes.unreleased(work.session, limit=MOST_LISTED)
    draft, live = plans.draft_plans(work.session), plans.live_plans(work.session)
    differ = _differing(draft, live)
    counts = products.counts_by_type(work.session)
    states = draft_states(work, keys)
    was = releases.open_things(work.session, keys=keys) if keys else {}
    things = []
    for noun, key in keys:
        before = was[noun, key][1] if (noun, key) in was else None
        after = states.get((noun, key))
        old_or_new = thing_of(noun, key, after or before or {})
        name = old_or_new.title if noun == "product" else name_of(key, old_or_new, draft.defs)
        pages, cards, example = _touched(noun, key, draft, live, differ, counts, after)
        things.append(
            PendingThing(
                GROUPS[noun], noun, key, name, describe(noun, before, after, draft.defs), pages, cards, example
            )
        )
    order = list(dict.fromkeys(GROUPS.values()))
    things.sort(key=lambda one: (order.index(one.group), -one.pages, one.name))
    pages, cards = _totals(work, differ, counts)
    return Pending(changes.unreleased_count(work.session), pages, cards, things)


def _differing(draft: Plans, live: Plans) -> Mapping[str, frozenset[str]]:
    """Surface → types that would render differently, new ones included."""
    new = frozenset(draft.defs.types.keys() - live.defs.types.keys())
    return {surface: types | new for surface, types in changed_types(live, draft).items()}


def _totals(work: Work, differ: Mapping[str, frozenset[str]], counts: Mapping[str, int]) -> tuple[int, int]:
    """Pages and cards at most: all of types that render differently, and single products of the others."""
    single = dict(changes.unreleased_by_type(work.session))
    own = {one for one in changes.unreleased(work.session, "setting") if one[1].startswith("product:")}
    for kind in products.types_of(work.session, single_products(sorted(own))).values():
        single[kind] = single.get(kind, 0) + 1

    def total(types: frozenset[str]) -> int:
        whole = sum(counts.get(one, 0) for one in types)
        return whole + sum(min(count, counts.get(one, 0)) for one, count in single.items() if one not in types)

    return total(differ["product_page"] | differ["structured_data"]), total(differ["listing_card"])


def _touched(
    noun: str,
    key: str,
    draft: Plans,
    live: Plans,
    differ: Mapping[str, frozenset[str]],
    counts: Mapping[str, int],
    after: Mapping[str, Any] | None,
) -> tuple[int, int, int | None]:
    if noun == "product":
        return 1, 1, int(key) if after is not None else None
    if key.startswith("product:"):
        return 1, 1, int(key.split("/", 1)[0].removeprefix("product:"))
    reached = reached_types(draft, noun, key) | reached_types(live, noun, key)
    pages = reached & (differ["product_page"] | differ["structured_data"])
    cards = reached & differ["listing_card"]
    return sum(counts.get(t, 0) for t in pages), sum(counts.get(t, 0) for t in cards), None
