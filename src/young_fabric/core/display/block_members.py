"""What can be said of a block: members, each with its check and its control, and those that blocks of every kind have."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.choices import (
    DEVICES,
    EVERY_DEVICE,
    Check,
    Choice,
    among,
    check_devices,
    short_text,
    words_of,
)
from young_fabric.core.display.icons import ICONS
from young_fabric.core.display.surfaces import PRODUCTS, RECORDS
from young_fabric.core.kinds.base import Kind, in_words

LONGEST_HEADING = 120
PARTS = 12
"""How many parts the width of a page has."""


@dataclass(frozen=True)
class Member:
    """One thing that can be said of a block. `control` edits it; `check` gives the refusal of a value, None when it is
    sound; `default` holds where nothing is said. `typed` ones are words that every page with the layout shows; `styled` ones
    reach the templates with the block; a block with one that names a `noun` is of no use before a thing of it is chosen. Those
    that name fields hold a key or a list of keys, of fields of `kinds` (none: of any),
    `own_fields` alone or built-in ones too. It can be said on pages of its `subjects`."""

    code: str
    name: str
    control: str
    check: Check
    default: Any = None
    choices: tuple[Choice, ...] = ()
    typed: bool = False
    styled: bool = False
    words: Callable[[Any], str] = in_words
    help: str = ""
    noun: str = ""
    names_fields: bool = False
    own_fields: bool = False
    subjects: tuple[str, ...] = (PRODUCTS, RECORDS)
    kinds: tuple[type[Kind], ...] = ()

    def fields(self, value: Any) -> tuple[str, ...]:
        """The keys of fields that a value names."""
        if not self.names_fields:
            return ()
        return (value,) if isinstance(value, str) and value else _texts(value)

    def with_fields(self, value: Any, into: Mapping[str, str | None]) -> Any:
        """A value with other fields in place of some, None taking one out."""
        if isinstance(value, str):
            return into.get(value, value) or None
        return list(dict.fromkeys(key for old in _texts(value) if (key := into.get(old, old)) is not None))


def chosen(code: str, name: str, choices: tuple[Choice, ...], *, help: str = "") -> Member:
    """A member that is one of some choices, the first where nothing is said, and that templates read."""
    return Member(
        code, name, "choice", among(choices), choices[0].value, choices, styled=True, words=words_of(choices), help=help
    )


def _check_switch(value: Any) -> Refusal | None:
    return None if isinstance(value, bool) else Refusal("shape", "It is on or off", help="Tick it, or don't")


def _check_condition(value: Any) -> Refusal | None:
    return None if isinstance(value, Mapping) else Refusal("condition", "A condition is a tree of tests")


def check_key(value: Any) -> Refusal | None:
    """Whether a value is the key of a field, "" for none."""
    return None if isinstance(value, str) else Refusal("shape", "A field is named by its key", help="Choose one")


def _check_icon(value: Any) -> Refusal | None:
    if isinstance(value, str) and (not value or value in ICONS):
        return None
    return Refusal("icon", "There is no such icon", help="Choose one of those offered, or none")


def _texts(value: Any) -> tuple[str, ...]:
    return tuple(item for item in value if isinstance(item, str)) if isinstance(value, list | tuple) else ()


def _are_texts(value: Any) -> bool:
    return isinstance(value, list | tuple) and all(isinstance(item, str) for item in value)


HIDDEN = Member("hidden", "Hidden", "switch", _check_switch, False)
SHOWN_ON = Member(
    "devices",
    "Devices",
    "choices",
    check_devices,
    EVERY_DEVICE,
    DEVICES,
    words=lambda value: ", ".join(map(str, value)) + " only",
)
CONDITION = Member("condition", "Only when", "condition", _check_condition, subjects=(PRODUCTS,))
HEADING = Member("heading", "Heading", "text", short_text(LONGEST_HEADING), "", typed=True)
ICON = Member("icon", "Icon", "icon", _check_icon, "", styled=True)
BACKGROUND = chosen(
    "background",
    "Background",
    (Choice("", "none"), Choice("pale", "pale"), Choice("warm", "warm"), Choice("deep", "deep")),
)
PADDING = chosen("padding", "Space inside", (Choice("", "none"), Choice("some", "some"), Choice("much", "much")))
WIDTH = chosen(
    "width", "Width", (Choice("", "of the page"), Choice("text", "of text"), Choice("full", "of the window"))
)

COMMON: tuple[Member, ...] = (HIDDEN, SHOWN_ON, CONDITION, BACKGROUND, PADDING, WIDTH)
"""What blocks of every kind have."""


def check_takes(value: Any) -> Refusal | None:
    """Whether a value says what a slot takes."""
    wrong = Refusal("takes", "A slot takes fields, sets, sections or the rest", help="Choose them anew")
    if not isinstance(value, Mapping) or set(value) - {"fields", "sets", "sections", "rest"}:
        return wrong
    pairs = value.get("sections", [])
    sound = (
        _are_texts(value.get("fields", []))
        and _are_texts(value.get("sets", []))
        and isinstance(pairs, list | tuple)
        and all(_are_texts(pair) and len(pair) == 2 for pair in pairs)
        and isinstance(value.get("rest", False), bool)
    )
    return None if sound else wrong


TAKES = Member("takes", "Shows", "takes", check_takes)


def check_regions(value: Any) -> Refusal | None:
    """Whether a value names regions, each once."""
    if _are_texts(value) and value and len(set(value)) == len(value) and len(value) <= PARTS and all(value):
        return None
    return Refusal("regions", f"A block shows one to {PARTS} parts, each once", help="Split it anew")


REGIONS = Member("regions", "Parts", "regions", check_regions)


def check_widths(value: Any) -> Refusal | None:
    """Whether a value gives, by device, the parts of twelve that each column has."""
    sound = isinstance(value, Mapping) and all(
        device in EVERY_DEVICE
        and isinstance(parts, list | tuple)
        and 0 < len(parts) <= PARTS
        and all(type(part) is int and 0 < part <= PARTS for part in parts)
        for device, parts in value.items()
    )
    if sound:
        return None
    return Refusal(
        "widths", f"Widths are parts of {PARTS}, one a column, by device", help="Choose one of those offered"
    )


WIDTHS = Member("widths", "Widths", "widths", check_widths, styled=True)
