"""A change of a layout in short lines: which block was added, taken away or moved where, and what was said of it otherwise."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any

from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.layouts import STEP_WORDS, Json
from young_fabric.core.kinds.base import in_words
from young_fabric.core.nouns.base import Known, State

SHORT = 40
MOST_TOLD = 3
"""So many members of a block are told with their values; of more the names alone."""
Place = tuple[str, str | None]
"""A part, and the block that stands before, None for the start."""


def described(before: State, after: State, defs: Known) -> list[str]:
    """The lines of a change between two states of a layout."""
    teller = _Teller(before, after, defs)
    out = [*_of_steps(before, after, teller), *_of_regions(before, after, teller)]
    names = {key: layout.name for key, layout in defs.layouts.items()}
    if before["base"] != after["base"]:
        words = [names.get(base, base) if base else "nothing" for base in (before["base"], after["base"])]
        out.append(f"builds on {words[0]} → {words[1]}")
    if before["name"] != after["name"]:
        out.append(f"name {in_words(before['name'])} → {in_words(after['name'])}")
    return out or ["no difference"]


class _Teller:
    """Names blocks and parts by what two states of a layout, and the layouts they build on, know of them."""

    def __init__(self, before: State, after: State, defs: Known) -> None:
        self._blocks: dict[str, Json] = {}
        self._first: set[str] = set()
        for state in (after, before):
            self._learn(state)
            base = state["base"]
            seen: set[str] = set()
            while base and base not in seen and base in defs.layouts:
                seen.add(base)
                layout = defs.layouts[base]
                self._learn_blocks(
                    [[*region.blocks] for region in layout.regions], (step.block for step in layout.steps)
                )
                self._first |= {region.id for region in layout.regions[:1]}
                base = layout.base

    def _learn(self, state: State) -> None:
        self._learn_blocks([region["blocks"] for region in state["regions"]], (s.get("block") for s in state["steps"]))
        self._first |= {region["id"] for region in state["regions"][:1]}

    def _learn_blocks(self, regions: Iterable[Iterable[Json]], added: Iterable[Json | None]) -> None:
        for block in (*(block for blocks in regions for block in blocks), *filter(None, added)):
            self._blocks.setdefault(str(block["id"]), block)

    def name(self, block_id: object, block: Json | None = None) -> str:
        """What a block is called: its heading or words, else its kind."""
        found = block or self._blocks.get(str(block_id))
        if found is None:
            return str(block_id).replace("_", " ")
        words = str(found.get("heading") or found.get("words") or "").strip()
        if words:
            return f"“{words[:SHORT]}”"
        kind = BLOCK_KINDS.get(str(found.get("kind")))
        return kind.name if kind is not None else str(found.get("kind", block_id))

    def where(self, place: Place) -> str:
        """Where a block stands, as words after “added” or “moved”."""
        part, after = place
        if after is not None:
            return f"after {self.name(after)}"
        for key, block in self._blocks.items():
            parts = [str(each) for each in block.get("regions") or ()]
            if part in parts:
                which = f"part {parts.index(part) + 1} of {self.name(key)}" if len(parts) > 1 else self.name(key)
                return f"to the start of {which}"
        return "to the start of the page" if part in self._first else "to the start of its part"

    def differences(self, block_id: object, was: Json, now: Json) -> str:
        """What is said of a block otherwise: `title: size large → small`."""
        block = self._blocks.get(str(block_id), now)
        kind = BLOCK_KINDS.get(str(block.get("kind")))
        members = {member.code: member for member in kind.all_members()} if kind is not None else {}
        differ = [code for code in {**was, **now} if was.get(code) != now.get(code) and code not in ("id", "kind")]
        words = []
        for code in differ:
            member = members.get(code)
            name = member.name[:1].lower() + member.name[1:] if member is not None else code.replace("_", " ")
            tell = member.words if member is not None else in_words
            short = len(differ) <= MOST_TOLD and not isinstance(now.get(code), Mapping | list)
            words.append(f"{name} → {tell(now[code])}" if short and now.get(code) is not None else name)
        return f"{self.name(block_id, block)}: {', '.join(words)}" if words else f"{self.name(block_id, block)} changed"


def _of_steps(before: State, after: State, teller: _Teller) -> Iterator[str]:
    old, new = ({step["key"]: step for step in state["steps"]} for state in (before, after))
    for key, step in new.items():
        if old.get(key) != step:
            yield _step_line(old.get(key), step, teller)
    for key, step in old.items():
        if key not in new:
            yield f"{teller.name(step['id'], step.get('block'))} as the base has it"


def _step_line(old: State | None, step: State, teller: _Teller) -> str:
    at: Place = (str(step.get("region")), step.get("after"))
    block = step.get("block")
    if step["op"] == "set":
        return teller.differences(step["id"], (old or {}).get("props") or {}, step.get("props") or {})
    if old is not None and block is not None and (old.get("region"), old.get("after")) == (step.get("region"), at[1]):
        return teller.differences(step["id"], old.get("block") or {}, block)
    words = "moved" if old is not None else STEP_WORDS.get(str(step["op"]), "changed")
    where = f" {teller.where(at)}" if words in (STEP_WORDS["move"], STEP_WORDS["add"]) else ""
    return f"{teller.name(step['id'], block)} {words}{where}"


def _of_regions(before: State, after: State, teller: _Teller) -> Iterator[str]:
    was, now = (
        {block["id"]: (region["id"], block) for region in state["regions"] for block in region["blocks"]}
        for state in (before, after)
    )
    places = _places(after)
    for key, (_, block) in now.items():
        if key not in was:
            yield f"{teller.name(key, block)} added {teller.where(places[key])}"
    for key, (_, block) in was.items():
        if key not in now:
            yield f"{teller.name(key, block)} taken away"
    for key in was:
        if key in now and was[key][1] != now[key][1]:
            yield teller.differences(key, was[key][1], now[key][1])
    for key in _moved(before, after, was.keys() & now.keys()):
        yield f"{teller.name(key, now[key][1])} moved {teller.where(places[key])}"


def _places(state: State) -> dict[Any, Place]:
    out: dict[Any, Place] = {}
    for region in state["regions"]:
        last = None
        for block in region["blocks"]:
            out[block["id"]] = (region["id"], last)
            last = block["id"]
    return out


def _moved(before: State, after: State, both: Iterable[Any]) -> list[Any]:
    """The fewest blocks that were moved: those of another part, and those but for which the others keep their order."""
    shared = set(both)
    old, new = (_orders(state, shared) for state in (before, after))
    out: list[Any] = []
    for region, order in new.items():
        rank = {key: at for at, key in enumerate(old.get(region, ()))}
        stayed = [key for key in order if key in rank]
        kept = {stayed[at] for at in _longest_rising([rank[key] for key in stayed])}
        out += [key for key in order if key not in kept]
    return out


def _orders(state: State, shared: set[Any]) -> dict[str, Sequence[Any]]:
    return {
        region["id"]: [block["id"] for block in region["blocks"] if block["id"] in shared]
        for region in state["regions"]
    }


def _longest_rising(numbers: Sequence[int]) -> list[int]:
    """The places of a longest run of ever larger numbers, others left out, in O(n log n)."""
    ends: list[int] = []
    at: list[int] = []
    before: list[int | None] = []
    for place, number in enumerate(numbers):
        length = bisect_left(ends, number)
        before.append(at[length - 1] if length else None)
        if length == len(ends):
            ends.append(number)
            at.append(place)
        else:
            ends[length], at[length] = number, place
    out: list[int] = []
    last = at[-1] if at else None
    while last is not None:
        out.append(last)
        last = before[last]
    return out[::-1]
