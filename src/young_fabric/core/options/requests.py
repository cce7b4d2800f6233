"""What shoppers give for options: read and judged by the rules of fields, dates by the day they are given on."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import date, timedelta
from decimal import Decimal
from typing import Any

from young_fabric.core.base import locales
from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds.base import names_file
from young_fabric.core.kinds.files import MEGABYTE, size_words
from young_fabric.core.kinds.limits import LARGEST_FILE, LEAST_HEIGHT, LEAST_WIDTH
from young_fabric.core.nouns.options.option_kinds import (
    DAY,
    LATEST,
    LINE,
    LINES,
    PICK,
    PICTURE,
    SOONEST,
    TAKEN_FILES,
    TICK,
    UPLOAD,
    UPLOADS,
)
from young_fabric.core.options.offers import Given, OfferedOption, amounts_of, parts_of

LONGEST_NAME = 200


def read_given(offered: OfferedOption, typed: Any, today: date, locale: str) -> Given | None:
    """What a shopper gave, None when nothing. Raises Refusal: `choice`, `few`, `many`, `long`, `pattern`, `date`, `file_kind` …"""
    return _READERS[offered.rules.control](offered, typed, today, locale)


def _picked(offered: OfferedOption, typed: Any, _today: date, locale: str) -> Given | None:
    # Most of what is sent is a code as it stands.
    known = offered.plain.get(typed) if typed.__class__ is str else None
    if known is not None and not offered.rules.several:
        return known
    value = _read(offered, typed, locale)
    if not value:
        return None
    if not offered.rules.several:
        return offered.plain[value]
    effects = (offered.option.effect, *(offered.by_code[code].effect for code in value))
    words = locales.join_words([offered.label(code) for code in value], locale)
    return Given(value, words, amounts_of(offered.option.key, effects), parts_of(effects))


def _written(offered: OfferedOption, typed: Any, _today: date, locale: str) -> Given | None:
    value = _read(offered, typed, locale)
    return _plainly(offered, value, str(value)) if value else None


def _day(offered: OfferedOption, typed: Any, today: date, locale: str) -> Given | None:
    value = _read(offered, typed, locale)
    if not value:
        return None
    _check_day(value, offered.option.limits, today, locale)
    return _plainly(offered, value, locales.show_date(value, locale))


def _ticked(offered: OfferedOption, typed: Any, _today: date, locale: str) -> Given | None:
    # Forms send a tick as it is read.
    if typed == "yes" or _read(offered, typed, locale):
        return offered.ticked(locale)
    return None


def _upload(offered: OfferedOption, value: Any, _today: date, locale: str) -> Given | None:
    if value is None or value == "":
        return None
    if not is_upload(value):
        raise Refusal("file", "This is no file that was sent", (), "Choose a file")
    check_upload(offered, value, locale)
    return _plainly(offered, dict(value), value["name"])


def _read(offered: OfferedOption, typed: Any, locale: str) -> Any:
    """A canonical value that meets the limits."""
    if typed is None or typed == "" or typed == []:
        return None
    kind, spec, judge = offered.bound(locale)
    value = kind.take(typed, spec)
    wrong = None if value is None else judge(value)
    if wrong is not None:
        raise wrong
    return value


def _plainly(offered: OfferedOption, value: Any, words: str) -> Given:
    """What was given of a request, which does what its option does."""
    return Given(value, words, offered.amounts, offered.parts)


def _check_day(value: str, limits: Mapping[str, Any], today: date, locale: str) -> None:
    day = date.fromisoformat(value)
    first = today + timedelta(days=limits.get(SOONEST.code, 0))
    if day < first:
        facts = {"case": "day", "day": locales.show_date(first.isoformat(), locale)}
        raise Refusal("below", f"The soonest is {facts['day']}", (), "Choose a later day", facts)
    if LATEST.code in limits and day > today + timedelta(days=limits[LATEST.code]):
        last = today + timedelta(days=limits[LATEST.code])
        facts = {"case": "day", "day": locales.show_date(last.isoformat(), locale)}
        raise Refusal("above", f"The latest is {facts['day']}", (), "Choose an earlier day", facts)


_MEMBERS = frozenset({"file", "name", "type", "bytes", "width", "height"})


def is_upload(value: Any) -> bool:
    """Whether any JSON value tells of a file that a shopper sent: {file, name, type, bytes, width, height}, sizes of pictures
    in pixels and 0 of all others."""
    return (
        isinstance(value, Mapping)
        and value.keys() == _MEMBERS
        and names_file(value["file"])
        and isinstance(value["name"], str)
        and 0 < len(value["name"]) <= LONGEST_NAME
        and value["name"].isprintable()
        and isinstance(value["type"], str)
        and value["type"] in UPLOADS
        and all(type(value[member]) is int and value[member] >= 0 for member in ("bytes", "width", "height"))
    )


def check_upload(offered: OfferedOption, value: Mapping[str, Any], locale: str) -> None:
    """Whether a file meets the limits of its option. Raises Refusal `file_kind`, `file_size`, `small`."""
    limits = offered.option.limits
    taken = limits.get(TAKEN_FILES.code) or (PICTURE,)
    if value["type"] not in taken:
        words = " or ".join(UPLOADS[code] for code in taken)
        raise Refusal("file_kind", f"{offered.option.name} takes {words}", (), "Choose another file", {"kinds": words})
    most = limits.get(LARGEST_FILE.code)
    if most is not None and value["bytes"] > Decimal(most) * MEGABYTE:
        size, limit_words = size_words(value["bytes"], locale), f"{locales.show_number(most, locale)} MB"
        facts = {"size": size, "most": limit_words}
        raise Refusal("file_size", f"{size}, at most {limit_words}", (), "Save it smaller", facts)
    if value["type"] != PICTURE:
        return
    for side, limit in (("width", LEAST_WIDTH), ("height", LEAST_HEIGHT)):
        least = limits.get(limit.code) or 0
        if value[side] < least:
            words = f"{value[side]} px, the {side} must be at least {least} px"
            measured: dict[str, object] = {"case": side, "has": value[side], "least": least}
            raise Refusal("small", words, (), "Choose a larger picture", measured)


_READERS: Mapping[str, Callable[[OfferedOption, Any, date, str], Given | None]] = {
    PICK: _picked,
    LINE: _written,
    LINES: _written,
    DAY: _day,
    UPLOAD: _upload,
    TICK: _ticked,
}
"""How what is given is read, by the control it is given with."""
