"""Collections, their members, and conditions, as the API takes and sends them."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field as Member

from young_fabric.core.nouns.content.collections import MOST_BY_HAND, Collection
from young_fabric.web.schemas.common import Id, In, Key, Out
from young_fabric.web.schemas.nouns import ThingOut

Hand = Literal["picked", "kept_out", "neither"]


class ToldTestOut(Out):
    """A test of a condition: its place in the tree, in words, its values in words and as one would type them."""

    where: list[str | int]
    words: str
    values: list[str]
    typed: list[Any]


class CollectionOut(ThingOut):
    """A collection with how many products are in it, whether they are all gathered, and its condition in words."""

    thing: Collection
    products: int
    gathered: bool
    words: str
    tests: list[ToldTestOut]


class MemberOut(Out):
    """A product in a list of members: how it stands to the collection, in a word and in words."""

    id: int
    title: str
    sku: str
    type_name: str
    picture: str | None
    offered: bool
    how: str
    reason: str


class MembersOut(Out):
    """Members from a position on, how many there are, and those kept out that there are."""

    rows: list[MemberOut]
    total: int
    next: int | None
    kept_out: list[MemberOut]


class MembersQuery(In):
    """From which position on."""

    offset: Annotated[int, Member(ge=0, le=1_000_000)] = 0


class MatchesIn(In):
    """A condition as it is being made, its tests typed or kept; `collection` is whose, `after` where to look on."""

    condition: dict[str, Any]
    collection: Key | None = None
    after: Annotated[int, Member(ge=0, lt=2**31)] = 0


class MatchesOut(Out):
    """What a look at some products found: how many were looked at, meet the condition, are new with it, and would leave."""

    looked_at: int
    count: int
    fresh: int
    leaving: int
    first: list[MemberOut]
    next: int | None
    words: str
    tests: list[ToldTestOut]


class AskedTestOut(Out):
    """A test that makes sense of a field, and how many values it takes: none, one, two or many."""

    op: str
    words: str
    takes: str


class AskedFieldOut(Out):
    """A field that conditions can ask for."""

    key: str
    name: str
    control: str
    tests: list[AskedTestOut]
    list: str | None
    example: str
    target: tuple[str, ...] | None = None


class AskedFieldsOut(Out):
    """All that conditions can ask for."""

    fields: list[AskedFieldOut]


class MoveIn(In):
    """Behind which other it goes, None for the first place."""

    after: Key | None


class HandIn(In):
    """Products put in by hand, kept out, or left to the condition."""

    ids: list[Id] = Member(min_length=1, max_length=MOST_BY_HAND)
    to: Hand


class SkusIn(In):
    """A pasted list of SKUs, put in by hand, kept out, or left to the condition."""

    text: str = Member(max_length=200_000)
    to: Hand


class HandsAskedIn(In):
    """Products, or a pasted list of SKUs, and what would be done with them by hand."""

    ids: list[Id] = Member(default_factory=list, max_length=MOST_BY_HAND)
    text: str = Member(default="", max_length=200_000)
    to: Hand


class SkusOut(Out):
    """How many products were found, and what was not found or stood there twice."""

    found: int
    unknown: list[str]
    twice: list[str]


class BroughtSetOut(Out):
    """A field set limited to a collection: on how many products it brings fields, and how many values they have."""

    key: str
    name: str
    fields: int
    products: int
    filled: int


class SaidOut(Out):
    """A setting said for a collection: in words, on how many of its products it decides, and for whom another does."""

    key: str
    field: str
    words: str
    products: int
    follows: int
    others: list[str]


class EffectOut(Out):
    """What a collection brings its products: field sets and settings."""

    products: int
    sets: list[BroughtSetOut]
    settings: list[SaidOut]
