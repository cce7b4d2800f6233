"""Why: the same steps that rendering takes, told one by one, for any definitions and any product."""

from __future__ import annotations

from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.pages.test_resolve import GROUPS, VALUES, definitions
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.blocks import BLOCK_KINDS, LIGHT
from young_fabric.core.display.cascade import EVERY, DisplaySetting, Scope
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.nouns.content.record_types import RecordType
from young_fabric.core.nouns.content.records import Record
from young_fabric.core.nouns.fields.built_in import DERIVED
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.layouts.display_settings import setting_key
from young_fabric.core.pages.plans import Plans, changed_groups, reached_groups
from young_fabric.core.pages.record_pages import values_of
from young_fabric.core.pages.why import Asked, why
from young_fabric.core.subjects.product_labels import Names
from young_fabric.core.subjects.products import Product

BASE = definitions()
NAMES = sorted(BASE.all_fields)
SCOPES = [Scope("shop"), Scope("type", "paint"), Scope("type", "water"), Scope("type", "paper")]
SAID = st.fixed_dictionaries(
    {},
    optional={
        "shown": st.booleans(),
        "label": st.sampled_from(["beside", "above", "hidden"]),
        "empty": st.sampled_from(["omit", "dash"]),
        "devices": st.sampled_from([("phone",), ("tablet", "desktop"), ("phone", "tablet", "desktop")]),
    },
)
SETTINGS = st.lists(
    st.builds(
        DisplaySetting,
        st.sampled_from(SCOPES),
        st.sampled_from([*NAMES, EVERY]),
        st.sampled_from([*product_surfaces(), EVERY]),
        SAID,
    ),
    max_size=8,
)
PRODUCTS = st.builds(
    lambda kind, values, unread, offered: Product(1, kind, {**VALUES, **values}, unread, offered),
    st.sampled_from(["paint", "water", "paper"]),
    st.fixed_dictionaries(
        {},
        optional={
            "pigment": st.sampled_from([["PB29"], ["PB29", "PR101"], []]),
            "opacity": st.sampled_from(["t", "o", "gone"]),
            "granul": st.booleans(),
            "weight": st.sampled_from([{"amount": "300", "unit": "g/m²"}, {"amount": "900", "unit": "g/m²"}]),
            "warn": st.just("Rinse outdoors."),
            "hue": st.sampled_from(["#20309a", "blue"]),
            "description": st.just("Ground twice."),
        },
    ),
    st.sampled_from([{}, {"weight": "heavy"}, {"hue": "bluish"}]),
    st.booleans(),
)


def with_settings(settings: list[DisplaySetting]) -> Definitions:
    rows = {str(setting_key(setting)): setting for setting in settings}
    return Definitions(BASE.shop, {**BASE.things, "display_setting": rows})


@given(SETTINGS, PRODUCTS, st.sampled_from(list(product_surfaces())))
def test_a_field_shows_when_no_step_fails_and_only_then(
    settings: list[DisplaySetting], product: Product, surface: str
) -> None:
    defs = with_settings(settings)
    plan = Plans(defs).of_type(product.type, surface)
    doc = plan.render(product)
    shown = {entry.field for entry in doc.entries() if entry.value is not None}
    for key in defs.all_fields:
        steps = why(defs, plan, product, key)
        in_shop = steps[0]
        assert in_shop.name == "visible"
        rest = [step.ok for step in steps[1:]]
        assert (key in shown) == all(ok is True for ok in rest), (key, steps)
        assert bool(in_shop.ok) == product.offered
        names = [step.name for step in steps]
        assert len(set(names)) == len(names)
        assert ("shows" in names) == (key in shown and product.offered)
        assert all(step.text for step in steps)
        failed = next((step for step in steps if step.ok is False), None)
        if failed and not (failed.name == "audience" and not defs.all_fields[key].own):
            assert failed.mend is not None, "the first failure has a place to mend it"


@given(SETTINGS, PRODUCTS, st.sampled_from(list(product_surfaces())))
def test_nothing_empty_stands_in_a_document(settings: list[DisplaySetting], product: Product, surface: str) -> None:
    doc = Plans(with_settings(settings)).of_type(product.type, surface).render(product)
    for block in doc.blocks():
        assert block.entries or block.regions or BLOCK_KINDS[block.kind].weight == LIGHT
    for entry in doc.entries():
        assert entry.text or entry.field == "pictures"
        assert entry.devices
        assert entry.field not in product.unread or entry.value is None


