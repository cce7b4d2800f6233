"""Files for download, kept by what is in them: safety sheets, plans, tables."""

from __future__ import annotations

import re
from collections.abc import Mapping
from decimal import Decimal
from typing import Any

from young_fabric.core.base import locales, units
from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds.base import (
    FILE_NAME,
    Judge,
    Kind,
    Show,
    Spec,
    StoredFile,
    Value,
    names_file,
    object_schema,
)
from young_fabric.core.kinds.file_types import FILE_TYPES
from young_fabric.core.kinds.limits import ALLOWED_TYPES, LARGEST_FILE
from young_fabric.core.kinds.shown import Downloads, gathered

_MEMBERS = frozenset({"file", "words", "type", "bytes"})
LONGEST_WORDS = 200
MEGABYTE = 1_000_000


class File(Kind):
    """A file as {file, words, type, bytes}: `file` is the SHA-256 of what is in it, `type` one of FILE_TYPES."""

    code, name = "file", "file"
    formats_of_many = ("item_order",)
    limits = (ALLOWED_TYPES, LARGEST_FILE)
    comparison = "presence"
    takes_default = False
    recurs = False

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        raise Refusal("file", "a file can't be typed", help="Choose a file, or drop one here")

    def well_formed(self, value: Any) -> bool:
        return (
            isinstance(value, dict)
            and value.keys() == _MEMBERS
            and names_file(value["file"])
            and isinstance(value["words"], str)
            and 0 < len(value["words"]) <= LONGEST_WORDS
            and value["words"].isprintable()
            and value["words"].strip() != ""
            and isinstance(value["type"], str)
            and value["type"] in FILE_TYPES
            and type(value["bytes"]) is int
            and value["bytes"] >= 0
        )

    def checker(self, spec: Spec) -> Judge:
        allowed, most = spec.limits.get(ALLOWED_TYPES.code), spec.limits.get(LARGEST_FILE.code)

        def check(value: Value) -> Refusal | None:
            if allowed and value["type"] not in allowed:
                labels = " or ".join(FILE_TYPES[code].label for code in allowed if code in FILE_TYPES)
                label = FILE_TYPES[value["type"]].label
                return Refusal("file_kind", f"a {label} file, this field takes {labels}", help="Choose another file")
            if most is not None and value["bytes"] > Decimal(most) * MEGABYTE:
                words = (
                    f"{size_words(value['bytes'], spec.locale)}, at most {locales.show_number(most, spec.locale)} MB"
                )
                return Refusal("file_size", words, help="Save it smaller")
            return None

        return check

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        def show(value: Value) -> Downloads:
            detail = f"{FILE_TYPES[value['type']].label}, {size_words(value['bytes'], spec.locale)}"
            return Downloads(((value["words"], f"/downloads/{value['file']}", detail),))

        return show

    def together(self, nodes: list[Any]) -> Any:
        return gathered(nodes)

    def typed(self, value: Value, spec: Spec) -> Any:  # noqa: ARG002
        return value

    def to_text(self, value: Value, spec: Spec) -> str:  # noqa: ARG002
        return f"{value['file']} {value['type']} {value['bytes']} {value['words']}"

    def from_text(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        found = re.fullmatch(r"(?P<file>\S+) (?P<type>\S+) (?P<bytes>[0-9]{1,12}) (?P<words>.+)", text.strip())
        value = None if found is None else {**found.groupdict(), "bytes": int(found["bytes"])}
        if not self.well_formed(value):
            raise Refusal("file", f"“{text[:40]}” is not a stored file", help="Upload the file first")
        return value

    def json_schema(self, spec: Spec) -> dict[str, Any]:
        allowed, most = spec.limits.get(ALLOWED_TYPES.code), spec.limits.get(LARGEST_FILE.code)
        size: dict[str, Any] = {"type": "integer", "minimum": 0}
        if most is not None:
            size["maximum"] = int(Decimal(most) * MEGABYTE)
        words = {"type": "string", "minLength": 1, "maxLength": LONGEST_WORDS}
        types = {"enum": [code for code in FILE_TYPES if not allowed or code in allowed]}
        members = {"file": FILE_NAME, "words": words, "type": types, "bytes": size}
        return {**object_schema(members), "format": self.code}

    def words(self, value: Value) -> str:
        return f"“{value['words']}”" if self.well_formed(value) else super().words(value)

    def files(self, value: Value, spec: Spec) -> tuple[str, ...]:  # noqa: ARG002
        return (value["file"],)

    def with_files(self, value: Value, stored: Mapping[str, StoredFile], spec: Spec) -> Value:  # noqa: ARG002
        found = stored.get(value["file"])
        if found is None or found.type not in FILE_TYPES:
            raise Refusal("file_gone", "There is no such file", help="Upload it again")
        return {**value, "type": found.type, "bytes": found.bytes}

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": f"{root}/downloads/{value['file']}", "name": value["words"]}


def size_words(count: int, locale: str) -> str:
    """A number of bytes in kB or MB of the locale, at most one decimal."""
    unit, size = ("MB", MEGABYTE) if count >= MEGABYTE else ("kB", 1000)
    amount = (Decimal(count) / size).quantize(Decimal("0.1") if unit == "MB" else Decimal(1))
    return f"{locales.show_number(units.plain_decimal(max(amount, Decimal(1))), locale)}\u00a0{unit}"
