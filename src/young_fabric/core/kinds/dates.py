"""Dates."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Any

from young_fabric.core.base import locales
from young_fabric.core.kinds.base import Kind, Show, Spec, Value
from young_fabric.core.kinds.shown import Text


class Date(Kind):
    """A day, kept as ISO 8601."""

    code, name, example = "date", "date", "2026-02-28"
    shapes = ("date",)
    formats = ("date_style",)
    comparison = "date"

    def read(self, text: str, spec: Spec) -> Value:
        return locales.read_date(text, spec.locale)

    def well_formed(self, value: Any) -> bool:
        if not isinstance(value, str) or len(value) != 10:
            return False
        try:
            return date.fromisoformat(value).isoformat() == value
        except ValueError:
            return False

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:
        style = properties.get("date_style") or "medium"
        return lambda value: Text(locales.show_date(value, spec.locale, style))

    def to_text(self, value: Value, spec: Spec) -> str:  # noqa: ARG002
        return str(value)

    def json_schema(self, spec: Spec) -> dict[str, Any]:  # noqa: ARG002
        return {"type": "string", "format": "date", "pattern": "^[0-9]{4}-[0-9]{2}-[0-9]{2}$"}

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": value}
