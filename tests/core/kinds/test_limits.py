"""Limits of values: what each may be, at its end and one beyond, and which way it narrows."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.helpers import spec_with
from tests.core.kinds.test_rows import WATER
from young_fabric.core.kinds import KINDS, limits
from young_fabric.core.kinds.file_types import FILE_TYPES
from young_fabric.core.kinds.limits import MOST, Limit, narrower_count

KNOWN: dict[str, Limit] = {limit.code: limit for kind in KINDS.values() for limit in kind.limits}
COUNTS = ("min_length", "max_length", "min_count", "max_count", "min_width", "min_height")


def code_of(limit: Limit, value: Any) -> str | None:
    found = limit.check(value)
    return None if found is None else found.code


@pytest.mark.parametrize("code", COUNTS)
def test_a_count_is_whole_and_not_below_nought(code: str) -> None:
    limit = KNOWN[code]
    assert [code_of(limit, value) for value in (0, 1, MOST)] == [None, None, None]
    assert {code_of(limit, value) for value in (-1, True, "5", 1.0, None, MOST + 1)} <= {"number", "above"}
    assert None not in {code_of(limit, value) for value in (-1, True, "5", 1.0, None, MOST + 1)}


def test_so_many_decimals_are_kept() -> None:
    assert [code_of(KNOWN["decimals"], value) for value in (0, 12, 13, 14)] == [None, None, "above", "above"]
    found = KNOWN["decimals"].check(13)
    assert found is not None
    assert found.help == "Write 12 or less"


@pytest.mark.parametrize("code", ["min", "max"])
def test_a_bound_is_a_plain_number(code: str) -> None:
    limit = KNOWN[code]
    assert [code_of(limit, value) for value in ("60", "-2.5", "0")] == [None, None, None]
    assert {code_of(limit, value) for value in ("1e9", "060", 60, None, "1" * 31)} == {"number"}


def test_a_size_of_files_is_above_nought_and_not_over_what_is_kept() -> None:
    most = limits.MOST_MEGABYTES
    limit = KNOWN["max_megabytes"]
    assert [code_of(limit, value) for value in ("0.1", str(most))] == [None, None]
    assert [code_of(limit, value) for value in ("0", "-1", str(most + 1), 5)] == ["number", "number", "above", "number"]


def test_sorts_of_file_are_some_that_there_are() -> None:
    one, *_ = FILE_TYPES
    limit = KNOWN["types"]
    assert [code_of(limit, value) for value in ([one], (one,), list(FILE_TYPES))] == [None, None, None]
    assert {code_of(limit, value) for value in ([], [one, "gone"], [5], one, None)} == {"file_kind"}


def test_a_pattern_is_text_that_can_be_read_and_not_too_long() -> None:
    limit = KNOWN["pattern"]
    assert [code_of(limit, value) for value in ("[a-z]+", "a" * 300)] == [None, None]
    assert (code_of(limit, "a" * 301), code_of(limit, 5)) == ("long", "pattern_syntax")
    assert code_of(limit, "[a") is not None


def test_what_is_ticked_is_ticked_or_left_out() -> None:
    [limit] = [limit for limit in KNOWN.values() if limit.control == "tick"] or [None]
    assert limit is not None
    assert code_of(limit, True) is None
    assert {code_of(limit, value) for value in (False, 1, "yes", None)} == {"limit"}


@pytest.mark.parametrize(
    ("code", "narrower", "wider"),
    [
        ("min", ("2", "3"), ("3", "2")),
        ("max", ("3", "2"), ("2", "3")),
        ("decimals", (2, 1), (1, 2)),
        ("min_length", (2, 3), (3, 2)),
        ("max_length", (3, 2), (2, 3)),
        ("min_count", (2, 3), (3, 2)),
        ("max_count", (3, 2), (2, 3)),
        ("min_width", (2, 3), (3, 2)),
        ("min_height", (2, 3), (3, 2)),
        ("max_megabytes", ("3", "2"), ("2", "3")),
        ("pattern", ("a", "a"), ("a", "b")),
        ("types", (("pdf", "zip"), ("pdf",)), (("pdf",), ("pdf", "zip"))),
    ],
)
def test_which_way_it_narrows(code: str, narrower: tuple[Any, Any], wider: tuple[Any, Any]) -> None:
    limit = KNOWN[code]
    assert (limit.narrows(*narrower), limit.narrows(*wider)) == (True, False)
    assert limit.narrows(narrower[0], narrower[0]), "the same is no wider"


def test_the_smaller_of_a_pair_narrows_upwards() -> None:
    least, most = narrower_count("a", "A", "b"), narrower_count("b", "B")
    assert (least.below, least.narrows(2, 3), least.narrows(3, 2)) == ("b", True, False)
    assert (most.below, most.narrows(2, 3), most.narrows(3, 2)) == (None, False, True)
    assert [KNOWN[code].below for code in ("min", "min_length", "min_count")] == ["max", "max_length", "max_count"]


@pytest.mark.parametrize(("least", "says"), [(None, 1), (0, 1), (1, 1), (2, 2), (3, 3)])
def test_the_description_of_several_says_how_few_there_may_be(least: int | None, says: int) -> None:
    limits = {} if least is None else {"min_count": least}
    for code in ("many_of", "rows"):
        assert KINDS[code].json_schema(spec_with(limits, values=WATER))["minItems"] == says
