"""The chain from definitions to a page: effective fields, slots, rendering, why, hashes and reach."""

from __future__ import annotations

from dataclasses import replace

import pytest

from tests.core.helpers import defs_of, field, limits
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.cascade import DisplaySetting, Scope
from young_fabric.core.display.layouts import Arrangement, Block, Region, Takes
from young_fabric.core.nouns.content.collections import Collection
from young_fabric.core.nouns.layouts.display_settings import check_setting, setting_key
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.types.field_sets import FieldSet, Section, check_field_set
from young_fabric.core.nouns.types.product_types import ProductType, check_type, descendants
from young_fabric.core.pages import document
from young_fabric.core.pages.plans import PlanCache, Plans, changed_groups, reached_groups
from young_fabric.core.pages.slots import fill_slots
from young_fabric.core.pages.why import why
from young_fabric.core.subjects.products import Product

GROUPS = [Group("paint"), Group("water"), Group("paper")]


def setting(scope: str, field: str, surface: str, **properties: object) -> DisplaySetting:
    kind, _, key = scope.partition(":")
    return DisplaySetting(Scope(kind, key), field, surface, properties)


def definitions(*settings: DisplaySetting) -> Definitions:
    fields = {
        f.key: f
        for f in (
            field("pigment", "Pigment", "Pigment", "text", many=True),
            field("opacity", "Opacity", "Opacity", "one_of", list="opacity"),
            field("granul", "Granulating", "Granulating", "yes_no"),
            field("weight", "Weight", "Weight", "measure", unit="g/m²", limits=limits(max="640"), need="wanted"),
            field("warn", "Warnings", "Warnings", "long_text"),
            field("series", "Series", "Series", "text", audience="staff"),
            field("hue", "Hue", "Hue", "colour", audience="feeds"),
            field("loose", "Loose", "Loose", "text", default="as usual"),
        )
    }
    return defs_of(
        Shop("S", "", "EUR", "en"),
        {str(setting_key(rule)): rule for rule in settings},
        fields=fields,
        lists={"opacity": ValueList("opacity", "Opacity", (ListValue("t", "Transparent"), ListValue("o", "Opaque")))},
        sets={
            "basics": FieldSet(
                "basics",
                "Paint basics",
                (Section("a", "A", ("pigment", "opacity", "granul")), Section("b", "B", ("series", "hue"))),
            ),
            "care": FieldSet("care", "Care", (Section("a", "A", ("warn", "opacity")),)),
        },
        types={
            "paint": ProductType("paint", "Paint", None, "paint", ("basics",), (), {"opacity": "required"}),
            "water": ProductType(
                "water",
                "Watercolour",
                "paint",
                "water",
                ("care",),
                ("loose",),
                {"granul": "wanted", "opacity": "wanted"},
            ),
            "paper": ProductType("paper", "Paper", None, "paper", (), ("weight",)),
        },
    )


VALUES = {
    "title": "Ultramarine",
    "slug": "u",
    "sku": "U-1",
    "price": "9.8",
    "contents": {"count": 1, "amount": "15", "unit": "ml"},
}


def product(**values: object) -> Product:
    return Product(1, "water", {**VALUES, **values})


def shown(doc: document.RenderDoc) -> dict[str, str]:
    return {entry.field: entry.text for entry in doc.entries()}


def test_ancestors_come_first_a_field_twice_stands_first_and_the_stricter_need_holds() -> None:
    rows = [row for row in definitions().effective("water") if row.type]
    assert [row.field.key for row in rows] == ["pigment", "opacity", "granul", "series", "hue", "warn", "loose"]
    by_key = {row.field.key: row for row in rows}
    assert (by_key["opacity"].set, by_key["opacity"].need, by_key["opacity"].need_from) == (
        "basics",
        "required",
        "paint",
    )
    assert (by_key["granul"].need, by_key["granul"].need_from) == ("wanted", "water")
    assert (by_key["loose"].set, by_key["loose"].type) == (None, "water")


def test_a_page_shows_what_has_a_good_value_in_set_order() -> None:
    plan = Plans(definitions()).of_type("water", "product_page")
    doc = plan.render(product(opacity="t", pigment=["PB29", "PV19"], granul=False, series="2", hue="#20309a"))
    assert shown(doc) == {
        "title": "Ultramarine",
        "price": "€9.80",
        "unit_price": "€65.33 per 100 ml",
        "pigment": "PB29, PV19",
        "opacity": "Transparent",
        "granul": "No",
        "loose": "as usual",
        "sku": "U-1",
    }


