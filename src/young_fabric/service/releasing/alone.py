"""What each change that is not released makes differ by itself: the draft held against the draft without it."""

from __future__ import annotations

from collections.abc import Mapping

from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.pages.plans import Plans, reached_groups
from young_fabric.service.acting.actors import Work
from young_fabric.service.foreseeing.counted import Counted, counted

MOST_ALONE = 40
"""So many changes are each held against the draft without them."""


class Alone:
    """What each change makes differ by itself: the draft is held against the draft without it."""

    def __init__(self, work: Work, live: Plans, draft: Plans, counts: Mapping[Group, int]) -> None:
        self._work, self._live, self._draft, self._counts = work, live, draft, counts
        self._left = MOST_ALONE

    def of(self, noun: str, key: str) -> Counted:
        """The documents that differ by one changed definition; at most so many once many were asked about."""
        groups = self._reaching(noun, key)
        self._left -= 1
        if self._left < 0:
            return Counted({code: sum(self._counts[group] for group in groups) for code in product_surfaces()}, False)
        without = self._draft.having(noun, key, self._live.defs.things[noun].get(key))
        return counted(self._work, without, self._draft, [(noun, key)], self._counts, groups)

    def _reaching(self, noun: str, key: str) -> frozenset[Group]:
        reached = (reached_groups(made, self._counts, noun, key) for made in (self._draft, self._live))
        return frozenset().union(*reached)
