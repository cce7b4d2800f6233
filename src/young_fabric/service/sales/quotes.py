"""What a product's choices cost: the one service that studio, shop and basket ask."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any

from young_fabric.core.base import units
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.money import decimal_of
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.fields.built_in import CONTENTS, COST, FORMER_PRICE, PRICE, WEIGHT
from young_fabric.core.nouns.options.option_sets import NOUN, OptionSet
from young_fabric.core.options.chooser import ValueState, value_states
from young_fabric.core.options.combinations import combine, count, size_of
from young_fabric.core.options.goods import Goods, Names, VariantFacts
from young_fabric.core.options.left import is_sold_out, own_stocks
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.quote import Quote, quote
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.unit_price import PerReference, per_reference
from young_fabric.core.subjects.values import FieldRules
from young_fabric.core.subjects.variants import Variant
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.planning import offering, plans
from young_fabric.service.planning.offering import Offers
from young_fabric.service.products import products
from young_fabric.store.repos import products as product_rows
from young_fabric.store.repos import variants as variant_rows


def facts_of(
    values: Mapping[str, Any], number: int | None = None, sku: str | None = None, stock: int | None = None
) -> VariantFacts:
    """What is quoted of values of fields, a product's or a variant's; what can't be reckoned with is left out."""
    return VariantFacts(
        number,
        sku,
        decimal_of(values.get(PRICE.key)),
        decimal_of(values.get(FORMER_PRICE.key)),
        _grams(values.get(WEIGHT.key)),
        decimal_of(values.get(COST.key)),
        stock,
        _per(values.get(CONTENTS.key)),
    )


def _grams(value: Any) -> Decimal | None:
    amount = decimal_of(value)
    unit = units.find(str(value.get("unit"))) if isinstance(value, Mapping) else None
    if amount is None or unit is None or unit.dimension != "mass":
        return None
    return units.convert_exact(amount, unit.symbol, "g")


def _per(contents: Any) -> PerReference | None:
    if not isinstance(contents, Mapping):
        return None
    amount, unit = decimal_of(contents), units.find(str(contents.get("unit")))
    if amount is None or unit is None:
        return None
    reference = units.REFERENCE_AMOUNTS.get(unit.dimension, ("1", unit.symbol))
    try:
        held = Decimal(str(contents.get("count", 1)))
        return per_reference(held, (amount, unit.symbol), (Decimal(reference[0]), reference[1]))
    except (Refusal, ArithmeticError):
        return None


def goods_of(
    defs: Definitions,
    offer: Offer,
    product: Product | None,
    existing: Sequence[Variant],
    stocks: Mapping[str, Mapping[tuple[str, str], int]],
) -> Goods:
    """What is quoted of a product, or of none; `stocks` are by option set. Variants that the offer does not make are left out."""
    found: dict[Names, VariantFacts] = {}
    for variant in existing:
        names = None if variant.retired else offer.names_of(variant.choices)
        if names is not None:
            found[names] = facts_of(variant.values, variant.id, variant.sku, variant.stock)
    own = facts_of(product.values, product.id, product.sku, product.stock) if product is not None else VariantFacts()
    return Goods(offer, defs.shop.currency, defs.shop.locale, own, found, own_stocks(offer, stocks))


def goods_now(work: Work, product: Product, offers: Offers) -> Goods:
    """What is quoted of a product as it stands in the draft."""
    keys = offers.sets(product.type, product.option_sets)
    existing = variant_rows.of_products(work.session, [product.id], retired=False).get(product.id, [])
    return goods_of(
        offers.defs, offers.of_sets(keys), product, existing, variant_rows.choice_stocks(work.session, keys)
    )


def quote_product(work: Work, product_id: int, choices: Mapping[str, Any], quantity: int) -> Quote:
    """What some of a product cost as it stands in the draft. Raises Refusal `not_found`, `quantity`."""
    work.need(Right.LOOK)
    product = products.need_record(work, product_id).product
    offers = Offers(plans.draft(work.session))
    return quote(goods_now(work, product, offers), choices, quantity, work.now.date())


