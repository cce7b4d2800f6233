"""Shared copy, as the API takes and sends it."""

from __future__ import annotations

from young_fabric.core.nouns.content.shared_copies import SharedCopy
from young_fabric.web.schemas.common import Out
from young_fabric.web.schemas.nouns import ThingOut
from young_fabric.web.schemas.products import PieceOut


class CopyFieldOut(Out):
    """A field that shows a shared copy, and the types whose products have it."""

    key: str
    name: str
    types: list[str]


class SharedCopyOut(ThingOut):
    """A shared copy with the fields that show it, and how many products have words of their own."""

    thing: SharedCopy
    fields: list[CopyFieldOut]
    own_products: int


class OwnWordsOut(Out):
    """A collection or product that keeps its own words, and how they differ from the shared ones."""

    noun: str
    key: str
    name: str
    differs: list[PieceOut]


class OwnWordsListOut(Out):
    """The places that keep their own words: all collections, the first products."""

    places: list[OwnWordsOut]
