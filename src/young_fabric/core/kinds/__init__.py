"""The registry of kinds: each is defined once here, and everything else asks it."""

from __future__ import annotations

from collections.abc import Mapping

from young_fabric.core.kinds.base import Kind, Limits, Spec, Value
from young_fabric.core.kinds.choices import Colour, Date, ManyOf, OneOf, YesNo
from young_fabric.core.kinds.numbers import Contents, DecimalNumber, Measure, Money, WholeNumber
from young_fabric.core.kinds.pictures import Picture
from young_fabric.core.kinds.texts import Gtin, LongText, Text

KINDS: Mapping[str, Kind] = {
    kind.code: kind
    for kind in (
        Text(),
        LongText(),
        WholeNumber(),
        DecimalNumber(),
        Measure(),
        YesNo(),
        OneOf(),
        ManyOf(),
        Picture(),
        Date(),
        Colour(),
        Gtin(),
        Money(),
        Contents(),
    )
}

__all__ = ["KINDS", "Kind", "Limits", "Spec", "Value"]
