"""Values that can be chosen: what each is called in a control, and in the words of a change."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.errors import Refusal

NOT_OFFERED = Refusal("unknown", "Not one of the choices", help="Choose one of those offered")
Check = Callable[[Any], Refusal | None]


@dataclass(frozen=True)
class Choice:
    """One value that can be chosen, what its control calls it, and what a change to it is called."""

    value: Any
    label: str
    words: str = ""


def among(choices: tuple[Choice, ...]) -> Check:
    """A check that a value is one of some, types included."""

    def check(value: Any) -> Refusal | None:
        sound = any(type(value) is type(choice.value) and value == choice.value for choice in choices)
        return None if sound else NOT_OFFERED

    return check


def words_of(choices: tuple[Choice, ...]) -> Callable[[Any], str]:
    """A function from a value to what a change to it is called."""

    def words(value: Any) -> str:
        return next((choice.words or choice.label for choice in choices if choice.value == value), str(value))

    return words


def short_text(longest: int, *, lines: bool = False) -> Check:
    """A check that a value is a text of at most so many characters, on one line unless `lines`."""

    def check(value: Any) -> Refusal | None:
        printable = isinstance(value, str) and (value.replace("\n", " ") if lines else value).isprintable()
        if not printable:
            return Refusal("text", "Not a text on one line" if not lines else "Not a text", help="Type it anew")
        if len(value) > longest:
            return Refusal("long", f"{len(value):,} characters, at most {longest:,} fit", help="Shorten it")
        return None

    return check


def whole_number(least: int, most: int) -> Check:
    """A check that a value is a whole number between two bounds, both in."""

    def check(value: Any) -> Refusal | None:
        if type(value) is int and least <= value <= most:
            return None
        return Refusal("number", f"Not a whole number from {least} to {most}", help="Type another")

    return check


DEVICES = (
    Choice("phone", "phone", "phone"),
    Choice("tablet", "tablet", "tablet"),
    Choice("desktop", "desktop", "desktop"),
)
EVERY_DEVICE: tuple[str, ...] = tuple(device.value for device in DEVICES)


def check_devices(value: Any) -> Refusal | None:
    """Whether a value is a list of devices, each once, at least one."""
    known = isinstance(value, list | tuple) and bool(value) and all(device in EVERY_DEVICE for device in value)
    return None if known and len(set(value)) == len(value) else NOT_OFFERED