def test_what_has_nothing_in_it_vanishes_with_its_heading() -> None:
    defs = defs_of(types={"bare": ProductType("bare", "Bare", None, "bare")})
    doc = Plans(defs).of_type("bare", "product_page").render(Product(2, "bare", {"title": "Only a title"}))
    assert [block.id for block in doc.blocks()] == ["top", "title", "stock", "to_basket"]
    assert all(region.id != "gallery" for region in doc.region.blocks[0].regions)
    empty = Plans(defs).of_type("bare", "structured_data").render(Product(2, "bare", {}))
    assert empty.region.blocks == ()


def test_a_wrong_value_does_not_show_and_why_says_so() -> None:
    defs = definitions()
    plan = Plans(defs).of_type("paper", "product_page")
    heavy = Product(3, "paper", {**VALUES, "weight": {"amount": "850", "unit": "g/m²"}})
    assert "weight" not in shown(plan.render(heavy))
    failed = [step for step in why(defs, plan, heavy, "weight") if step.ok is False]
    assert [step.name for step in failed] == ["value"]
    assert failed[0].text == "The value is wrong: above 640 g/m²"
    assert failed[0].mend is not None
    assert (failed[0].mend.noun, failed[0].mend.key) == ("product", "3/weight")


def test_what_was_not_understood_is_wrong_and_kept_off_the_page() -> None:
    plan = Plans(definitions()).of_type("paper", "product_page")
    odd = Product(3, "paper", VALUES, {"weight": "heavy"})
    assert plan.entries["weight"].outcome(odd).state == "wrong"
    assert "weight" not in shown(plan.render(odd))


def test_dashes_stand_for_empty_values_when_asked() -> None:
    defs = definitions(setting("type:paint", "opacity", "product_page", empty="dash"))
    doc = Plans(defs).of_type("water", "product_page").render(product())
    assert shown(doc)["opacity"] == "–"


def test_settings_are_inherited_label_words_and_devices_too() -> None:
    defs = definitions(
        setting("shop", "opacity", "*", label="above"),
        setting("type:paint", "opacity", "listing_card", shown=True),
        setting("type:water", "opacity", "listing_card", label_text="Covers", devices=["desktop"]),
    )
    (entry,) = [
        e
        for e in Plans(defs).of_type("water", "listing_card").render(product(opacity="o")).entries()
        if e.field == "opacity"
    ]
    assert (entry.label, entry.label_at, entry.devices) == ("Covers", "above", ("desktop",))
    assert "opacity" not in shown(Plans(definitions()).of_type("water", "listing_card").render(product(opacity="o")))


def test_a_product_has_settings_of_its_own() -> None:
    plans = Plans(definitions())
    own = (setting("product:1", "opacity", "product_page", shown=False),)
    some = product(opacity="o")
    assert "opacity" not in shown(plans.of_product(some, "product_page", own).render(some))
    assert "opacity" in shown(plans.of_product(some, "product_page", ()).render(some))


@pytest.mark.parametrize(
    ("key", "surface", "step"),
    [
        ("series", "product_page", "audience"),
        ("hue", "product_page", "audience"),
        ("opacity", "listing_card", "shown"),
        ("pigment", "product_page", "value"),
        ("weight", "product_page", "applies"),
        ("unit_price", "product_page", None),
        ("hue", "structured_data", None),
    ],
)
def test_why_finds_the_first_step_that_fails(key: str, surface: str, step: str | None) -> None:
    defs = definitions()
    plan = Plans(defs).of_type("water", surface)
    steps = why(defs, plan, product(opacity="o", hue="#20309a"), key)
    failed = next((row.name for row in steps if row.ok is False), None)
    assert failed == step
    if step is None:
        assert steps[-1].name == "shows"
    else:
        assert next(row for row in steps if row.ok is False).mend is not None
        assert all(row.name != "shows" for row in steps)


def test_why_and_rendering_agree_on_every_field() -> None:
    defs = definitions(
        setting("type:water", "granul", "product_page", shown=False), setting("shop", "*", "listing_card", shown=True)
    )
    some = product(opacity="o", granul=True, pigment=["PB29"], warn="Wash hands", series="2", hue="#000000")
    for surface in ("product_page", "listing_card", "structured_data"):
        plan = Plans(defs).of_type("water", surface)
        entries = shown(plan.render(some))
        for key in defs.all_fields:
            assert (why(defs, plan, some, key)[-1].name == "shows") == (key in entries), (surface, key)


