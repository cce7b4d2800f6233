"""Phrases: what stands in them comes out, and what can't be read is refused with its code."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.phrases import read_phrase

KNOWN = {"title", "hue", "size"}
TEXT = st.text(alphabet="ab {}[]ü\t", max_size=24)


def escaped(text: str) -> str:
    return "".join(sign * 2 if sign in "{}[]" else sign for sign in text)


@given(TEXT)
def test_doubled_signs_stand_for_themselves(text: str) -> None:
    assert read_phrase(escaped(text), KNOWN).fill({}) == " ".join(text.split())


@given(TEXT)
def test_anything_is_read_or_refused_by_the_rules(text: str) -> None:
    try:
        phrase = read_phrase(text, KNOWN)
    except Refusal as refusal:
        assert refusal.code in {"syntax", "nested", "unknown_token"}
        assert refusal.help
    else:
        assert phrase.fill({}, "x")


@given(st.text(alphabet="abc ", min_size=1, max_size=9), st.sampled_from(["", " ", "\t\n", None]))
def test_a_part_goes_with_any_of_its_tokens(value: str, nothing: str | None) -> None:
    phrase = read_phrase("{title}[, {hue} of {size}]", KNOWN)
    assert phrase.tokens == {"title", "hue", "size"}
    whole = phrase.fill({"title": "Jar", "hue": f"x{value}", "size": "S"})
    assert whole == " ".join(f"Jar, x{value} of S".split())
    empty = {"title": "Jar", "hue": value, **({} if nothing is None else {"size": nothing})}
    assert phrase.fill(empty) == "Jar"


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("{title", "syntax"),
        ("title}", "syntax"),
        ("{Title}", "syntax"),
        ("{ title }", "syntax"),
        ("{}", "syntax"),
        ("[a", "syntax"),
        ("a]", "syntax"),
        ("[a [b] c]", "nested"),
        ("{price}", "unknown_token"),
        ("[{price}]", "unknown_token"),
        ("{{title}", "syntax"),
    ],
)
def test_what_can_not_be_read(text: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        read_phrase(text, KNOWN)
    assert caught.value.code == code


def test_a_phrase_that_comes_out_empty_gives_its_fallback() -> None:
    assert read_phrase(" [{hue}] ", KNOWN).fill({}, "Jar") == "Jar"
    assert read_phrase("{{{title}}}", KNOWN).fill({"title": "Jar"}) == "{Jar}"
