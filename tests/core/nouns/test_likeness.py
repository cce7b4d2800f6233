"""Names and values that look alike."""

from __future__ import annotations

import pytest

from young_fabric.core.nouns.lists.likeness import alike_names, alike_values


@pytest.mark.parametrize(
    ("one", "other", "alike"),
    [
        ("Paper weight", "Weight of paper", True),
        ("Paper weight", "Paper-weights", True),
        ("Maker", "maker", True),
        ("Maker", "Makers", True),
        ("Maker", "Made in", False),
        ("Sheet width", "Sheet height", False),
        ("Hue", "Hair", False),
        ("A", "a", True),
        ("A", "B", False),
    ],
)
def test_names_are_alike_whatever_the_order_of_words(one: str, other: str, alike: bool) -> None:
    assert alike_names(one, other) is alike_names(other, one) is alike


def test_values_are_alike_from_three_that_are_most_of_all() -> None:
    assert alike_values("abc", "abc")
    assert not alike_values("ab", "ab"), "two are too few"
    assert alike_values("abcde", "abc")
    assert not alike_values("abcdef", "abc"), "half is too little"
    assert not alike_values("", "")
