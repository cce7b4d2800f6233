"""Swatches: colour differences by the published test data, and which swatches are found alike."""

from __future__ import annotations

from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base.colour_difference import Lab, ciede2000, farther_than, lab, oklab
from young_fabric.core.base.contrast import linear_channels
from young_fabric.core.options.swatches import alike, alike_pairs, difference, standing

# Pairs of CIELAB and their difference: G. Sharma, W. Wu, E. N. Dalal, The CIEDE2000 Color-Difference Formula:
# Implementation Notes, Supplementary Test Data, and Mathematical Observations (2005), table 1.
PUBLISHED = """
50 2.6772 -79.7751 50 0 -82.7485 2.0425
50 3.1571 -77.2803 50 0 -82.7485 2.8615
50 2.8361 -74.0200 50 0 -82.7485 3.4412
50 -1.3802 -84.2814 50 0 -82.7485 1.0000
50 -1.1848 -84.8006 50 0 -82.7485 1.0000
50 -0.9009 -85.5211 50 0 -82.7485 1.0000
50 0 0 50 -1 2 2.3669
50 -1 2 50 0 0 2.3669
50 2.4900 -0.0010 50 -2.4900 0.0009 7.1792
50 2.4900 -0.0010 50 -2.4900 0.0010 7.1792
50 2.4900 -0.0010 50 -2.4900 0.0011 7.2195
50 2.4900 -0.0010 50 -2.4900 0.0012 7.2195
50 -0.0010 2.4900 50 0.0009 -2.4900 4.8045
50 -0.0010 2.4900 50 0.0010 -2.4900 4.8045
50 -0.0010 2.4900 50 0.0011 -2.4900 4.7461
50 2.5 0 50 0 -2.5 4.3065
50 2.5 0 73 25 -18 27.1492
50 2.5 0 61 -5 29 22.8977
50 2.5 0 56 -27 -3 31.9030
50 2.5 0 58 24 15 19.4535
50 2.5 0 50 3.1736 0.5854 1.0000
50 2.5 0 50 3.2972 0 1.0000
50 2.5 0 50 1.8634 0.5757 1.0000
50 2.5 0 50 3.2592 0.3350 1.0000
60.2574 -34.0099 36.2677 60.4626 -34.1751 39.4387 1.2644
63.0109 -31.0961 -5.8663 62.8187 -29.7946 -4.0864 1.2630
61.2901 3.7196 -5.3901 61.4292 2.2480 -4.9620 1.8731
35.0831 -44.1164 3.7933 35.0232 -40.0716 1.5901 1.8645
22.7233 20.0904 -46.6940 23.0331 14.9730 -42.5619 2.0373
36.4612 47.8580 18.3852 36.2715 50.5065 21.2231 1.4146
90.8027 -2.0831 1.4410 91.1528 -1.6435 0.0447 1.4441
90.9257 -0.5406 -0.9208 88.6381 -0.8985 -0.7239 1.5381
6.7747 -0.2908 -2.4247 5.8714 -0.0985 -2.2286 0.6377
2.0776 0.0795 -1.1350 0.9033 -0.0636 -0.5514 0.9082
"""
ROWS = [tuple(map(float, line.split())) for line in PUBLISHED.strip().splitlines()]
COLOURS = st.integers(0, 0xFFFFFF).map(lambda number: f"#{number:06x}")
SWATCHES = st.lists(st.lists(COLOURS, min_size=0, max_size=3), max_size=24)


@pytest.mark.parametrize("row", ROWS, ids=range(len(ROWS)))
def test_the_published_differences_hold_to_four_decimals(row: tuple[float, ...]) -> None:
    first, second, wanted = Lab(*row[:3]), Lab(*row[3:6]), row[6]
    assert round(ciede2000(first, second), 4) == wanted
    assert round(ciede2000(second, first), 4) == wanted


@given(COLOURS, COLOURS)
def test_lightness_alone_never_parts_what_is_near(first: str, second: str) -> None:
    apart = ciede2000(lab(first), lab(second))
    assert not farther_than(lab(first), lab(second), apart + 1e-9)


@given(SWATCHES, st.sampled_from([1.0, 5.0, 20.0]))
def test_all_pairs_that_look_alike_are_found_and_no_others(swatches: list[list[str]], threshold: float) -> None:
    found = {(pair.first, pair.second) for pair in alike_pairs(swatches, threshold)}
    wanted = {
        (at, other)
        for (at, first), (other, second) in combinations(enumerate(swatches), 2)
        if alike(first, second, threshold)
    }
    assert found == wanted


def test_swatches_of_no_colours_or_other_numbers_of_them_are_never_compared() -> None:
    assert difference([], []) is None
    assert difference(["#111111"], ["#111111", "#222222"]) is None
    assert alike(["#111111", "#222222"], ["#111111", "#222222"])


def test_a_swatch_at_the_least_contrast_has_no_outline_and_one_below_has() -> None:
    assert not standing(["#949494"]).outline
    assert standing(["#959595"]).outline


def test_white_and_black_are_the_ends_of_both_spaces() -> None:
    assert [round(axis, 2) + 0.0 for axis in lab("#ffffff")] == [
        100.0,
        pytest.approx(0, abs=0.02),
        pytest.approx(0, abs=0.02),
    ]
    assert oklab(*linear_channels("#ffffff")).lightness == pytest.approx(1, abs=1e-6)
    assert oklab(0, 0, 0).lightness == 0


@pytest.mark.parametrize(
    ("channels", "wanted"),
    [
        ((1.0, 1.0, 1.0), (1.0, 0.0, 0.0)),
        ((1.0, 0.0, 0.0), (0.6279554, 0.2248631, 0.1258463)),
        ((0.0, 1.0, 0.0), (0.8664396, -0.2338874, 0.1794985)),
        ((0.0, 0.0, 1.0), (0.4520137, -0.0324570, -0.3115281)),
        ((0.0, 0.0, 0.0), (0.0, 0.0, 0.0)),
    ],
)
def test_oklab_has_the_values_of_its_definition(
    channels: tuple[float, float, float], wanted: tuple[float, float, float]
) -> None:
    assert tuple(oklab(*channels)) == pytest.approx(wanted, abs=2e-6)
