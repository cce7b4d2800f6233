"""The colours of what a picture shows: gathered in OKLab, where distances are as the eye sees them, its background left out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import dist

from young_fabric.core.base.colour_difference import Lab, oklab
from young_fabric.core.base.contrast import linear_channels

Pixel = tuple[int, int, int]
"""Red, green and blue from 0 to 255."""
GROUND = 0.07
"""Pixels nearer to the background than this (OKLab) are part of it."""
ONE_COLOUR = 0.08
"""Colours nearer to each other than this are told as one."""
MOST = 4
ROUNDS = 8
LEAST_SHARE = 0.04


@dataclass(frozen=True, slots=True)
class FoundColour:
    """A colour `#rrggbb` of a picture, and what share of the thing shown it covers, from 0 to 1."""

    colour: str
    share: float


@lru_cache(maxsize=16_384)
def _lab(pixel: Pixel) -> Lab:
    return oklab(*linear_channels("#{:02x}{:02x}{:02x}".format(*pixel)))


def main_colours(rows: Sequence[Sequence[Pixel]], most: int = MOST) -> tuple[FoundColour, ...]:
    """The colours of what stands before the background, the largest first. The background is what the edges show; a picture that
    is all background shows that."""
    pixels = [pixel for row in rows for pixel in row]
    if not pixels:
        return ()
    edges = [*rows[0], *rows[-1], *(pixel for row in rows for pixel in (row[0], row[-1]))]
    ground = _middle([_lab(pixel) for pixel in edges])
    shown = [pixel for pixel in pixels if dist(_lab(pixel), ground) > GROUND]
    shown = shown if len(shown) >= len(pixels) * LEAST_SHARE else pixels
    groups = _joined(_gathered(shown, most))
    found = [FoundColour(_colour_of(group), round(len(group) / len(shown), 3)) for group in groups]
    large = [colour for colour in found if colour.share >= LEAST_SHARE]
    return tuple(sorted(large, key=lambda colour: (-colour.share, colour.colour)))


def _middle(labs: Sequence[Lab]) -> Lab:
    """What is in the middle of some colours on each axis."""
    return Lab(*(sorted(axis)[len(labs) // 2] for axis in zip(*labs, strict=True)))


def _mean(group: Sequence[Pixel]) -> Lab:
    labs = [_lab(pixel) for pixel in group]
    return Lab(*(sum(axis) / len(labs) for axis in zip(*labs, strict=True)))


def _gathered(pixels: Sequence[Pixel], most: int) -> list[list[Pixel]]:
    """Pixels in groups around centres, begun as far from each other as can be (k-means by the farthest first)."""
    centres = [_mean(pixels)]
    distinct = sorted(set(pixels))
    while len(centres) < min(most, len(distinct)):
        centres.append(_lab(max(distinct, key=lambda pixel: min(dist(_lab(pixel), centre) for centre in centres))))
    groups: list[list[Pixel]] = []
    for _ in range(ROUNDS):
        groups = [[] for _ in centres]
        for pixel in pixels:
            found = _lab(pixel)
            groups[min(range(len(centres)), key=lambda at: dist(found, centres[at]))].append(pixel)
        moved = [_mean(group) if group else centre for group, centre in zip(groups, centres, strict=True)]
        if moved == centres:
            break
        centres = moved
    return [group for group in groups if group]


def _joined(groups: list[list[Pixel]]) -> list[list[Pixel]]:
    """Groups whose colours are told as one, put together."""
    joined: list[list[Pixel]] = []
    for group in sorted(groups, key=len, reverse=True):
        near = next((other for other in joined if dist(_mean(other), _mean(group)) < ONE_COLOUR), None)
        if near is None:
            joined.append(list(group))
        else:
            near += group
    return joined


def _colour_of(group: Sequence[Pixel]) -> str:
    """The pixel nearest to the middle of a group."""
    middle = _middle([_lab(pixel) for pixel in group])
    nearest = min(set(group), key=lambda pixel: (dist(_lab(pixel), middle), pixel))
    return "#{:02x}{:02x}{:02x}".format(*nearest)
