"""Colours."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds.base import Kind, Show, Spec, Value
from young_fabric.core.kinds.shown import Swatches, gathered

_TYPED = re.compile("#([0-9a-f]{3}|[0-9a-f]{6})")
_KEPT = re.compile("#[0-9a-f]{6}")


def read_colour(text: str) -> str:
    """A typed colour as #rrggbb. Raises Refusal `colour`."""
    body = text.strip().lower()
    if not _TYPED.fullmatch(body):
        raise Refusal("colour", f"“{body[:40]}” is not a colour", help="Write # and six digits, such as #27476e")
    return body if len(body) == 7 else "#" + "".join(digit * 2 for digit in body[1:])


class Colour(Kind):
    """A colour as sRGB hex, kept as #rrggbb."""

    code, name, example = "colour", "colour", "#27476e"
    shapes = ("text",)
    formats = ("colour_as",)
    formats_of_many = ("item_order",)

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        return read_colour(text)

    def well_formed(self, value: Any) -> bool:
        return isinstance(value, str) and _KEPT.fullmatch(value) is not None

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        how = properties.get("colour_as") or "both"
        return lambda value: Swatches(((value, value),), how)

    def json_schema(self, spec: Spec) -> dict[str, Any]:  # noqa: ARG002
        return {"type": "string", "pattern": "^#[0-9a-f]{6}$"}

    def together(self, nodes: list[Any]) -> Any:
        return gathered(nodes)
