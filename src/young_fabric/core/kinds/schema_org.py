"""Properties of a schema.org Product that fields can be: each with the shape of what stands under it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple


class SchemaProperty(NamedTuple):
    """A property: its name there, what it is called here, and the shape of its values."""

    code: str
    label: str
    shape: str


PROPERTIES: Mapping[str, SchemaProperty] = {
    code: SchemaProperty(code, label, shape)
    for code, label, shape in (
        ("alternateName", "another name", "text"),
        ("brand", "brand", "brand"),
        ("manufacturer", "maker", "organization"),
        ("model", "model", "text"),
        ("mpn", "maker's part number", "text"),
        ("productID", "another identifier", "text"),
        ("inProductGroupWithID", "number of its group", "text"),
        ("category", "category", "text"),
        ("color", "colour", "text"),
        ("material", "material", "text"),
        ("pattern", "pattern", "text"),
        ("size", "size", "text"),
        ("width", "width", "quantity"),
        ("height", "height", "quantity"),
        ("depth", "depth", "quantity"),
        ("weight", "weight", "quantity"),
        ("hasMeasurement", "another measurement", "quantity"),
        ("countryOfOrigin", "country it comes from", "country"),
        ("countryOfAssembly", "country it was put together in", "country"),
        ("countryOfLastProcessing", "country it was last worked in", "country"),
        ("productionDate", "day it was made", "date"),
        ("releaseDate", "day it comes out", "date"),
        ("award", "award", "text"),
        ("hasCertification", "certificate", "certification"),
        ("isFamilyFriendly", "for families", "yes_no"),
        ("aggregateRating", "rating", "rating"),
        ("keywords", "keywords", "text"),
        ("slogan", "slogan", "text"),
        ("disambiguatingDescription", "what tells it from others", "text"),
        ("logo", "logo", "image"),
        ("sameAs", "page that is about it", "url"),
        ("subjectOf", "video about it", "video"),
    )
}
"""Properties fields of one's own can be mapped to; built-in fields have their own."""
NAMED: tuple[str, ...] = ("text", "brand", "organization", "country", "certification")
"""Shapes that a name or a word fills."""


_VARYING = {
    "colour": "color",
    "color": "color",
    "size": "size",
    "material": "material",
    "wood": "material",
    "pattern": "pattern",
}


def varies_by(key: str) -> str:
    """The property of schema.org by which variants of an option differ, told by the words of its key; "" where there is none."""
    return next((_VARYING[word] for word in key.split("_") if word in _VARYING), "")
