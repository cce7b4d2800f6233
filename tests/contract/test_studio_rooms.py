"""The studio's rooms: each uses only those below it, stages know nothing of each other, and nothing goes in circles."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import cache
from pathlib import Path

STUDIO = Path(__file__).parents[2] / "frontend" / "studio"
ROOMS = (
    "api",
    "ui",
    "state",
    "considering",
    "kinds",
    "conditions",
    "controls",
    "proof",
    "history",
    "things",
    "values",
    "holding",
    "features",
    "app",
)
"""From the bottom up."""
STAGES = {"define", "compose", "fill", "present", "release"}
_IMPORT = re.compile(r"""(?:from|import)\s*\(?\s*["'](\.[^"']+)["']""")


@cache
def modules() -> dict[str, frozenset[str]]:
    """Every file of the studio but its entry and tests, by its place, with those it imports."""
    paths = {
        path.relative_to(STUDIO).as_posix(): path
        for pattern in ("*/**/*.ts", "*/**/*.tsx")
        for path in STUDIO.glob(pattern)
        if ".test." not in path.name and not path.name.endswith(".d.ts")
    }
    return {place: frozenset(_imported(path, set(paths))) for place, path in paths.items()}


def _imported(path: Path, known: set[str]) -> Iterator[str]:
    for named in _IMPORT.findall(path.read_text()):
        place = (path.parent / named).resolve().relative_to(STUDIO.resolve()).as_posix()
        yield from {f"{place}.ts", f"{place}.tsx", f"{place}/index.ts"} & known


def test_every_file_stands_in_a_room_and_uses_only_rooms_below() -> None:
    found = modules()
    assert len(found) > 150, "they are looked for where they are"
    assert {place.split("/")[0] for place in found} == set(ROOMS)
    rank = {room: number for number, room in enumerate(ROOMS)}
    up = [
        f"{place} uses {other}"
        for place, others in found.items()
        for other in others
        if rank[other.split("/")[0]] > rank[place.split("/")[0]]
    ]
    assert up == []


def test_a_stage_knows_nothing_of_another() -> None:
    inside = {place: others for place, others in modules().items() if place.startswith("features/")}
    assert {place.split("/")[1] for place in inside} == STAGES
    across = [
        f"{place} uses {other}"
        for place, others in inside.items()
        for other in others
        if other.startswith("features/") and other.split("/")[1] != place.split("/")[1]
    ]
    assert across == []


def test_nothing_goes_in_circles() -> None:
    waiting = {place: set(others) for place, others in modules().items()}
    while free := [place for place, others in waiting.items() if not others]:
        for place in free:
            del waiting[place]
        for others in waiting.values():
            others.difference_update(free)
    assert waiting == {}
