"""Use cases of products: make, find, open, fill, stock, remove."""

from __future__ import annotations

import base64
import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import ABSENT
from young_fabric.core.base.text import make_code
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.reach import Reach
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.content.collections import NOUN as COLLECTION
from young_fabric.core.nouns.fields.built_in import ADDRESS, TITLE
from young_fabric.core.nouns.types.product_types import descendants
from young_fabric.core.subjects.completeness import Completeness
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.stock import PRODUCT_STOCK, StockKey
from young_fabric.core.subjects.values import Outcome
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.values import stocks, value_writer
from young_fabric.service.values.stocks import StockEdit, amounts_of
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit, ThingEdit
from young_fabric.store.repos import definitions, fills, products, shop
from young_fabric.store.repos.products import ProductRecord
from young_fabric.store.tables import ChangeRow

PAGE = 50


@dataclass(frozen=True)
class AssessedProduct:
    """A product with the outcome of each of its fields and how complete it is."""

    product: Product
    version: int
    outcomes: Mapping[str, Outcome]
    completeness: Completeness


def assess(work: Work, record: ProductRecord) -> AssessedProduct:
    """A stored product, assessed by the draft."""
    assessor = plans.draft_of(work.session).assessor
    outcomes = assessor.outcomes(record.product)
    return AssessedProduct(record.product, record.version, outcomes, assessor.completeness(record.product, outcomes))


def get(work: Work, product_id: int) -> AssessedProduct:
    """Open a product. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    return assess(work, need_record(work, product_id))


def need_record(work: Work, product_id: int) -> ProductRecord:
    """A product as stored. Raises Refusal `not_found`."""
    found = products.get(work.session, [product_id]).get(product_id)
    if found is None:
        raise Refusal("not_found", "There is no such product", (), "It may have been removed: see the history")
    return found


@dataclass(frozen=True)
class ProductPage:
    """One page of a list of products, how many match in all, and where the next page begins."""

    rows: list[AssessedProduct]
    total: int
    cursor: str | None


@dataclass(frozen=True)
class Filters:
    """What a list of products is narrowed by; `type` takes in all below it, `lacking` and `wrong` are field keys."""

    words: str = ""
    type: str | None = None
    collection: str | None = None
    gaps: bool = False
    lacking: str | None = None
    wrong: str | None = None


def search(work: Work, filters: Filters, cursor: str | None, limit: int = PAGE) -> ProductPage:
    """Find products. Raises Refusal `cursor`, `not_found`."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    wanted = _search(defs, filters)
    position, collation = _position(cursor), defs.shop.collation
    exact = _exact(work, wanted)
    first = exact if position is None else []
    rest = replace(wanted, without=tuple(record.product.id for record in exact))
    stored = products.page(work.session, rest, position, limit + 1 - len(first), collation=collation)
    more = len(first) + len(stored) > limit
    shown = [*first, *stored][:limit]
    rows = [assess(work, record) for record in shown]
    last = shown[-1].product if len(shown) > len(first) else None
    return ProductPage(rows, _total(work, wanted), _cursor(last) if more else None)


def find(work: Work, words: str, most: int) -> list[Product]:
    """The first products found by words, those whose code they are before all others."""
    wanted, collation = products.Search(words=words), plans.draft(work.session).shop.collation
    exact = _exact(work, wanted)[:most]
    rest = replace(wanted, without=tuple(record.product.id for record in exact))
    found = products.page(work.session, rest, None, most - len(exact), collation=collation) if len(exact) < most else []
    return [record.product for record in (*exact, *found)]


def _exact(work: Work, wanted: products.Search) -> list[ProductRecord]:
    """Of the products wanted, those whose SKU or GTIN is exactly what is looked for."""
    code = wanted.words.strip()
    ids = products.ids_with_code(work.session, code) if code and not code.isspace() and " " not in code else ()
    if not ids:
        return []
    collation = plans.draft(work.session).shop.collation
    return products.page(work.session, replace(wanted, ids=ids), None, len(ids), collation=collation)


def _total(work: Work, wanted: products.Search) -> int:
    """How many products match: told by what is kept, unless words or several conditions at once must be looked for."""
    asked = [wanted.gaps or None, wanted.lacking, wanted.wrong]
    if wanted.words.strip() or sum(part is not None for part in asked) > 1:
        return products.count(work.session, wanted)
    there = fills.by_group(work.session, [fills.EVERY_PRODUCT]).get(fills.EVERY_PRODUCT, {})
    groups = [key for key in there if _takes_in(wanted, *key)]
    if wanted.lacking is not None:
        return fills.lacking_counts(work.session, {wanted.lacking: groups})[wanted.lacking]
    found = there if wanted.wrong is None else fills.by_group(work.session, [wanted.wrong]).get(wanted.wrong, {})
    counts = [found.get(key, fills.NONE) for key in groups]
    return sum(count.wrong if wanted.gaps or wanted.wrong else count.filled for count in counts)


def _takes_in(wanted: products.Search, type_key: str, collections: tuple[str, ...]) -> bool:
    return (
        (wanted.types is None or type_key in wanted.types)
        and (wanted.reach is None or wanted.reach.takes_in(type_key, collections))
        and (wanted.collection is None or wanted.collection in collections)
    )


