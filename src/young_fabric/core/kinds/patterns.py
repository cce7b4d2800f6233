"""Users' patterns, matched in linear time."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache

import re2

from young_fabric.core.base.errors import Refusal

_REPEATED_CLASS = re.compile(r"\[[A-Za-z0-9._/ -]+\][+*]")
"""Patterns that can't backtrack, so that the standard library matches them in linear time too, several times as fast."""


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
            (),
            "Letters stand for themselves, [A-Z] for one of a range, + for one or more, such as P[A-Z]+[0-9]+",
        ) from error

    if _REPEATED_CLASS.fullmatch(pattern):
        plain = re.compile(pattern).fullmatch
        return lambda value: plain(value) is not None

    # Bytes are matched several times as fast: no offsets have to be counted back into characters.
    def fits(value: str) -> bool:
        return matched(value.encode(errors="surrogatepass")) is not None

    return fits


_LITERAL = re.compile(r"\\.|\[(?:\\.|[^\]\\])*\]", re.DOTALL)
"""What is taken as it stands: a sign after a backslash, and all in brackets."""
_UNCLOSED = re.compile(r"\{\d+(?:,\d*)?(?![\d,}])")
"""The beginning of a number of times with no end, which is matched letter by letter otherwise."""
MOST_STEPS = 10_000
"""How large a compiled pattern may be (RE2's instructions): what matching costs grows with it times the length of a text."""


def check_pattern(pattern: str) -> None:
    """Whether a user's pattern can be read, and costs no more than it should. Raises Refusal `pattern_syntax`, `pattern_size`."""
    compile_pattern(pattern)
    if _UNCLOSED.search(_LITERAL.sub("", pattern)):
        words = "The pattern repeats something with “{”, and no “}” ends it"
        raise Refusal("pattern_syntax", words, (), r"Write {1,3}, or \{ where the sign itself is meant")
    options = re2.Options()
    options.log_errors = False
    if re2.compile(pattern, options).programsize > MOST_STEPS:
        words = "The pattern takes too long to match: it repeats something many times"
        raise Refusal("pattern_size", words, (), "Repeat less often, or limit how long the text may be instead")


_CLASSES = {r"\d": "[0-9]", r"\D": "[^0-9]", r"\w": "[0-9A-Za-z_]", r"\W": "[^0-9A-Za-z_]"}
"""What RE2 means by these, written so that every engine means the same."""
_ESCAPED = re.compile(r"\\.")


def portable(pattern: str) -> str:
    """A user's pattern as other engines read it (ECMA-262); flags and classes of scripts, which they write otherwise, stay."""
    return _ESCAPED.sub(lambda found: _CLASSES.get(found[0], found[0]), pattern)
