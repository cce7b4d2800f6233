"""Ratings: read in the shop's language, judged, compared whatever they are out of, and shown."""

from __future__ import annotations

from typing import Any

import pytest

from young_fabric.core.base.conditions import holds
from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds import KINDS, Spec
from young_fabric.core.kinds.ratings import MOST_RATINGS

RATING = KINDS["rating"]


def rating(value: str, out_of: str = "5", count: int | None = None) -> dict[str, Any]:
    return {"value": value, "out_of": out_of, "count": count}


@pytest.mark.parametrize(
    ("typed", "locale", "value"),
    [
        ("4.6/5 (128)", "en", rating("4.6", "5", 128)),
        ("4.6", "en", rating("4.6")),
        ("8 of 10", "en", rating("8", "10")),
        ("4 / 5(1,280)", "en", rating("4", "5", 1280)),
        ("4,6 von 5 (1.280)", "de", rating("4.6", "5", 1280)),
        ("4,6 of 5", "de", rating("4.6")),
        ("0/5 (0)", "en", rating("0", "5", 0)),
        (f"5 ({MOST_RATINGS})", "en", rating("5", "5", MOST_RATINGS)),
    ],
)
def test_typed_ratings_are_read_and_typed_again(typed: str, locale: str, value: dict[str, Any]) -> None:
    spec = Spec(locale=locale)
    assert RATING.read(typed, spec) == value
    assert RATING.well_formed(value)
    assert RATING.read(str(RATING.typed(value, spec)), spec) == value


@pytest.mark.parametrize(
    ("typed", "code"),
    [
        ("good", "number"),
        ("4/5/6", "number"),
        ("4 (5) (6)", "number"),
        ("4/5 (1.5)", "decimals"),
        ("4/5 (-1)", "below"),
        (f"4/5 ({MOST_RATINGS + 1})", "above"),
    ],
)
def test_what_is_no_rating_is_refused(typed: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        RATING.read(typed, Spec())
    assert caught.value.code == code
    assert caught.value.help


@pytest.mark.parametrize(
    ("value", "code"),
    [
        (rating("5"), None),
        (rating("5.1"), "above"),
        (rating("0"), None),
        (rating("-0.1"), "below"),
        (rating("0", "0"), "below"),
        (rating("4", "5", MOST_RATINGS), None),
        (rating("4", "5", MOST_RATINGS + 1), "shape"),
        ({"value": "4", "out_of": "5"}, "shape"),
        ({"value": 4, "out_of": 5, "count": None}, "shape"),
    ],
)
def test_ratings_are_judged(value: Any, code: str | None) -> None:
    wrong = RATING.judge(Spec())(value)
    assert (wrong.code if wrong else None) == code


def test_a_rating_shows_its_share_and_its_words() -> None:
    node = RATING.shower(Spec(locale="de"), {})(rating("4.6", "5", 1))
    assert (node.percent, node.text, node.raters) == (92, "4,6 von 5", "1 Bewertung")
    assert node.plain == "4,6 von 5, 1 Bewertung"
    assert RATING.shower(Spec(), {})(rating("3", "10")).plain == "3 of 10"


def test_ratings_compare_by_their_share_of_the_best() -> None:
    known = {"r": "rating"}
    at_least_4_of_5 = {"field": "r", "op": "ge", "value": rating("4")}
    assert holds(at_least_4_of_5, {"r": rating("8", "10")}, known)
    assert not holds(at_least_4_of_5, {"r": rating("7.9", "10")}, known)
    assert not holds(at_least_4_of_5, {"r": "4"}, known)
    assert not holds(at_least_4_of_5, {"r": rating("4", "0")}, known)
