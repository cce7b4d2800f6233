"""Colours picked out of pictures: the background left out, hues gathered as the eye sees them."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.options.picture_colours import Pixel, main_colours

GREY, BLUE, RED, WHITE = (243, 244, 246), (35, 51, 156), (195, 38, 47), (255, 255, 255)
PIXELS = st.tuples(*[st.integers(0, 255)] * 3)


def picture(*marks: tuple[Pixel, int], ground: Pixel = GREY, side: int = 20) -> list[list[Pixel]]:
    """A square picture of a ground with stripes of colours, each so many columns wide, away from its edges."""
    columns = [colour for colour, wide in marks for _ in range(wide)]
    rows = [[ground] * side for _ in range(side)]
    for row in rows[3:-3]:
        row[3 : 3 + len(columns)] = columns
    return rows


def test_what_is_shown_is_told_and_its_background_is_not() -> None:
    found = main_colours(picture((BLUE, 8), (RED, 4)))
    assert [(colour.colour, round(colour.share, 2)) for colour in found] == [("#23339c", 0.67), ("#c3262f", 0.33)]


def test_shades_of_one_colour_are_one() -> None:
    shades = [((35 + step, 51 + step, 156 + step), 2) for step in (0, 3, 6, 9)]
    assert len(main_colours(picture(*shades))) == 1


def test_a_picture_that_is_all_ground_shows_that() -> None:
    assert [colour.colour for colour in main_colours(picture())] == ["#f3f4f6"]
    assert main_colours([]) == ()


def test_a_pale_thing_on_a_dark_ground_is_found() -> None:
    assert main_colours(picture((WHITE, 6), ground=(20, 20, 24)))[0].colour == "#ffffff"


@given(st.lists(st.lists(PIXELS, min_size=4, max_size=4), min_size=1, max_size=4))
def test_colours_are_of_the_picture_and_never_cover_more_than_it(rows: list[list[Pixel]]) -> None:
    found = main_colours(rows)
    there = {"#{:02x}{:02x}{:02x}".format(*pixel) for row in rows for pixel in row}
    assert {colour.colour for colour in found} <= there
    assert sum(colour.share for colour in found) <= 1.01
    assert found == main_colours(rows)
