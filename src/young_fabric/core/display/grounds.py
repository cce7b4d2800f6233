"""The grounds blocks can stand on: the colours of the shop's styles, for checks of what is seen on them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from young_fabric.core.display.block_members import BACKGROUND
from young_fabric.core.display.layouts import Block


class Ground(NamedTuple):
    """The colour of a ground, and of text and quieter text on it, each `#rrggbb`."""

    colour: str
    ink: str
    quiet: str


GROUNDS: dict[str, Ground] = {
    "": Ground("#ffffff", "#1c2230", "#626b7e"),
    "pale": Ground("#f4f6f9", "#1c2230", "#4d5668"),
    "warm": Ground("#f7f1e3", "#1c2230", "#4d5668"),
    "deep": Ground("#1c2230", "#ffffff", "#c3cad6"),
}
"""Each by the background that says it."""


def ground_of(chain: Sequence[Block]) -> Ground:
    """The ground of a block with all it stands in, outermost first and itself last."""
    said = [block.said.get(BACKGROUND.code) for block in chain]
    return next((GROUNDS[code] for code in reversed(said) if code and code in GROUNDS), GROUNDS[""])
