"""Structured data say what values are: numbers with the codes of units, yes and no, several, and where each belongs."""

from __future__ import annotations

import json
from typing import Any

import pytest

from tests.core.helpers import defs_of
from tests.core.helpers import field as make_field
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shop import Shop
from young_fabric.core.base.unit_codes import UNIT_CODES, measured
from young_fabric.core.base.units import UNITS
from young_fabric.core.definitions.groups import Group
from young_fabric.core.kinds import KINDS
from young_fabric.core.kinds.schema_org import PROPERTIES
from young_fabric.core.nouns.fields.fields import Field, check_field
from young_fabric.core.nouns.fields.starters import starters
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.types.product_types import ProductType
from young_fabric.core.pages.json_ld import SHAPES, Offering, product_data
from young_fabric.core.pages.plan import compile_plan
from young_fabric.core.subjects.products import Product

ROOT = "https://shop.example"
WOODS = ValueList("woods", "Woods", (ListValue("a", "Ash, white"), ListValue("b", "Beech")))
FILE = {"file": "ab" * 32, "alt": "", "width": 9, "height": 9}


def data(value: Any, kind: str, schema_org: str = "", sold_out: bool = False, **more: Any) -> dict[str, Any]:
    field = make_field("f", "F", "F", kind, schema_org=schema_org, **more)
    wide = ProductType("t", "T", fields=("f",))
    defs = defs_of(lists={"woods": WOODS}, fields={"f": field}, types={"t": wide})
    check_field(field, defs)
    values = {"title": "Easel", "price": "12.5", "contents": {"count": 2, "amount": "15", "unit": "ml"}, "f": value}
    doc = compile_plan(defs, Group("t"), "structured_data").render(Product(1, "t", values))
    found = product_data(doc, Offering("EUR", sold_out, f"{ROOT}/p/easel", ROOT), defs)
    json.dumps(found)
    return found


@pytest.mark.parametrize(
    ("kind", "value", "more", "members"),
    [
        ("text", "Gum", {}, {"value": "Gum"}),
        ("text", ["Gum", "Honey"], {"many": True}, {"value": ["Gum", "Honey"]}),
        ("whole", "1871", {}, {"value": "1871"}),
        (
            "measure",
            {"amount": "300", "unit": "g/m²"},
            {"unit": "g/m²"},
            {"value": "300", "unitCode": "GM", "unitText": "g/m²"},
        ),
        ("money", "9.8", {}, {"value": "9.8", "unitText": "EUR"}),
        ("yes_no", False, {}, {"value": False}),
        ("one_of", "a", {"list": "woods"}, {"value": "Ash, white"}),
        ("many_of", ["a", "b"], {"list": "woods"}, {"value": ["Ash, white", "Beech"]}),
        ("many_of", ["b"], {"list": "woods"}, {"value": "Beech"}),
        ("date", "2026-02-28", {}, {"value": "2026-02-28"}),
        ("colour", "#27476e", {}, {"value": "#27476e"}),
        ("picture", FILE, {}, {"value": f"{ROOT}/files/{'ab' * 32}-1600.webp"}),
        ("web_link", {"words": "Care", "address": "https://a.example/c"}, {}, {"value": "https://a.example/c"}),
        ("rating", {"value": "4.5", "out_of": "5", "count": 12}, {}, {"value": "4.5", "maxValue": "5"}),
    ],
)
def test_a_value_is_said_as_what_it_is(kind: str, value: Any, more: dict[str, Any], members: dict[str, Any]) -> None:
    (found,) = data(value, kind, **more)["additionalProperty"][-1:]
    assert found == {"@type": "PropertyValue", "name": "F", **members}


