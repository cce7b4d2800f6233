"""Values compared by each way there is: what passes, and what is of another sort and never does."""

from __future__ import annotations

from typing import Any

import pytest

from young_fabric.core.base.conditions import COMPARISONS, OPS, check_condition, comparison_of, holds
from young_fabric.core.base.errors import Refusal

MM = {"amount": "25", "unit": "mm"}
CM = {"amount": "2.5", "unit": "cm"}
GRAMS = {"amount": "2.5", "unit": "g"}
FOUR = {"value": "4", "out_of": "5", "count": None}
EIGHT = {"value": "8", "out_of": "10", "count": 3}


def passes(kind: str, op: str, value: Any, wanted: Any) -> bool:
    return bool(OPS[op](value, wanted, COMPARISONS[kind].read))


@pytest.mark.parametrize(
    ("kind", "op", "value", "wanted", "answer"),
    [
        ("text", "is", " Heron ", "heron", True),
        ("text", "is_not", "Heron", "heron", False),
        ("text", "is_not", None, "heron", True),
        ("text", "contains", "Grey heron", "HER", True),
        ("text", "contains", "Grey heron", "crane", False),
        ("text", "contains", ["heron", "crane"], "crane", True),
        ("text", "contains", ["heron", "crane"], "cran", False),
        ("text", "contains", 5, "5", False),
        ("number", "contains", "55", "5", False),
        ("text", "starts_with", "Grey heron", "grey", True),
        ("text", "starts_with", "Grey heron", "heron", False),
        ("text", "starts_with", ["grey"], "grey", False),
        ("list", "any_of", ["ash", "elm"], ["oak", "elm"], True),
        ("list", "any_of", ["ash"], ["oak"], False),
        ("list", "all_of", ["ash", "elm"], ["elm"], True),
        ("list", "all_of", ["ash"], ["ash", "elm"], False),
        ("list", "none_of", ["ash"], ["elm"], True),
        ("list", "none_of", ["ash", "elm"], ["elm"], False),
        ("number", "lt", "5", "5", False),
        ("number", "le", "5", "5.0", True),
        ("number", "gt", "5", "4.99", True),
        ("number", "ge", 5, "5", True),
        ("number", "ge", "4", "5", False),
        ("number", "lt", True, "5", False),
        ("number", "lt", ["1"], "5", False),
        ("number", "lt", "x", "5", False),
        ("number", "lt", "1", "x", False),
        ("number", "lt", "1e999999999", "5", False),
        ("number", "between", "5", ["5", "6"], True),
        ("number", "between", "6", ["5", "6"], True),
        ("number", "between", "6.1", ["5", "6"], False),
        ("number", "between", "5", ["5"], False),
        ("number", "between", "5", "5", False),
        ("measure", "is", MM, CM, True),
        ("measure", "is", MM, GRAMS, False),
        ("measure", "lt", MM, {"amount": "3", "unit": "cm"}, True),
        ("measure", "lt", MM, GRAMS, False),
        ("measure", "lt", {"amount": "25"}, CM, False),
        ("measure", "lt", "25 mm", CM, False),
        ("measure", "lt", {"amount": "x", "unit": "mm"}, CM, False),
        ("rating", "is", FOUR, EIGHT, True),
        ("rating", "gt", {"value": "9", "out_of": "10"}, FOUR, True),
        ("rating", "gt", {"value": "9", "out_of": "0"}, FOUR, False),
        ("rating", "gt", "4/5", FOUR, False),
        ("yes_no", "is", True, True, True),
        ("yes_no", "is", True, False, False),
        ("yes_no", "is", "yes", True, False),
        ("yes_no", "is", 1, True, False),
        ("reference", "is", {"item": 5, "name": "Peat"}, 5, True),
        ("reference", "is", "5", 5, True),
        ("reference", "is", True, 1, False),
        ("date", "lt", "2026-01-31", "2026-02-01", True),
        ("date", "between", "2026-02-01", ["2026-02-01", "2026-02-28"], True),
        ("presence", "is", "x", "x", False),
    ],
)
def test_what_passes(kind: str, op: str, value: Any, wanted: Any, answer: bool) -> None:
    assert passes(kind, op, value, wanted) is answer


@pytest.mark.parametrize(
    ("value", "filled"),
    [(None, False), ("", False), (" ", False), ([], False), (0, True), (False, True), (["a"], True)],
)
def test_what_is_filled(value: Any, filled: bool) -> None:
    found = [holds({"field": "a", "op": op}, {"a": value}, {"a": "text"}) for op in ("filled", "empty")]
    assert found == [filled, not filled]


def test_an_unknown_way_compares_as_text() -> None:
    assert comparison_of("gone") is COMPARISONS["text"]
    assert comparison_of("number") is COMPARISONS["number"]


@pytest.mark.parametrize(
    ("tree", "where"),
    [
        ({"any": [{"field": "a", "op": "is", "value": "x"}, {"field": "gone", "op": "is", "value": "x"}]}, ("any", 1)),
        ({"all": [{"none": [{"field": "a", "op": "gone", "value": "x"}]}]}, ("all", 0, "none", 0)),
    ],
)
def test_what_is_wrong_in_a_condition_is_told_at_its_place(tree: dict[str, Any], where: tuple[Any, ...]) -> None:
    with pytest.raises(Refusal) as found:
        check_condition(tree, {"a": "text"})
    assert found.value.where[: len(where)] == where
    check_condition({"any": [{"field": "a", "op": "is", "value": "x"}]}, {"a": "text"})
