"""schema.org structured data, made from the data surface's document and nothing else."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from young_fabric.core.nouns.built_in import BUILT_IN, DERIVED
from young_fabric.core.nouns.fields import Field
from young_fabric.core.pages.document import Entry, RenderDoc


@dataclass(frozen=True)
class Offering:
    """What structured data say besides the document: currency, whether it is sold out, the page's address, the files'."""

    currency: str
    sold_out: bool
    url: str
    files: str


def _offers(entry: Entry, offering: Offering) -> Any:
    return {
        "@type": "Offer",
        "price": entry.value,
        "priceCurrency": offering.currency,
        "url": offering.url,
        "availability": f"https://schema.org/{'OutOfStock' if offering.sold_out else 'InStock'}",
    }


def _images(entry: Entry, offering: Offering) -> Any:
    return [f"{offering.files}/{picture['file']}-1600.webp" for picture in entry.shown.pictures]


PROPERTIES: Mapping[str, Callable[[Entry, Offering], Any]] = {"offers": _offers, "image": _images}
"""schema.org properties that are more than the text of a value."""


def product_data(facts: RenderDoc, offering: Offering, fields: Mapping[str, Field]) -> dict[str, Any]:
    """A schema.org Product; what has no property of its own is an additional one."""
    out: dict[str, Any] = {"@context": "https://schema.org", "@type": "Product", "url": offering.url}
    more = []
    for entry in facts.entries():
        built_in = BUILT_IN.get(entry.field)
        if built_in is not None and built_in.schema_org:
            special = PROPERTIES.get(built_in.schema_org)
            out[built_in.schema_org] = special(entry, offering) if special else entry.text
        elif entry.field not in DERIVED and entry.text:
            field = fields.get(entry.field)
            value = field.rules.json_ld(entry.value, entry.shown) if field is not None else entry.text
            more.append({"@type": "PropertyValue", "name": entry.label, "value": value})
    if more:
        out["additionalProperty"] = more
    return out
