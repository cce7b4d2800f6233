"""Where two people's edits of one layout meet: told on its blocks with all steps taken, however its steps say it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from young_fabric.core.base.merge import merge
from young_fabric.core.display.layouts import Json
from young_fabric.core.nouns.layouts.layout_edits import Regions, resolved
from young_fabric.core.nouns.layouts.layouts import Layout


def layout_clashes(
    layouts: Mapping[str, Layout], base: Layout, mine: Layout, theirs: Layout, edits: Sequence[Json]
) -> list[list[Any]]:
    """The paths (block id, member) of which `mine`, made by edits of `base`, and `theirs` made different things of `base`.

    A block's part counts as a member; where it stands in its part only for those that an edit moves: blocks before it that all
    three have.
    """
    pages = [resolved({**layouts, state.key: state}, state) for state in (base, mine, theirs)]
    shared = set.intersection(*(_ids(page) for page in pages))
    moved = {str(edit.get("id")) for edit in edits if edit.get("op") == "move"}
    before, of_mine, of_theirs = (_blocks(page, shared, moved) for page in pages)
    return merge(before, of_mine, of_theirs).clashes


def _ids(page: Regions) -> set[str]:
    return {block["id"] for _, blocks in page for block in blocks}


def _blocks(page: Regions, shared: set[str], moved: set[str]) -> dict[str, Json]:
    """Each block with its part, and what stands before it there."""
    out: dict[str, Json] = {}
    for region, blocks in page:
        before: list[str] = []
        for block in blocks:
            state = {**block, "in_part": region}
            if block["id"] in moved:
                state["stands_after"] = sorted(before)
            out[block["id"]] = state
            if block["id"] in shared:
                before.append(block["id"])
    return out