def _search(defs: Definitions, filters: Filters) -> products.Search:
    types = None
    if filters.type is not None:
        if filters.type not in defs.types:
            raise Refusal("not_found", f"There is no product type {filters.type}", ("type",), "Choose another")
        types = tuple(sorted(descendants(filters.type, defs.types)))
    if filters.collection is not None and filters.collection not in defs.things[COLLECTION.code]:
        words = f"There is no collection {filters.collection}"
        raise Refusal("not_found", words, ("collection",), "Choose another")
    reach = defs.holders.get(filters.lacking, Reach()) if filters.lacking is not None else None
    return products.Search(
        filters.words, types, reach, filters.collection, filters.gaps, filters.lacking, filters.wrong
    )


def count_gaps(work: Work) -> int:
    """How many products have gaps."""
    work.need(Right.LOOK)
    return sum(count.wrong for count in fills.products_by_type(work.session).values())


def _cursor(product: Product | None) -> str:
    """Where the next page begins: after a product, or before all of them, when only exact ones were shown."""
    cursor = [product.title, product.id] if product is not None else ["", 0]
    return base64.urlsafe_b64encode(json.dumps(cursor).encode()).decode()


def _position(cursor: str | None) -> tuple[str, int] | None:
    if cursor is None:
        return None
    try:
        title, number = json.loads(base64.urlsafe_b64decode(cursor.encode("ascii")))
        if not isinstance(title, str) or "\x00" in title or type(number) is not int or abs(number) >= 2**31:
            raise ValueError("no position")
        title.encode()
    except (ValueError, TypeError, RecursionError) as error:
        raise Refusal("cursor", "This page mark can't be read", ("cursor",), "Start again at the first page") from error
    return title, number


def create(work: Work, type_key: str, title: str) -> AssessedProduct:
    """Make a product of a type from its title; the address is made from it. Raises Refusal."""
    work.need(Right.EDIT)
    assessor = plans.draft_of(work.session).assessor
    if type_key not in assessor.defs.types:
        raise Refusal("not_found", f"There is no product type {type_key}", ("type",), "Choose another")
    read = assessor.rules(TITLE.key).read(title)
    if read.wrong:
        raise read.wrong.at(TITLE.key)
    if read.value is None:
        raise Refusal("required", "A product needs a title", (TITLE.key,), "Type it")
    state = {
        "type": type_key,
        "values": {TITLE.key: read.value, ADDRESS.key: free_slug(work, read.value)},
        "unread": {},
        "offered": True,
    }
    edit = ValueEdit(products.next_id(work.session), states=(ABSENT, state))
    return _opened(work, value_writer.put_many(work, [edit])[0])


def free_slug(work: Work, title: str) -> str:
    """An address made from a title that no product has; whoever asks for one like it next waits until this is settled."""
    base = make_code(title).replace("_", "-")[:100]
    shop.lock_name(work.session, f"address {base}")
    return make_code(base, products.slugs_like(work.session, base))


def _opened(work: Work, written: value_writer.WrittenProduct) -> AssessedProduct:
    return assess(work, need_record(work, written.id))


def fill(
    work: Work,
    product_id: int,
    version: int | None,
    typed: Mapping[str, Any],
    type_key: str | None = None,
    offered: bool | None = None,
) -> AssessedProduct:
    """Fill fields with what was typed, change the type, or take the product out of the shop.

    What others did since `version` is kept. What is not understood is kept as typed and marked. Raises Refusal, Clash.
    """
    edit = ValueEdit(product_id, version, typed, type_key, offered)
    return _opened(work, value_writer.put_many(work, [edit])[0])


def remove(work: Work, product_id: int, version: int | None, group: str | None = None) -> None:
    """Remove a product, with what is said of it alone; undo brings all back. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    group = group or uuid4().hex
    take_out_own(work, PRODUCT.code, [product_id], group)
    value_writer.put_many(work, [ValueEdit(product_id, version, removes=True)], group)


def take_out_own(work: Work, subject: str, ids: Sequence[int], group: str) -> None:
    """Take out what is said of some products alone, or of others of a subject, which go. Raises Refusal."""
    own = definitions.keys_of_subjects(work.session, subject, ids) if ids else []
    writes.apply_many(work, [ThingEdit(noun, key, _taken_out) for noun, key in own], group)


def _taken_out(current: Any) -> Edit:
    state = state_of(current.thing) if current else ABSENT
    return Edit(state, ABSENT)


def set_stock(
    work: Work,
    product_id: int,
    expected: int | None,
    amount: int | None,
    *,
    group: str | None = None,
    undoes: int | None = None,
) -> int | None:
    """Put the counted stock (None: not counted); live at once. `expected` is what was read. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    product = need_record(work, product_id).product
    of = StockKey(PRODUCT_STOCK, (product_id,))
    stocks.put(work, [StockEdit(of, str(product_id), product.title, expected, amount, undoes)], group)
    return amount


def undo_stocks(work: Work, run: Sequence[ChangeRow], group: str) -> None:
    """Take back changes of products' stock. Raises Refusal, Clash."""
    there = products.get(work.session, sorted({int(change.key) for change in run}))
    edits = []
    for change in run:
        if int(change.key) not in there:
            raise Refusal("undone", f"{change.name} is gone", (), "Bring it back first")
        was, now = amounts_of(change)
        of = StockKey(PRODUCT_STOCK, (int(change.key),))
        edits.append(StockEdit(of, change.key, there[int(change.key)].product.title, now, was, change.id))
    stocks.put(work, edits, group)
