"""Finding by words: one order for every place."""

from __future__ import annotations

import pytest

from young_fabric.core.base.wording.finding import LEAST, rank

SPARROW = ("Sparrow brush", ("ss_sparrow", "house bird"), "For skies and water")


@pytest.mark.parametrize(
    ("words", "found"),
    [
        ("", 0),
        ("  ", 0),
        ("sparrow brush", 0),
        ("SPARROW", 1),
        ("brush sparrow", 2),
        ("bru", 3),
        ("ss_sparrow", 4),
        ("ow bru", 5),
        ("house", 6),
        ("se bird", 7),
        ("skies", 8),
        ("water brush", LEAST),
        ("brush nothing", None),
        ("!!", None),
        ("spw", None),
    ],
)
def test_names_come_first(words: str, found: int | None) -> None:
    assert rank(words, *SPARROW) == found


def test_marks_on_letters_do_not_matter() -> None:
    assert rank("Grosse Pinsel", "Große Pinsel") == 0
    assert rank("cafe", "Café noir") == 1
    assert rank("é", "e") == 0
