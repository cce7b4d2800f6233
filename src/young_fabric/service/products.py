"""Use cases of products: make, find, open, fill, stock, remove."""

from __future__ import annotations

import base64
import json
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any
from uuid import uuid4

from sqlalchemy.exc import IntegrityError

from young_fabric.core.completeness import Completeness, Wanted, completeness
from young_fabric.core.definitions import Definitions, Product
from young_fabric.core.entries import Outcome
from young_fabric.core.errors import Refusal
from young_fabric.core.fields import BUILT_IN, DERIVED
from young_fabric.core.product_types import descendants
from young_fabric.core.resolve import Plan
from young_fabric.core.value_lists import make_code
from young_fabric.core.values import read_field
from young_fabric.service import plans
from young_fabric.service.actors import Clash, Right, Work
from young_fabric.store.repos import changes, products, shop
from young_fabric.store.states import hash_of, state_of

PAGE = 50
_UNIQUE = {"sku": "SKU", "slug": "address"}


@dataclass(frozen=True)
class Opened:
    """A product with the outcome of each of its fields and how complete it is."""

    product: Product
    version: int
    outcomes: Mapping[str, Outcome]
    completeness: Completeness


def page_plan(work: Work, product: Product) -> Plan:
    """The draft plan of a product's page."""
    return plans.draft_plans(work.session).of_type(product.type, "product_page")


def assess(plan: Plan, product: Product) -> tuple[Mapping[str, Outcome], Completeness]:
    """The outcome of every field that can be filled, and the completeness."""
    found = {key: entry.outcome(product) for key, entry in plan.entries.items() if key not in DERIVED}
    wanted = [Wanted(key, entry.effective.need) for key, entry in plan.entries.items() if key not in DERIVED]
    return found, completeness(wanted, {key: one.state for key, one in found.items()})


def opened(work: Work, stored: products.Stored) -> Opened:
    """A stored product, assessed."""
    outcomes, complete = assess(page_plan(work, stored.product), stored.product)
    return Opened(stored.product, stored.version, outcomes, complete)


def get(work: Work, product_id: int) -> Opened:
    """Open a product. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    return opened(work, _stored(work, product_id))


def _stored(work: Work, product_id: int) -> products.Stored:
    found = products.get(work.session, [product_id]).get(product_id)
    if found is None:
        raise Refusal("not_found", "There is no such product", (), "It may have been removed: see the history")
    return found


@dataclass(frozen=True)
class Found:
    """One page of a list of products, how many match in all, and where the next page begins."""

    rows: list[Opened]
    total: int
    cursor: str | None


@dataclass(frozen=True)
class Filters:
    """What a list of products is narrowed by; `type` takes in all below it, `lacking` and `wrong` are field keys."""

    words: str = ""
    type: str | None = None
    gaps: bool = False
    lacking: str | None = None
    wrong: str | None = None


def search(work: Work, filters: Filters, cursor: str | None, limit: int = PAGE) -> Found:
    """Find products. Raises Refusal `cursor`, `not_found`."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    wanted = _search(defs, filters)
    stored = products.page(work.session, wanted, _position(cursor), limit + 1)
    more = len(stored) > limit
    rows = [opened(work, one) for one in stored[:limit]]
    end = stored[limit - 1].product if more else None
    return Found(rows, products.count(work.session, wanted), _cursor(end) if end else None)


def _search(defs: Definitions, filters: Filters) -> products.Search:
    types = None
    if filters.type is not None:
        if filters.type not in defs.types:
            raise Refusal("not_found", f"There is no product type {filters.type}", ("type",), "Choose another")
        types = tuple(descendants(filters.type, defs.types))
    if filters.lacking is not None:
        having = [key for key in defs.types if any(e.field.key == filters.lacking for e in defs.effective(key))]
        types = tuple(key for key in (types or defs.types) if key in having)
    return products.Search(filters.words, types, filters.gaps, filters.lacking, filters.wrong)


def _cursor(this: Product) -> str:
    return base64.urlsafe_b64encode(json.dumps([this.title, this.id]).encode()).decode()


def _position(cursor: str | None) -> tuple[str, int] | None:
    if cursor is None:
        return None
    try:
        title, number = json.loads(base64.urlsafe_b64decode(cursor.encode()))
        return str(title), int(number)
    except (ValueError, TypeError) as error:
        raise Refusal("cursor", "This page mark can't be read", ("cursor",), "Start again at the first page") from error


def create(work: Work, type_key: str, title: str) -> Opened:
    """Make a product of a type from its title; the address is made from it. Raises Refusal."""
    work.need(Right.EDIT)
    defs = plans.draft(work.session)
    if type_key not in defs.types:
        raise Refusal("not_found", f"There is no product type {type_key}", ("type",), "Choose another")
    read = read_field(BUILT_IN["title"], title, defs.spec(BUILT_IN["title"]))
    if read.value is None or read.wrong:
        raise (
            read.wrong.at("title")
            if read.wrong
            else Refusal("required", "A product needs a title", ("title",), "Type it")
        )
    slug = free_slug(work, read.value)
    new = Product(products.next_id(work.session), type_key, {"title": read.value, "slug": slug})
    return put(work, None, new, 0)


def free_slug(work: Work, title: str) -> str:
    """An address made from a title that no product has."""
    base = make_code(title).replace("_", "-")[:100]
    return make_code(base, products.slugs_like(work.session, base))


