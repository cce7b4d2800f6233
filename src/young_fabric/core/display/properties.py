"""The properties of a display setting: a registry, so that one more is one entry here.

All resolved properties enter a plan's hash; the weave's cell and the words of changes are made from what is said here.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Protocol

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.surfaces import Surface
from young_fabric.core.kinds import Kind

LONGEST_LABEL = 120


class FieldSaid(Protocol):
    """What properties ask of a field."""

    @property
    def rules(self) -> Kind:
        """Its kind."""

    def shown_by_default(self, surface: Surface) -> bool:
        """Whether a surface shows it unless set otherwise."""


@dataclass(frozen=True)
class Choice:
    """One value of a property, what its control calls it, and what a change to it is called."""

    value: Any
    label: str
    words: str


@dataclass(frozen=True)
class Property:
    """One thing that can be set for a field on a surface.

    `control` is switch, choice, choices or text; `words` tells a value in a change, before the place; `default` is what
    holds where nothing is set; `applies` says whether it means anything for a field on a surface.
    """

    code: str
    name: str
    control: str
    check: Callable[[Any], Refusal | None]
    default: Callable[[FieldSaid, Surface], Any]
    words: Callable[[Any], str]
    choices: tuple[Choice, ...] = ()
    applies: Callable[[FieldSaid, Surface], bool] = lambda _field, _surface: True


_NOT_OFFERED = Refusal("unknown", "Not one of the choices", help="Choose one of those offered")


def _among(choices: tuple[Choice, ...]) -> Callable[[Any], Refusal | None]:
    def check(value: Any) -> Refusal | None:
        sound = any(type(value) is type(choice.value) and value == choice.value for choice in choices)
        return None if sound else _NOT_OFFERED

    return check


def _words(choices: tuple[Choice, ...]) -> Callable[[Any], str]:
    def words(value: Any) -> str:
        return next((choice.words for choice in choices if choice.value == value), str(value))

    return words


SHOWN = (Choice(True, "shown", "now shown"), Choice(False, "not shown", "no longer shown"))
LABELS = (
    Choice("beside", "beside", "label beside the value"),
    Choice("above", "above", "label above the value"),
    Choice("hidden", "hidden", "no label"),
)
EMPTIES = (Choice("omit", "left out", "when empty left out"), Choice("dash", "a dash", "when empty a dash"))
DEVICES = (
    Choice("phone", "phone", "phone"),
    Choice("tablet", "tablet", "tablet"),
    Choice("desktop", "desktop", "desktop"),
)
EVERY_DEVICE = tuple(device.value for device in DEVICES)


def _check_label(value: Any) -> Refusal | None:
    if isinstance(value, str) and len(value) <= LONGEST_LABEL and value.isprintable():
        return None
    return Refusal("long", f"A label has at most {LONGEST_LABEL} characters", help="Shorten it")


def _check_devices(value: Any) -> Refusal | None:
    known = isinstance(value, list | tuple) and bool(value) and all(device in EVERY_DEVICE for device in value)
    return None if known and len(set(value)) == len(value) else _NOT_OFFERED


PROPERTIES: dict[str, Property] = {
    prop.code: prop
    for prop in (
        Property(
            "shown",
            "Shown",
            "switch",
            _among(SHOWN),
            lambda field, surface: field.shown_by_default(surface),
            _words(SHOWN),
            SHOWN,
        ),
        Property(
            "label",
            "Label",
            "choice",
            _among(LABELS),
            lambda field, _surface: field.rules.label,
            _words(LABELS),
            LABELS,
        ),
        Property(
            "label_text",
            "Label words",
            "text",
            _check_label,
            lambda _field, _surface: "",
            lambda value: f"label “{value}”" if value else "the field's own label",
        ),
        Property(
            "empty",
            "If empty",
            "choice",
            _among(EMPTIES),
            lambda _field, _surface: "omit",
            _words(EMPTIES),
            EMPTIES,
            applies=lambda _field, surface: surface.stand_ins,
        ),
        Property(
            "devices",
            "Devices",
            "choices",
            _check_devices,
            lambda _field, _surface: EVERY_DEVICE,
            lambda value: f"on {', '.join(map(str, value))} only,",
            DEVICES,
            applies=lambda _field, surface: not surface.data,
        ),
    )
}
"""Every property by its code, in the order its control stands."""


def defaults_for(field: FieldSaid, surface: Surface) -> Mapping[str, Any]:
    """What holds for a field on a surface where nothing is set."""
    return {code: prop.default(field, surface) for code, prop in PROPERTIES.items()}


def check_properties(given: Mapping[str, Any]) -> None:
    """Whether properties can be set so. Raises Refusal `unknown_property`, or of the property."""
    for code, value in given.items():
        if code not in PROPERTIES:
            raise Refusal("unknown_property", f"There is no property {code}", ("set", code), "Take it away")
        wrong = PROPERTIES[code].check(value)
        if wrong:
            raise wrong.at("set", code)
