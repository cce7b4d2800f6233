"""The cascade: each property alone, from the nearest scope that sets it."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.helpers import defs_of
from tests.core.helpers import field as make_field
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import EVERY, Cascade, Chain, DisplaySetting, Scope, read_scope
from young_fabric.core.display.properties import EVERY_DEVICE, PROPERTIES, defaults_for
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.nouns.fields.built_in import BUILT_IN
from young_fabric.core.nouns.layouts.display_settings import check_setting

SCOPES = [Scope("product", "7"), Scope("collection", "new"), Scope("collection", "old")]
SCOPES += [Scope("type", "water"), Scope("type", "paint"), Scope("shop")]
CHAIN = Chain("7", ("new", "old"), ("water", "paint"))
DEFAULTS = {"shown": True, "label": "beside"}

settings = st.builds(
    DisplaySetting,
    st.sampled_from([*SCOPES, Scope("type", "paper"), Scope("product", "8")]),
    st.sampled_from(["hue", "weight", EVERY]),
    st.sampled_from(["product_page", "listing_card", EVERY]),
    st.dictionaries(st.sampled_from(["shown", "label", "empty"]), st.integers(0, 9), min_size=1),
)


def by_hand(rules: list[DisplaySetting], name: str, surface: str) -> dict[str, tuple[Any, str]]:
    """The rule, read off word by word: scopes from near to far, in each the most named first; later rules of one place win."""
    found: dict[str, tuple[Any, str]] = {}
    for scope in CHAIN.scopes():
        for field, place in ((name, surface), (name, EVERY), (EVERY, surface), (EVERY, EVERY)):
            merged: dict[str, Any] = {}
            for rule in rules:
                if (rule.scope, rule.field, rule.surface) == (scope, field, place):
                    merged.update(rule.set)
            for prop, value in merged.items():
                found.setdefault(prop, (value, str(scope)))
    for prop, value in DEFAULTS.items():
        found.setdefault(prop, (value, "default"))
    return found


@given(st.lists(settings, max_size=12))
def test_the_nearest_scope_wins_for_each_property(rules: list[DisplaySetting]) -> None:
    resolved = Cascade(rules).resolve(CHAIN, "hue", "product_page", DEFAULTS)
    assert {prop: (found.value, found.origin) for prop, found in resolved.items()} == by_hand(
        rules, "hue", "product_page"
    )


@given(st.lists(settings, max_size=12), st.sampled_from(SCOPES))
def test_setting_a_property_where_it_holds_changes_nothing(rules: list[DisplaySetting], scope: Scope) -> None:
    before = Cascade(rules).resolve(CHAIN, "hue", "product_page", DEFAULTS)
    if str(scope) != before["shown"].origin:
        return
    same = DisplaySetting(scope, "hue", "product_page", {"shown": before["shown"].value})
    after = Cascade([*rules, same]).resolve(CHAIN, "hue", "product_page", DEFAULTS)
    assert after["shown"] == before["shown"]


def test_what_exactly_a_scope_says() -> None:
    rule = DisplaySetting(Scope("shop"), "hue", "product_page", {"shown": False})
    cascade = Cascade([rule])
    assert cascade.set_here(Scope("shop"), "hue", "product_page") == {"shown": False}
    assert cascade.set_here(Scope("shop"), "hue", "listing_card") == {}
    assert cascade.set_here(Scope("type", "paint"), "hue", "product_page") == {}


def test_defaults_show_on_pages_and_keep_cards_bare() -> None:
    own = make_field("f", "F", "F", "text")
    assert defaults_for(own, SURFACES["product_page"])["shown"]
    assert defaults_for(own, SURFACES["structured_data"])["shown"]
    assert not defaults_for(own, SURFACES["listing_card"])["shown"]
    assert [key for key, field in BUILT_IN.items() if defaults_for(field, SURFACES["listing_card"])["shown"]] == [
        "title",
        "price",
        "unit_price",
        "pictures",
    ]
    assert not defaults_for(BUILT_IN["contents"], SURFACES["product_page"])["shown"]
    for surface in SURFACES.values():
        assert defaults_for(own, surface)["devices"] == EVERY_DEVICE
        assert defaults_for(own, surface).keys() == {code for code, prop in PROPERTIES.items() if not prop.whole}


@pytest.mark.parametrize(
    ("properties", "code", "where"),
    [
        ({"shown": "yes"}, "unknown", "shown"),
        ({"shown": 1}, "unknown", "shown"),
        ({"label": "left"}, "unknown", "label"),
        ({"empty": None}, "unknown", "empty"),
        ({"devices": []}, "unknown", "devices"),
        ({"devices": "phone"}, "unknown", "devices"),
        ({"devices": ["watch"]}, "unknown", "devices"),
        ({"label_text": "x" * 121}, "long", "label_text"),
        ({"colour": "red"}, "unknown_property", "colour"),
    ],
)
def test_a_setting_that_is_not_sound_is_refused(properties: dict[str, Any], code: str, where: str) -> None:
    with pytest.raises(Refusal) as caught:
        check_setting(DisplaySetting(Scope("shop"), "title", "product_page", properties), defs_of())
    assert (caught.value.code, caught.value.where[-1]) == (code, where)


def test_sound_settings_pass() -> None:
    properties = {"shown": False, "label": "above", "label_text": "", "empty": "dash", "devices": ["phone", "desktop"]}
    check_setting(DisplaySetting(Scope("shop"), EVERY, EVERY, properties), defs_of())


@pytest.mark.parametrize("text", ["shop", "type:paint", "collection:sale", "product:12"])
def test_scopes_are_read_back(text: str) -> None:
    assert str(read_scope(text)) == text


@pytest.mark.parametrize("text", ["", "shop:x", "type", "type:", "product:x", "product:١", "moon:1"])
def test_what_is_no_scope_is_refused(text: str) -> None:
    with pytest.raises(Refusal) as caught:
        read_scope(text)
    assert caught.value.code == "scope"
