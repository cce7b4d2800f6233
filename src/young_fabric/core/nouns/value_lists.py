"""Value lists: shared, ordered values with codes, labels and synonyms."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import TYPE_CHECKING, Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.base.text import CODE, fold, make_code
from young_fabric.core.kinds.base import in_words
from young_fabric.core.nouns.base import Noun, State

if TYPE_CHECKING:
    from young_fabric.core.nouns.definitions import Definitions

MOST_VALUES = 2000
LONGEST_LABEL = 200


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

    __pydantic_config__ = STRICT
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

    def offered(self) -> tuple[str, ...]:
        """The labels that can be chosen."""
        return tuple(value.label for value in self.values if not value.retired)


def check_list(values: ValueList, defs: Definitions | None = None) -> None:  # noqa: ARG001
    """Raises Refusal: `required`, `long`, `too_many`, `code`, `code_twice`, `label_twice`."""
    if not values.name.strip():
        raise Refusal("required", "A value list needs a name", ("name",), "Type a name")
    if len(values.name) > 80:
        raise Refusal("long", "At most 80 characters fit", ("name",), "Shorten it")
    if len(values.values) > MOST_VALUES:
        raise Refusal("too_many", f"A list holds at most {MOST_VALUES} values", ("values",), "Split it in two lists")
    codes: set[str] = set()
    labels: set[str] = set()
    for index, value in enumerate(values.values):
        _check_value(value, index, codes, labels)
        codes.add(value.code)
        labels.add(fold(value.label))


def _check_value(value: ListValue, index: int, codes: set[str], labels: set[str]) -> None:
    where = ("values", index)
    if not CODE.fullmatch(value.code):
        raise Refusal(
            "code",
            f"“{value.code[:60]}” can't be a code",
            (*where, "code"),
            "Use small letters, digits, hyphen and underscore, at most 60",
        )
    if value.code in codes:
        raise Refusal("code_twice", f"Two values have the code {value.code}", (*where, "code"), "Change one")
    if not value.label.strip():
        raise Refusal("required", "A value needs a label", (*where, "label"), "Type what shoppers read")
    if len(value.label) > LONGEST_LABEL or any(len(synonym) > LONGEST_LABEL for synonym in value.synonyms):
        raise Refusal("long", f"At most {LONGEST_LABEL} characters fit", (*where, "label"), "Shorten it")
    if fold(value.label) in labels:
        raise Refusal("label_twice", f"“{value.label}” stands in the list twice", (*where, "label"), "Change one")


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


def _some(labels: list[str]) -> str:
    return ", ".join(labels[:4]) + ("…" if len(labels) > 4 else "")


def _describe(before: State, after: State, defs: Definitions) -> list[str]:  # noqa: ARG001
    old: dict[str, Any] = {value["code"]: value for value in before["values"]}
    new: dict[str, Any] = {value["code"]: value for value in after["values"]}
    both = [code for code in old if code in new]
    added = [value["label"] for code, value in new.items() if code not in old]
    counts = {
        f"{len(added)} value{'s' if len(added) > 1 else ''} added": added,
        "removed": [value["label"] for code, value in old.items() if code not in new],
        "retired": [new[code]["label"] for code in both if new[code]["retired"] and not old[code]["retired"]],
        "brought back": [new[code]["label"] for code in both if old[code]["retired"] and not new[code]["retired"]],
    }
    out = [f"{words}: {_some(labels)}" for words, labels in counts.items() if labels]
    out += [
        f"label {in_words(old[code]['label'])} → {in_words(new[code]['label'])}"
        for code in both
        if old[code]["label"] != new[code]["label"]
    ]
    if any(old[code]["synonyms"] != new[code]["synonyms"] for code in both):
        out.append("synonyms changed")
    if both != [code for code in new if code in old]:
        out.append("order changed")
    if before["name"] != after["name"]:
        out.append(f"name {in_words(before['name'])} → {in_words(after['name'])}")
    return out or ["no difference"]


NOUN = Noun(
    code="value_list",
    plural="value_lists",
    name="value list",
    group="What it is",
    type=ValueList,
    check=check_list,
    describe=_describe,
    judges=True,
    blank=lambda key, name, _defs: ValueList(key, name),
    keyed={"values": "code"},
    note=lambda thing, _defs: f"{len(thing.values)} values",
)
