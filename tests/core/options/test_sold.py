"""What shoppers are told of a choice: what is chosen beforehand, what an address holds, how options stand, and variants as data."""

from __future__ import annotations

from dataclasses import replace

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.cascade import DisplaySetting, Scope
from young_fabric.core.display.properties import PROPERTIES
from young_fabric.core.display.surfaces import SURFACES, addressed_surface, product_surfaces
from young_fabric.core.interchange.product_group import MOST_VARIANTS, VariantData, product_group
from young_fabric.core.kinds.schema_org import varies_by
from young_fabric.core.nouns.layouts.display_settings import check_setting, field_called
from young_fabric.core.nouns.lists.list_values import NEAREST, Swatch, check_swatch
from young_fabric.core.nouns.options.effects import Amount, Effect
from young_fabric.core.nouns.options.option_sets import OptionSet
from young_fabric.core.nouns.options.options import Option, OptionValue
from young_fabric.core.nouns.options.said_options import said_option
from young_fabric.core.nouns.types.product_types import ProductType
from young_fabric.core.options.choosing import addressed, chosen_with, how_chosen, read_asked
from young_fabric.core.options.offers import Offer, offer_of
from young_fabric.core.options.sold import as_left, as_sold, offer_mark, sold_of
from young_fabric.core.options.variant_prices import VariantPrices
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.variants import Variant, describe_offered

RED = OptionValue("red", "Red", Swatch(("#aa2233",)))
BLUE = OptionValue("blue", "Blue", Swatch(("#2233aa",)), Effect(price=Amount("amount", "2")))
COLOUR = Option("colour", "Colour", values=(RED, BLUE), default="red")
EXTRAS = Option("extras", "Extras", "many_of", required=False, values=(OptionValue("a", "A"), OptionValue("b", "B")))
NAME = Option("name", "Name", "text", required=False)
GIFT = Option("gift", "Gift", "tick", required=False)
SET = OptionSet("covers", "Covers", (COLOUR, EXTRAS, NAME, GIFT))
SHOP = Shop("Saltmarsh", "ss_", "EUR", "en", None)


def definitions(*settings: DisplaySetting) -> Definitions:
    books = ProductType("books", "Books", None, "books", option_sets=("covers",))
    things = {
        "option_set": {"covers": SET},
        "product_type": {"books": books},
        "display_setting": {f"{said.scope}/{said.field}/{said.surface}": said for said in settings},
    }
    return Definitions(SHOP, things)


def offer() -> Offer:
    return offer_of([SET], definitions())


def product() -> Product:
    values = {"title": "Marsh book", "price": "40", "sku": "SB-1"}
    variants = [Variant(1, 5, 0, {"colour": "red"}, sku="SB-1-R"), Variant(2, 5, 1, {"colour": "blue"}, sku="SB-1-B")]
    found = offer()
    book = Product(5, "books", values)
    return as_sold(book, sold_of(book, found, offer_mark(found), variants, VariantPrices(found, "EUR")))


def unit_price(shown: Product) -> str:
    doc = Plans(definitions()).of_product(shown, addressed_surface().code).render(shown)
    return next(entry.text for entry in doc.entries() if entry.field == "unit_price")


def test_the_unit_price_is_of_the_variant_whose_price_is_shown() -> None:
    found, per = offer(), {"count": 1, "unit": "ml"}
    book = Product(5, "books", {"title": "Ink", "price": "40", "contents": {**per, "amount": "100"}})
    small = Variant(1, 5, 0, {"colour": "red"}, {"contents": {**per, "amount": "50"}}, stock=0)
    large = Variant(2, 5, 1, {"colour": "blue"}, stock=3)
    prices = VariantPrices(found, "EUR")
    shown = as_sold(book, sold_of(book, found, offer_mark(found), [small, large], prices))
    assert (shown.values["price"], shown.sold.differ, unit_price(shown)) == ("40", True, "€80.00 per 100 ml")
    assert shown.values["contents"] == book.values["contents"], "what it holds is told as it is"
    left = as_left(shown, frozenset({small.id}))
    assert (left.values["price"], left.sold.differ, unit_price(left)) == ("42", False, "€42.00 per 100 ml")
    for stocks in ((1, 0), (None, 3), (0, 0), (0, -1)):
        gone = frozenset(
            variant.id
            for variant, stock in zip((small, large), stocks, strict=True)
            if stock is not None and stock <= 0
        )
        again = as_left(shown, gone)
        assert (again is shown) is (stocks != (1, 0)), stocks
    bare = Product(5, "books", {"title": "Ink"})
    unpriced = as_sold(bare, sold_of(bare, found, offer_mark(found), [small, large], prices))
    assert as_left(unpriced, frozenset()) is unpriced


