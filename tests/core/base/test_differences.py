"""Texts told apart word by word."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base.differences import ADDED, GONE, MOST_WORDS, SAME, differences

TEXTS = st.text(alphabet="ab \n", max_size=40).map(str.strip)


@given(TEXTS, TEXTS)
def test_the_pieces_give_both_texts_again(first: str, second: str) -> None:
    pieces = differences(first, second)
    assert "".join(piece.text for piece in pieces if piece.how != ADDED).split() == first.split()
    assert "".join(piece.text for piece in pieces if piece.how != GONE).split() == second.split()


def test_equal_texts_are_one_piece() -> None:
    assert differences("one two", "one two") == ((SAME, "one two"),)
    assert differences("", "") == ()


def test_of_long_texts_it_is_told_only_that_they_differ() -> None:
    most = "word " * MOST_WORDS
    assert [piece.how for piece in differences(most, most)] == [SAME]
    assert [piece.how for piece in differences(most, most + "more")] == [GONE, ADDED]
