"""Layouts as they are applied: regions of blocks, and steps over a base that lead to them.

Blocks are JSON objects with an `id`; what else they hold is the business of their kinds.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, NamedTuple

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.choices import EVERY_DEVICE

Json = Mapping[str, Any]
MOST_DEEP = 20


class Resolution(NamedTuple):
    """What a layout comes to: (id, blocks) of its regions, and the numbers of its own steps that were lost."""

    regions: list[tuple[str, list[Json]]]
    lost: list[int]


def resolve_layout(layouts: Mapping[str, Json], key: str) -> Resolution:
    """The regions of a layout `{regions}` or `{base, steps}`. Raises Refusal `no_base`, `loop`."""
    chain: list[Json] = []
    seen: set[str] = set()
    at: str | None = key
    while at is not None:
        if at in seen:
            raise Refusal("loop", "This layout would build on itself", ("base",), "Choose another base")
        if at not in layouts:
            raise Refusal("no_base", f"There is no layout {at[:60]}", ("base",), "Choose another base")
        seen.add(at)
        chain.append(layouts[at])
        at = layouts[at].get("base")
    regions: list[tuple[str, list[Json]]] = []
    lost: list[int] = []
    for layout in reversed(chain):
        regions += [(region["id"], list(region["blocks"])) for region in layout.get("regions") or ()]
        lost = [number for number, step in enumerate(layout.get("steps") or ()) if not apply_step(regions, step)]
    return Resolution(regions, lost)


def apply_step(regions: list[tuple[str, list[Json]]], step: Json) -> bool:
    """Take one step; whether it fitted wholly. A block brings the regions it names where they are not there."""
    return _STEPS.get(step.get("op", ""), _no_step)(regions, step)


def _no_step(regions: list[tuple[str, list[Json]]], step: Json) -> bool:  # noqa: ARG001
    return False


def _found(regions: Sequence[tuple[str, list[Json]]], block_id: Any) -> tuple[list[Json], int] | None:
    for _, blocks in regions:
        for position, block in enumerate(blocks):
            if block["id"] == block_id:
                return blocks, position
    return None


def _bring_regions(regions: list[tuple[str, list[Json]]], block: Json) -> None:
    there = {name for name, _ in regions}
    regions += [(name, []) for name in dict.fromkeys(block.get("regions") or ()) if name not in there]


def _put(blocks: list[Json], after: Any, block: Json) -> bool:
    if after is None:
        blocks.insert(0, block)
        return True
    position = next((at for at, other in enumerate(blocks) if other["id"] == after), None)
    blocks.insert(len(blocks) if position is None else position + 1, block)
    return position is not None


def _add(regions: list[tuple[str, list[Json]]], step: Json) -> bool:
    blocks, block = dict(regions).get(step["region"]), step["block"]
    if blocks is None or _found(regions, block["id"]) is not None:
        return False
    fitted = _put(blocks, step.get("after"), block)
    _bring_regions(regions, block)
    return fitted


def _remove(regions: list[tuple[str, list[Json]]], step: Json) -> bool:
    found = _found(regions, step["id"])
    if found is None:
        return False
    blocks, position = found
    del blocks[position]
    return True


def _move(regions: list[tuple[str, list[Json]]], step: Json) -> bool:
    found, target = _found(regions, step["id"]), dict(regions).get(step["region"])
    if found is None or target is None:
        return False
    blocks, position = found
    return _put(target, step.get("after"), blocks.pop(position))


def _set(regions: list[tuple[str, list[Json]]], step: Json) -> bool:
    found = _found(regions, step["id"])
    if found is None:
        return False
    blocks, position = found
    merged = {**blocks[position], **{name: value for name, value in step["props"].items() if name != "id"}}
    blocks[position] = {name: value for name, value in merged.items() if value is not None}
    _bring_regions(regions, blocks[position])
    return True


_STEPS = {"add": _add, "remove": _remove, "move": _move, "set": _set}
"""What each step does, by its op."""
STEP_WORDS = {"add": "added", "remove": "taken away", "move": "moved", "set": "changed"}
"""What a step does to its block, in words."""


@dataclass(frozen=True, slots=True)
class Takes:
    """What a slot takes: named fields, all fields of named sets, all of named sections (set, section), or the rest."""

    fields: tuple[str, ...] = ()
    sets: tuple[str, ...] = ()
    sections: tuple[tuple[str, str], ...] = ()
    rest: bool = False


@dataclass(frozen=True, slots=True)
class Block:
    """A block with an id; `regions` are those that one of a kind made of regions shows, `said` all that it says itself."""

    id: str
    kind: str
    takes: Takes = field(default_factory=Takes)
    heading: str = ""
    regions: tuple[str, ...] = ()
    said: Json = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Region:
    """A named list of blocks."""

    id: str
    blocks: tuple[Block, ...]


@dataclass(frozen=True)
class Arrangement:
    """A layout with all its steps taken: a flat list of regions, the first being where reading begins; the others show in
    the blocks that name them. `lost` are the numbers of its own steps that no longer fit."""

    key: str
    name: str
    regions: tuple[Region, ...]
    lost: tuple[int, ...] = ()

    def region(self, region_id: str) -> Region | None:
        """A region by its id."""
        return next((region for region in self.regions if region.id == region_id), None)

    def blocks(self) -> tuple[Block, ...]:
        """All blocks that can show, in reading order."""
        return tuple(block for block, _ in self.walk())

    def walk(self) -> Iterator[tuple[Block, tuple[Block, ...]]]:
        """Every block that can show with the blocks it stands in, outermost first, in reading order; each region once."""
        if self.regions:
            yield from self._walk(self.regions[0], (), set())

    def _walk(
        self, region: Region, within: tuple[Block, ...], seen: set[str]
    ) -> Iterator[tuple[Block, tuple[Block, ...]]]:
        if region.id in seen or len(within) > MOST_DEEP:
            return
        seen.add(region.id)
        for block in region.blocks:
            yield block, within
            for name in block.regions:
                inner = self.region(name)
                if inner is not None:
                    yield from self._walk(inner, (*within, block), seen)


def _texts(value: Any) -> tuple[str, ...]:
    return tuple(item for item in value if isinstance(item, str)) if isinstance(value, list | tuple) else ()


def read_takes(value: Any) -> Takes:
    """What a slot takes, as JSON says it; what is not of that shape is left out."""
    if not isinstance(value, Mapping):
        return Takes()
    pairs = value.get("sections")
    sections = tuple(tuple(pair) for pair in pairs if len(_texts(pair)) == 2) if isinstance(pairs, list | tuple) else ()
    return Takes(_texts(value.get("fields")), _texts(value.get("sets")), sections, value.get("rest") is True)


def read_block(block: Json) -> Block:
    """A block as JSON has it."""
    heading = block.get("heading")
    return Block(
        str(block["id"]),
        str(block.get("kind", "")),
        read_takes(block.get("takes")),
        heading if isinstance(heading, str) else "",
        _texts(block.get("regions")),
        block,
    )


def read_regions(regions: Iterable[tuple[str, Iterable[Json]]]) -> tuple[Region, ...]:
    """Regions as they were resolved."""
    return tuple(Region(name, tuple(map(read_block, blocks))) for name, blocks in regions)


def block_devices(block: Block) -> tuple[str, ...]:
    """The devices a block shows on."""
    said = block.said.get("devices")
    found = tuple(device for device in EVERY_DEVICE if device in said) if isinstance(said, list | tuple) else ()
    return found or EVERY_DEVICE