def test_what_is_chosen_beforehand_stands_until_something_is_asked() -> None:
    assert chosen_with(offer(), {}) == {"colour": "red"}
    assert chosen_with(offer(), {"colour": "", "gone": "x"}) == {"colour": ""}
    assert chosen_with(offer(), {"colour": "blue", "name": "Anna"}) == {"colour": "blue", "name": "Anna"}


def test_an_address_holds_what_is_picked_or_ticked_and_nothing_that_was_typed() -> None:
    asked = {"colour": "blue", "extras": ["b", "a"], "name": "Anna", "gift": "yes"}
    assert addressed(offer(), asked) == [("colour", "blue"), ("extras", "b"), ("extras", "a"), ("gift", "yes")]
    assert addressed(offer(), {"colour": "moss"}) == []
    assert addressed(offer(), {"colour": ""}) == [("colour", "")], "nothing, where something is chosen beforehand"
    assert addressed(offer(), {"extras": [], "gift": ""}) == []


def test_a_form_is_read_as_the_options_take_it_and_old_addresses_choose_nothing() -> None:
    sent = {"colour": ["moss"], "extras": ["", "a", "z"], "name": ["x" * 6000], "page": ["2"]}
    read = read_asked(offer(), sent)
    assert (read["colour"], read["extras"], len(read["name"]), "page" in read) == ("", ["a"], 5000, False)


@pytest.mark.parametrize(
    ("count", "swatches", "how"),
    [(2, True, "swatches"), (8, False, "buttons"), (9, False, "list"), (200, True, "swatches")],
)
def test_what_fits_is_swatches_where_there_are_any_else_buttons_for_few(count: int, swatches: bool, how: str) -> None:
    look = Swatch(("#aa2233",)) if swatches else Swatch()
    values = tuple(OptionValue(f"v{number}", f"V {number}", look) for number in range(count))
    found = offer_of([replace(SET, options=(replace(COLOUR, values=values, default=""),))], definitions())
    assert how_chosen("fits", found.by_key["colour"]) == how
    assert how_chosen("radios", found.by_key["colour"]) == "radios"


def test_options_stand_as_the_cascade_has_them_on_each_surface() -> None:
    said = DisplaySetting(Scope("type", "books"), "covers.colour", "product_page", {"chosen_by": "radios"})
    shop = DisplaySetting(Scope("shop"), "*", "*", {"swatch_shape": "soft", "chosen_by": "list"})
    hidden = DisplaySetting(Scope("shop"), "covers.colour", "listing_card", {"shown": False})
    made = Plans(definitions(said, shop))
    blocks = {block.id: block for block in made.of_product(product(), "product_page").render(product()).blocks()}
    assert [(option.key, option.chosen_by, option.shape) for option in blocks["options"].content.shown] == [
        ("colour", "radios", "soft"),
        ("extras", "list", "soft"),
        ("name", "fits", "round"),
        ("gift", "fits", "round"),
    ], "what is typed or ticked is chosen from nothing"
    card = made.of_product(product(), "listing_card").render(product())
    assert [option.key for block in card.blocks() if block.kind == "options" for option in block.content.shown] == [
        "colour"
    ]
    without = Plans(definitions(hidden)).of_product(product(), "listing_card").render(product())
    assert [block for block in without.blocks() if block.kind == "options"] == []
    plain = Plans(definitions()).of_product(product(), "product_page")
    assert plain.hash != made.of_product(product(), "product_page").hash
    assert [block.kind for block in plain.render(replace(product(), sold=None)).blocks()].count("options") == 0


