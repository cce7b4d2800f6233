"""Field sets: reusable groups of fields in named sections."""

from __future__ import annotations

from collections.abc import Container
from dataclasses import dataclass

from young_fabric.core.errors import Refusal
from young_fabric.core.shapes import STRICT

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
    """Sections of field keys, in order. A field stands in a set once."""

    key: str
    name: str
    sections: tuple[Section, ...] = ()

    @property
    def fields(self) -> tuple[str, ...]:
        """All field keys, in order."""
        return tuple(key for section in self.sections for key in section.fields)


def check_field_set(this: FieldSet, fields: Container[str]) -> None:
    """Raises Refusal: `required`, `too_many`, `section_twice`, `field_twice`, `unknown_field`."""
    if not this.name.strip():
        raise Refusal("required", "A field set needs a name", ("name",), "Type a name")
    if len(this.sections) > MOST_SECTIONS or len(this.fields) > MOST_FIELDS:
        raise Refusal(
            "too_many",
            f"A set has at most {MOST_SECTIONS} sections and {MOST_FIELDS} fields",
            ("sections",),
            "Make two sets",
        )
    keys: set[str] = set()
    seen: set[str] = set()
    for place, section in enumerate(this.sections):
        if not section.name.strip():
            raise Refusal("required", "A section needs a name", ("sections", place, "name"), "Type a name")
        if section.key in keys:
            raise Refusal("section_twice", "Two sections have one key", ("sections", place, "key"), "Change one")
        keys.add(section.key)
        for at, key in enumerate(section.fields):
            if key not in fields:
                raise Refusal(
                    "unknown_field", f"There is no field {key}", ("sections", place, "fields", at), "Take it off"
                )
            if key in seen:
                raise Refusal(
                    "field_twice", f"{key} stands in the set twice", ("sections", place, "fields", at), "Keep one"
                )
            seen.add(key)
