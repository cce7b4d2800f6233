"""Steps that lead from one arrangement to another, whatever the two are."""

from __future__ import annotations

from itertools import permutations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.saltmarsh import SALTMARSH
from young_fabric.core.display.layouts import apply_step
from young_fabric.core.nouns.layouts.layout_edits import _shown_regions, _steps_between, resolved
from young_fabric.core.nouns.layouts.layouts import LayoutRegion

LAYOUTS = SALTMARSH.layouts
PAGES = sorted(key for key, layout in LAYOUTS.items() if layout.surface == "product_page")
PAIRS = list(permutations(PAGES, 2))


def shown(key: str) -> tuple[LayoutRegion, ...]:
    return _shown_regions(resolved(LAYOUTS, LAYOUTS[key]))


@pytest.mark.parametrize(("start", "end"), PAIRS)
def test_steps_lead_from_one_page_to_another(start: str, end: str) -> None:
    regions = resolved(LAYOUTS, LAYOUTS[start])
    steps = list(_steps_between(resolved(LAYOUTS, LAYOUTS[start]), shown(end)))
    assert all(apply_step(regions, step.plain()) for step in steps), "none of them is lost"
    assert _shown_regions(regions) == shown(end)


def test_there_are_pages_that_differ_and_none_is_led_to_itself_by_steps() -> None:
    assert len(PAIRS) >= 6
    for key in PAGES:
        assert list(_steps_between(resolved(LAYOUTS, LAYOUTS[key]), shown(key))) == []


BLOCKS = st.permutations(["a", "b", "c", "d", "e"]).flatmap(
    lambda ids: st.integers(0, 5).flatmap(
        lambda count: st.lists(st.sampled_from(["A", "B"]), min_size=count, max_size=count).map(
            lambda headings: [
                {"id": name, "kind": "words", "heading": heading} for name, heading in zip(ids, headings, strict=False)
            ]
        )
    )
)


@given(BLOCKS, BLOCKS)
def test_steps_lead_from_any_blocks_to_any_others(before: list[dict[str, str]], after: list[dict[str, str]]) -> None:
    wanted = (LayoutRegion("main", tuple(after)),)
    ways = [[("main", [dict(block) for block in before])] for _ in range(2)]
    steps = [step.plain() for step in _steps_between(ways[0], wanted)]
    for step in steps:
        assert apply_step(ways[1], step)
    assert [dict(block) for block in dict(ways[1])["main"]] == after
    moved = [step for step in steps if step["op"] != "set"]
    assert len(moved) <= len(before) + len(after)
    if before == after:
        assert steps == []
