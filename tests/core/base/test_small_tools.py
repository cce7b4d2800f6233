"""Small tools that much stands on: codes, keys, hashes, patches, what is remembered, units and dates as they are written."""

from __future__ import annotations

from datetime import date
from decimal import Decimal

import pytest

from young_fabric.core.base import hashes, locales, money, units
from young_fabric.core.base.differences import ADDED, GONE, Piece, differences
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.memory import Memory
from young_fabric.core.base.merge import items_by_key
from young_fabric.core.base.patches import backward, diff, forward
from young_fabric.core.base.registry import Registry
from young_fabric.core.base.text import check_key, make_code, make_key


def test_a_code_that_is_taken_gets_the_next_number() -> None:
    taken = ["fen-green", "fen-green-2"]
    assert [make_code("Fen Green", taken[:count]) for count in range(3)] == ["fen-green", "fen-green-2", "fen-green-3"]


@pytest.mark.parametrize("key", ["", "Ab", "1a", "a b", "_a"])
def test_keys_are_letters_digits_and_underscores(key: str) -> None:
    with pytest.raises(Refusal) as refused:
        check_key(key)
    assert refused.value.code == "key"
    assert make_key("Fen Green", "ss_", ()) == "ss_fen_green"


def test_hashes_are_of_what_is_said_not_of_how() -> None:
    assert hashes.spelled({"b": 1, "a": [True, None, "é"]}) == '{"a":[true,null,"é"],"b":1}'.encode()
    one, other = hashes.listed_hash([b"1", b"2"]), hashes.listed_hash([b"2", b"1"])
    assert (len(one), one == other) == (64, False)
    assert hashes.listed_hash([b"1,2"]) == one, "as they stand in a list"


def test_what_differs_in_words() -> None:
    pieces = differences("a fine brush", "a soft brush")
    assert [piece for piece in pieces if piece.how in (GONE, ADDED)] == [Piece(GONE, "fine "), Piece(ADDED, "soft ")]
    assert "".join(piece.text for piece in pieces if piece.how != GONE) == "a soft brush"
    assert differences("a", "a")[0].how not in (GONE, ADDED)


@pytest.mark.parametrize(
    ("before", "after"),
    [
        ({"a": 1, "b": 2}, {"a": 1}),
        ({"a": 1}, {"a": 1, "b": None}),
        ({"items": [{"key": "x", "n": 1}, {"key": "y"}]}, {"items": [{"key": "y"}, {"key": "x", "n": 2}]}),
        ({"items": []}, {"items": [{"key": "x"}]}),
        ({"items": [1, 2]}, {"items": [2]}),
        ({"in": {"deep": {"a": 1}}}, {"in": {"deep": {}}}),
    ],
)
def test_patches_lead_there_and_back(before: dict[str, object], after: dict[str, object]) -> None:
    patch = diff(before, after)
    assert (forward(before, patch), backward(after, patch)) == (after, before)


def test_items_are_kept_by_key_only_where_each_has_one() -> None:
    assert items_by_key([{"key": "a"}, {"key": "b"}], "key") is not None
    for items in ([{"key": "a"}, {"key": "a"}], [{"key": "a"}, {"name": "b"}], [1], "ab", [{"key": None}]):
        assert items_by_key(items, "key") is None, items


def test_what_is_remembered_again_is_the_last_to_go() -> None:
    memory: Memory[str, int] = Memory(2)
    for key, value in (("a", 1), ("b", 2), ("a", 3), ("c", 4)):
        memory.put(key, value)
    assert [memory.get(key) for key in "abc"] == [3, None, 4]


def test_a_registry_gives_the_unknown_for_what_it_has_not() -> None:
    registry = Registry({"a": 1}, lambda code: len(code))
    assert (registry["a"], registry["gone"], "gone" in registry, list(registry)) == (1, 4, False, ["a"])


@pytest.mark.parametrize(
    ("code", "value", "wanted"),
    [("EUR", "2.675", "€2.68"), ("JPY", "2.5", "¥3"), ("USD", "1234.5", "$1,234.50"), ("XAU", "1", "XAU\u00a01.00")],
)
def test_money_is_written_in_the_parts_of_its_currency(code: str, value: str, wanted: str) -> None:
    assert locales.show_money(value, code, "en").replace("XAU1", "XAU\u00a01") == wanted
    assert money.minor_units("JPY") == 0


def test_dates_are_written_by_the_year_or_month_where_that_is_asked() -> None:
    day = date(2026, 2, 3)
    shown = {style: locales.show_date(day.isoformat(), "en", style) for style in ("month", "year")}
    assert shown == {"month": "February 2026", "year": "2026"}


def test_units_of_one_dimension_are_converted_exactly_and_others_refused() -> None:
    assert "mm" in units.symbols()
    assert units.convert_exact(Decimal("2.5"), "cm", "mm") == 25
    with pytest.raises(Refusal) as refused:
        units.convert_exact(Decimal(1), "mm", "g")
    assert refused.value.message == "mm is a length, this needs mass"
    for unit in units.UNITS:
        assert units.find(unit.symbol) == unit
        for writing in unit.writings:
            found = units.find(writing)
            assert found is None or found.dimension
