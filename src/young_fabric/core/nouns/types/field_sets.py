"""Field sets: reusable groups of fields in named sections."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.base.wording.counting import counted
from young_fabric.core.kinds.base import in_words
from young_fabric.core.nouns.base import (
    Bearing,
    Calling,
    Known,
    Noun,
    Reference,
    Referring,
    State,
    Stored,
    Taking,
    Telling,
    state_of,
)

MOST_SECTIONS = 30
MOST_FIELDS = 300


@dataclass(frozen=True)
class Section:
    """A named part of a set; `key` is stable within the set."""

    __pydantic_config__ = STRICT
    key: str
    name: str
    fields: tuple[str, ...] = ()


@dataclass(frozen=True)
class FieldSet:
    """Sections of field keys, in order. A field stands in a set once.

    A set limited to `collections` comes with being in one of them, whatever the type, and with nothing else.
    """

    __pydantic_config__ = STRICT
    key: str
    name: str
    sections: tuple[Section, ...] = ()
    collections: tuple[str, ...] = ()

    @property
    def fields(self) -> tuple[str, ...]:
        """All field keys, in order."""
        return tuple(key for section in self.sections for key in section.fields)


def check_field_set(field_set: FieldSet, defs: Known) -> None:
    """Raises Refusal: `required`, `long`, `too_many`, `section_twice`, `field_twice`, `unknown_field`,
    `unknown_collection`, `twice`."""
    if not field_set.name.strip():
        raise Refusal("required", "A field set needs a name", ("name",), "Type a name")
    if len(field_set.name) > 80:
        raise Refusal("long", "At most 80 characters fit", ("name",), "Shorten it")
    if len(field_set.sections) > MOST_SECTIONS or len(field_set.fields) > MOST_FIELDS:
        words = f"A set has at most {MOST_SECTIONS} sections and {MOST_FIELDS} fields"
        raise Refusal("too_many", words, ("sections",), "Make two sets")
    keys: set[str] = set()
    taken: set[str] = set()
    for index, section in enumerate(field_set.sections):
        _check_section(section, index, keys)
        keys.add(section.key)
        for position, key in enumerate(section.fields):
            where = ("sections", index, "fields", position)
            if key not in defs.product_fields:
                raise Refusal("unknown_field", f"There is no field {key[:60]}", where, "Take it off")
            if key in taken:
                raise Refusal("field_twice", f"{key[:60]} stands in this set twice", where, "Keep one")
            taken.add(key)
    for index, key in enumerate(field_set.collections):
        if key not in defs.things["collection"]:
            raise Refusal(
                "unknown_collection", f"There is no collection {key[:60]}", ("collections", index), "Take it off"
            )
        if key in field_set.collections[:index]:
            raise Refusal("twice", f"{key[:60]} stands here twice", ("collections", index), "Keep one")


def _check_section(section: Section, index: int, keys: set[str]) -> None:
    where = ("sections", index)
    if not section.name.strip():
        raise Refusal("required", "A section needs a name", (*where, "name"), "Type a name")
    if len(section.name) > 80 or len(section.key) > 60 or not section.key:
        raise Refusal("long", "At most 80 characters fit", (*where, "name"), "Shorten it")
    if section.key in keys:
        raise Refusal("section_twice", "Two sections have one key", (*where, "key"), "Change one")


def _refers(field_set: FieldSet) -> Iterable[Reference]:
    for section in field_set.sections:
        for key in section.fields:
            yield Reference("field", key, f"sections.{section.key}")
    for key in field_set.collections:
        yield Reference("collection", key, "collections")


def _inside(state: State) -> list[str]:
    return [key for section in state["sections"] for key in section["fields"]]


def field_names(keys: Iterable[str], named: Mapping[str, Any]) -> str:
    """Names of keys, joined."""
    return ", ".join(named[key].name if key in named else str(key) for key in keys)


def _describe(before: State, after: State, defs: Known) -> list[str]:
    old, new = _inside(before), _inside(after)
    out = []
    added, gone = [key for key in new if key not in old], [key for key in old if key not in new]
    if added:
        out.append(f"{field_names(added, defs.all_fields)} added")
    if gone:
        out.append(f"{field_names(gone, defs.all_fields)} taken off")
    if not added and not gone and before["sections"] != after["sections"]:
        out.append("sections or order changed")
    if before.get("collections", []) != after["collections"]:
        limited = field_names(after["collections"], defs.things["collection"])
        out.append(f"limited to {limited}" if limited else "no longer limited to collections")
    if before["name"] != after["name"]:
        out.append(f"name {in_words(before['name'])} → {in_words(after['name'])}")
    return out or ["no difference"]


def _taking(field_set: FieldSet, field: str) -> Mapping[str, Any]:
    """A field goes to the end of the last section; one that is there stays where it is."""
    if field in field_set.fields:
        return {}
    *before, last = field_set.sections or (Section("main", "General"),)
    return {"sections": [state_of(section) for section in (*before, replace(last, fields=(*last.fields, field)))]}


def _with_field(field_set: FieldSet, field: str, into: str) -> FieldSet:
    """The field gives its place to the other, which keeps its own where it has one in the set."""
    put = {field: None if into in field_set.fields else into}
    sections = tuple(
        replace(section, fields=tuple(key for name in section.fields if (key := put.get(name, name)) is not None))
        for section in field_set.sections
    )
    return replace(field_set, sections=sections)


NOUN = Noun(
    code="field_set",
    plural="field_sets",
    name="field set",
    group="What it is",
    type=FieldSet,
    check=check_field_set,
    blank=lambda key, name, _defs: FieldSet(key, name, (Section("main", "General"),)),
    telling=Telling(describe=_describe),
    bearing=Bearing(judges=True),
    referring=Referring(refers=_refers, with_field=_with_field),
    stored=Stored(keyed={"sections": "key", "sections/*/fields": "", "collections": ""}),
    calling=Calling(note=lambda thing, _defs: counted(len(thing.fields), "field")),
    taking=Taking(members=_taking),
)
