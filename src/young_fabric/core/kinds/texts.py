"""Text, long text, and identifiers with a check digit."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, ClassVar

from stdnum import ean

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.text import clean_text
from young_fabric.core.kinds.base import Judge, Kind, Show, Spec, Value
from young_fabric.core.kinds.limits import LONGEST, PATTERN, SHORTEST, UNIQUE, Limit
from young_fabric.core.kinds.patterns import compile_pattern, portable
from young_fabric.core.kinds.schema_org import NAMED
from young_fabric.core.kinds.shown import Text as TextNode
from young_fabric.core.kinds.shown import paragraphs_of

LONGEST_TEXT = 1_000
LONGEST_LONG_TEXT = 50_000


_node = tuple.__new__
"""Makes a node of its members, at half the time of calling it."""


class Text(Kind):
    """A line of text."""

    code, name, example = "text", "text", "Gum arabic"
    shapes: ClassVar[tuple[str, ...]] = NAMED
    limits: ClassVar[tuple[Limit, ...]] = (SHORTEST, LONGEST, PATTERN, UNIQUE)
    longest = LONGEST_TEXT

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        return clean_text(text)

    def judge(self, spec: Spec) -> Judge:
        judged, (least, most) = super().judge(spec), self._lengths(spec)
        if spec.limits.get("pattern") is not None:
            return judged
        least = max(least, 1)

        # Most texts are good by their length alone, and texts are most of what pages hold.
        def judge(value: Value) -> Refusal | None:
            return None if value.__class__ is str and least <= len(value) <= most else judged(value)

        return judge

    def _lengths(self, spec: Spec) -> tuple[int, int]:
        return spec.limits.get("min_length") or 0, min(spec.limits.get("max_length", self.longest), self.longest)

    def checker(self, spec: Spec) -> Judge:
        pattern = spec.limits.get("pattern")
        least, most = self._lengths(spec)
        matches = None if pattern is None else compile_pattern(pattern)

        def check(value: Value) -> Refusal | None:
            length = len(value)
            if length < least:
                words = f"{length} characters, at least {least} are needed"
                facts = {"count": length, "least": least}
                return Refusal("short", words, help="Write a little more", facts=facts)
            if length > most:
                words, facts = f"{length:,} characters, at most {most:,} fit", {"count": length, "most": most}
                return Refusal("long", words, help="Shorten it", facts=facts)
            if matches is not None and not matches(value):
                words = f"“{value[:40]}” does not match {pattern}"
                return Refusal("pattern", words, help="Write it as the example shows")
            return None

        return check

    def bare(self, spec: Spec) -> tuple[int, int] | None:
        least, most = self._lengths(spec)
        return None if spec.limits.get("pattern") is not None else (max(least, 1), most)

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        return lambda value: paragraphs_of(value) if "\n" in value else _node(TextNode, (value,))

    def to_text(self, value: Value, spec: Spec) -> str:  # noqa: ARG002
        return str(value)

    def json_schema(self, spec: Spec) -> dict[str, Any]:
        least, most = self._lengths(spec)
        made = {"type": "string", "minLength": max(least, 1), "maxLength": most}
        pattern = spec.limits.get("pattern")
        return made if pattern is None else {**made, "pattern": f"^(?:{portable(pattern)})$"}


class LongText(Text):
    """Text of several lines and paragraphs."""

    code, name, example = "long_text", "long text", "Soak ten minutes, blot between felts."
    shapes = ("text",)
    limits = (SHORTEST, LONGEST)
    longest = LONGEST_LONG_TEXT
    takes_many = False
    recurs = False
    label = "above"

    def bare(self, spec: Spec) -> tuple[int, int] | None:  # noqa: ARG002
        return None

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        return paragraphs_of


class Gtin(Kind):
    """A GTIN of 8, 12, 13 or 14 digits (GS1 General Specifications, check digit modulo 10)."""

    code, name, example = "gtin", "GTIN", "4006381333931"
    limits = (UNIQUE,)
    shapes = ("text",)
    recurs = False

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        digits = ean.compact(text)
        if not self.well_formed(digits):
            raise Refusal(
                "check_digit",
                f"“{text.strip()[:40]}” is not a GTIN: its length or check digit is wrong",
                help="Copy all 8, 12, 13 or 14 digits from under the bar code",
            )
        return digits

    def json_schema(self, spec: Spec) -> dict[str, Any]:  # noqa: ARG002
        return {"type": "string", "format": self.code, "pattern": "^([0-9]{8}|[0-9]{12,14})$"}

    def well_formed(self, value: Any) -> bool:
        return isinstance(value, str) and value.isascii() and value.isdecimal() and bool(ean.is_valid(value))
