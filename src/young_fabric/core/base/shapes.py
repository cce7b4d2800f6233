"""How things are read from outside by their type."""

from __future__ import annotations

STRICT = {"extra": "forbid"}
"""The `__pydantic_config__` of things that are sent whole: members nobody knows are refused, not dropped."""
