"""Product types as JSON Schema (2020-12) of the values their products hold, as they are stored and as the feed sends them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.kinds import KINDS, Spec
from young_fabric.core.kinds.counts import MOST
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.types.product_types import type_path

DIALECT = "https://json-schema.org/draft/2020-12/schema"


def _is_of(code: str) -> Callable[[Any], bool]:
    judge = KINDS[code].judge(Spec())
    return lambda value: judge(value) is None


FORMATS: Mapping[str, Callable[[Any], bool]] = {
    code: _is_of(code) for code in ("gtin", "rich_text", "web_link", "video", "file", "rating", "date")
}
"""Formats that schemas name: what a value of a kind is beyond what JSON Schema can say, each with the function that tells."""


def schema_of_type(defs: Definitions, key: str) -> dict[str, Any]:
    """The JSON Schema of the values of a type's products, by field key. Raises KeyError when there is no such type."""
    fields = [effective for effective in defs.applicable(Group(key)) if not effective.computed]
    return {
        "$schema": DIALECT,
        "title": type_path(key, defs.types),
        "type": "object",
        "properties": {effective.field.key: schema_of_field(effective.field, defs) for effective in fields},
        "required": sorted(
            effective.field.key
            for effective in fields
            if effective.need == "required" and effective.field.default is None
        ),
        "additionalProperties": False,
    }


def schema_of_field(definition: Field, defs: Definitions) -> dict[str, Any]:
    """The JSON Schema of a field's values, with its name and help."""
    single = definition.rules.json_schema(defs.spec(definition))
    annotations = {"title": definition.name, **({"description": definition.help} if definition.help else {})}
    if not definition.many:
        return {**annotations, **single}
    least, most = definition.limits.get("min_count") or 0, definition.limits.get("max_count")
    return {
        **annotations,
        "type": "array",
        "items": single,
        "minItems": max(1, least),
        "maxItems": MOST if most is None else most,
    }
