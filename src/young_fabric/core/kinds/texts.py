"""Text, long text, and identifiers with a check digit."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from typing import ClassVar

import re2
from stdnum import ean
from stdnum.exceptions import ValidationError

from young_fabric.core.errors import Refusal
from young_fabric.core.kinds.base import Kind, Limits, Spec, Value
from young_fabric.core.locales import clean_text

LONGEST_TEXT = 1_000
LONGEST_LONG_TEXT = 50_000


@lru_cache(maxsize=512)
def compile_pattern(pattern: str) -> Callable[[str], bool]:
    """A user's pattern as a test of whole values, in linear time (RE2 syntax). Raises Refusal `pattern_syntax`."""
    options = re2.Options()
    options.log_errors = False
    options.never_capture = True
    try:
        matched = re2.compile(pattern, options).fullmatch
    except re2.error as error:
        why = error.args[0] if error.args else error
        why = why.decode() if isinstance(why, bytes) else str(why)
        raise Refusal(
            "pattern_syntax",
            f"The pattern can't be read: {why}",
            ("limits", "pattern"),
            "Letters stand for themselves, [A-Z] for one of a range, + for one or more, such as P[A-Z]+[0-9]+",
        ) from error

    # Bytes are matched several times as fast: no offsets have to be counted back into characters.
    def fits(value: str) -> bool:
        return matched(value.encode()) is not None

    return fits


class Text(Kind):
    """A line of text."""

    code, name, example = "text", "text", "Gum arabic"
    limits: ClassVar[tuple[str, ...]] = ("min_length", "max_length", "pattern")
    longest = LONGEST_TEXT

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        return clean_text(text)

    def check(self, value: Value, spec: Spec) -> Refusal | None:
        limits, length = spec.limits, len(value)
        if limits.min_length is not None and length < limits.min_length:
            return Refusal(
                "short", f"{length} characters, at least {limits.min_length} are needed", help="Write a little more"
            )
        most = self._most(limits)
        if length > most:
            return Refusal("long", f"{length:,} characters, at most {most:,} fit", help="Shorten it")
        if limits.pattern is not None and not compile_pattern(limits.pattern)(value):
            return Refusal(
                "pattern", f"“{value[:40]}” does not match {limits.pattern}", help="Write it as the example shows"
            )
        return None

    def _most(self, limits: Limits) -> int:
        return self.longest if limits.max_length is None else min(limits.max_length, self.longest)

    def bind(self, spec: Spec) -> Callable[[Value], str | None]:
        limits = spec.limits
        least, most = max(limits.min_length or 0, 1), self._most(limits)
        matches = None if limits.pattern is None else compile_pattern(limits.pattern)

        def shown(value: Value) -> str | None:
            good = value.__class__ is str and least <= len(value) <= most and (matches is None or matches(value))
            return value if good else None

        return shown


class LongText(Text):
    """Text of several lines and paragraphs."""

    code, name, example = "long_text", "long text", "Soak ten minutes, blot between felts."
    limits = ("min_length", "max_length")
    longest = LONGEST_LONG_TEXT
    takes_many = False
    label = "above"


class Gtin(Kind):
    """A GTIN of 8, 12, 13 or 14 digits (GS1 General Specifications, check digit modulo 10)."""

    code, name, example = "gtin", "GTIN", "4006381333931"

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        try:
            digits = str(ean.validate(text))
        except ValidationError as error:
            raise Refusal(
                "check_digit",
                f"“{text.strip()[:40]}” is not a GTIN: its length or check digit is wrong",
                help="Copy all 8, 12, 13 or 14 digits from under the bar code",
            ) from error
        return digits
