"""Rich text: whatever is pasted, only clean HTML is kept, shown and judged."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds import KINDS, Spec
from young_fabric.core.kinds.rich_text import LONGEST_RICH_TEXT, TAGS, cleaned, plain

RICH, SPEC = KINDS["rich_text"], Spec()
SCRIPTS = '<p>a<script>x()</script><img src=x onerror="x()"><a href="JaVaScRiPt:x()" onclick="x()">b</a></p>'


@pytest.mark.parametrize(
    ("typed", "kept"),
    [
        ("<p>Soak <strong>ten</strong> minutes</p>", "<p>Soak <strong>ten</strong> minutes</p>"),
        (SCRIPTS, '<p>a<a rel="noopener">b</a></p>'),
        ("<h1>Care</h1><p style='color:red' class=x><b>a</b> <i>b</i></p>", "<h4>Care</h4><p><strong>a</strong> <em>b</em></p>"),
        ('<p><a href="https://a.example/?b=c&d" target="_blank">x</a></p>', '<p><a href="https://a.example/?b=c&amp;d" rel="noopener">x</a></p>'),
        ("<div><ul><li>a</li><li>b</ul></div>", "<ul><li>a</li><li>b</li></ul>"),
        ("a & b < c", "<p>a &amp; b &lt; c</p>"),
        ("one\ntwo\n\nthree", "<p>one<br>two</p><p>three</p>"),
        ("<em>a</em> b", "<p><em>a</em> b</p>"),
        ("<p>a</p><p></p><p><br></p>", "<p>a</p>"),
        ("<!-- c --><p>a</p>", "<p>a</p>"),
        ("<p></p>", None),
        ("<p>&nbsp;</p><ul><li></li></ul>", None),
        ("<script>x()</script>", None),
    ],
)  # fmt: skip
def test_of_what_is_pasted_clean_html_is_kept(typed: str, kept: str | None) -> None:
    value = RICH.read(typed, SPEC)
    assert value == kept
    if kept is not None:
        assert RICH.well_formed(value)
        assert RICH.read(value, SPEC) == value


@given(st.one_of(st.text(max_size=60), st.text(alphabet="<>/pulib a=\"'&;:!-hrefjs", max_size=60)))
def test_whatever_comes_is_clean_after_reading_and_stays_so(text: str) -> None:
    try:
        value = RICH.read(text, SPEC)
    except Refusal as refusal:
        assert refusal.code == "text"
        return
    if value is not None:
        assert cleaned(value) == value
        assert RICH.judge(SPEC)(value) is None
        assert RICH.read(value, SPEC) == value
        assert "javascript:" not in value.lower()


@pytest.mark.parametrize("value", [SCRIPTS, "<p class=x>a</p>", "<p>a", "\ud800", "", None, 3, ["<p>a</p>"], {"a": 1}])
def test_what_is_stored_otherwise_is_wrong_and_never_raises(value: Any) -> None:
    wrong = RICH.judge(SPEC)(value)
    assert wrong is not None
    assert wrong.code == "shape"
    assert RICH.words(value)


def test_limits_count_the_text_and_not_the_tags() -> None:
    judge = RICH.judge(Spec({"min_length": 3, "max_length": 5}))
    verdicts = {text: judge(f"<p><strong>{text}</strong></p>") for text in ("ab", "abc", "abcde", "abcdef", "ab&amp;")}
    assert {text: wrong.code if wrong else None for text, wrong in verdicts.items()} == {
        "ab": "short",
        "abc": None,
        "abcde": None,
        "abcdef": "long",
        "ab&amp;": None,
    }
    whole = f"<p>{'a' * LONGEST_RICH_TEXT}</p>"
    assert RICH.judge(SPEC)(whole) is None
    assert RICH.judge(SPEC)(whole.replace("a", "aa", 1)) is not None
    with pytest.raises(Refusal) as caught:
        RICH.read("<p>" + "a" * (4 * LONGEST_RICH_TEXT), SPEC)
    assert caught.value.code == "long"


@pytest.mark.parametrize(
    "typed", ["<p></p>" * 25_000 + "<p>a</p>", "<blockquote>" * 15_000 + "a", "<" * 190_000, "<p>&" * 45_000]
)
def test_much_of_nothing_is_read_all_the_same(typed: str) -> None:
    try:
        value = RICH.read(typed, SPEC)
    except Refusal as refusal:
        assert refusal.code == "long"
        return
    assert RICH.judge(SPEC)(value) is None or len(value) > LONGEST_RICH_TEXT


def test_it_shows_as_html_and_is_text_elsewhere() -> None:
    value = "<h4>Care</h4><ul><li>a &amp; b</li><li>c</li></ul><p>d<br>e</p>"
    node = RICH.shower(SPEC, {})(value)
    assert (node.tag, node.html, node.plain) == ("rich", value, "Care\na & b\nc\nd\ne")
    assert plain("<p>a</p>") == "a"
    assert TAGS.isdisjoint({"script", "style", "img", "iframe", "svg", "form", "input"})