def test_the_lowest_of_several_prices_is_told_as_such() -> None:
    sold = product()
    assert (sold.values["price"], sold.sold.lowest, sold.sold.differ) == ("40", "40.00", True)
    page = Plans(definitions()).of_product(sold, "product_page").render(sold)
    assert next(block for block in page.blocks() if block.kind == "price").said("from") is True
    same = replace(sold, sold=replace(sold.sold, differ=False))
    page = Plans(definitions()).of_product(same, "product_page").render(same)
    assert not next(block for block in page.blocks() if block.kind == "price").said("from")


def test_settings_of_options_are_checked_and_named() -> None:
    defs = definitions()
    check_setting(DisplaySetting(Scope("shop"), "covers.colour", "product_page", {"chosen_by": "list"}), defs)
    assert field_called(defs, "covers.colour") == "Colour"
    assert said_option(defs, "covers.gone") is said_option(defs, "gone.colour") is None
    for field, surface in (("covers.gone", "product_page"), ("covers.colour", "compare"), ("gone.colour", "*")):
        with pytest.raises(Refusal, match="There is no field"):
            check_setting(DisplaySetting(Scope("shop"), field, surface, {"chosen_by": "list"}), defs)
    said = said_option(defs, "covers.colour")
    assert said is not None
    for code, prop in PROPERTIES.items():
        for surface in product_surfaces().values():
            if prop.means(said, surface) and code != "shown":
                assert surface.options, (code, surface.code)
    assert not PROPERTIES["label"].means(said, SURFACES["product_page"])
    assert not PROPERTIES["chosen_by"].means(defs.all_fields["title"], SURFACES["product_page"])


def test_variants_are_told_as_a_group_with_what_they_vary_by() -> None:
    data = {"@type": "Product", "name": "Marsh book", "sku": "SB-1", "offers": {}, "url": "u"}
    found = [
        VariantData(variant, variant.sku or "", "40.00", variant.id == 2, "u?x") for variant in product().sold.variants
    ]
    made = product_group(data, 5, offer(), found, "EUR", "https://shop.example")
    assert (made["@type"], made["productGroupID"], made["variesBy"]) == (
        "ProductGroup",
        "SB-1",
        ["https://schema.org/color"],
    )
    assert "offers" not in made
    assert [
        (variant["sku"], variant["color"], variant["offers"]["availability"][-10:]) for variant in made["hasVariant"]
    ] == [("SB-1-R", "Red", "rg/InStock"), ("SB-1-B", "Blue", "OutOfStock")]
    assert product_group(data, 5, offer(), [], "EUR", "") == data
    assert len(product_group(data, 5, offer(), found * MOST_VARIANTS, "EUR", "")["hasVariant"]) == MOST_VARIANTS
    assert (varies_by("tube_size"), varies_by("easel_wood"), varies_by("number")) == ("size", "material", "")


@pytest.mark.parametrize("focus", [(0, 0, 100), (1000, 1000, NEAREST), ()])
def test_the_part_of_a_picture_that_shows_is_within_it(focus: tuple[int, ...]) -> None:
    check_swatch(Swatch(focus=focus))
    for wrong in ((-1, 0, 100), (0, 1001, 100), (0, 0, 99), (0, 0, NEAREST + 1), (0, 0)):
        with pytest.raises(Refusal, match="part of a picture"):
            check_swatch(Swatch(focus=wrong))


def test_what_is_offered_is_told_in_short_lines_whatever_was_stored() -> None:
    defs = definitions()
    row = {"id": 1, "position": 0, "choices": {"colour": "red"}, "values": {}, "unread": {}, "sku": "A"}
    before = {"sets": ["covers"], "variants": [row]}
    after = {"sets": ["gone"], "variants": [{**row, "sku": "B"}, {**row, "id": 2}]}
    assert describe_offered(before, after, defs) == [
        "gone offered",
        "Covers no longer offered",
        "1 variant new",
        "B: SKU A → B",
    ]
    assert describe_offered(None, before, defs) == ["Covers offered", "1 variant new"]
    assert describe_offered(before, None, defs) == ["Covers no longer offered", "1 variant retired"]
    assert describe_offered(before, before, defs) == ["no difference"]
