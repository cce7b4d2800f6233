"""What each change that is not released makes differ by itself: the draft held against the draft without it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cached_property

from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.pages.plans import Plans, changed_groups, reached_groups
from young_fabric.service.acting.actors import Work
from young_fabric.service.foreseeing.bounds import Bounds, bounds_of
from young_fabric.service.foreseeing.counted import Counted, Thing, counted, surfaces_borne_on
from young_fabric.service.foreseeing.touched import touched_documents
from young_fabric.service.planning.naming import referring_documents
from young_fabric.service.planning.offering import offered_documents

MOST_PLANS = 240
"""So many plans of groups on surfaces are made anew for all changes together; those that take the fewest come first."""
Touched = Mapping[str, Mapping[Group, int]]


class Alone:
    """Tells it of some changed definitions; of those that would take too long no more than what all changes together allow."""

    def __init__(
        self, work: Work, live: Plans, draft: Plans, counts: Mapping[Group, int], keys: Sequence[Thing]
    ) -> None:
        self._work, self._live, self._draft, self._counts = work, live, draft, counts
        self._groups = {thing: self._reaching(*thing) for thing in keys}
        self._by_themselves: set[Thing] = set()
        left = MOST_PLANS
        for thing in sorted(keys, key=lambda thing: (self._plans_for(thing), thing)):
            left -= self._plans_for(thing)
            if left >= 0:
                self._by_themselves.add(thing)

    def of(self, noun: str, key: str) -> Counted:
        """The documents that differ by one of the definitions."""
        thing = noun, key
        groups = self._groups[thing]
        if thing in self._by_themselves:
            without = self._draft.having(noun, key, self._live.defs.things[noun].get(key))
            return counted(self._work, without, self._draft, [thing], self._counts, groups, self.bounds)
        called = referring_documents(self._work.session, self._live.defs, self._draft, [thing]).get(thing, {})
        offered = offered_documents(self._work.session, self._live.defs, self._draft.defs, [thing]).get(thing, {})
        most = {
            code: sum(self.touched.get(code, {}).get(group, 0) for group in groups)
            + self.bounds.of_products(code, called.get(code, 0) + offered.get(code, 0))
            for code in surfaces_borne_on([thing]) or product_surfaces()
        }
        return Counted({**dict.fromkeys(product_surfaces(), 0), **most}, False)

    @cached_property
    def touched(self) -> Touched:
        """Surface → group → documents that may differ after a release; all of a group of a new type."""
        return touched_by_release(self._work, self._live, self._draft, self.bounds)

    @cached_property
    def bounds(self) -> Bounds:
        """How many documents products have at most."""
        return bounds_of(self._work, self._live, self._draft, self._counts)

    def _plans_for(self, thing: Thing) -> int:
        return len(self._groups[thing]) * len(surfaces_borne_on([thing]) or product_surfaces())

    def _reaching(self, noun: str, key: str) -> frozenset[Group]:
        reached = (reached_groups(made, self._counts, noun, key) for made in (self._draft, self._live))
        return frozenset[Group]().union(*reached)


def touched_by_release(work: Work, live: Plans, draft: Plans, bounds: Bounds) -> Touched:
    """Surface → group → documents that may differ after a release; all of a group of a new type."""
    differ = changed_groups(live, draft, bounds.counts)
    new = [group for group in bounds.counts if group.type not in live.defs.types]
    found = touched_documents(work, live, draft, differ, bounds)
    return {
        surface: {**groups, **{group: bounds.of_group(surface, group) for group in new}}
        for surface, groups in found.items()
    }