@settings(max_examples=50)
@given(SETTINGS, SETTINGS)
def test_equal_hashes_mean_equal_pages(before: list[DisplaySetting], after: list[DisplaySetting]) -> None:
    old, new = Plans(with_settings(before)), Plans(with_settings(after))
    differ = changed_groups(old, new, GROUPS)
    full: dict[str, Any] = {
        **VALUES,
        "pigment": ["PB29"],
        "opacity": "t",
        "granul": True,
        "weight": {"amount": "300", "unit": "g/m²"},
        "warn": "Rinse.",
        "hue": "#20309a",
    }
    for surface in product_surfaces():
        for kind in BASE.types:
            for values in (full, VALUES):
                product = Product(1, kind, values)
                same = old.of_type(kind, surface).render(product) == new.of_type(kind, surface).render(product)
                assert same or Group(kind) in differ[surface]


@settings(max_examples=50)
@given(
    st.builds(
        DisplaySetting, st.sampled_from(SCOPES), st.sampled_from(NAMES), st.sampled_from(list(product_surfaces())), SAID
    )
)
def test_a_setting_changes_only_types_it_reaches(setting: DisplaySetting) -> None:
    before, after = Plans(BASE), Plans(with_settings([setting]))
    reached = reached_groups(after, GROUPS, "display_setting", str(setting_key(setting)))
    for types in changed_groups(before, after, GROUPS).values():
        assert types <= reached


def test_what_is_computed_is_mended_where_it_comes_from() -> None:
    plan = Plans(BASE).of_type("water", "product_page")
    bare = Product(1, "water", {key: value for key, value in VALUES.items() if key != "contents"})
    failed = next(step for step in why(BASE, plan, bare, "unit_price") if step.ok is False)
    assert failed.mend is not None
    assert (failed.name, failed.mend.key) == ("value", "1/contents")
    assert "unit_price" in DERIVED


RECORD_FIELDS = {
    key: Field(key, key.title(), key.title(), kind, subject="record", audience=audience, limits=limits)
    for key, kind, audience, limits in (
        ("place", "text", "shoppers", {"max_length": 8}),
        ("founded", "whole", "shoppers", {}),
        ("note", "long_text", "staff", {}),
        ("site", "web_link", "shoppers", {}),
    )
}
CELLS = st.dictionaries(
    st.sampled_from([*RECORD_FIELDS, "elsewhere"]),
    st.one_of(
        st.tuples(
            st.just("value"),
            st.sampled_from(["Fen", "Far too long", "1894", 3, {"words": "Us", "address": "https://us.example"}]),
        ),
        st.tuples(st.just("typed"), st.just("not understood")),
    ),
)
RECORD_SETTINGS = st.lists(
    st.builds(
        DisplaySetting,
        st.sampled_from([Scope("shop"), Scope("record_type", "maker")]),
        st.sampled_from([*RECORD_FIELDS, "title", EVERY]),
        st.sampled_from(["record_page", EVERY]),
        SAID,
    ),
    max_size=5,
)


@given(CELLS, RECORD_SETTINGS, st.booleans())
def test_why_is_true_of_pages_of_records_too(
    filled: dict[str, Any], settings: list[DisplaySetting], page: bool
) -> None:
    defs = BASE
    for key, field in RECORD_FIELDS.items():
        defs = defs.having("field", key, field)
    defs = defs.having("record_type", "maker", RecordType("maker", "Maker", tuple(RECORD_FIELDS), page))
    record = Record("fen", "Fen Mill", "maker", "fen-mill", filled)
    defs = defs.having("record", "fen", record)
    for setting in settings:
        defs = defs.having("display_setting", str(setting_key(setting)), setting)
    plan = Plans(defs).of_records("maker")
    asked = Asked(values_of(record, Names(defs, {})), "record", "fen")
    held = {entry.field for entry in plan.render(asked.product).entries() if entry.value is not None}
    for key in (*RECORD_FIELDS, "title", "elsewhere", "opacity"):
        if key not in defs.fields and key != "title":
            continue
        steps = why(defs, plan, asked, key)
        assert (steps[-1].name == "shows") == (page and key in held), (key, steps)
        assert steps[-1].name == "shows" or any(step.ok is False for step in steps)
    again = Plans(defs).of_records("maker")
    assert again.hash == plan.hash
