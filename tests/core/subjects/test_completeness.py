"""Completeness: shares are whole, and the next field is the first required one missing."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.subjects.completeness import Wanted, completeness

FIELDS = st.lists(
    st.builds(
        Wanted, st.sampled_from("abcdefghij"), st.sampled_from(["optional", "wanted", "required"]), st.booleans()
    ),
    unique_by=lambda field: field.key,
)
STATES = st.dictionaries(st.sampled_from("abcdefghij"), st.sampled_from(["good", "empty", "wrong"]))


@given(FIELDS, STATES)
def test_every_field_is_filled_or_missing_once(fields: list[Wanted], state: dict[str, str]) -> None:
    counts = completeness(fields, state)
    counted = [field for field in fields if field.applies]
    required = [field.key for field in counted if field.need == "required"]
    wanted = [field.key for field in counted if field.need == "wanted"]
    assert counts.required_filled + len(counts.required_missing) == len(required)
    assert counts.wanted_filled + len(counts.wanted_missing) == len(wanted)
    assert [key for key in required if state.get(key) != "good"] == list(counts.required_missing)
    assert [key for key in wanted if state.get(key) != "good"] == list(counts.wanted_missing)
    assert counts.next == next(iter([*counts.required_missing, *counts.wanted_missing]), None)
    assert 0 <= counts.percent <= 100
    assert (counts.percent == 100) == (not counts.required_missing)


@given(FIELDS, STATES, st.sampled_from("abcdefghij"))
def test_filling_one_more_never_lowers_the_share(fields: list[Wanted], state: dict[str, str], key: str) -> None:
    assert completeness(fields, {**state, key: "good"}).percent >= completeness(fields, state).percent
