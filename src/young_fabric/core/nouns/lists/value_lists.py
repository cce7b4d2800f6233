"""Value lists: shared, ordered values with codes, labels and synonyms."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.base.text import fold
from young_fabric.core.base.wording.counting import counted
from young_fabric.core.kinds.base import in_words
from young_fabric.core.nouns.base import (
    AsValue,
    Bearing,
    Calling,
    Known,
    Noun,
    Sent,
    State,
    Stored,
    Telling,
    Within,
    state_of,
)
from young_fabric.core.nouns.lists.list_values import ListValue, check_values

MOST_VALUES = 2000


@dataclass(frozen=True)
class ValueList:
    """An ordered list of values under a stable key; one that `grows` is added to while products are filled."""

    __pydantic_config__ = STRICT
    key: str
    name: str
    values: tuple[ListValue, ...] = ()
    grows: bool = True

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

    @cached_property
    def more(self) -> bool:
        """Whether any of its values shows more than its label."""
        return any(value.more for value in self.values)

    @cached_property
    def looks(self) -> list[Any]:
        """All that decides how its values show."""
        return [_look(value) for value in self.values]

    def label(self, code: str) -> str:
        """The shopper label of a code, or the code itself when the list lacks it."""
        value = self.by_code.get(code)
        return value.label if value else code

    def offered(self) -> tuple[str, ...]:
        """The labels that can be chosen."""
        return tuple(value.label for value in self.values if not value.retired)


def _look(value: ListValue) -> Any:
    look = (value.code, value.label)
    return (*look, state_of(value.swatch), value.note, value.link) if value.more else look


def check_list(values: ValueList, defs: Known | None = None) -> None:  # noqa: ARG001
    """Raises Refusal: `required`, `long`, `too_many`, or of its values."""
    if not values.name.strip():
        raise Refusal("required", "A value list needs a name", ("name",), "Type a name")
    if len(values.name) > 80:
        raise Refusal("long", "At most 80 characters fit", ("name",), "Shorten it")
    if len(values.values) > MOST_VALUES:
        raise Refusal("too_many", f"A list holds at most {MOST_VALUES} values", ("values",), "Split it in two lists")
    check_values(values.values)


def _some(labels: list[str]) -> str:
    return ", ".join(labels[:4]) + ("…" if len(labels) > 4 else "")


def _describe(before: State, after: State, defs: Known) -> list[str]:  # noqa: ARG001
    old: dict[str, Any] = {value["code"]: value for value in before["values"]}
    new: dict[str, Any] = {value["code"]: value for value in after["values"]}
    both = [code for code in old if code in new]
    added = [value["label"] for code, value in new.items() if code not in old]
    counts = {
        f"{counted(len(added), 'value')} added": added,
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
    for member in ("synonyms", "swatch", "note", "link"):
        differ = [new[code]["label"] for code in both if old[code].get(member) != new[code].get(member)]
        if differ:
            out.append(f"{member} changed: {_some(differ)}")
    if before.get("grows", True) != after.get("grows", True):
        out.append("can be added to while filling" if after.get("grows", True) else "no longer added to while filling")
    if both != [code for code in new if code in old]:
        out.append("order changed")
    if before["name"] != after["name"]:
        out.append(f"name {in_words(before['name'])} → {in_words(after['name'])}")
    return out or ["no difference"]


def _without_files(values: ValueList, files: Collection[str]) -> ValueList:
    kept = (
        replace(value, swatch=replace(value.swatch, picture="")) if value.swatch.picture in files else value
        for value in values.values
    )
    return replace(values, values=tuple(kept))


def _within(values: ValueList) -> Iterator[Within]:
    for value in values.values:
        yield Within(
            "list_value", f"{values.key}/{value.code}", value.label, (value.code, *value.synonyms), values.name
        )


NOUN = Noun(
    code="value_list",
    plural="value_lists",
    name="value list",
    group="What it is",
    type=ValueList,
    check=check_list,
    blank=lambda key, name, _defs: ValueList(key, name),
    bearing=Bearing(offers=True, judges=True),
    telling=Telling(describe=_describe),
    stored=Stored(keyed={"values": "code"}),
    calling=Calling(note=lambda thing, _defs: counted(len(thing.values), "value"), within=_within),
    chosen=AsValue(choices=lambda key, defs: defs.lists.get(key)),
    sent=Sent(
        files=lambda thing: tuple(value.swatch.picture for value in thing.values if value.swatch.picture),
        without_files=_without_files,
    ),
)
