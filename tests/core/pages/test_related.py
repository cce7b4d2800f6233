"""Related products and pictures with pins: what blocks ask for, what documents hold of it, and what is refused."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.pages.test_layouts import PICTURE, with_layouts
from tests.core.pages.test_resolve import VALUES
from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.cascade import EVERY, DisplaySetting, Scope
from young_fabric.core.display.pins import ACROSS, LONGEST_PIN, MOST_PINS
from young_fabric.core.kinds.references import named
from young_fabric.core.kinds.shown import Pinned, Related
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.layouts.display_settings import setting_key
from young_fabric.core.nouns.layouts.layout_edits import edited
from young_fabric.core.nouns.layouts.layouts import NOUN, Layout, check_layout
from young_fabric.core.pages.document import RenderDoc, ShownBlock, from_json, to_json
from young_fabric.core.pages.listed import same_listings
from young_fabric.core.pages.plans import Plans
from young_fabric.core.pages.related import named_products, related_blocks, without_blocks
from young_fabric.core.subjects.products import Product

PAGE = "product_page"
BESIDE = {"kind": "related", "id": "beside", "heading": "More"}


def laid_out(*blocks: dict[str, Any], **fields: Field) -> Definitions:
    """Definitions whose products have a layout with some blocks at its end, and some more fields."""
    defs = with_layouts(Layout("own", "Own", base="page"))
    for key, field in fields.items():
        defs = defs.having("field", key, field)
        paint = defs.types["paint"]
        defs = defs.having("product_type", "paint", type(paint)(**{**vars(paint), "fields": (*paint.fields, key)}))
    edits = [{"op": "add", "block": block, "region": "main", "after": "numbers"} for block in blocks]
    own = edited(defs.layouts, defs.layouts["own"], edits)
    check_layout(own, defs)
    chosen = DisplaySetting(Scope("shop"), EVERY, PAGE, {"layout": "own"})
    return defs.having("layout", "own", own).having("display_setting", str(setting_key(chosen)), chosen)


def rendered(defs: Definitions, **values: Any) -> RenderDoc:
    product = Product(7, "paint", {**VALUES, **values})
    doc = Plans(defs).of_type("paint", PAGE).render(product)
    assert from_json(to_json(doc)) == doc
    return doc


def block(doc: RenderDoc, name: str) -> ShownBlock | None:
    return next((found for found in doc.blocks() if found.id == name), None)


def test_others_of_the_same_type_or_with_the_same_values_are_asked_for_by_where_they_stand() -> None:
    of_type = block(rendered(laid_out(BESIDE)), "beside")
    assert of_type is not None
    assert of_type.content == Related((("product_type:paint",),), (), 4)
    defs = laid_out({**BESIDE, "by": "same", "same": ["pigment", "opacity"], "most": 8})
    alike = block(rendered(defs, pigment=["PB29", "PR101"], opacity="t"), "beside")
    assert alike is not None
    pigments = tuple(map(str, same_listings(defs.fields["pigment"], ["PB29", "PR101"])))
    assert alike.content == Related(
        (pigments, (str(same_listings(defs.fields["opacity"], "t")[0]),)), ("pigment", "opacity"), 8
    )
    assert len(pigments) == 2
    assert block(rendered(defs, pigment=["PB29"], opacity=None), "beside") is None, "nobody has the same of nothing"
    assert defs.alike == {"pigment", "opacity"}
    assert laid_out(BESIDE).alike == frozenset()


def test_which_fields_are_asked_by_decides_where_cards_stand_and_so_what_is_made_anew() -> None:
    alike = laid_out({**BESIDE, "by": "same", "same": ["opacity"]})
    alike = alike.having("display_setting", next(iter(alike.settings)), None)
    plain = alike.having("layout", "own", None)
    group = Plans(plain).of_type("paper", PAGE).group
    assert Plans(plain).group_hash(group) == Plans(alike).group_hash(group), "paper has no opacity"
    water = Plans(plain).of_type("water", PAGE).group
    assert Plans(plain).group_hash(water) != Plans(alike).group_hash(water)


def test_named_ones_come_first_and_make_the_block_stand_alone() -> None:
    field = Field("beside_it", "Beside it", "Beside it", "product", many=True)
    slot = {**BESIDE, "by": "named", "takes": {"fields": ["beside_it"]}}
    defs = laid_out(slot, beside_it=field)
    assert block(rendered(defs), "beside") is None
    found = block(
        rendered(defs, beside_it=[named(3, "Three", "three"), named(9, "Nine", ""), named(3, "Three", "three")]),
        "beside",
    )
    assert found is not None
    assert named_products(found) == [3, 9]
    assert found.content == Related((), (), 4)


def test_a_block_that_finds_nobody_goes_with_all_that_stands_for_it_alone() -> None:
    defs = laid_out(
        {"kind": "section", "id": "held", "heading": "Beside it"},
        {"kind": "heading", "id": "above", "words": "More of it"},
    )
    own = edited(defs.layouts, defs.layouts["own"], [
        {"op": "add", "block": BESIDE, "region": "held_1", "after": None},
        {"op": "move", "id": "held", "region": "main", "after": "above"},
    ])  # fmt: skip
    doc = rendered(defs.having("layout", "own", own))
    assert [found.id for found in related_blocks(doc)] == ["beside"]
    assert {"held", "above"} <= {found.id for found in doc.blocks()}
    bare = without_blocks(doc, ["beside"])
    assert {"held", "above", "beside"}.isdisjoint(found.id for found in bare.blocks())
    assert without_blocks(doc, []) is doc


@pytest.mark.parametrize(
    ("said", "code"),
    [
        ({"same": ["title"]}, "unknown_field"),
        ({"same": ["nothing"]}, "unknown_field"),
        ({"same": ["opacity", "opacity"]}, "too_many"),
        ({"same": ["opacity", "pigment", "granul", "weight"]}, "too_many"),
        ({"same": "opacity"}, "shape"),
        ({"most": 5}, "unknown"),
        ({"by": "price"}, "unknown"),
        ({"takes": {"fields": ["opacity"]}}, "kind_of_field"),
        ({"icon_of": "opacity"}, "kind_of_field"),
        ({"icon_of": 3}, "shape"),
    ],
)
def test_what_can_not_be_asked_is_refused(said: dict[str, Any], code: str) -> None:
    with pytest.raises(Refusal) as refused:
        laid_out({**BESIDE, **said})
    assert refused.value.code == code


def adding(kind: str) -> dict[str, Any]:
    return {"op": "add", "block": {"kind": kind}, "region": "main", "after": None}


def test_what_needs_a_page_does_not_go_on_cards_nor_prices_on_pages_of_records() -> None:
    defs = with_layouts(Layout("own", "Own", base="page"))
    for base, surface, kind in (
        ("card", "listing_card", "related"),
        ("compared", "compare", "related"),
        ("of_record", "record_page", "price"),
        ("page", PAGE, "referrers"),
    ):
        layout = Layout("other", "Other", surface, base)
        with pytest.raises(Refusal) as refused:
            check_layout(edited({**defs.layouts, "other": layout}, layout, [adding(kind)]), defs)
        assert refused.value.code in {"block_kind", "stands_once"}, (base, kind)
    layout = Layout("other", "Other", "record_page", "of_record")
    asked = {"op": "set", "id": "about", "props": {"condition": {"field": "granul", "op": "is", "value": True}}}
    with pytest.raises(Refusal) as refused:
        check_layout(edited({**defs.layouts, "other": layout}, layout, [asked]), defs)
    assert refused.value.code == "no_member"


def pin(**said: Any) -> dict[str, Any]:
    return {"x": 0, "y": ACROSS, "words": "The tip", "link": "/shop/c/brushes", **said}


def test_pins_stand_on_their_picture_in_order() -> None:
    doc = rendered(
        laid_out({"kind": "pins", "id": "parts", "picture": PICTURE, "pins": [pin(), pin(words="One\nTwo", link="")]})
    )
    found = block(doc, "parts")
    assert found is not None
    assert found.content == Pinned(PICTURE, ((0, 1000, ("The tip",), "/shop/c/brushes"), (0, 1000, ("One", "Two"), "")))
    assert found.content.plain == "The tip\nOne Two"
    assert block(rendered(laid_out({"kind": "pins", "id": "parts", "pins": [pin()]})), "parts") is None


@pytest.mark.parametrize("link", ["", "/shop/p/x", "https://saltmarsh.example/care", "mailto:shop@saltmarsh.example"])
def test_pins_lead_to_places_there_can_be(link: str) -> None:
    laid_out({"kind": "pins", "picture": PICTURE, "pins": [pin(link=link)] * MOST_PINS})


@pytest.mark.parametrize(
    ("said", "code"),
    [
        ({"pins": [pin()] * (MOST_PINS + 1)}, "too_many"),
        ({"pins": [pin(x=-1)]}, "number"),
        ({"pins": [pin(y=ACROSS + 1)]}, "number"),
        ({"pins": [pin(x=1.5)]}, "number"),
        ({"pins": [pin(x=True)]}, "number"),
        ({"pins": [pin(words="x" * (LONGEST_PIN + 1))]}, "long"),
        ({"pins": [pin(link="javascript:alert(1)")]}, "link"),
        ({"pins": [pin(link="//elsewhere.example/x")]}, "link"),
        ({"pins": [pin(link="/a b")]}, "link"),
        ({"pins": [{"x": 1, "y": 1}]}, "pins"),
        ({"pins": "none"}, "pins"),
        ({"picture": {"file": "../x", "alt": "", "width": 1, "height": 1}}, "picture"),
    ],
)
def test_pins_that_can_not_be_are_refused_at_their_place(said: dict[str, Any], code: str) -> None:
    with pytest.raises(Refusal) as refused:
        laid_out({"kind": "pins", "picture": PICTURE, "pins": [], **said})
    assert refused.value.code == code
    assert refused.value.where[:2] in {("steps", 0), ("regions", 0)}


def test_an_icon_is_the_first_picture_of_a_field_where_there_is_one() -> None:
    defs = laid_out(
        {"kind": "fields", "id": "looks", "heading": "Looks", "icon_of": "pictures", "takes": {"fields": ["opacity"]}}
    )
    with_one = block(rendered(defs, opacity="t", pictures=[PICTURE, {**PICTURE, "alt": "Another"}]), "looks")
    assert with_one is not None
    assert with_one.said("icon_of") == PICTURE
    without = block(rendered(defs, opacity="t", pictures=None), "looks")
    assert without is not None
    assert without.said("icon_of", None) is None


def test_a_field_that_goes_or_is_merged_is_no_longer_asked_by_that_name() -> None:
    defs = laid_out({**BESIDE, "by": "same", "same": ["opacity", "pigment"]})
    layout = defs.layouts["own"]
    [reference] = [found for found in NOUN.referring.refers(layout) if found.key == "opacity"]
    assert reference.loose
    assert NOUN.referring.without(layout, reference).steps[0].block == {**layout.steps[0].block, "same": ["pigment"]}
    assert NOUN.referring.with_field(layout, "opacity", "granul").steps[0].block["same"] == ["granul", "pigment"]
    assert NOUN.referring.with_field(layout, "opacity", "pigment").steps[0].block["same"] == ["pigment"]
