"""What is said of a clash: who wrote meanwhile, and in words what either side made of the state that both began from."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, NamedTuple

from young_fabric.core.base.merge import ABSENT
from young_fabric.service.acting.actors import Clash, Work
from young_fabric.store.repos import changes

Describe = Callable[[Any, Any], list[str]]
"""A change from one state (None: it was not there) to another, in short lines."""
ANOTHER = "someone else"


class Sides(NamedTuple):
    """The state that somebody began from, what they made of it, and what stands; ABSENT where there is none."""

    base: Any
    mine: Any
    theirs: Any


def clash(
    work: Work,
    thing: tuple[str, str],
    name: str,
    sides: Sides,
    version: int | None,
    paths: Sequence[Sequence[Any]],
    describe: Describe,
) -> Clash:
    """The refusal of a write to a thing (noun, key) at `paths`, of which others made something else; `version` is that of what
    stands, None when it is gone."""
    base, mine, theirs = (None if side is ABSENT else side for side in sides)
    lines = describe(base, mine), describe(base, theirs)
    return Clash(name, mine, theirs, version, paths, by=who_wrote(work, *thing), lines=lines)


def who_wrote(work: Work, noun: str, key: str) -> str:
    """Who changed a thing last, as it is said to the actor."""
    found = changes.last_writer(work.session, noun, key)
    if found is None:
        return ANOTHER
    person_id, name = found
    return "yourself, elsewhere," if person_id == work.actor.id else name
