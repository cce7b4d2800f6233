"""Who is in a collection, in which order and how each got in; and who would be by a condition that is being made."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.conditions import JOINS, comparison_of
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds.base import Target
from young_fabric.core.nouns.content.collections import NEWEST, NOUN, TITLE, Collection, in_order
from young_fabric.core.nouns.fields.conditions import (
    TYPE,
    asked_fields,
    condition_words,
    offered_tests,
    read_condition,
    value_words,
    words_of_test,
)
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.subjects.memberships import MATCHES, Memberships
from young_fabric.core.subjects.products import Product
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.writing import writes
from young_fabric.store.repos import fills, products
from young_fabric.store.repos import members as rows
from young_fabric.store.repos.products import Search

PAGE = 50
SLICE = 1_000
"""How many products one question about a condition looks at."""
FIRST = 12
MOST_OFFSET = 1_000_000


@dataclass(frozen=True)
class CollectionMember:
    """A product of a collection (or kept out of it), and how it stands to it, in a word and in words."""

    product: Product
    how: str
    reason: str


@dataclass(frozen=True)
class Members:
    """Some products of a collection from a position on, how many there are, and those kept out that would be in."""

    rows: list[CollectionMember]
    total: int
    next: int | None
    kept_out: list[CollectionMember]


def members(work: Work, key: str, offset: int = 0, limit: int = PAGE) -> Members:
    """Products of a collection as its listing has them. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    thing: Collection = writes.need_current(work, NOUN.code, key).thing
    asked = plans.draft_of(work.session).assessor.memberships
    rows = [_member(asked, thing, product) for product in draft_members(work, key, offset, limit)]
    total = fills.counts_by_collection(work.session).get(key, 0)
    out = products.get(work.session, thing.kept_out) if not offset else {}
    kept_out = [_member(asked, thing, out[number].product) for number in thing.kept_out if number in out]
    following = offset + len(rows)
    return Members(rows, total, following if rows and following < total else None, kept_out)


def draft_members(work: Work, key: str, offset: int, limit: int, *, offered: bool | None = None) -> list[Product]:
    """Products of a collection of the draft, in the order of its listing."""
    defs = plans.draft(work.session)
    thing = defs.things[NOUN.code][key]
    there = products.there(work.session, thing.picked, offered) if thing.picked else frozenset()
    picked = [number for number in thing.picked if number in there]
    shown = picked[offset : offset + limit]
    records = products.get(work.session, shown) if shown else {}
    first = [records[number].product for number in shown]
    search = Search(collection=key, offered=offered, without=thing.picked)
    start = min(max(0, offset - len(picked)), MOST_OFFSET)
    rest = rows.members(work.session, search, _order(thing.order, defs), limit - len(first), start)
    return [*first, *[record.product for record in rest]]


def _order(order: str, defs: Definitions) -> Sequence[Any]:
    collation = defs.shop.collation
    if order == NEWEST:
        return rows.order_newest()
    field = defs.all_fields.get(order)
    if order == TITLE or field is None:
        return rows.order_by_title(collation)
    return rows.ORDERS[comparison_of(field.rules.comparison).order](order, collation)


def _member(asked: Memberships, thing: Collection, product: Product) -> CollectionMember:
    how = asked.how(thing.key, product) or MATCHES
    return CollectionMember(product, how, reason(asked, thing.condition, product) if how == MATCHES else "")


def reason(asked: Memberships, condition: Mapping[str, Any] | None, product: Product) -> str:
    """What of a condition a product meets, in words: the first branch that holds, and the last test of it."""
    values = asked.values(product)
    tree = condition
    while tree:
        if "any" in tree:
            tree = next((branch for branch in tree["any"] if asked.meets(branch, values)), None)
        elif "all" in tree:
            tree = tree["all"][-1] if tree["all"] else {}
        else:
            break
    return condition_words(tree, asked.defs)[:160] if tree is not None else ""


@dataclass(frozen=True)
class ProductPlace:
    """A collection as a product's editor shows it: whether the product is in it, and how."""

    key: str
    name: str
    inside: bool
    how: str | None


def places_of(asked: Memberships, product: Product) -> list[ProductPlace]:
    """Every collection, in order, with how a product stands to it."""
    return [
        ProductPlace(thing.key, thing.name, thing.key in product.collections, asked.how(thing.key, product))
        for thing in in_order(asked.defs)
    ]


