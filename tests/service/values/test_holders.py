"""What holds values is numbered and named: things of definitions by their place, and what is none by nothing."""

from __future__ import annotations

from young_fabric.service.acting.actors import Work
from young_fabric.service.planning import plans
from young_fabric.service.values.holding import holders_of


def test_things_are_named_by_their_place_and_numbers_of_none_are_left_out(work: Work) -> None:
    defs = plans.draft(work.session)
    keys = sorted(defs.things["record"])
    named = holders_of(defs, "record").named(work, [0, 1, len(keys), len(keys) + 1, -1])
    assert {number: found.key for number, found in named.items()} == {1: keys[0], len(keys): keys[-1]}
