"""Small answers that pages stand on: stored documents of older formats, copies, names, cards of rows, and which listings a product stands on."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, having, state
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.surfaces import (
    SURFACES,
    addressed_surface,
    data_surface,
    listed_surface,
    record_surface,
    surface_at,
)
from young_fabric.core.kinds import KINDS, Spec
from young_fabric.core.listing.listings import place_mark, places
from young_fabric.core.listing.why_listed import why_listed
from young_fabric.core.options.goods import Goods, VariantFacts
from young_fabric.core.options.left import nothing_left
from young_fabric.core.options.offers import offer_of
from young_fabric.core.pages.document import from_json
from young_fabric.core.pages.listed import of_collection, of_record, of_type
from young_fabric.core.pages.plans import Plans
from young_fabric.core.pages.why import why
from young_fabric.core.subjects.memberships import Memberships, Place
from young_fabric.core.subjects.product_labels import Names
from young_fabric.core.subjects.products import Product

ASKED = Memberships(SALTMARSH)
MADE = Product(3, "watercolour", {"title": "Peat", "price": "9", "ss_maker": "fen_mill"}, collections=("small_change",))


def test_the_surfaces_that_pages_ask_for() -> None:
    found = [addressed_surface(), listed_surface(), data_surface(), record_surface()]
    assert [surface.code for surface in found] == ["product_page", "listing_card", "structured_data", "record_page"]
    assert (surface_at("p"), surface_at("q")) == (SURFACES["product_page"], SURFACES["quick_look"])
    assert (surface_at(""), surface_at("nowhere")) == (None, None)


def test_a_document_of_the_second_format_tells_the_stock_after_the_price() -> None:
    def page(*blocks: dict[str, Any]) -> dict[str, Any]:
        return {"surface": "product_page", "product": 1, "region": {"id": "main", "blocks": list(blocks)}}

    price, title = {"id": "price", "kind": "price"}, {"id": "title", "kind": "title"}
    parted = {"id": "two", "kind": "columns", "regions": [{"id": "left", "blocks": [price, title]}]}
    made = from_json(page(title, parted), 2)
    assert [block.id for block in made.blocks()] == ["title", "two", "price", "stock", "title"]
    assert [block.id for block in from_json(page(title, price), 2).blocks()] == ["title", "price"], (
        "without parts as it was"
    )
    assert [block.id for block in from_json(page(title, parted)).blocks()] == ["title", "two", "price", "title"]


def test_a_shared_copy_stands_in_the_words_of_the_first_collection_that_has_its_own() -> None:
    copy = SALTMARSH.things["shared_copy"]["colour_care"]
    assert copy.words_for(("lightfast",)) == (copy.words, ("shared_copy", "colour_care"))
    assert copy.words_for(("lightfast", "outdoors")) == (copy.own["outdoors"], ("collection", "outdoors"))
    empty = having(("shared_copy", state("shared_copy", "colour_care", ("words", ""))))
    assert empty.things["shared_copy"]["colour_care"].words_for(()) is None


def test_what_a_value_names_is_called_by_name_and_address() -> None:
    names, field = Names(SALTMARSH, {}), SALTMARSH.fields["ss_maker"]
    assert list(names.called(field, "fen_mill")) == [("fen_mill", "Fen Mill", "fen-mill")]
    assert names.of_product(MADE).values["ss_maker"] != "fen_mill"
    plain = Product(4, "easels", {"title": "Easel"})
    assert names.of_product(plain) is plain


def test_a_product_stands_on_the_listings_of_its_types_collections_and_records() -> None:
    found = places(ASKED, MADE)
    assert {
        of_type("watercolour"),
        of_type("paint"),
        of_record("fen_mill"),
        of_collection("small_change"),
    } <= found.keys()
    assert of_record("marsh_reed") not in found
    assert found[of_type("paint")] == Place(2**31 - 2, "0", "Peat")
    assert found[of_collection("small_change")].number == "9"
    assert [place_mark(Place(1, "2", "x"), position) for position in (0, 3)] == ["1 2 x", "1 2 x 3"]
    bare = having(("record_type", state("record_type", "maker", ("page", False))))
    assert of_record("fen_mill") not in places(Memberships(bare), MADE)


@pytest.mark.parametrize(
    ("product", "listing", "ok", "words"),
    [
        (MADE, of_record("fen_mill"), True, "Its Maker is Fen Mill"),
        (MADE, of_record("marsh_reed"), False, "Its Maker is not Marsh & Reed"),
        (MADE, of_collection("small_change"), True, "Up to ten euros has products of which Price at most €10.00"),
        (MADE, of_collection("first_box"), False, "A first box has what is put in by hand, and this was not"),
        (
            Product(6, "paint", {}, collections=("first_box",)),
            of_collection("first_box"),
            True,
            "It was put into A first box by hand",
        ),
        (Product(14, "paint", {}), of_collection("outdoors"), False, "It was kept out of For the field by hand"),
    ],
)
def test_why_a_product_belongs_to_a_listing(product: Product, listing: Any, ok: bool, words: str) -> None:
    step = why_listed(ASKED, product, listing)[1]
    assert (step.ok, step.text) == (ok, words)


def test_why_a_product_can_not_stand_on_the_page_of_a_record() -> None:
    bare = having(("record_type", state("record_type", "maker", ("page", False))))
    step = why_listed(Memberships(bare), MADE, of_record("fen_mill"))[1]
    assert (step.ok, step.text) == (False, "Records of Maker have no page")
    dear = why_listed(ASKED, Product(5, "easels", {"price": "90"}), of_collection("small_change"))[1]
    assert dear.ok is False
    assert dear.text.startswith("Up to ten euros has products of which Price at most €10.00: ")


def test_a_default_is_told_with_what_it_stems_from() -> None:
    tight = having(
        ("field", state("field", "ss_made_in", ("default", "Ostrey"))),
        ("product_type", state("product_type", "easels", ("own", {"ss_made_in": {"default": "Port Callan"}}))),
    )

    def told(defs: Any, of: str) -> str:
        plan = Plans(defs).of_type(of, "product_page")
        return next(
            step.text for step in why(defs, plan, Product(1, of, {"title": "T"}), "ss_made_in") if step.name == "value"
        )

    assert told(tight, "easels") == "Value is filled by the product type Easels: “Port Callan”"
    assert told(tight, "sketchbooks") == "Value is filled by the field's default: “Ostrey”"


def test_a_picture_is_read_from_a_file_by_the_name_it_is_stored_under() -> None:
    kind, file = KINDS["picture"], "a" * 64
    assert kind.from_text(f"{file} The quay ", Spec()) == {"file": file, "alt": "The quay", "width": 1, "height": 1}
    assert kind.to_text({"file": file, "alt": "", "width": 1, "height": 1}, Spec()) == file
    with pytest.raises(Refusal, match="not a stored picture"):
        kind.from_text("quay.jpg The quay", Spec())


@pytest.mark.parametrize(
    ("stock", "stocks", "left"),
    [
        (None, {}, True),
        (1, {}, True),
        (0, {}, False),
        (1, {("cut_size", "small"): 0}, True),
        (1, {("cut_size", code): 0 for code in ("small", "middle", "large")}, False),
    ],
)
def test_nothing_is_left_however_it_is_chosen(stock: int | None, stocks: Any, left: bool) -> None:
    must = having(("option_set", state("option_set", "cut_to_size", ("options/0/required", True))))
    offer = offer_of([must.option_sets["cut_to_size"]], must)
    goods = Goods(offer, "EUR", own=VariantFacts(price=Decimal(1), stock=stock), stocks=stocks)
    assert nothing_left(goods) is not left
    free = Goods(
        offer_of([SALTMARSH.option_sets["cut_to_size"]], SALTMARSH), "EUR", own=VariantFacts(stock=1), stocks=stocks
    )
    assert not nothing_left(free), "what need not be chosen hinders nothing"


def test_why_a_field_does_not_apply_names_who_has_it_and_what_would_bring_it() -> None:
    def applies(key: str) -> str:
        plan = Plans(SALTMARSH).of_type("easels", "product_page")
        return why(SALTMARSH, plan, Product(1, "easels", {"title": "T"}), key)[1].text

    assert applies("ss_goes_with") == "Easels does not have it; Watercolour has it"
    assert applies("ss_dampening").startswith("Easels does not have it")
    assert applies("ss_pigment") == (
        "Easels does not have it; Gouache, Oil colour, Paint and 1 more have it, the set Paint basics would bring it"
    )


def test_what_a_field_names_and_where_that_stands() -> None:
    wood, uses = SALTMARSH.fields["ss_wood"], SALTMARSH.fields["ss_maker_uses"]
    assert (wood.named("value_list"), wood.named("record_type"), uses.named("record_type")) == (
        ("wood",),
        (),
        ("maker",),
    )
    assert wood.containing(("value_list", "wood"), "ash") == ("ash",)
    assert uses.containing(("record_type", "maker"), "fen_mill") == (["fen_mill"],)
    assert wood.containing(("value_list", "hair"), "ash") == ()
    assert uses.paths(("record_type", "maker")) == ('$."ss_maker_uses"[*][*]',)


def test_rows_are_read_from_a_file_cell_by_cell() -> None:
    kind, spec = KINDS["rows"], SALTMARSH.spec(SALTMARSH.fields["ss_wash_steps"])
    row = '[{"step": "Wet it", "took": "5 min", "nothing": "x"}]'
    assert kind.from_text(row, spec) == [{"step": "Wet it", "took": {"amount": "5", "unit": "min"}, "nothing": "x"}]
    for odd in ("x", "[3]", "{}", '[{"step": 3}]'):
        with pytest.raises(Refusal) as refused:
            kind.from_text(odd, spec)
        assert refused.value.code == "shape"


def test_something_that_is_gone_is_told_with_some_that_are_there() -> None:
    longer = having(("record", state("record", "fen_mill", ("name", "Fen Mill on the East Fen, makers of paper"))))
    spec = longer.spec(longer.fields["ss_maker"])
    with pytest.raises(Refusal) as refused:
        KINDS["record"].read("Nobody", spec)
    assert refused.value.code == "gone"
    assert refused.value.help.startswith("Choose one, such as Callan Joinery, Driftline Bindery")
    assert len(refused.value.help) == len("Choose one, such as ") + 160
