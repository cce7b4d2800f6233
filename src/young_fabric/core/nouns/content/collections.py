"""Collections: sets of products, by hand or by condition, each with a listing of its own."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from decimal import Decimal
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.ranks import is_rank, rank_between
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.base.text import ADDRESS, make_code
from young_fabric.core.kinds.base import Items, Target, in_words
from young_fabric.core.nouns.base import (
    AsValue,
    Bearing,
    Calling,
    HoldingValues,
    Known,
    Noun,
    Reference,
    Referring,
    Sent,
    State,
    Stored,
    Telling,
)
from young_fabric.core.nouns.fields.built_in import BUILT_IN, BuiltInField
from young_fabric.core.nouns.fields.cells import Cell, cells_changed, cells_with_items, refers_of_cells, without_cell
from young_fabric.core.nouns.fields.conditions import (
    condition_words,
    read_condition,
    refers_of_condition,
    renamed_field,
    with_asked,
)
from young_fabric.core.nouns.named_choices import NamedChoices

COLLECTIONS = "collection"
MOST_BY_HAND = 2_000
BY_HAND = ("picked", "kept_out")
"""What of a thing that gathers says who is in it by hand, and who is not."""
TITLE, NEWEST = "title", "newest"

FIELDS: Mapping[str, BuiltInField] = {
    built_in.key: built_in
    for built_in in (
        BuiltInField(
            "words", "Words", "Words", "long_text", limits={"max_length": 2000}, help="Stand above its listing"
        ),
        BuiltInField("picture", "Picture", "Picture", "picture", role="cover", help="A banner above its listing"),
    )
}
"""The fields every collection has."""


@dataclass(frozen=True)
class Collection:
    """Products picked by hand, in their order, and those that meet a condition and are not kept out by hand.

    `condition` None finds none; `rank` is a decimal that orders collections among themselves; the others of a listing
    stand by `order`: title, newest, or a field. `filled` are values of its own fields, each one thing, understood or not.
    """

    __pydantic_config__ = STRICT
    key: str
    name: str
    slug: str = ""
    rank: str = "1"
    picked: tuple[int, ...] = ()
    kept_out: tuple[int, ...] = ()
    condition: Mapping[str, Any] | None = None
    order: str = TITLE
    filled: Mapping[str, Cell] = field(default_factory=dict)

    @property
    def order_key(self) -> tuple[Decimal, str]:
        """What collections stand in order of."""
        return Decimal(self.rank), self.key


def in_order(defs: Known) -> list[Collection]:
    """All collections in their order."""
    return sorted(defs.things[NOUN.code].values(), key=lambda collection: collection.order_key)


def check_collection(collection: Collection, defs: Known) -> None:
    """Raises Refusal: `required`, `long`, `pattern`, `rank`, `too_many`, `twice`, `unknown_field`, or of its condition."""
    if not collection.name.strip():
        raise Refusal("required", "A collection needs a name", ("name",), "Type a name")
    if len(collection.name) > 80 or len(collection.slug) > 120:
        raise Refusal("long", "At most 80 characters fit", ("name",), "Shorten it")
    if not ADDRESS.fullmatch(collection.slug):
        words = "An address has small letters, digits and hyphens"
        raise Refusal("pattern", words, ("slug",), "Such as for-outdoors")
    if not is_rank(collection.rank):
        raise Refusal("rank", "A rank is a plain decimal number", ("rank",), "Move the collection instead")
    for member in BY_HAND:
        check_by_hand(getattr(collection, member), member)
    if collection.order not in (TITLE, NEWEST) and collection.order not in defs.all_fields:
        raise Refusal("unknown_field", f"There is no field {collection.order}", ("order",), "Choose another order")
    if collection.condition is not None:
        try:
            read = read_condition(collection.condition, defs)
        except Refusal as refusal:
            raise refusal.at("condition") from None
        if read != collection.condition:
            raise Refusal("condition", "The condition is not as it is kept", ("condition",), "Make it anew")


def check_by_hand(ids: tuple[int, ...], member: str) -> None:
    """Whether products put somewhere by hand can stand so. Raises Refusal `too_many`, `not_found`, `twice`."""
    if len(ids) > MOST_BY_HAND:
        words = f"At most {MOST_BY_HAND:,} products fit here"
        raise Refusal("too_many", words, (member,), "Use a condition for the rest")
    if not all(0 < number < 2**31 for number in ids):
        raise Refusal("not_found", "No product has such a number", (member,), "Choose products there are")
    if len(set(ids)) < len(ids):
        raise Refusal("twice", "A product stands here twice", (member,), "Keep one")


def _blank(key: str, name: str, defs: Known) -> Collection:
    last = max((other.rank for other in in_order(defs)), key=Decimal, default=None)
    taken = [other.slug for noun in ("product_type", "collection") for other in defs.things[noun].values()]
    return Collection(key, name, make_code(name, taken).replace("_", "-"), rank_between(last, None) or "1")


def _refers(collection: Collection) -> Iterable[Reference]:
    asked = refers_of_condition(collection.condition, BUILT_IN, "condition")
    yield from asked
    if collection.order not in (TITLE, NEWEST) and collection.order not in BUILT_IN:
        yield Reference("field", collection.order, "order", apart=True)
    yield from refers_of_cells(collection.filled, FIELDS)


def by_hand_words(before: State, after: State) -> list[str]:
    """What hands put in, took out and kept out."""
    out = []
    for member, put, taken in (("picked", "put in", "taken out"), ("kept_out", "kept out", "no longer kept out")):
        old, new = before[member], after[member]
        for ids, words in (([i for i in new if i not in old], put), ([i for i in old if i not in new], taken)):
            if ids:
                out.append(f"{len(ids)} {'product' if len(ids) == 1 else 'products'} {words} by hand")
    return out


def _describe(before: State, after: State, defs: Known) -> list[str]:
    out = []
    if before["condition"] != after["condition"]:
        out.append(f"in it: {condition_words(after['condition'], defs)}")
    out += by_hand_words(before, after)
    if before["picked"] != after["picked"] and sorted(before["picked"]) == sorted(after["picked"]):
        out.append("order of those picked by hand changed")
    if before["rank"] != after["rank"]:
        out.append("moved among the collections")
    out += cells_changed(before["filled"], after["filled"], defs)
    for member in ("name", "slug", "order"):
        if before[member] != after[member]:
            out.append(f"{member} {in_words(before[member])} → {in_words(after[member])}")
    return out or ["no difference"]


def _with_items(collection: Collection, target: Target, items: Items, defs: Known) -> Collection:
    """What its condition asks for, and what its own fields hold."""
    filled = cells_with_items(collection.filled, defs.fields_of(NOUN.code), target, items)
    condition = collection.condition
    if condition is not None:
        asked = {key for key, field in defs.all_fields.items() if field.own and field.paths(target)}
        condition = with_asked(condition, asked, items)
    return replace(collection, filled=filled, condition=condition)


def _with_field(collection: Collection, field: str, into: str) -> Collection:
    condition = collection.condition and renamed_field(collection.condition, field, into)
    return replace(collection, condition=condition, order=into if collection.order == field else collection.order)


NOUN = Noun(
    code=COLLECTIONS,
    plural="collections",
    name="collection",
    group="What it is",
    type=Collection,
    check=check_collection,
    blank=_blank,
    telling=Telling(describe=_describe),
    bearing=Bearing(
        gathers=True,
        unplanned=frozenset({"name", "slug", "rank", "picked", "kept_out", "condition", "order", "filled"}),
    ),
    holding=HoldingValues(fields=FIELDS),
    stored=Stored(guarded=frozenset({"filled", "rank"}), keyed={"picked": "", "kept_out": ""}),
    sent=Sent(local=frozenset({*BY_HAND, "filled"})),
    referring=Referring(refers=_refers, without=without_cell, with_items=_with_items, with_field=_with_field),
    calling=Calling(
        own_alone=frozenset({"slug"}),
        address=lambda thing: str(thing.slug),
        note=lambda thing, defs: condition_words(thing.condition, defs)[:80],
    ),
    chosen=AsValue(
        choices=lambda _key, defs: NamedChoices(COLLECTIONS, defs.things[COLLECTIONS]),
        page=lambda thing, _defs: str(thing.slug),
        item_of=lambda _thing: (COLLECTIONS, ""),
    ),
)
