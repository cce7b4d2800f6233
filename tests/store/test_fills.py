"""Counts of what products hold: good and wrong values, by field."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session

from young_fabric.core.subjects.products import Product
from young_fabric.store.repos import fills


@pytest.mark.parametrize(("wrong", "held"), [((), 2), (("gtin",), 2)])
def test_values_count_as_held_whether_they_are_good_or_wrong(
    session: Session, wrong: tuple[str, ...], held: int
) -> None:
    before = fills.held_by(session, ["gtin"]).get("gtin", 0)
    steps = fills.FillSteps()
    for number in (1, 2):
        steps.count(Product(number, "easels", {"gtin": "4006381333931"}), wrong if number == 1 else (), False, 1)
    fills.add(session, steps)
    assert fills.held_by(session, ["gtin"])["gtin"] - before == held
    assert fills.held_by(session, []) == {}
    assert fills.held_by(session, ["nothing"]) == {}
