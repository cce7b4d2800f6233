"""What can be computed of swatches: whether they stand out from the page, what text reads on them, and which look alike."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal

from young_fabric.core.base.colour_difference import Lab, ciede2000, farther_than, lab
from young_fabric.core.base.contrast import VISIBLE, contrast

PAGE = "#ffffff"
THRESHOLD = 5.0
"""Colours nearer than this (ΔE00) look alike, unless a list says otherwise."""
BLACK, WHITE = "#000000", "#ffffff"


@dataclass(frozen=True, slots=True)
class Standing:
    """How a swatch stands on a ground: its contrast to two decimals, whether it needs an outline, and the colour of text on it."""

    contrast: str
    outline: bool
    text: str


@dataclass(frozen=True, slots=True)
class AlikePair:
    """Two swatches that look alike, by their positions, and how far they are apart to two decimals."""

    first: int
    second: int
    difference: str


def shown(figure: float) -> str:
    """A figure to two decimals."""
    return str(Decimal(figure).quantize(Decimal("0.01"), ROUND_HALF_UP))


def standing(colours: Sequence[str], ground: str = PAGE) -> Standing:
    """How a swatch of one or more colours `#rrggbb` stands on a ground; the lowest contrast counts."""
    lowest = min(contrast(colour, ground) for colour in colours)
    dark, light = contrast(colours[0], BLACK), contrast(colours[0], WHITE)
    return Standing(shown(lowest), lowest < VISIBLE, WHITE if light > dark else BLACK)


def difference(first: Sequence[str], second: Sequence[str]) -> float | None:
    """The largest CIEDE2000 difference of the colours in order, None where there is another number of them."""
    if len(first) != len(second) or not first:
        return None
    return max(ciede2000(lab(colour), lab(other)) for colour, other in zip(first, second, strict=True))


def alike(first: Sequence[str], second: Sequence[str], threshold: float = THRESHOLD) -> bool:
    """Whether two swatches look alike: every colour is nearer to the other's than the threshold."""
    found = difference(first, second)
    return found is not None and found < threshold


def alike_pairs(swatches: Sequence[Sequence[str]], threshold: float = THRESHOLD) -> Iterator[AlikePair]:
    """The pairs of swatches that look alike, those without colours left out.

    They are gone through by lightness, so that only those near each other in it are compared.
    """
    known: list[tuple[list[Lab], int]] = [
        ([lab(colour) for colour in colours], index) for index, colours in enumerate(swatches) if colours
    ]
    known.sort(key=lambda entry: entry[0][0].lightness)
    for at, (colours, index) in enumerate(known):
        for others, other in known[at + 1 :]:
            if farther_than(colours[0], others[0], threshold):
                break
            if len(colours) != len(others):
                continue
            apart = max(ciede2000(mine, theirs) for mine, theirs in zip(colours, others, strict=True))
            if apart < threshold:
                yield AlikePair(min(index, other), max(index, other), shown(apart))
