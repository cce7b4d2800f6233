"""How values are written: properties that mean something for fields of some kinds. Each kind names those it goes by."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from young_fabric.core.base import units
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.choices import Choice, among, short_text, words_of
from young_fabric.core.display.property import FieldSaid, Property
from young_fabric.core.display.surfaces import Surface

LONGEST_WORD = 40
MOST_DECIMALS = 6
MOST_COLUMNS = 30


def _applies(code: str) -> Callable[[FieldSaid, Surface], bool]:
    def applies(field: FieldSaid, surface: Surface) -> bool:
        return not surface.data and code in field.formats

    return applies


def _chosen(code: str, name: str, *choices: tuple[object, str], words: str = "") -> Property:
    """A property that is one of some choices, the first where nothing is set."""
    offered = tuple(Choice(value, label, f"{words or name.lower()} {label}") for value, label in choices)
    return Property(
        code,
        name,
        "choice",
        among(offered),
        lambda _kind, _surface: offered[0].value,
        words_of(offered),
        offered,
        applies=_applies(code),
    )


def _words(code: str, name: str) -> Property:
    """A property that is a few words of one's own."""
    return Property(
        code,
        name,
        "text",
        short_text(LONGEST_WORD),
        lambda _kind, _surface: "",
        lambda value: f"{name.lower()} “{value}”" if value else f"{name.lower()} as usual",
        applies=_applies(code),
    )


def _check_unit(value: Any) -> Refusal | None:
    if value == "" or (isinstance(value, str) and units.find(value) is not None):
        return None
    return Refusal("unit", "Not a unit we know", help="Choose one of those offered")


def _check_columns(value: Any) -> Refusal | None:
    sound = (
        isinstance(value, list | tuple) and all(isinstance(key, str) for key in value) and len(value) <= MOST_COLUMNS
    )
    return None if sound and len(set(value)) == len(value) else Refusal("columns", "Choose columns, each once")


def _check_column(value: Any) -> Refusal | None:
    return None if isinstance(value, str) and len(value) <= 80 else Refusal("columns", "Choose a column")


def _units_of(field: FieldSaid) -> tuple[Choice, ...]:
    """The field's own unit, and those of the same dimension."""
    own = units.find(str(field.options.get("unit") or ""))
    alike = [unit.symbol for unit in units.UNITS if own is not None and unit.dimension == own.dimension]
    return (Choice("", "the field's unit"), *(Choice(symbol, symbol) for symbol in alike))


def _columns_of(field: FieldSaid) -> tuple[Choice, ...]:
    return tuple(Choice(column.key, column.label) for column in field.rules.columns(field.options))


def _headings_of(field: FieldSaid) -> tuple[Choice, ...]:
    return (Choice("", "the first column"), *_columns_of(field))


COLOUR_ALONE = "swatch"
COLOUR_AS = _chosen("colour_as", "Colour as", ("both", "swatch and name"), (COLOUR_ALONE, "swatch"), ("name", "name"))
_FORMATS: tuple[Property, ...] = (
    Property(
        "unit",
        "Unit",
        "unit",
        _check_unit,
        lambda _kind, _surface: "",
        lambda value: f"in {value}" if value else "in the field's unit",
        applies=_applies("unit"),
        choices_of=_units_of,
    ),
    _chosen(
        "decimals", "Decimals", ("filled", "as filled"), *((number, str(number)) for number in range(MOST_DECIMALS + 1))
    ),
    _chosen(
        "grouping", "Group signs", ("", "as the field says"), ("grouped", "with group signs"), ("plain", "without")
    ),
    _words("yes_words", "Words for yes"),
    _words("no_words", "Words for no"),
    _chosen(
        "several_as",
        "Several as",
        ("line", "one line"),
        ("list", "a list"),
        ("marks", "a list with marks"),
        ("numbers", "a list with numbers"),
    ),
    _chosen(
        "joiner",
        "Joined by",
        (", ", "commas"),
        ("and", "commas and “and”"),
        (" · ", "dots"),
        (" / ", "strokes"),
        ("; ", "semicolons"),
    ),
    _chosen(
        "item_order",
        "Order of several",
        ("field", "as the field says"),
        ("alphabet", "by the alphabet"),
        ("reverse", "the last first"),
    ),
    _chosen(
        "date_style",
        "Date as",
        ("medium", "medium"),
        ("short", "short"),
        ("long", "long"),
        ("full", "with the day of the week"),
        ("month", "month and year"),
        ("year", "year"),
    ),
    _words("link_words", "Words of the link"),
    _chosen("pictures_as", "Pictures as", ("strip", "a strip"), ("grid", "a grid"), ("one", "the first alone")),
    _chosen(
        "crop",
        "Pictures cut to",
        ("", "nothing cut off"),
        ("square", "a square"),
        ("wide", "4 to 3"),
        ("tall", "3 to 4"),
        ("film", "16 to 9"),
    ),
    COLOUR_AS,
    _chosen("rating_as", "Rating as", ("stars", "stars"), ("number", "a number")),
    _chosen(
        "rows_as",
        "Rows as",
        ("table", "a table"),
        ("text", "text"),
        ("list", "a list"),
        ("marks", "a list with marks"),
        ("numbers", "a list with numbers"),
        ("grid", "a grid"),
        ("accordion", "an accordion"),
        ("carousel", "a carousel"),
    ),
    Property(
        "rows_columns",
        "Columns",
        "row_columns",
        _check_columns,
        lambda _kind, _surface: (),
        lambda value: f"columns {', '.join(map(str, value))}" if value else "all columns",
        applies=_applies("rows_columns"),
        choices_of=_columns_of,
    ),
    Property(
        "rows_heading",
        "Heading of each row",
        "row_column",
        _check_column,
        lambda _kind, _surface: "",
        lambda value: f"heading from {value}" if value else "heading from the first column",
        applies=_applies("rows_heading"),
        choices_of=_headings_of,
    ),
)
FORMATS: tuple[Property, ...] = tuple(replace(prop, writes=True) for prop in _FORMATS)
"""In the order their controls stand."""
