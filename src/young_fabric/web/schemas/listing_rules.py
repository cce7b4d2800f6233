"""Cards on listings, as the API tells them."""

from __future__ import annotations

from pydantic import Field as Member

from young_fabric.web.schemas.common import In, Key, Out
from young_fabric.web.schemas.present import CellPropertyOut


class RuleQuery(In):
    """For whom: `shop`, `collection:KEY` or `product:ID`."""

    scope: str = Member(default="shop", max_length=80)


class RulePropertyOut(CellPropertyOut):
    """A member of a rule, with what it is called and what edits it."""

    name: str
    control: str


class OpenRuleOut(Out):
    """All that can be said of cards for a scope."""

    scope: str
    name: str
    version: int | None
    properties: list[RulePropertyOut]


class SaidRuleOut(Out):
    """A scope that says something of cards, and what in words."""

    scope: str
    name: str
    lines: list[str]


class RulesOut(Out):
    """Who says something of cards: the shop first."""

    rules: list[SaidRuleOut]


class ListingQuery(In):
    """Which listing: a noun and a key."""

    noun: str = Member(max_length=40)
    key: Key


class CardedOut(Out):
    """A product of a listing, and how many cards it has there."""

    id: int
    title: str
    cards: int


class ListingCardsOut(Out):
    """What a listing of the draft has, of so many products that were looked at."""

    products: int
    looked_at: int
    cards: int
    live: int
    most: list[CardedOut]
    alike: list[CardedOut]
    alike_in_all: int
    gone: list[CardedOut]
    gone_in_all: int
    mend: str | None
    mended_at: str
