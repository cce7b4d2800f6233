"""The past read: what two releases differ in, what going back would change, and pages as they were."""

from __future__ import annotations

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.products import products
from young_fabric.service.releasing import comparing, release
from young_fabric.service.writing import writes


def changed_twice(work: Work) -> int:
    """Release 2 settles the demo, 3 calls a field otherwise and a product; 4 goes back to 2. Gives the product."""
    release.release(work, "settled")
    _, version = writes.need_current(work, "field", "ss_hair")
    definitions.change(work, "field", "ss_hair", version, {"label": "Tuft"})
    easel = products.search(work, products.Filters(words="Estuary Easel"), None).rows[0].product.id
    products.fill(work, easel, products.get(work, easel).version, {"title": "Estuary Easel, oiled"})
    release.release(work, "Tufts")
    return easel


def test_a_release_tells_what_it_changed_and_going_back_what_it_will(work: Work) -> None:
    easel = changed_twice(work)
    found = comparing.between(work, 2, 3)
    told = {thing.key: (thing.name, thing.lines) for thing in found.things}
    assert found.count == len(told) == 2
    assert told["ss_hair"][0] == "Hair"
    assert "“Tuft”" in told["ss_hair"][1][0]
    assert told[str(easel)] == ("Estuary Easel, oiled", ["Title “Estuary Easel” → “Estuary Easel, oiled”"])
    done = release.need_release(work, 3)
    assert found.surfaces == done.counts
    assert found.differing.whole
    assert {row.id for row in found.differing.rows} >= {easel}
    back = comparing.between(work, 3, 2)
    assert back.surfaces == found.surfaces
    assert {thing.key: thing.name for thing in back.things}[str(easel)] == "Estuary Easel"
    gone_back = release.go_back(work, 2)
    assert gone_back.counts == back.surfaces, "what was told is what happened"
    assert comparing.between(work, 2, 4) == comparing.Between(2, 4, 0, [], {}, comparing.DifferingProducts([], True))
    assert comparing.between(work, 3, 4).count == 2


def test_before_the_first_there_was_nothing(work: Work) -> None:
    found = comparing.between(work, 0, 1)
    assert found.count > comparing.MOST_TOLD
    assert len(found.things) == comparing.MOST_TOLD
    assert len(found.differing.rows) == comparing.MOST_SHOWN
    assert not found.differing.whole


@pytest.mark.parametrize(
    ("before", "after", "code"), [(1, 1, "same"), (0, 0, "same"), (1, 9, "not_found"), (7, 1, "not_found")]
)
def test_releases_that_are_not_there_are_refused(work: Work, before: int, after: int, code: str) -> None:
    with pytest.raises(Refusal) as refused:
        comparing.between(work, before, after)
    assert refused.value.code == code