def fill(
    work: Work,
    product_id: int,
    version: int,
    typed: Mapping[str, Any],
    type_key: str | None = None,
    offered: bool | None = None,
) -> Opened:
    """Fill fields with what was typed, change the type, or take the product out of the shop.

    What is not understood is kept as typed and marked wrong. Raises Refusal, Clash.
    """
    work.need(Right.EDIT)
    shop.lock_thing(work.session, "product", str(product_id))
    stored = _stored(work, product_id)
    old = stored.product
    defs = plans.draft(work.session)
    if type_key is not None and type_key not in defs.types:
        raise Refusal("not_found", f"There is no product type {type_key}", ("type",), "Choose another")
    values, unread = dict(old.values), dict(old.unread)
    known = {e.field.key for e in defs.effective(type_key or old.type)} - DERIVED
    for key, text in typed.items():
        if key not in known and not (key in {**values, **unread} and text in (None, "", [])):
            raise Refusal(
                "unknown_field",
                f"This product has no field {key}",
                ("values", key),
                "See Compose for its type's fields",
            )
        this = defs.all_fields[key]
        read = read_field(this, text, defs.spec(this))
        values.pop(key, None)
        unread.pop(key, None)
        if read.kept is not None:
            unread[key] = read.kept
        elif read.value is not None:
            values[key] = read.value
    new = replace(
        old,
        type=type_key or old.type,
        values=values,
        unread=unread,
        offered=old.offered if offered is None else offered,
    )
    if stored.version != version:
        raise Clash(old.title, state_of("product", new), state_of("product", old), stored.version)
    check_own(work, new)
    return put(work, stored, new, stored.version)


def check_own(work: Work, new: Product) -> None:
    """Whether title, SKU and address can stand so. Raises Refusal `required`, `taken`."""
    if not new.values.get("title"):
        raise Refusal("required", "A product needs a title", ("values", "title"), "Type what shoppers call it")
    for key, name in _UNIQUE.items():
        if key in new.unread or (key == "slug" and not new.values.get(key)):
            raise Refusal("required", f"A product needs an {name}", ("values", key), "Type one, or undo")
        value = new.values.get(key)
        other = products.taken(work.session, key, value, new.id) if value is not None else None
        if other is not None:
            title = products.get(work.session, [other])[other].product.title
            raise Refusal(
                "taken", f"{title} has the {name} {value} already", ("values", key), "Type another, once in the shop"
            )


def put(
    work: Work,
    stored: products.Stored | None,
    new: Product,
    version: int,
    *,
    group: str | None = None,
    undoes: int | None = None,
) -> Opened:
    """Write a product and record the change; nothing is written when nothing differs."""
    old = stored.product if stored else None
    state = state_of("product", new)
    before = state_of("product", old) if old else None
    if before == state and stored:
        return opened(work, stored)
    plan = page_plan(work, new)
    outcomes, complete = assess(plan, new)
    wrong = {key for key, one in outcomes.items() if one.state == "wrong"}
    digest = hash_of("product", new)
    try:
        gaps = bool(wrong or complete.required_missing)
        products.write(work.session, new, version + 1, wrong, gaps, digest)
        work.session.flush()
    except IntegrityError as error:
        raise Refusal("taken", "Another product has this SKU or address", ("values", "sku"), "Type another") from error
    _recount(work, stored, new, wrong)
    changes.add(
        work.session,
        at=work.now,
        person_id=work.actor.id,
        noun="product",
        key=str(new.id),
        name=new.title,
        before=before,
        after=state,
        group_id=group or uuid4().hex,
        undoes=undoes,
    )
    changes.mark(work.session, "product", str(new.id), digest)
    return Opened(new, version + 1, outcomes, complete)


def _recount(work: Work, stored: products.Stored | None, new: Product | None, wrong: set[str]) -> None:
    was = set(stored.product.values) - set(stored.wrong) if stored else set()
    now = set(new.values) - wrong if new else set()
    if stored and new and stored.product.type == new.type:
        products.add_fill(work.session, new.type, now - was, was - now)
        return
    if stored:
        products.add_fill(work.session, stored.product.type, (), was)
    if new:
        products.add_fill(work.session, new.type, now, ())


def remove(work: Work, product_id: int, version: int, *, group: str | None = None, undoes: int | None = None) -> None:
    """Remove a product; undo brings it back. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    shop.lock_thing(work.session, "product", str(product_id))
    stored = _stored(work, product_id)
    if version not in (-1, stored.version):
        raise Clash(stored.product.title, None, state_of("product", stored.product), stored.version)
    products.remove(work.session, product_id)
    _recount(work, stored, None, set())
    changes.add(
        work.session,
        at=work.now,
        person_id=work.actor.id,
        noun="product",
        key=str(product_id),
        name=stored.product.title,
        before=state_of("product", stored.product),
        after=None,
        group_id=group or uuid4().hex,
        undoes=undoes,
    )
    changes.mark(work.session, "product", str(product_id), None)


def set_stock(
    work: Work, product_id: int, expected: int | None, amount: int | None, *, undoes: int | None = None
) -> int | None:
    """Put the counted stock (None: not counted); live at once. `expected` is what was read. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    shop.lock_thing(work.session, "product", str(product_id))
    product = _stored(work, product_id).product
    if amount is not None and not -1_000_000 <= amount <= 1_000_000_000:
        raise Refusal("above", "Stock is a whole number up to 1,000,000,000", ("amount",), "Type a smaller number")
    if product.stock != expected:
        raise Clash(f"The stock of {product.title}", {"amount": amount}, {"amount": product.stock}, None)
    if product.stock != amount:
        products.set_stock(work.session, product_id, amount)
        changes.add(
            work.session,
            at=work.now,
            person_id=work.actor.id,
            noun="stock",
            key=str(product_id),
            name=product.title,
            before={"amount": product.stock},
            after={"amount": amount},
            group_id=uuid4().hex,
            undoes=undoes,
        )
    return amount