@dataclass(frozen=True)
class TriedSet:
    """An option set tried: on which product, what can be chosen, what it costs, and the variants it makes.

    `cells` tell each combination in order: in, out (sold out) or left (left out); `formula` how many there are, in figures.
    """

    product: Product | None
    goods: Goods
    quote: Quote
    states: Mapping[str, Mapping[str, ValueState]]
    formula: str
    count: int
    cells: tuple[str, ...]
    wrong: Refusal | None = None


def try_set(
    work: Work,
    key: str,
    changes: Mapping[str, Any],
    product_id: int | None,
    choices: Mapping[str, Any],
    quantity: int,
    base: str | None = None,
) -> TriedSet:
    """Try an option set as it would be, on a product that has it or any other; `base` stands for a price where there is none.

    Raises Refusal `not_found`, `quantity`, or of what is wrong with the changes or the price.
    """
    work.need(Right.LOOK)
    thing: OptionSet = definitions.changed_thing(work, NOUN.code, key, changes)
    defs = plans.draft_plans(work.session).having(NOUN.code, key, thing).defs
    offers = Offers(defs)
    product = example(work, defs, key) if product_id is None else products.need_record(work, product_id).product
    keys = offers.sets(product.type, product.option_sets) if product is not None else ()
    keys = keys if key in keys else (*keys, key)
    offer = offers.of_sets(keys)
    existing = (
        variant_rows.of_products(work.session, [product.id], retired=False).get(product.id, []) if product else []
    )
    goods = goods_of(defs, offer, product, existing, variant_rows.choice_stocks(work.session, keys))
    goods = replace(goods, tried=True)
    if base:
        goods = _priced(defs, goods, base)
    quoted = quote(goods, choices, quantity, work.now.date())
    wrong = None
    try:
        made = count(offer.axes, offer.left_out)
    except Refusal as refusal:
        wrong, made = refusal, 0
    return TriedSet(
        product,
        goods,
        quoted,
        {} if wrong else value_states(goods, quoted.given),
        formula_of(offer, made) if wrong is None else "",
        made,
        () if wrong else _cells(goods),
        wrong,
    )


def _priced(defs: Definitions, goods: Goods, base: str) -> Goods:
    """Goods at a typed price where they have none, read as prices are. Raises Refusal at `base`."""
    read = FieldRules(PRICE, defs.spec(PRICE)).read(base)
    if read.wrong is not None:
        raise read.wrong.at("base")
    own = goods.own if goods.own.price is not None else replace(goods.own, price=decimal_of(read.value))
    return replace(goods, own=own)


def example(work: Work, defs: Definitions, key: str) -> Product | None:
    """The first product that is offered an option set, None where none is."""
    wanted = offering.having([key], offering.types_with(defs, key))
    ids = product_rows.ids_where(work.session, wanted, 0, 1)
    return product_rows.get(work.session, ids)[ids[0]].product if ids else None


def formula_of(offer: Offer, made: int) -> str:
    """How many variants there are, in figures: `24 × 3 − 6 = 66`."""
    if not offer.axes:
        return ""
    size = size_of(offer.axes)
    factors = " × ".join(str(len(axis.values)) for axis in offer.axes)
    if offer.too_many is not None:
        return f"{factors} = {size:,}, too many"
    left_out = f" − {size - made}" if size != made else ""
    return f"{factors}{left_out} = {made}" if len(offer.axes) > 1 or left_out else str(made)


def _cells(goods: Goods) -> tuple[str, ...]:
    """Each combination in order, those left out too: how it stands."""
    axes = goods.offer.axes
    made = {tuple(found.values()) for found in combine(axes, goods.offer.left_out)}
    return tuple(
        "left" if names not in made else "out" if is_sold_out(goods, names) else "in"
        for names in (tuple(found.values()) for found in combine(axes))
    )