def test_a_product_kept_out_says_so_first() -> None:
    defs = definitions()
    plan = Plans(defs).of_type("water", "product_page")
    assert why(defs, plan, replace(product(), offered=False), "title")[0].ok is False
    assert "sold out" in why(defs, plan, replace(product(), stock=0), "title")[0].text


def test_missing_price_or_contents_leaves_the_unit_price_out_and_says_which() -> None:
    defs = definitions()
    plan = Plans(defs).of_type("water", "product_page")
    bare = Product(1, "water", {"title": "T", "price": "3"})
    (failed,) = [step for step in why(defs, plan, bare, "unit_price") if step.ok is False]
    assert failed.text == "There is no value: Contents is not filled, and it is computed from that"


def test_documents_survive_the_store() -> None:
    doc = Plans(definitions()).of_type("water", "product_page").render(product(opacity="o", warn="A\n\nB"))
    assert document.from_json(document.to_json(doc)) == doc


def test_slots_that_name_a_field_come_before_sets_and_the_rest() -> None:
    layout = Arrangement(
        "l",
        "L",
        (
            Region(
                "r",
                (
                    Block("rest", "fields", Takes(rest=True)),
                    Block("set", "fields", Takes(sets=("basics",))),
                    Block("one", "fields", Takes(fields=("granul", "opacity"))),
                    Block("again", "fields", Takes(fields=("opacity",))),
                    Block("part", "fields", Takes(sections=(("care", "a"),))),
                ),
            ),
        ),
    )
    taken = fill_slots(layout, definitions().effective("water"))
    assert taken["one"] == ("granul", "opacity"), "in the order named"
    assert taken["again"] == ("opacity",)
    assert taken["set"] == ("pigment", "series", "hue")
    assert taken["part"] == ("warn",)
    assert "loose" in taken["rest"]
    bare = Arrangement("l", "L", (Region("r", (Block("set", "fields", Takes(sets=("care",))),)),))
    assert all("pigment" not in keys for keys in fill_slots(bare, definitions().effective("water")).values())


def changed(before: Plans, after: Definitions) -> dict[str, set[str]]:
    return {
        code: {group.type for group in groups} for code, groups in changed_groups(before, Plans(after), GROUPS).items()
    }


def test_only_what_shows_changes_the_hash() -> None:
    before = Plans(definitions())
    opacity = before.defs.fields["opacity"]
    assert not any(
        changed(before, before.defs.having("field", "opacity", replace(opacity, help="New", name="N"))).values()
    )
    label = changed(before, before.defs.having("field", "opacity", replace(opacity, label="Covering")))
    assert label == {
        "product_page": {"paint", "water"},
        "listing_card": set(),
        "quick_look": set(),
        "basket_line": set(),
        "compare": set(),
        "structured_data": {"paint", "water"},
        "feed": {"paint", "water"},
    }


def test_a_type_moved_to_another_parent_is_listed_anew_though_it_renders_alike() -> None:
    before = Plans(definitions())
    moved = before.defs.having("product_type", "paper", replace(before.defs.types["paper"], parent="roost"))
    moved = moved.having("product_type", "roost", ProductType("roost", "Roost", None, "roost"))
    found = changed(before, moved)
    assert {code for code, types in found.items() if types} == {"product_page", "listing_card"}
    assert found["product_page"] == found["listing_card"] == {"paper"}
    assert before.group_hash(Group("paper")) != Plans(moved).group_hash(Group("paper"))


@pytest.mark.parametrize("prop", ["label", "label_text", "empty", "devices"])
def test_every_property_enters_the_hash(prop: str) -> None:
    values = {"label": "above", "label_text": "Other", "empty": "dash", "devices": ["phone"]}
    rule = setting("shop", "opacity", "product_page", **{prop: values[prop]})
    assert "water" in changed(Plans(definitions()), definitions(rule))["product_page"]


def test_plans_are_kept_while_what_they_read_stands() -> None:
    cache = PlanCache()
    before = Plans(definitions(), cache, "draft")
    paint, paper = before.of_type("paint", "product_page"), before.of_type("paper", "product_page")
    opacity = before.defs.fields["opacity"]
    help_only = Plans(before.defs.having("field", "opacity", replace(opacity, help="New")), cache, "draft")
    assert help_only.of_type("paint", "product_page") is paint
    relabelled = Plans(before.defs.having("field", "opacity", replace(opacity, label="Covers")), cache, "draft")
    assert relabelled.of_type("paint", "product_page") is not paint
    assert relabelled.of_type("paper", "product_page") is paper
    rule = setting("type:paper", "weight", "product_page", label="above")
    settled = Plans(before.defs.having("display_setting", str(setting_key(rule)), rule), cache, "draft")
    assert settled.of_type("paper", "product_page") is not paper
    assert settled.of_type("paint", "product_page") is not paint, "it was read last with another label"
    small = PlanCache(most=1)
    few = Plans(definitions(), small)
    few.of_type("paint", "product_page")
    few.of_type("paper", "product_page")
    assert len(small) == 1