@dataclass(frozen=True)
class ToldTest:
    """A test of a condition: where it stands in the tree, in words and as one would type its values, or why it can't be read."""

    where: tuple[str | int, ...]
    words: str
    values: list[str]
    typed: list[Any]


@dataclass(frozen=True)
class Matches:
    """What a look at some products found: how many were looked at, meet the condition, and are not in the collection yet.

    `next` is where the next look begins, None when all were looked at; `leaving` are in the collection by its condition
    as it stands and would go.
    """

    looked_at: int
    count: int
    fresh: int
    leaving: int
    first: list[CollectionMember]
    next: int | None
    words: str
    tests: list[ToldTest]


def matches(work: Work, condition: Any, key: str | None, after: int = 0) -> Matches:
    """Which of the next products meet a condition as it is being made. Raises Refusal at the place of what can't be read."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    tree = read_condition(condition, draft.defs)
    asked = draft.assessor.memberships
    thing = draft.defs.things[NOUN.code].get(key or "")
    out = frozenset(thing.kept_out) if thing else frozenset()
    wanted = products.concerned([thing.key] if thing else [], [asked.narrowing(tree)], [])
    found = products.stream_where(work.session, wanted, after, SLICE)
    count = fresh = leaving = 0
    first: list[CollectionMember] = []
    for product in found:
        within = thing is not None and thing.key in product.collections
        if asked.meets(tree, asked.values(product)):
            if product.id in out:
                continue
            count += 1
            fresh += not within
            if len(first) < FIRST:
                first.append(CollectionMember(product, "in" if within else "new", reason(asked, tree, product)))
        elif within and thing is not None and product.id not in thing.picked:
            leaving += 1
    following = found[-1].id if len(found) == SLICE else None
    words = condition_words(tree, draft.defs)
    return Matches(len(found), count, fresh, leaving, first, following, words, tests_in_words(tree, draft.defs))


def tests_in_words(tree: Mapping[str, Any] | None, defs: Definitions) -> list[ToldTest]:
    """Every test of a condition with its place, for whoever shows it."""
    out: list[ToldTest] = []
    waiting: list[tuple[tuple[str | int, ...], Any]] = [((), tree or {})]
    while waiting:
        where, branch = waiting.pop(0)
        join = next((name for name in JOINS if name in branch), None)
        if join is not None:
            waiting = [((*where, join, index), inner) for index, inner in enumerate(branch[join])] + waiting
        elif branch:
            out.append(_test_in_words(where, branch, defs))
    return out


def _test_in_words(where: tuple[str | int, ...], test: Mapping[str, Any], defs: Definitions) -> ToldTest:
    key, value = str(test.get("field")), test.get("value")
    items = [] if value is None else value if isinstance(value, list | tuple) else [value]
    field = defs.all_fields.get(key)
    typed = [_typed(field, item, defs) for item in items]
    return ToldTest(where, words_of_test(test, defs), [value_words(key, item, defs) for item in items], typed)


def _typed(field: Field | None, item: Any, defs: Definitions) -> Any:
    if field is None or not field.rules.well_formed(item):
        return item
    return field.rules.typed(item, defs.spec(field))


@dataclass(frozen=True)
class AskedField:
    """A field a condition can ask for, the control that asks for values, the value list they are from, and the tests that
    make sense of it: (op, words, how many values); `target` is what values name things of."""

    key: str
    name: str
    control: str
    list: str | None
    tests: tuple[tuple[str, str, str], ...]
    example: str
    target: Target | None = None


def askable(work: Work) -> list[AskedField]:
    """All that a condition can ask for: the type, then fields by name."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    out = [AskedField(TYPE, "Type", TYPE, None, offered_tests("list", TYPE), "")]
    for field in sorted(asked_fields(defs).values(), key=lambda field: field.name.casefold()):
        named = field.named("value_list")
        tests = offered_tests(field.rules.comparison, field.key)
        example = field.example or field.rules.example_for(defs.spec(field))
        control = comparison_of(field.rules.comparison).control
        target = field.rules.chosen(field.options) if field.targets else None
        out.append(AskedField(field.key, field.name, control, named[0] if named else None, tests, example, target))
    return out
