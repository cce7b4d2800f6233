"""How far colours are apart to the eye: CIEDE2000 of CIE 142:2001 (D65, 2° observer), and OKLab for gathering alike ones."""

from __future__ import annotations

from functools import lru_cache
from math import atan2, cos, degrees, exp, hypot, radians, sin, sqrt
from typing import NamedTuple

from young_fabric.core.base.contrast import linear_channels

_FAR = 25.0**7
WHITE = (0.95047, 1.0, 1.08883)
"""CIE XYZ of D65, 2° observer."""


class Lab(NamedTuple):
    """A colour in a space of lightness and two opponent axes."""

    lightness: float
    a: float
    b: float


@lru_cache(maxsize=4096)
def lab(colour: str) -> Lab:
    """CIELAB (D65) of a colour `#rrggbb` of sRGB (IEC 61966-2-1)."""
    red, green, blue = linear_channels(colour)
    x = 0.4124564 * red + 0.3575761 * green + 0.1804375 * blue
    y = 0.2126729 * red + 0.7151522 * green + 0.0721750 * blue
    z = 0.0193339 * red + 0.1191920 * green + 0.9503041 * blue
    fx, fy, fz = (_curve(value / white) for value, white in zip((x, y, z), WHITE, strict=True))
    return Lab(116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz))


def _curve(ratio: float) -> float:
    return float(ratio ** (1 / 3)) if ratio > 216 / 24389 else (24389 / 27 * ratio + 16) / 116


def oklab(red: float, green: float, blue: float) -> Lab:
    """OKLab of linear sRGB channels from 0 to 1 (CSS Color Module Level 4, section 9)."""
    long = (0.4122214708 * red + 0.5363325363 * green + 0.0514459929 * blue) ** (1 / 3)
    middle = (0.2119034982 * red + 0.6806995451 * green + 0.1073969566 * blue) ** (1 / 3)
    short = (0.0883024619 * red + 0.2817188376 * green + 0.6299787005 * blue) ** (1 / 3)
    return Lab(
        0.2104542553 * long + 0.7936177850 * middle - 0.0040720468 * short,
        1.9779984951 * long - 2.4285922050 * middle + 0.4505937099 * short,
        0.0259040371 * long + 0.7827717662 * middle - 0.8086757660 * short,
    )


def ciede2000(first: Lab, second: Lab) -> float:
    """The colour difference ΔE00 of two colours in CIELAB, all weights 1."""
    mean = ((hypot(first.a, first.b) + hypot(second.a, second.b)) / 2) ** 7
    stretch = 1 + 0.5 * (1 - sqrt(mean / (mean + _FAR)))
    a1, a2 = first.a * stretch, second.a * stretch
    c1, c2 = hypot(a1, first.b), hypot(a2, second.b)
    h1, h2 = degrees(atan2(first.b, a1)) % 360, degrees(atan2(second.b, a2)) % 360
    lightness, chroma = second.lightness - first.lightness, c2 - c1
    apart, hue = _hues(h1, h2, grey=c1 * c2 == 0)
    turned = 2 * sqrt(c1 * c2) * sin(radians(apart) / 2)
    c_mean, l_mean = (c1 + c2) / 2, (first.lightness + second.lightness) / 2
    t = (
        1
        - 0.17 * cos(radians(hue - 30))
        + 0.24 * cos(radians(2 * hue))
        + 0.32 * cos(radians(3 * hue + 6))
        - 0.20 * cos(radians(4 * hue - 63))
    )
    s_l = 1 + 0.015 * (l_mean - 50) ** 2 / sqrt(20 + (l_mean - 50) ** 2)
    s_c, s_h = 1 + 0.045 * c_mean, 1 + 0.015 * c_mean * t
    power = c_mean**7
    turn = -sin(radians(60 * exp(-(((hue - 275) / 25) ** 2)))) * 2 * sqrt(power / (power + _FAR))
    l_part, c_part, h_part = lightness / s_l, chroma / s_c, turned / s_h
    return sqrt(max(l_part**2 + c_part**2 + h_part**2 + turn * c_part * h_part, 0.0))


def _hues(h1: float, h2: float, *, grey: bool) -> tuple[float, float]:
    """The difference and the mean of two hue angles, of which a grey has none."""
    if grey:
        return 0.0, h1 + h2
    apart = h2 - h1
    if abs(apart) <= 180:
        return apart, (h1 + h2) / 2
    mean = (h1 + h2 + 360) / 2 if h1 + h2 < 360 else (h1 + h2 - 360) / 2
    return (apart - 360 if apart > 180 else apart + 360), mean


def farther_than(first: Lab, second: Lab, bound: float) -> bool:
    """Whether two colours are surely farther apart than a bound, told by their lightness alone: its weight is at most 1.75."""
    return abs(first.lightness - second.lightness) > bound * 1.75
