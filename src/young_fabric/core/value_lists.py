"""Value lists: shared, ordered values with codes, labels and synonyms."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from young_fabric.core.errors import Refusal
from young_fabric.core.shapes import STRICT

MOST_VALUES = 2000
CODE = re.compile(r"[a-z0-9][a-z0-9_-]{0,59}")


@dataclass(frozen=True)
class ListValue:
    """One value: `code` is stored, `label` shown, `synonyms` read too; `retired` ones are no longer offered."""

    __pydantic_config__ = STRICT
    code: str
    label: str
    synonyms: tuple[str, ...] = ()
    retired: bool = False


@dataclass(frozen=True)
class ValueList:
    """An ordered list of values under a stable key."""

    key: str
    name: str
    values: tuple[ListValue, ...] = ()

    @cached_property
    def by_code(self) -> Mapping[str, ListValue]:
        """Every value, retired ones too, by its code."""
        return {value.code: value for value in self.values}

    @cached_property
    def _lookup(self) -> Mapping[str, str]:
        found: dict[str, str] = {}
        live = [value for value in self.values if not value.retired]
        for value in live:
            found.setdefault(fold(value.code), value.code)
        for value in live:
            found.setdefault(fold(value.label), value.code)
        for value in live:
            for synonym in value.synonyms:
                found.setdefault(fold(synonym), value.code)
        return found

    def find(self, text: str) -> str | None:
        """The code meant by `text`: all codes are tried first, then labels, then synonyms."""
        return self._lookup.get(fold(text))

    def label(self, code: str) -> str:
        """The shopper label of a code, or the code itself when the list lacks it."""
        value = self.by_code.get(code)
        return value.label if value else code


def fold(text: str) -> str:
    """Text as compared: composed, trimmed, without regard to case."""
    return unicodedata.normalize("NFC", text).strip().casefold()


def make_code(label: str, taken: Iterable[str] = ()) -> str:
    """A code from a label: plain letters, digits and hyphens, numbered when taken."""
    plain = unicodedata.normalize("NFKD", label).encode("ascii", "ignore").decode().lower()
    base = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:50] or "value"
    used, code, number = set(taken), base, 2
    while code in used:
        code, number = f"{base}-{number}", number + 1
    return code


def check_list(values: ValueList) -> None:
    """Raises Refusal: `required`, `too_many`, `code`, `code_twice`, `label_twice`."""
    if not values.name.strip():
        raise Refusal("required", "A value list needs a name", ("name",), "Type a name")
    if len(values.values) > MOST_VALUES:
        raise Refusal("too_many", f"A list holds at most {MOST_VALUES} values", ("values",), "Split it in two lists")
    codes: set[str] = set()
    labels: set[str] = set()
    for place, value in enumerate(values.values):
        if not CODE.fullmatch(value.code):
            raise Refusal(
                "code",
                f"“{value.code}” can't be a code",
                ("values", place, "code"),
                "Use small letters, digits, hyphen and underscore, at most 60",
            )
        if value.code in codes:
            raise Refusal(
                "code_twice", f"Two values have the code {value.code}", ("values", place, "code"), "Change one"
            )
        codes.add(value.code)
        if not value.label.strip():
            raise Refusal("required", "A value needs a label", ("values", place, "label"), "Type what shoppers read")
        if fold(value.label) in labels:
            raise Refusal(
                "label_twice", f"“{value.label}” stands in the list twice", ("values", place, "label"), "Change one"
            )
        labels.add(fold(value.label))


@dataclass(frozen=True)
class Paste:
    """What a pasted list would do: the list after it, the values added, and lines skipped with the reason."""

    result: ValueList
    added: tuple[ListValue, ...] = ()
    skipped: tuple[tuple[int, str, str], ...] = field(default_factory=tuple)


def paste(values: ValueList, text: str) -> Paste:
    """Read one value a line: `label`, or `label<tab>code<tab>synonym, synonym`; known ones are skipped.

    Semicolons do for tabs. Lines are numbered from 1. A line of a retired value brings it back.
    """
    current = list(values.values)
    added: list[ListValue] = []
    skipped: list[tuple[int, str, str]] = []
    for number, line in enumerate(text.splitlines(), start=1):
        parts = [part.strip() for part in re.split(r"[\t;]", line)]
        label = parts[0]
        if not label:
            continue
        if any(fold(v.label) == fold(label) and not v.retired for v in current):
            skipped.append((number, label, "already in the list"))
            continue
        back = next((i for i, v in enumerate(current) if fold(v.label) == fold(label)), None)
        if back is not None:
            current[back] = replace(current[back], retired=False)
            added.append(current[back])
            continue
        codes = {v.code for v in current}
        code = parts[1] if len(parts) > 1 and parts[1] else make_code(label, codes)
        if not CODE.fullmatch(code):
            skipped.append((number, label, f"“{code}” can't be a code"))
        elif code in codes:
            skipped.append((number, label, f"the code {code} is taken"))
        elif len(current) >= MOST_VALUES:
            skipped.append((number, label, f"a list holds at most {MOST_VALUES} values"))
        else:
            synonyms = tuple(s.strip() for s in ",".join(parts[2:]).split(",") if s.strip())
            current.append(ListValue(code, label, synonyms))
            added.append(current[-1])
    return Paste(replace(values, values=tuple(current)), tuple(added), tuple(skipped))
