"""Layouts: steps over a base, edits of them, and what they render, for any layouts, definitions and products."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.pages.seen import fields_seen
from tests.core.pages.test_resolve import VALUES, definitions
from tests.core.pages.test_why import NAMES, PRODUCTS, SETTINGS
from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.blocks import BETWEEN, BLOCK_KINDS, LIGHT, TITLE
from young_fabric.core.display.cascade import EVERY, DisplaySetting, Scope
from young_fabric.core.display.choices import EVERY_DEVICE
from young_fabric.core.display.layouts import block_devices
from young_fabric.core.display.surfaces import SURFACES, product_surfaces
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.content.shared_copies import SharedCopy
from young_fabric.core.nouns.layouts.block_checks import MOST_BLOCKS
from young_fabric.core.nouns.layouts.display_settings import setting_key
from young_fabric.core.nouns.layouts.layout_edits import edited
from young_fabric.core.nouns.layouts.layout_parts import LayoutRegion, step_of
from young_fabric.core.nouns.layouts.layouts import NOUN, Layout, arrange, check_layout
from young_fabric.core.pages.deciders import deciders
from young_fabric.core.pages.document import ShownBlock, ShownRegion, from_json, to_json
from young_fabric.core.pages.plans import Plans
from young_fabric.core.pages.why import of_product, why
from young_fabric.core.pages.why_blocks import why_block
from young_fabric.core.subjects.products import Product

BASE = definitions()
WITH_COPY = BASE.having("shared_copy", "care", SharedCopy("care", "Care", "Care", "leaf", "<p>Rinse it.</p>"))
IDS = ["top", "details", "numbers", "pictures", "title", "price", "stock", "description", "words", "section", "panels"]
PLACES = ["main", "gallery", "summary", "columns_1", "columns_2", "section_1", "panels_1"]
CONDITIONS = st.sampled_from(
    [
        {"field": "granul", "op": "is", "value": True},
        {"field": "opacity", "op": "filled"},
        {"none": [{"field": "pigment", "op": "is", "value": "PB29"}]},
        {"field": "type", "op": "is", "value": "paint"},
    ]
)
PICTURE = {"file": "0" * 64, "alt": "A tube", "width": 900, "height": 600}
BLOCKS = st.sampled_from(
    [
        {"kind": "columns"},
        {"kind": "panels"},
        {"kind": "section", "heading": "Together"},
        {"kind": "divider"},
        {"kind": "heading", "words": "More of {title}"},
        {"kind": "heading", "words": "Small {gtin}", "level": "small"},
        {"kind": "words", "words": "Made of [{pigment}, in] oil.\n\n[{gtin}]", "heading": "Words"},
        {"kind": "copy", "copy": "care"},
        {"kind": "stock"},
        {"kind": "share"},
        {"kind": "field", "takes": {"fields": ["opacity"]}},
        {"kind": "related", "by": "type", "heading": "More"},
        {"kind": "related", "by": "same", "same": ["pigment", "granul"], "heading": "Alike"},
        {"kind": "related", "by": "named"},
        {"kind": "pins", "picture": PICTURE, "pins": [{"x": 0, "y": 1000, "words": "Here", "link": ""}]},
        {"kind": "pins", "heading": "Nothing to see"},
        {"kind": "section", "heading": "With an icon", "icon_of": "pictures"},
        {"kind": "fields", "takes": {"sets": ["basics"]}, "heading": "Basics"},
        {"kind": "fields", "takes": {"fields": ["granul", "warn"]}, "hidden": True},
    ]
)
EDITS = st.lists(
    st.one_of(
        st.fixed_dictionaries(
            {
                "op": st.just("add"),
                "block": BLOCKS,
                "region": st.sampled_from(PLACES),
                "after": st.sampled_from([None, *IDS]),
            }
        ),
        st.fixed_dictionaries({"op": st.just("remove"), "id": st.sampled_from(IDS)}),
        st.fixed_dictionaries(
            {
                "op": st.just("move"),
                "id": st.sampled_from(IDS),
                "region": st.sampled_from(PLACES),
                "after": st.sampled_from([None, *IDS]),
            }
        ),
        st.fixed_dictionaries(
            {
                "op": st.just("set"),
                "id": st.sampled_from(IDS),
                "props": st.one_of(
                    st.fixed_dictionaries({"condition": CONDITIONS}),
                    st.fixed_dictionaries({"hidden": st.booleans()}),
                    st.just({"condition": None, "hidden": None}),
                    st.sampled_from([{"devices": ["phone"]}, {"devices": ["tablet", "desktop"]}, {"devices": None}]),
                ),
            }
        ),
        st.fixed_dictionaries(
            {
                "op": st.just("wrap"),
                "id": st.sampled_from(IDS),
                "kind": st.sampled_from(["columns", "section", "panels"]),
            }
        ),
        st.fixed_dictionaries({"op": st.just("follow"), "id": st.sampled_from(IDS)}),
    ),
    max_size=8,
)


def with_layouts(base: Layout, child: Layout | None = None) -> Definitions:
    defs = WITH_COPY.having("layout", base.key, base)
    return defs if child is None else defs.having("layout", child.key, child)


def after_edits(defs: Definitions, layout: Layout, edits: list[Mapping[str, Any]]) -> Layout:
    for edit in edits:
        try:
            made = edited(defs.layouts, layout, [edit])
            check_layout(made, defs)
            layout = made
        except Refusal:
            continue
    return layout


def regions(defs: Definitions, key: str) -> list[Any]:
    return [state_of(region) for region in arrange(defs.layouts, key).regions]


@given(EDITS, EDITS)
def test_a_layout_that_is_never_edited_stays_equal_to_its_base(first: list[Any], then: list[Any]) -> None:
    defs = with_layouts(Layout("own", "Own", base="page"), Layout("child", "Child", base="own"))
    for edits in (first, then):
        defs = defs.having("layout", "own", after_edits(defs, defs.layouts["own"], edits))
        assert regions(defs, "child") == regions(defs, "own")
        assert arrange(defs.layouts, "child").lost == ()


@given(EDITS, EDITS)
def test_edits_leave_sound_layouts_and_the_base_as_it_is(of_base: list[Any], of_child: list[Any]) -> None:
    defs = with_layouts(Layout("own", "Own", base="page"))
    own = after_edits(defs, defs.layouts["own"], of_base)
    defs = with_layouts(own, Layout("child", "Child", base="own"))
    before = regions(defs, "own")
    child = after_edits(defs, defs.layouts["child"], of_child)
    defs = defs.having("layout", "child", child)
    assert regions(defs, "own") == before
    assert arrange(defs.layouts, "child").lost == ()
    assert len({step.key for step in child.steps}) == len(child.steps)
    for block, within in arrange(defs.layouts, "child").walk():
        assert block.id not in {held.id for held in within}


@given(EDITS, EDITS, SETTINGS, PRODUCTS, st.sampled_from(NAMES), CONDITIONS, st.sampled_from(list(product_surfaces())))
def test_why_says_shows_exactly_when_the_document_holds_it(
    of_base: list[Any],
    of_child: list[Any],
    settings: list[DisplaySetting],
    product: Product,
    conditional: str,
    condition: Any,
    surface: str,
) -> None:
    base = SURFACES[surface].layout
    defs = with_layouts(Layout("own", "Own", surface, base))
    own = after_edits(defs, defs.layouts["own"], of_base)
    defs = with_layouts(own, Layout("child", "Child", surface, "own"))
    defs = defs.having("layout", "child", after_edits(defs, defs.layouts["child"], of_child))
    chosen = [
        *settings,
        DisplaySetting(Scope("type", "water"), EVERY, surface, {"layout": "child"}),
        DisplaySetting(Scope("shop"), EVERY, surface, {"layout": "own"}),
        DisplaySetting(Scope("shop"), conditional, EVERY, {"condition": condition}),
    ]
    for setting in chosen:
        defs = defs.having("display_setting", str(setting_key(setting)), setting)
    plan = Plans(defs).of_type(product.type, surface)
    assert plan.layout.key in ("own", "child")
    doc = plan.render(product)
    held = {entry.field for entry in doc.entries() if entry.value is not None}
    for key in defs.all_fields:
        steps = why(defs, plan, product, key)
        shows = all(step.ok for step in steps[1:]) and steps[0].name == "visible"
        assert shows == (key in held), (key, steps)
        for device in EVERY_DEVICE:
            steps = why(defs, plan, product, key, device)
            shows = all(step.ok for step in steps[1:]) and steps[0].name == "visible"
            assert shows == (key in fields_seen(doc.region, device)), (key, device, steps)
    assert from_json(to_json(doc)) == doc
    check_nothing_empty(doc.region)


def check_nothing_empty(region: ShownRegion) -> None:
    """No heading over nothing, no divider at an edge, no panel or section without something in it."""
    weights = [BLOCK_KINDS[block.kind].weight for block in region.blocks]
    assert weights[:1] != [BETWEEN]
    assert weights[-1:] not in ([BETWEEN], [TITLE])
    for block, after in zip(region.blocks, region.blocks[1:], strict=False):
        assert (block.kind, after.kind) != ("divider", "divider")
    for number, block in enumerate(region.blocks):
        if BLOCK_KINDS[block.kind].weight == TITLE:
            assert any(map(holds_something, until_next_title(region.blocks[number + 1 :], block))), block
        for inner in block.regions:
            assert inner.blocks
            check_nothing_empty(inner)
        if block.heading or block.kind == "panels":
            assert holds_something(block), block
        if block.kind == "panels":
            assert all(map(holds_something, block.regions[0].blocks))


def until_next_title(blocks: tuple[ShownBlock, ...], title: ShownBlock) -> Iterator[ShownBlock]:
    for block in blocks:
        if BLOCK_KINDS[block.kind].weight == TITLE and (
            block.said("level") == title.said("level") or title.said("level") == "small"
        ):
            return
        yield block


def holds_something(block: ShownBlock) -> bool:
    inner = [held for region in block.regions for held in region.blocks]
    light = BLOCK_KINDS[block.kind].weight in (LIGHT, BETWEEN, TITLE)
    return any(map(holds_something, inner)) if block.regions else not light


OWN = Layout("own", "Own", base="page")


def steps_of(layout: Layout) -> list[str]:
    return [step.key for step in layout.steps]


def test_edits_are_kept_in_as_few_steps_as_come_to_the_same() -> None:
    layouts = with_layouts(OWN).layouts
    made = edited(layouts, OWN, [{"op": "set", "id": "price", "props": {"background": "pale"}}])
    made = edited(layouts, made, [{"op": "set", "id": "price", "props": {"padding": "some"}}])
    assert steps_of(made) == ["set:price"]
    assert made.steps[0].props == {"background": "pale", "padding": "some"}
    moved = edited(layouts, made, [{"op": "move", "id": "price", "region": "main", "after": None}])
    assert steps_of(moved) == ["set:price", "move:price"]
    back = edited(layouts, moved, [{"op": "move", "id": "price", "region": "summary", "after": "title"}])
    assert back == made, "moved back is not moved"
    added = edited(
        layouts, OWN, [{"op": "add", "block": {"kind": "words", "words": "Hi"}, "region": "main", "after": "top"}]
    )
    changed = edited(layouts, added, [{"op": "set", "id": "words", "props": {"words": "Hello"}}])
    assert steps_of(changed) == ["add:words"]
    assert edited(layouts, changed, [{"op": "remove", "id": "words"}]) == OWN
    gone = edited(layouts, made, [{"op": "remove", "id": "price"}])
    assert steps_of(gone) == ["remove:price"]
    assert edited(layouts, gone, [{"op": "follow", "id": "price"}]) == OWN


def test_a_block_is_wrapped_split_and_joined_again() -> None:
    layouts = with_layouts(OWN).layouts
    wrapped = edited(layouts, OWN, [{"op": "wrap", "id": "details", "kind": "columns"}])
    after = arrange({**layouts, "own": wrapped}, "own")
    columns = next(block for block in after.blocks() if block.id == "columns")
    assert columns.regions == ("columns_1", "columns_2")
    assert [block.id for block in after.region("columns_1").blocks] == ["details"]  # type: ignore[union-attr]
    three = edited(layouts, wrapped, [{"op": "parts", "id": "columns", "count": 3}])
    put = edited(layouts, three, [{"op": "move", "id": "numbers", "region": "columns_3", "after": None}])
    two = edited(layouts, put, [{"op": "parts", "id": "columns", "count": 2}])
    last = arrange({**layouts, "own": two}, "own").region("columns_2")
    assert last is not None
    assert [block.id for block in last.blocks] == ["numbers"], "what stood in the part that went stands in the last"
    with pytest.raises(Refusal, match="at most 4"):
        edited(layouts, two, [{"op": "parts", "id": "columns", "count": 5}])
    assert edited(layouts, two, [{"op": "parts", "id": "columns", "count": 4}])


@pytest.mark.parametrize(
    ("edit", "code"),
    [
        ({"op": "fold"}, "edit"),
        ({"op": "add", "region": "main"}, "edit"),
        ({"op": "add", "region": "attic", "block": {"kind": "words"}}, "region_gone"),
        ({"op": "add", "region": "main", "block": {"kind": "poem"}}, "block_kind"),
        ({"op": "add", "region": "main", "block": {"kind": "price"}}, "stands_once"),
        ({"op": "remove", "id": "ghost"}, "block_gone"),
        ({"op": "set", "id": "price", "props": {}}, "edit"),
        ({"op": "set", "id": "price", "props": {"kind": "words"}}, "edit"),
        ({"op": "move", "id": "top", "region": "summary", "after": None}, "nested"),
        ({"op": "wrap", "id": "price", "kind": "divider"}, "block_kind"),
        ({"op": "follow", "id": "price"}, "block_gone"),
        ({"op": "drop", "step": "set:price"}, "block_gone"),
    ],
)
def test_edits_that_can_not_be_are_refused(edit: dict[str, Any], code: str) -> None:
    with pytest.raises(Refusal) as caught:
        edited(with_layouts(OWN).layouts, OWN, [edit])
    assert caught.value.code == code
    assert caught.value.where[:2] == ("edits", 0)


def block(**members: Any) -> tuple[LayoutRegion, ...]:
    return (LayoutRegion("main", ({"id": "it", **members},)),)


@pytest.mark.parametrize(
    ("layout", "code"),
    [
        (Layout("own", " "), "required"),
        (Layout("own", "x" * 81), "long"),
        (Layout("own", "Own", "moon"), "unknown_surface"),
        (Layout("own", "Own", "listing_card", "page"), "other_surface"),
        (Layout("own", "Own", base="gone"), "no_base"),
        (Layout("own", "Own", base="own"), "loop"),
        (Layout("own", "Own"), "required"),
        (Layout("own", "Own", regions=block(kind="poem")), "block_kind"),
        (Layout("own", "Own", regions=(LayoutRegion("main", ({"id": "A", "kind": "stock"},)),)), "block"),
        (Layout("own", "Own", regions=block(kind="stock", size=3)), "no_member"),
        (Layout("own", "Own", regions=block(kind="columns", regions=["a"])), "regions"),
        (Layout("own", "Own", regions=block(kind="columns", regions=["a", "main"])), "nested"),
        (Layout("own", "Own", regions=block(kind="columns", regions=["a", "b"], widths={"phone": [12]})), "widths"),
        (Layout("own", "Own", regions=block(kind="columns", regions=["a", "b"], widths={"phone": [12, 13]})), "widths"),
        (Layout("own", "Own", regions=block(kind="copy")), "copy"),
        (Layout("own", "Own", regions=block(kind="copy", copy="gone")), "unknown_copy"),
        (Layout("own", "Own", regions=block(kind="fields", takes={"fields": ["gone"]})), "unknown_field"),
        (Layout("own", "Own", regions=block(kind="fields", takes={"sets": ["gone"]})), "unknown_set"),
        (Layout("own", "Own", regions=block(kind="fields", takes={"all": True})), "takes"),
        (Layout("own", "Own", regions=block(kind="pictures", takes={"fields": ["title"]})), "kind_of_field"),
        (Layout("own", "Own", regions=block(kind="field", takes={"fields": ["title", "sku"]})), "too_many"),
        (Layout("own", "Own", regions=block(kind="words", words="{gone}")), "unknown_token"),
        (Layout("own", "Own", regions=block(kind="words", words="{slug}")), "unknown_token"),
        (Layout("own", "Own", regions=block(kind="words", words="x" * 4001)), "long"),
        (Layout("own", "Own", regions=block(kind="words", background="#fff")), "unknown"),
        (
            Layout("own", "Own", regions=block(kind="words", condition={"field": "gone", "op": "filled"})),
            "unknown_field",
        ),
        (Layout("own", "Own", base="page", steps=(step_of("set", "price", props={"devices": []}),)), "unknown"),
        (Layout("own", "Own", base="page", steps=(step_of("remove", "a"), step_of("remove", "a"))), "twice"),
    ],
)
def test_unsound_layouts_are_refused(layout: Layout, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        check_layout(layout, WITH_COPY)
    assert caught.value.code == code


def test_a_layout_holds_so_many_blocks_and_no_more() -> None:
    def of(count: int) -> Layout:
        blocks = tuple({"id": f"b{number}", "kind": "divider"} for number in range(count))
        return Layout("own", "Own", regions=(LayoutRegion("main", blocks),))

    check_layout(of(MOST_BLOCKS), WITH_COPY)
    with pytest.raises(Refusal) as caught:
        check_layout(of(MOST_BLOCKS + 1), WITH_COPY)
    assert caught.value.code == "too_many"


def test_what_a_base_takes_away_is_lost_and_told_and_comes_back() -> None:
    child = Layout("child", "Child", base="own", steps=(step_of("set", "words", props={"heading": "Ours"}),))
    layouts = with_layouts(OWN).layouts
    added = edited(
        layouts, OWN, [{"op": "add", "block": {"kind": "words", "words": "Hi"}, "region": "main", "after": None}]
    )
    assert arrange({**layouts, "own": added, "child": child}, "child").lost == ()
    assert arrange({**layouts, "child": child}, "child").lost == (0,)
    assert edited({**layouts, "child": child}, child, [{"op": "drop", "step": "set:words"}]).steps == ()


def test_words_take_values_and_leave_out_what_is_empty() -> None:
    own = Layout("own", "Own", regions=block(kind="words", words="[Pigment {pigment}.]\n\nFor {title}[, {gtin}]."))
    defs = with_layouts(own)
    defs = defs.having("display_setting", "s", DisplaySetting(Scope("shop"), EVERY, "product_page", {"layout": "own"}))
    plan = Plans(defs).of_type("water", "product_page")
    full = plan.render(Product(1, "water", {**VALUES, "pigment": ["PB29", "PR101"], "title": "Blue"}))
    assert [made.content.plain for made in full.blocks()] == ["Pigment PB29, PR101.\n\nFor Blue."]
    bare = plan.render(Product(1, "water", {"title": "Blue"}))
    assert [made.content.plain for made in bare.blocks()] == ["For Blue."]


def test_a_field_that_goes_leaves_the_slots_that_named_it_and_holds_the_words_that_do() -> None:
    regions = block(kind="fields", takes={"fields": ["opacity", "granul"]}, heading="Two")
    own = Layout("own", "Own", regions=regions, steps=())
    loose = [reference for reference in NOUN.referring.refers(own) if reference.key == "opacity"]
    assert [reference.loose for reference in loose] == [True]
    assert NOUN.referring.without(own, loose[0]).regions[0].blocks[0]["takes"] == {
        "fields": ["granul"],
        "sets": [],
        "sections": [],
    } or (NOUN.referring.without(own, loose[0]).regions[0].blocks[0]["takes"] == {"fields": ["granul"]})
    words = replace(own, regions=block(kind="words", words="{opacity}"))
    assert [reference.loose for reference in NOUN.referring.refers(words)] == [False]
    assert NOUN.referring.with_field(words, "opacity", "granul").regions[0].blocks[0]["words"] == "{granul}"


@given(EDITS, SETTINGS, PRODUCTS)
def test_why_of_a_block_says_shows_exactly_when_the_document_holds_it(
    edits: list[Any], settings: list[DisplaySetting], product: Product
) -> None:
    own = after_edits(with_layouts(Layout("own", "Own", base="page")), Layout("own", "Own", base="page"), edits)
    defs = with_layouts(own)
    chosen = DisplaySetting(Scope("shop"), EVERY, "product_page", {"layout": "own"})
    for setting in (*settings, chosen):
        defs = defs.having("display_setting", str(setting_key(setting)), setting)
    plan = Plans(defs).of_type(product.type, "product_page")
    held = {block.id for block in plan.render(product).blocks()}
    for block in plan.layout.blocks():
        steps = why_block(defs, plan, of_product(product), block.id)
        shows = steps[-1].name == "shows"
        assert shows == (product.offered and block.id in held), (block.id, steps)
        assert shows or any(step.ok is False for step in steps)
        assert all(step.text for step in steps)
        for device in EVERY_DEVICE:
            [width] = [
                step for step in why_block(defs, plan, of_product(product), block.id, device) if step.name == "device"
            ]
            within = plan.holding[block.id].chain
            assert width.ok == all(device in block_devices(each) for each in within), (block.id, device, width)
    gone = why_block(defs, plan, of_product(product), "never_there")
    assert gone[-1].ok is False
    for key in NAMES:
        said = deciders(defs, plan, defs.cascade, key)
        assert len(set(said)) == len(said)
        assert not any(decider.noun == "layout" and decider.key == "own" and not decider.holds for decider in said)


def test_what_else_decides_tells_who_is_overridden_and_by_whom() -> None:
    defs = with_layouts(Layout("own", "Own", base="page"))
    for setting in (
        DisplaySetting(Scope("shop"), "opacity", EVERY, {"label": "above", "shown": False}),
        DisplaySetting(Scope("type", "paint"), "opacity", "product_page", {"shown": True}),
        DisplaySetting(Scope("type", "paint"), EVERY, "product_page", {"layout": "own"}),
    ):
        defs = defs.having("display_setting", str(setting_key(setting)), setting)
    plan = Plans(defs).of_type("paint", "product_page")
    said = {(decider.name, decider.says): decider.holds for decider in deciders(defs, plan, defs.cascade, "opacity")}
    assert said["Paint", "now shown"]
    assert not said["the shop", "no longer shown, but Paint says otherwise"]
    assert said["the shop", "label above the value"]
    assert said["Own", "chosen by Paint"]
    assert said["Product page", "Own builds on it"]
    assert said["Details", "takes the field"]
