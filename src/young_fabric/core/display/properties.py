"""The properties of a display setting: a registry, so that one more is one entry here.

All resolved properties enter a plan's hash; the weave's cell and the words of changes are made from what is said here.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import EVERY, Resolved
from young_fabric.core.display.choices import (
    DEVICES,
    EVERY_DEVICE,
    Choice,
    among,
    check_devices,
    short_text,
    whole_number,
    words_of,
)
from young_fabric.core.display.formats import FORMATS
from young_fabric.core.display.listing_properties import LISTING_PROPERTIES
from young_fabric.core.display.option_properties import OPTION_PROPERTIES
from young_fabric.core.display.property import FieldSaid, Property
from young_fabric.core.display.surfaces import PRODUCTS, Surface
from young_fabric.core.kinds import Kind

LONGEST_LABEL = 120
LONGEST_WORDS = 60
FARTHEST = 99

SHOWN = (Choice(True, "shown", "now shown"), Choice(False, "not shown", "no longer shown"))
LABELS = (
    Choice("beside", "beside", "label beside the value"),
    Choice("above", "above", "label above the value"),
    Choice("hidden", "hidden", "no label"),
)
EMPTIES = (
    Choice("omit", "left out", "when empty left out"),
    Choice("dash", "a dash", "when empty a dash"),
    Choice("own", "words of your own", "when empty words of its own"),
)


def _looked_at(_field: FieldSaid, surface: Surface) -> bool:
    return not surface.data


def _stands_in(_field: FieldSaid, surface: Surface) -> bool:
    return surface.stand_ins


def _check_condition(value: Any) -> Refusal | None:
    return None if isinstance(value, Mapping) and value else Refusal("condition", "A condition is a tree of tests")


def _check_layout(value: Any) -> Refusal | None:
    return None if isinstance(value, str) and value else Refusal("layout", "Choose a layout")


def _text(
    code: str, name: str, longest: int, empty: str, words: str, applies: Any = _looked_at, *, writes: bool = False
) -> Property:
    def said(value: Any) -> str:
        return f"{words} “{value}”" if value else empty

    return Property(
        code, name, "text", short_text(longest), lambda _kind, _surface: "", said, applies=applies, writes=writes
    )


LAYOUT = Property(
    "layout",
    "Layout",
    "layout",
    _check_layout,
    lambda _kind, surface: surface.layout,
    lambda value: f"layout {value}",
    whole=True,
    together="Layout",
)
CONDITION = Property(
    "condition",
    "Only when",
    "condition",
    _check_condition,
    lambda _kind, _surface: None,
    lambda value: "only under a condition" if value else "under any condition",
    applies=lambda _field, surface: surface.subject == PRODUCTS,
)
EMPTY = Property(
    "empty",
    "If empty",
    "choice",
    among(EMPTIES),
    lambda _kind, _surface: EMPTIES[0].value,
    words_of(EMPTIES),
    EMPTIES,
    applies=_stands_in,
)
EMPTY_WORDS = _text("empty_words", "Words if empty", LONGEST_WORDS, "no words when empty", "when empty", _stands_in)

PROPERTIES: dict[str, Property] = {
    prop.code: prop
    for prop in (
        Property(
            "shown",
            "Shown",
            "switch",
            among(SHOWN),
            lambda _kind, surface: surface.shows_by_default,
            words_of(SHOWN),
            SHOWN,
        ),
        Property(
            "label", "Label", "choice", among(LABELS), lambda kind, _surface: kind.label, words_of(LABELS), LABELS
        ),
        _text(
            "label_text", "Label words", LONGEST_LABEL, "the field's own label", "label", lambda _field, _surface: True
        ),
        _text("before", "Words before", LONGEST_WORDS, "no words before", "before the value", writes=True),
        _text("after", "Words after", LONGEST_WORDS, "no words after", "after the value", writes=True),
        *FORMATS,
        *OPTION_PROPERTIES,
        EMPTY,
        EMPTY_WORDS,
        Property(
            "order",
            "Order in its place",
            "number",
            whole_number(-FARTHEST, FARTHEST),
            lambda _kind, _surface: 0,
            lambda value: f"order {value}" if value else "in turn",
            applies=_looked_at,
        ),
        Property(
            "devices",
            "Devices",
            "choices",
            check_devices,
            lambda _kind, _surface: EVERY_DEVICE,
            lambda value: f"on {', '.join(map(str, value))} only,",
            DEVICES,
            applies=_looked_at,
        ),
        CONDITION,
        LAYOUT,
        *LISTING_PROPERTIES,
    )
}
"""Every property by its code, in the order its control stands."""


@lru_cache(maxsize=1024)
def _usual_defaults(kind: Kind, surface: Surface, codes: tuple[str, ...]) -> Mapping[str, Resolved]:
    """What holds for fields of a kind; `codes` are those of all properties there are."""
    of_fields = (PROPERTIES[code] for code in codes if not PROPERTIES[code].whole)
    return {prop.code: Resolved(prop.default(kind, surface), "default") for prop in of_fields}


def resolved_defaults(field: FieldSaid, surface: Surface) -> dict[str, Resolved]:
    """What holds for a field on a surface where nothing is set, with where it comes from."""
    usual = _usual_defaults(field.rules, surface, tuple(PROPERTIES))
    return {**usual, "shown": Resolved(field.shown_by_default(surface), "default")}


def defaults_for(field: FieldSaid, surface: Surface) -> Mapping[str, Any]:
    """What holds for a field on a surface where nothing is set."""
    return {code: found.value for code, found in resolved_defaults(field, surface).items()}


def writes_as_usual(field: FieldSaid, surface: Surface, settings: Mapping[str, Resolved]) -> bool:
    """Whether values of a field are written on a surface as they are where nothing is set, by its resolved settings."""
    usual = _usual_defaults(field.rules, surface, tuple(PROPERTIES))
    return all(settings[code].value == usual[code].value for code, prop in PROPERTIES.items() if prop.writes)


def check_properties(given: Mapping[str, Any], field: str = EVERY) -> None:
    """Whether properties can be set so of a field, or of all. Raises Refusal `unknown_property`, or of the property."""
    for code, value in given.items():
        found = PROPERTIES.get(code)
        if found is None or (found.whole and field != EVERY):
            words = f"There is no property {code[:60]}" if found is None else f"{found.name} is said of a whole surface"
            raise Refusal("unknown_property", words, ("set", code), "Take it away")
        wrong = found.check(value)
        if wrong:
            raise wrong.at("set", code)
