"""Products as they are sold, in the draft or live: what can be chosen of them, what a choice costs, and what pages then show."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from decimal import Decimal
from functools import cached_property
from typing import Any, NamedTuple

from sqlalchemy.orm import Session

from young_fabric.core.base.units import plain_decimal
from young_fabric.core.display.cascade import DisplaySetting
from young_fabric.core.nouns.fields.built_in import CODE, FORMER_PRICE, PRICE
from young_fabric.core.options.chooser import ValueState, value_states
from young_fabric.core.options.choosing import addressed, chosen_with
from young_fabric.core.options.goods import Goods
from young_fabric.core.options.left import is_sold_out, nothing_left
from young_fabric.core.options.quote import Quote, QuoteProblem, quote
from young_fabric.core.options.sold import as_chosen, as_left
from young_fabric.core.options.variant_prices import VariantPrices
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.core.subjects.product_labels import Names, numbers_of
from young_fabric.core.subjects.products import Product, product_of_state
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.variants import OFFERED, Variant, offered_of_state
from young_fabric.service.acting.actors import Work
from young_fabric.service.pages import proofs
from young_fabric.service.planning import plans
from young_fabric.service.planning.showing import Showing
from young_fabric.service.sales.quotes import goods_of
from young_fabric.store.repos import releases, shop, variants
from young_fabric.store.repos.live_pages import LivePage
from young_fabric.store.repos.shop import LiveState


@dataclass(frozen=True)
class Selling:
    """A product as pages are made of it, with what is quoted of it and the plans and settings it shows by; `sets` are the option sets
    it is offered, `repriced` says whether what is sold out makes its price another than its documents hold; `gone` are the variants of which none is
    left."""

    product: Product
    goods: Goods
    plans: Plans
    own: tuple[DisplaySetting, ...]
    sets: tuple[str, ...]
    repriced: bool
    gone: frozenset[int] = frozenset()

    @cached_property
    def variants(self) -> Mapping[int, Variant]:
        """Its variants that are offered, by id."""
        return {variant.id: variant for variant in self.product.sold.variants} if self.product.sold else {}

    def listed_variants(self) -> Iterator[tuple[Variant, str, str | None, bool, list[tuple[str, str]]]]:
        """(variant, SKU, price of one piece, whether none is left, what an address says of it), in order."""
        prices = VariantPrices(self.goods.offer, self.goods.currency)
        for variant in self.variants.values():
            names = self.goods.offer.names_of(variant.choices)
            if names is None:
                continue
            facts = self.goods.variants.get(names)
            own = facts.price if facts is not None and facts.price is not None else self.goods.own.price
            address = addressed(self.goods.offer, dict(variant.choices))
            yield variant, variant.sku or "", prices.of(own, names), is_sold_out(self.goods, names), address

    @property
    def sold_out(self) -> bool:
        """Whether none can be had however it is chosen."""
        return nothing_left(self.goods)

    def document(self, surface: str, product: Product | None = None) -> RenderDoc:
        """What a surface shows of it, or of it as a product that something is chosen of."""
        return self.plans.of_product(self.product, surface, self.own).render(product or self.product)


@dataclass(frozen=True)
class Chosen:
    """What is chosen of a product, what it costs, how each value stands to it, and the product as that."""

    selling: Selling
    asked: Mapping[str, Any]
    quote: Quote
    states: Mapping[str, Mapping[str, ValueState]]
    product: Product
    today: date

    def day(self, after: int) -> str:
        """The day so many days from today (ISO 8601)."""
        return (self.today + timedelta(days=after)).isoformat()

    @property
    def address(self) -> list[tuple[str, str]]:
        """What of the choice an address holds."""
        return addressed(self.selling.goods.offer, self.asked)

    def document(self, surface: str) -> RenderDoc:
        """What a surface shows of it."""
        return self.selling.document(surface, self.product)


def choose(selling: Selling, asked: Mapping[str, Any], quantity: int, today: date) -> Chosen:
    """What a choice comes to, what is chosen beforehand with it. Raises Refusal `quantity`."""
    goods = selling.goods
    given = chosen_with(goods.offer, asked)
    quoted = quote(goods, given, quantity, today)
    return Chosen(selling, given, quoted, value_states(goods, quoted.given), _as_quoted(selling, quoted), today)


def _as_quoted(selling: Selling, quoted: Quote) -> Product:
    """The product as one of its variants, at the price of one piece; as it is where the choice is not whole."""
    product, goods = selling.product, selling.goods
    if not goods.offer.options:
        return product
    if goods.offer.axes and quoted.combination is None:
        return product
    variant = selling.variants.get(quoted.variant or 0)
    own: list[tuple[str, Any]] = []
    if quoted.price is not None:
        own.append((PRICE.key, plain_decimal(Decimal(quoted.price.each))))
    if quoted.sku:
        own.append((CODE.key, quoted.sku))
    if quoted.former_price is not None:
        own.append((FORMER_PRICE.key, plain_decimal(quoted.former_price)))
    made = as_chosen(product, variant, own)
    sold = replace(product.sold, differ=False, own={}) if product.sold is not None else None
    return replace(made, sold=sold, stock=quoted.available)


def draft_selling(
    work: Work, made: Plans, found: Sequence[Product], trying: proofs.Trying = proofs.AS_IT_IS
) -> dict[int, Selling]:
    """Products of the draft as they are sold, by definitions of the draft or tried ones. Raises Refusal `not_found`."""
    showing = proofs.showing_of(work, made)
    own = {product.id: proofs.settings_tried(work, made, product, trying) for product in found[:1]}
    if len(found) > 1:
        own = {int(key): said for key, said in proofs.own_settings(work, [product.id for product in found]).items()}
    existing = variants.of_products(work.session, [product.id for product in found], retired=False)
    sets = {product.id: showing.offers.sets(product.type, product.option_sets) for product in found}
    state = _stocks(work.session, list(sets), {key for keys in sets.values() for key in keys})
    shown = showing.of(work.session, found)
    return {
        product.id: _selling(
            made,
            showing,
            whole,
            product,
            existing.get(product.id, ()),
            own.get(product.id, ()),
            state,
            sets[product.id],
        )
        for product, whole in zip(found, shown, strict=True)
    }


@dataclass(frozen=True)
class Shelf:
    """All that is made of the definitions of a release."""

    plans: Plans
    assessor: Assessor
    showing: Showing


def shelf_of(session: Session, by: int | None = None) -> Shelf:
    """What is made of the current release, or of an earlier one that products which were held back stand by, once."""

    def make() -> Shelf:
        live = plans.live_plans(session) if by is None else plans.plans_at(session, by)
        return Shelf(live, Assessor(live.defs), Showing(live.defs))

    found: Shelf = plans.of_release(session, "shelf" if by is None else f"shelf {by}", make)
    return found


def with_more(session: Session, ids: Sequence[int]) -> set[int]:
    """Which products are live with variants, or with option sets by condition or by hand."""
    return {int(key) for key in releases.open_keys(session, OFFERED, map(str, ids))}


def optioned(work: Work, found: Sequence[Product]) -> list[Product]:
    """Those products of the draft that are offered any options."""
    offers = plans.draft_of(work.session).showing.offers
    return [product for product in found if offers.sets(product.type, product.option_sets)]


class LiveGoods(NamedTuple):
    """Products as they are sold live, with the state of the shop they are sold in and the option sets whose stock it tells."""

    sold: Mapping[int, Selling]
    state: LiveState
    sets: tuple[str, ...]


def live_selling(session: Session, ids: Sequence[int]) -> Mapping[int, Selling]:
    """Products as they are live, as they are sold; those not in the shop are left out. Stock is as it is right now."""
    return live_goods(session, ids).sold if ids else {}


def live_goods(
    session: Session, ids: Sequence[int], beside: Sequence[int] = (), have: LivePage | None = None
) -> LiveGoods:
    """The same, with a state of the shop that tells the stock of those `beside` too; `have` is what was read of them already."""
    if have is not None:
        frozen, own = have.frozen, have.own
    else:
        frozen, own = releases.frozen_products(session, ids) if ids else ({}, {})
    by_shelf: dict[int | None, list[int]] = {}
    for number in ids:
        if (PRODUCT.code, str(number)) in frozen:
            held = frozen.get((releases.HELD, str(number)))
            by_shelf.setdefault(held[1].get("by") if held is not None else None, []).append(number)
    parts = [_on_shelf(session, by, among, frozen, own) for by, among in by_shelf.items()]
    sets = tuple(sorted({key for part in parts for keys in part.sets.values() for key in keys}))
    if have is not None and not sets and not beside:
        state = have.state
    else:
        state = shop.live_state(session, sorted({*ids, *beside}), sets)
    out = {number: found for part in parts for number, found in _sold_by(session, part, state).items()}
    return LiveGoods({number: out[number] for number in ids if number in out}, state, sets)


class _OnShelf(NamedTuple):
    """Products as they are frozen, with what was frozen beside them, and the definitions they stand by."""

    shelf: Shelf
    found: Mapping[int, Product]
    existing: Mapping[int, list[Variant]]
    own: Mapping[int, tuple[DisplaySetting, ...]]
    sets: Mapping[int, tuple[str, ...]]


def _on_shelf(
    session: Session,
    by: int | None,
    ids: Sequence[int],
    frozen: Mapping[tuple[str, str], tuple[int, Any]],
    own: Mapping[int, tuple[DisplaySetting, ...]],
) -> _OnShelf:
    """Products by the definitions of the current release, or of an earlier one that they stand by."""
    shelf = shelf_of(session, by)
    found: dict[int, Product] = {}
    existing: dict[int, list[Variant]] = {}
    for number in ids:
        product = product_of_state(number, frozen[PRODUCT.code, str(number)][1])
        given, existing[number] = _offered(number, frozen)
        if product.offered and product.type in shelf.plans.defs.types:
            collections = shelf.assessor.memberships.of(product)
            found[number] = replace(product, option_sets=given, collections=collections)
    if by is not None:
        own = releases.own_settings(session, list(found), by)
    offers = shelf.showing.offers
    sets = {number: offers.sets(product.type, product.option_sets) for number, product in found.items()}
    return _OnShelf(shelf, found, existing, own, sets)


def _sold_by(session: Session, part: _OnShelf, state: LiveState) -> dict[int, Selling]:
    shelf, found = part.shelf, list(part.found.values())
    names = _names(session, shelf, found)
    shown = shelf.showing.sold([names.of_product(product) for product in found], part.existing)
    return {
        product.id: _selling(
            shelf.plans,
            shelf.showing,
            whole,
            product,
            part.existing[product.id],
            part.own.get(product.id, ()),
            state,
            part.sets[product.id],
        )
        for product, whole in zip(found, shown, strict=True)
    }


def _offered(number: int, frozen: Mapping[tuple[str, str], tuple[int, Any]]) -> tuple[tuple[str, ...], list[Variant]]:
    if (OFFERED, str(number)) not in frozen:
        return (), []
    return offered_of_state(number, frozen[OFFERED, str(number)][1])


def _names(session: Session, shelf: Shelf, found: Sequence[Product]) -> Names:
    numbers = numbers_of(shelf.plans.defs, found) if shelf.plans.defs.naming else ()
    return Names(shelf.plans.defs, releases.labels(session, numbers) if numbers else {})


def _stocks(session: Session, ids: Sequence[int], sets: set[str]) -> LiveState:
    return shop.live_state(session, ids, sorted(sets))


def _selling(
    made: Plans,
    showing: Showing,
    whole: Product,
    product: Product,
    existing: Sequence[Variant],
    own: tuple[DisplaySetting, ...],
    state: LiveState,
    sets: tuple[str, ...],
) -> Selling:
    """`whole` is the product as documents show it, at the price of its cheapest variant; it is quoted as it is by itself."""
    stock = state.amount(str(product.id), None)
    counted = [replace(variant, stock=state.variant(variant.id)) for variant in existing]
    stocks = {key: state.choices_of(key) for key in sets}
    goods = goods_of(made.defs, showing.offers.of_sets(sets), replace(product, stock=stock), counted, stocks)
    gone = frozenset(
        facts.id for names, facts in goods.variants.items() if facts.id is not None and is_sold_out(goods, names)
    )
    left = as_left(whole, gone)
    return Selling(replace(left, stock=stock), goods, made, own, sets, left is not whole, gone)


def with_problem(chosen: Chosen, problem: QuoteProblem) -> Chosen:
    """The same with one thing more that hinders it."""
    return replace(chosen, quote=chosen.quote._replace(problems=(*chosen.quote.problems, problem)))
