"""How options are chosen from: properties that mean something for options alone, by the way they stand on a surface."""

from __future__ import annotations

from typing import Any

from young_fabric.core.display.choices import Choice, among, short_text, whole_number, words_of
from young_fabric.core.display.property import FieldSaid, Property
from young_fabric.core.display.surfaces import CHOSEN, CHOSEN_FROM, SWATCHES, Surface

LONGEST_EMPTY = 60
FITS, LIST, BUTTONS, RADIOS, GRID = "fits", "list", "buttons", "radios", "swatches"
MOST_BUTTONS = 8
"""So many values without swatches are buttons where what fits is asked for."""


def _on(*ways: str) -> Any:
    def applies(field: FieldSaid, surface: Surface) -> bool:
        return field.picked and surface.options in ways

    return applies


def _one_of(code: str, name: str, *choices: tuple[str, str], ways: tuple[str, ...]) -> Property:
    offered = tuple(Choice(value, label, f"{name.lower()} {label}") for value, label in choices)
    usual = offered[0].value
    return Property(
        code, name, "choice", among(offered), lambda _k, _s: usual, words_of(offered), offered, applies=_on(*ways)
    )


OPTION_PROPERTIES: tuple[Property, ...] = (
    _one_of(
        "chosen_by",
        "Chosen by",
        (FITS, "what fits"),
        (LIST, "list box"),
        (BUTTONS, "buttons"),
        (RADIOS, "radio list"),
        (GRID, "swatches"),
        ways=(CHOSEN_FROM,),
    ),
    _one_of(
        "swatch_size",
        "Size of swatches",
        ("medium", "medium"),
        ("small", "small"),
        ("large", "large"),
        ways=(CHOSEN_FROM, SWATCHES),
    ),
    _one_of(
        "swatch_shape",
        "Shape of swatches",
        ("round", "round"),
        ("square", "square"),
        ("soft", "square with soft corners"),
        ways=(CHOSEN_FROM, SWATCHES, CHOSEN),
    ),
    _one_of(
        "swatch_label",
        "Name at a swatch",
        ("below", "below"),
        ("above", "above"),
        ("hover", "on hover or focus"),
        ("none", "none"),
        ways=(CHOSEN_FROM,),
    ),
    Property(
        "empty_choice",
        "Words of the empty choice",
        "text",
        short_text(LONGEST_EMPTY),
        lambda _kind, _surface: "",
        lambda value: f"empty choice “{value}”" if value else "usual words of the empty choice",
        applies=_on(CHOSEN_FROM),
    ),
    Property(
        "most_swatches",
        "Swatches at most",
        "number",
        whole_number(1, 30),
        lambda _kind, _surface: 6,
        lambda value: f"at most {value} swatches",
        applies=_on(SWATCHES),
    ),
)
"""In the order their controls stand."""