@pytest.mark.parametrize(
    ("property_code", "kind", "value", "more", "expected"),
    [
        ("brand", "text", "Tideline", {}, {"@type": "Brand", "name": "Tideline"}),
        ("material", "many_of", ["a", "b"], {"list": "woods"}, ["Ash, white", "Beech"]),
        ("width", "measure", {"amount": "42", "unit": "cm"}, {"unit": "cm"}, {"@type": "QuantitativeValue", "value": "42", "unitCode": "CMT", "unitText": "cm"}),
        ("size", "measure", {"amount": "42", "unit": "cm"}, {"unit": "cm"}, "42 cm"),
        ("isFamilyFriendly", "yes_no", True, {}, True),
        ("countryOfOrigin", "text", "Ireland", {}, {"@type": "Country", "name": "Ireland"}),
        ("hasCertification", "text", ["A", "B"], {"many": True}, [{"@type": "Certification", "name": "A"}, {"@type": "Certification", "name": "B"}]),
        ("aggregateRating", "rating", {"value": "4", "out_of": "5", "count": 3}, {}, {"@type": "AggregateRating", "ratingValue": "4", "bestRating": "5", "ratingCount": 3}),
        ("subjectOf", "video", {"words": "A wash", "address": "https://a.example/w/1"}, {}, {"@type": "VideoObject", "name": "A wash", "url": "https://a.example/w/1"}),
    ],
)  # fmt: skip
def test_a_mapped_field_feeds_its_property(property_code: str, kind: str, value: Any, more: Any, expected: Any) -> None:
    found = data(value, kind, property_code, **more)
    assert found[property_code] == expected
    assert "F" not in {prop["name"] for prop in found.get("additionalProperty", ())}


def test_the_offer_has_its_price_and_unit_price() -> None:
    offer = data("x", "text", sold_out=True)["offers"]
    assert (offer["price"], offer["priceCurrency"], offer["availability"]) == (
        "12.5",
        "EUR",
        "https://schema.org/OutOfStock",
    )
    assert offer["priceSpecification"] == {
        "@type": "UnitPriceSpecification",
        "price": "41.67",
        "priceCurrency": "EUR",
        "referenceQuantity": {"@type": "QuantitativeValue", "value": "100", "unitCode": "MLT", "unitText": "ml"},
    }


@pytest.mark.parametrize(
    ("code", "kind"), [("brand", "rows"), ("width", "yes_no"), ("nothing", "text"), ("logo", "text")]
)
def test_a_kind_that_can_not_feed_a_property_is_refused(code: str, kind: str) -> None:
    columns = {"options": {"columns": [{"key": "a", "label": "A", "kind": "text"}]}} if kind == "rows" else {}
    with pytest.raises(Refusal) as caught:
        check_field(Field("f", "F", "F", kind, schema_org=code, **columns), defs_of())
    assert (caught.value.code, caught.value.where) == ("schema_org", ("schema_org",))


def test_every_unit_has_its_code_in_trade_and_every_shape_its_maker() -> None:
    assert set(UNIT_CODES) == {unit.symbol for unit in UNITS}
    assert len(set(UNIT_CODES.values())) == len(UNIT_CODES)
    assert measured("1", "cubit") == {"value": "1", "unitText": "cubit"}
    shapes = {found.shape for found in PROPERTIES.values()}
    assert shapes <= set(SHAPES)
    assert {shape for kind in KINDS.values() for shape in kind.shapes} <= set(SHAPES)
    assert all(any(shape in kind.shapes for kind in KINDS.values()) for shape in shapes)


def test_there_are_sixty_starters_in_groups_and_all_are_sound() -> None:
    found = starters()
    assert len(found) >= 60
    assert len({starter.group for starter in found.values()}) == 8
    assert sum(bool(starter.members.get("schema_org")) for starter in found.values()) >= 25
    for starter in found.values():
        listed = ValueList("l", "L", tuple(ListValue(f"v{i}", label) for i, label in enumerate(starter.values)))
        options = {**starter.members["options"], **({"list": "l"} if starter.values else {})}
        members = {**starter.members, "options": options}
        check_field(
            Field(f"ss_{starter.key}", starter.name, starter.name, **members),
            defs_of(Shop(prefix="ss_"), lists={"l": listed}),
        )
        assert starter.kind_words