def test_collections_that_say_something_make_groups() -> None:
    rule = setting("collection:studio", "opacity", "product_page", label="above")
    defs = definitions(rule)
    for key in ("sale", "studio"):
        defs = defs.having("collection", key, Collection(key, key.title(), key))
    assert defs.group_of("water", ("sale", "studio")) == Group("water", ("studio",))
    plans = Plans(defs)
    some = replace(product(opacity="o"), collections=("sale", "studio"))
    entries = plans.of_product(some, "product_page").render(some).entries()
    assert next(entry.label_at for entry in entries if entry.field == "opacity") == "above"
    assert plans.of_product(product(opacity="o"), "product_page") is plans.of_type("water", "product_page")


@pytest.mark.parametrize(
    ("noun", "key", "types"),
    [
        ("field", "opacity", {"paint", "water"}),
        ("value_list", "opacity", {"paint", "water"}),
        ("field_set", "care", {"water"}),
        ("product_type", "paint", {"paint", "water"}),
        ("display_setting", "type:water/opacity/*", {"water"}),
        ("display_setting", "shop/title/*", {"paint", "water", "paper"}),
        ("field", "weight", {"paper"}),
        ("display_setting", "product:1/title/*", set()),
    ],
)
def test_a_thing_reaches_the_groups_that_read_it(noun: str, key: str, types: set[str]) -> None:
    plans = Plans(
        definitions(setting("type:water", "opacity", "*", shown=True), setting("shop", "title", "*", shown=True))
    )
    assert {group.type for group in reached_groups(plans, GROUPS, noun, key)} == types


def test_trees_refuse_loops_and_unknown_parts() -> None:
    defs = definitions()
    assert descendants("paint", defs.types) == {"paint", "water"}
    for product_type, code in (
        (replace(defs.types["paint"], parent="water"), "loop"),
        (replace(defs.types["paint"], parent="gone"), "unknown_product_type"),
        (replace(defs.types["paint"], sets=("gone",)), "unknown_field_set"),
        (replace(defs.types["paint"], fields=("gone",)), "unknown_field"),
        (replace(defs.types["paint"], sets=("care", "care")), "twice"),
        (replace(defs.types["paint"], name=""), "required"),
    ):
        with pytest.raises(Refusal) as caught:
            check_type(product_type, defs)
        assert caught.value.code == code


@pytest.mark.parametrize(
    ("sections", "code"),
    [
        ((Section("a", "", ()),), "required"),
        ((Section("a", "A"), Section("a", "B")), "section_twice"),
        ((Section("a", "A", ("gone",)),), "unknown_field"),
        ((Section("a", "A", ("warn",)), Section("b", "B", ("warn",))), "field_twice"),
    ],
)
def test_sets_refuse_what_can_not_be(sections: tuple[Section, ...], code: str) -> None:
    with pytest.raises(Refusal) as caught:
        check_field_set(FieldSet("s", "S", sections), definitions())
    assert caught.value.code == code


@pytest.mark.parametrize(
    ("field", "surface", "properties", "code"),
    [
        ("gone", "*", {"shown": True}, "unknown_field"),
        ("title", "*", {}, "required"),
        ("title", "moon", {"shown": True}, "unknown_surface"),
        ("title", "*", {"size": 1}, "unknown_property"),
        ("title", "*", {"shown": "yes"}, "unknown"),
        ("title", "*", {"shown": 1}, "unknown"),
        ("title", "*", {"devices": []}, "unknown"),
        ("title", "*", {"label": "left"}, "unknown"),
        ("title", "*", {"label_text": 5}, "text"),
        ("title", "*", {"label_text": "x" * 121}, "long"),
        ("title", "*", {"devices": ["phone", "phone"]}, "unknown"),
    ],
)
def test_settings_refuse_what_they_do_not_know(
    field: str, surface: str, properties: dict[str, object], code: str
) -> None:
    with pytest.raises(Refusal) as caught:
        check_setting(setting("shop", field, surface, **properties), definitions())
    assert caught.value.code == code
