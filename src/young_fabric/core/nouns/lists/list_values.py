"""Values of a list: their codes and labels, how each looks, and what is told of it."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.base.text import CODE, fold
from young_fabric.core.kinds.base import names_file
from young_fabric.core.kinds.links import is_address

MOST_COLOURS = 4
LONGEST = {"label": 200, "note": 400}
LONGEST_SHORT = 6
NEAREST = 400
HEX = re.compile("#[0-9a-f]{6}")


@dataclass(frozen=True)
class Swatch:
    """How a value looks: a stored picture (its SHA-256), else colours (#rrggbb) side by side, else a short label in a box.

    `focus` says which part of the picture shows: its middle in thousandths of width and height, and how near in percent (100 is the
    whole); nothing said is the middle of the whole.
    """

    __pydantic_config__ = STRICT
    colours: tuple[str, ...] = ()
    picture: str = ""
    short: str = ""
    focus: tuple[int, ...] = ()


@dataclass(frozen=True)
class ListValue:
    """One value: `code` is stored, `label` shown, `synonyms` read too; `retired` ones are no longer offered.

    `note` is told beside it, and its label leads to `link`.
    """

    __pydantic_config__ = STRICT
    code: str
    label: str
    synonyms: tuple[str, ...] = ()
    retired: bool = False
    swatch: Swatch = field(default_factory=Swatch)
    note: str = ""
    link: str = ""

    @property
    def more(self) -> bool:
        """Whether it shows more than its label."""
        return bool(self.swatch != Swatch() or self.note or self.link)


def check_values(values: tuple[ListValue, ...]) -> None:
    """Whether values can stand in one list. Raises Refusal with the value and member in `where`.

    Codes: `code`, `code_twice`, `required`, `long`, `label_twice`, `colour`, `many`, `picture`, `link`.
    """
    codes: set[str] = set()
    labels: set[str] = set()
    for index, value in enumerate(values):
        where = ("values", index)
        try:
            _check_code(value, codes)
            _check_label(value, labels)
            check_swatch(value.swatch)
            _check_told(value)
        except Refusal as refusal:
            raise refusal.at(*where) from None
        codes.add(value.code)
        labels.add(fold(value.label))


def _check_code(value: ListValue, codes: set[str]) -> None:
    if not CODE.fullmatch(value.code):
        words = f"“{value.code[:60]}” can't be a code"
        raise Refusal("code", words, ("code",), "Use small letters, digits, hyphen and underscore, at most 60")
    if value.code in codes:
        raise Refusal("code_twice", f"Two values have the code {value.code}", ("code",), "Change one")


def _check_label(value: ListValue, labels: set[str]) -> None:
    if not value.label.strip():
        raise Refusal("required", "A value needs a label", ("label",), "Type what shoppers read")
    longest = LONGEST["label"]
    if len(value.label) > longest or any(len(synonym) > longest for synonym in value.synonyms):
        raise Refusal("long", f"At most {longest} characters fit", ("label",), "Shorten it")
    if fold(value.label) in labels:
        raise Refusal("label_twice", f"“{value.label}” stands in the list twice", ("label",), "Change one")


def check_swatch(swatch: Swatch) -> None:
    """Raises Refusal with its place: `many`, `colour`, `picture`, `long`."""
    if len(swatch.colours) > MOST_COLOURS:
        words = f"A swatch has at most {MOST_COLOURS} colours"
        raise Refusal("many", words, ("swatch", "colours"), "Take some off")
    for colour in swatch.colours:
        if not HEX.fullmatch(colour):
            words = f"“{colour[:40]}” is not a colour"
            raise Refusal("colour", words, ("swatch", "colours"), "Write # and six digits, such as #27476e")
    if swatch.picture and not names_file(swatch.picture):
        raise Refusal("picture", "Not a stored picture", ("swatch", "picture"), "Upload it first")
    if swatch.focus and not _is_focus(swatch.focus):
        words = "The part of a picture is said by its middle and how near it is"
        raise Refusal("focus", words, ("swatch", "focus"), "Choose it on the picture")
    if len(swatch.short) > LONGEST_SHORT or not swatch.short.isprintable():
        words = f"A short label has at most {LONGEST_SHORT} characters"
        raise Refusal("long", words, ("swatch", "short"), "Shorten it")


def _is_focus(focus: tuple[int, ...]) -> bool:
    if len(focus) != 3:
        return False
    across, down, near = focus
    return 0 <= across <= 1000 and 0 <= down <= 1000 and 100 <= near <= NEAREST


def _check_told(value: ListValue) -> None:
    if len(value.note) > LONGEST["note"]:
        raise Refusal("long", f"At most {LONGEST['note']} characters fit", ("note",), "Shorten it")
    if value.link and not is_address(value.link):
        raise Refusal("link", "Not an address that can be opened", ("link",), "Begin with https://")
