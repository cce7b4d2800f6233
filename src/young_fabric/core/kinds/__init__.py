"""The registry of kinds: each says all of itself in its module, and everything else asks it."""

from __future__ import annotations

from young_fabric.core.base.registry import Registry
from young_fabric.core.kinds.base import Kind, KindOption, Spec, StoredFile, Value
from young_fabric.core.kinds.choices import ManyOf, OneOf, YesNo
from young_fabric.core.kinds.colours import Colour
from young_fabric.core.kinds.dates import Date
from young_fabric.core.kinds.files import File
from young_fabric.core.kinds.links import WebLink
from young_fabric.core.kinds.numbers import Contents, DecimalNumber, Measure, Money, UnitPrice, WholeNumber
from young_fabric.core.kinds.pictures import Picture
from young_fabric.core.kinds.ratings import Rating
from young_fabric.core.kinds.references import ToCollection, ToProduct, ToRecord
from young_fabric.core.kinds.rich_text import RichText
from young_fabric.core.kinds.rows import Rows
from young_fabric.core.kinds.shared_words import SharedWords
from young_fabric.core.kinds.texts import Gtin, LongText, Text
from young_fabric.core.kinds.unknown import Unknown
from young_fabric.core.kinds.videos import Video

_SINGLE: dict[str, Kind] = {
    kind.code: kind
    for kind in (
        Text(),
        LongText(),
        RichText(),
        SharedWords(),
        WholeNumber(),
        DecimalNumber(),
        Measure(),
        YesNo(),
        OneOf(),
        ManyOf(),
        Picture(),
        File(),
        Date(),
        Colour(),
        WebLink(),
        Video(),
        Rating(),
        ToRecord(),
        ToProduct(),
        ToCollection(),
        Gtin(),
        Money(),
        Contents(),
        UnitPrice(),
    )
}
KINDS: Registry[Kind] = Registry(
    {**_SINGLE, Rows.code: Rows({code: kind for code, kind in _SINGLE.items() if kind.own_fields and kind.in_rows})},
    Unknown,
)
"""Every kind by its code, in the order offered."""

__all__ = ["KINDS", "Kind", "KindOption", "Spec", "StoredFile", "Value"]
