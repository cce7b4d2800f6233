"""What refers to a thing, and what is filled in apart from what is defined."""

from __future__ import annotations

from tests.core.saltmarsh import SALTMARSH


def referrers(noun: str, key: str) -> list[tuple[str, str]]:
    return sorted((found, name) for found, name, _ in SALTMARSH.referrers(noun, key))


def test_a_thing_is_referred_to_by_what_takes_it() -> None:
    assert referrers("field_set", "furniture") == [("product_type", "easels")]
    assert referrers("value_list", "wood") == [("field", "ss_wood")]
    assert ("record", "fen_mill") in referrers("record_type", "maker")
    assert ("field", "ss_maker") in referrers("record_type", "maker")
    assert referrers("product_type", "easels") == [("display_setting", "type:easels/*/product_page")]
    assert referrers("field", "nothing") == []


def test_a_collection_stands_in_its_own_order() -> None:
    order = SALTMARSH.collection_order
    assert sorted(order, key=lambda key: order[key]) == ["first_box", "outdoors", "lightfast", "small_change"]


def test_a_mark_is_of_what_pages_take_from_a_thing() -> None:
    assert SALTMARSH.mark("field", "nothing") == ""
    assert SALTMARSH.mark("field", "ss_wood") != SALTMARSH.mark("field", "ss_hair")
