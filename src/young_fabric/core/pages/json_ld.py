"""schema.org structured data, made from the data surface's document and nothing else: what values are, not how they look."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds.schema_org import PROPERTIES
from young_fabric.core.nouns.fields.built_in import DERIVED
from young_fabric.core.pages.document import Entry, RenderDoc

Members = Mapping[str, Any]
"""A value as members of a PropertyValue."""


@dataclass(frozen=True)
class Offering:
    """What structured data say besides the document: currency, whether it is sold out, the page's address, the shop's."""

    currency: str
    sold_out: bool
    url: str
    root: str


def _text(members: Members, _offering: Offering) -> Any:
    unit = members.get("unitText")
    return f"{members['value']} {unit}" if unit else members["value"]


def _named(sort: str) -> Callable[[Members, Offering], Any]:
    def named(members: Members, _offering: Offering) -> Any:
        value = members["value"]
        names = value if isinstance(value, list) else [value]
        made = [{"@type": sort, "name": name} for name in names]
        return made if isinstance(value, list) else made[0]

    return named


def _quantity(members: Members, _offering: Offering) -> Any:
    return {"@type": "QuantitativeValue", **members}


def _rating(members: Members, _offering: Offering) -> Any:
    counted = {"ratingCount": members["count"]} if "count" in members else {}
    return {"@type": "AggregateRating", "ratingValue": members["value"], "bestRating": members["maxValue"], **counted}


def _video(members: Members, _offering: Offering) -> Any:
    return {"@type": "VideoObject", "name": members["name"], "url": members["value"]}


def _offer(members: Members, offering: Offering) -> Any:
    return {
        "@type": "Offer",
        "price": members["value"],
        "priceCurrency": offering.currency,
        "url": offering.url,
        "availability": f"https://schema.org/{'OutOfStock' if offering.sold_out else 'InStock'}",
    }


def _unit_price(members: Members, offering: Offering) -> Any:
    reference = {"@type": "QuantitativeValue", **members["reference"]}
    price = {"price": members["value"], "priceCurrency": offering.currency}
    return {"@type": "UnitPriceSpecification", **price, "referenceQuantity": reference}


SHAPES: Mapping[str, Callable[[Members, Offering], Any]] = {
    "text": _text,
    "brand": _named("Brand"),
    "organization": _named("Organization"),
    "country": _named("Country"),
    "certification": _named("Certification"),
    "quantity": _quantity,
    "yes_no": _text,
    "date": _text,
    "image": _text,
    "url": _text,
    "rating": _rating,
    "video": _video,
    "offer": _offer,
    "unit_price": _unit_price,
}
"""What stands under a property, by its shape."""
_BUILT_IN = {"offers": "offer", "image": "image", "priceSpecification": "unit_price"}
"""Shapes of built-in fields' properties; the others are text."""


def product_data(facts: RenderDoc, offering: Offering, defs: Definitions) -> dict[str, Any]:
    """A schema.org Product; what is mapped to no property is an additional one."""
    found: dict[str, list[Any]] = {}
    more = []
    for entry in facts.entries():
        field = defs.all_fields.get(entry.field)
        if field is None:
            continue
        values = _members(entry, defs, offering.root)
        if field.schema_org:
            mapped = PROPERTIES.get(field.schema_org)
            shape = SHAPES[mapped.shape if mapped else _BUILT_IN.get(field.schema_org, "text")]
            found.setdefault(field.schema_org, []).extend(shape(members, offering) for members in values)
        elif entry.field not in DERIVED:
            more.append({"@type": "PropertyValue", "name": entry.label, **_together(values)})
    out: dict[str, Any] = {"@context": "https://schema.org", "@type": "Product", "url": offering.url}
    out |= {code: values[0] if len(values) == 1 else _flat(values) for code, values in found.items()}
    unit_price = out.pop("priceSpecification", None)
    if unit_price is not None and "offers" in out:
        out["offers"]["priceSpecification"] = unit_price
    return out | ({"additionalProperty": more} if more else {})


def _members(entry: Entry, defs: Definitions, root: str) -> list[Members]:
    """The values of an entry, each as members of a PropertyValue; its text alone where the definitions fit it no longer."""
    field = defs.all_fields[entry.field]
    spec, kind = defs.spec(field), field.rules
    items = entry.value if field.many and isinstance(entry.value, list) else [entry.value]
    if not all(map(kind.well_formed, items)):
        return [{"value": entry.text}]
    return [kind.property_value(item, spec, root) for item in items]


def _together(values: list[Members]) -> dict[str, Any]:
    """Several values of one property: their members, with all that they are under `value`."""
    rest = {name: member for name, member in values[0].items() if name in ("unitCode", "unitText", "maxValue")}
    single = _flat([members["value"] for members in values])
    return {"value": single[0] if len(single) == 1 else single, **rest}


def _flat(values: list[Any]) -> list[Any]:
    return [item for value in values for item in (value if isinstance(value, list) else [value])]
