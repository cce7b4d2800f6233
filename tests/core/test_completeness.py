"""Completeness: shares are whole, and the next field is the first required one missing."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.subjects.completeness import Wanted, completeness

FIELDS = st.lists(
    st.builds(
        Wanted, st.sampled_from("abcdefghij"), st.sampled_from(["optional", "wanted", "required"]), st.booleans()
    ),
    unique_by=lambda one: one.key,
)
STATES = st.dictionaries(st.sampled_from("abcdefghij"), st.sampled_from(["good", "empty", "wrong"]))


@given(FIELDS, STATES)
def test_every_field_is_filled_or_missing_once(fields: list[Wanted], state: dict[str, str]) -> None:
    told = completeness(fields, state)
    counted = [one for one in fields if one.applies]
    required = [one.key for one in counted if one.need == "required"]
    wanted = [one.key for one in counted if one.need == "wanted"]
    assert told.required_filled + len(told.required_missing) == len(required)
    assert told.wanted_filled + len(told.wanted_missing) == len(wanted)
    assert [key for key in required if state.get(key) != "good"] == list(told.required_missing)
    assert [key for key in wanted if state.get(key) != "good"] == list(told.wanted_missing)
    assert told.next == next(iter([*told.required_missing, *told.wanted_missing]), None)
    assert 0 <= told.percent <= 100
    assert (told.percent == 100) == (not told.required_missing)


@given(FIELDS, STATES, st.sampled_from("abcdefghij"))
def test_filling_one_more_never_lowers_the_share(fields: list[Wanted], state: dict[str, str], key: str) -> None:
    assert completeness(fields, {**state, key: "good"}).percent >= completeness(fields, state).percent
