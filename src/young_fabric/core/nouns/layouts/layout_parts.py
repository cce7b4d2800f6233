"""What a stored layout is made of: regions of blocks, and steps over a base."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from young_fabric.core.base.shapes import STRICT


@dataclass(frozen=True)
class LayoutRegion:
    """A named list of blocks, each a JSON object with an `id` and a `kind`."""

    __pydantic_config__ = STRICT
    id: str
    blocks: tuple[Mapping[str, Any], ...] = ()


@dataclass(frozen=True)
class LayoutStep:
    """One step over a base, known by its op and its block: `add` (block, region, after), `remove`, `move` (region, after),
    `set` (props, None taking one away). `after` is the id of a block, None for the start."""

    __pydantic_config__ = STRICT
    key: str
    op: str
    id: str
    region: str | None = None
    after: str | None = None
    block: Mapping[str, Any] | None = None
    props: Mapping[str, Any] | None = field(default=None)

    def plain(self) -> dict[str, Any]:
        """The step as the rules have it."""
        return {
            "op": self.op,
            "id": self.id,
            "region": self.region,
            "after": self.after,
            "block": self.block,
            "props": self.props or {},
        }


def step_of(op: str, block_id: str, **members: Any) -> LayoutStep:
    """A step with its key."""
    return LayoutStep(f"{op}:{block_id}", op, block_id, **members)
