"""Contrast by WCAG 2.2, and the grounds of blocks, which are those of the shop's styles."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from young_fabric.core.base.contrast import READABLE, contrast
from young_fabric.core.display.block_members import BACKGROUND
from young_fabric.core.display.grounds import GROUNDS, ground_of
from young_fabric.core.display.layouts import Block

STYLES = Path(__file__).parents[3] / "frontend/shop"


@pytest.mark.parametrize(
    ("one", "other", "ratio"),
    [
        ("#000000", "#ffffff", 21.0),
        ("#ffffff", "#ffffff", 1.0),
        ("#777777", "#ffffff", 4.48),
        ("#767676", "#ffffff", 4.54),
        ("#0000ff", "#ffffff", 8.59),
    ],
)
def test_ratios_are_those_of_the_guidelines(one: str, other: str, ratio: float) -> None:
    assert round(contrast(one, other), 2) == ratio
    assert contrast(one, other) == contrast(other, one)


def test_text_is_readable_on_every_ground_there_is() -> None:
    assert GROUNDS.keys() == {choice.value for choice in BACKGROUND.choices}
    for ground in GROUNDS.values():
        assert contrast(ground.ink, ground.colour) >= READABLE
        assert contrast(ground.quiet, ground.colour) >= READABLE


def test_grounds_are_those_of_the_styles() -> None:
    blocks, page = (STYLES / "blocks.css").read_text(), (STYLES / "shop.css").read_text()
    for code, ground in GROUNDS.items():
        found = "".join(re.findall(rf"[^}}]*\.bg-{code}\b[^{{]*{{([^}}]*)}}", blocks)) if code else page
        assert ground.colour.replace("#ffffff", "#fff") in found, code
        assert ground.ink.replace("#ffffff", "#fff") in found, code
        assert ground.quiet in found, code


def test_a_block_stands_on_the_nearest_ground() -> None:
    def block(ground: str | None) -> Block:
        return Block("b", "section", said={} if ground is None else {"background": ground})

    assert ground_of([block("deep"), block(None)]) == GROUNDS["deep"]
    assert ground_of([block("deep"), block("pale"), block(None)]) == GROUNDS["pale"]
    assert ground_of([block(None)]) == GROUNDS[""]
