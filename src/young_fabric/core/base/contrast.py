"""Contrast of colours, by the Web Content Accessibility Guidelines 2.2."""

from __future__ import annotations

READABLE = 4.5
"""The least contrast of text with its ground (success criterion 1.4.3)."""
VISIBLE = 3.0
"""The least contrast of what is not text with its ground (success criterion 1.4.11)."""


def linear_channels(colour: str) -> tuple[float, float, float]:
    """Red, green and blue of a colour `#rrggbb`, each from 0 to 1 and linear in light."""
    red, green, blue = (_linear(int(colour[start : start + 2], 16) / 255) for start in (1, 3, 5))
    return red, green, blue


def luminance(colour: str) -> float:
    """The relative luminance of a colour `#rrggbb`, from 0 (black) to 1 (white)."""
    red, green, blue = linear_channels(colour)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def _linear(channel: float) -> float:
    return channel / 12.92 if channel <= 0.04045 else float(((channel + 0.055) / 1.055) ** 2.4)


def contrast(first: str, second: str) -> float:
    """The contrast ratio of two colours `#rrggbb`, from 1 to 21."""
    lighter, darker = sorted((luminance(first), luminance(second)), reverse=True)
    return (lighter + 0.05) / (darker + 0.05)
