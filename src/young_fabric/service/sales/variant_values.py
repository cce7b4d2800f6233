"""The grid of a product's variants: what each has of its own, what is missing, and their counted stock."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.money import decimal_of
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.fields.built_in import CODE, COVER, PRICE
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.variant_prices import VariantPrices
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.stock import VARIANT_STOCK, StockKey
from young_fabric.core.subjects.values import FieldRules
from young_fabric.core.subjects.variants import Variant, fields_of_variants
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.planning.offering import Offers
from young_fabric.service.products import products
from young_fabric.service.sales.quotes import formula_of
from young_fabric.service.values import stocks, variant_writer
from young_fabric.service.values.stocks import StockEdit, amounts_of
from young_fabric.service.values.variant_writer import offers_of
from young_fabric.service.values.variants import Matchers
from young_fabric.store.repos import variants as rows
from young_fabric.store.tables import ChangeRow

FORMAT = 1
MOST_EDITS = 2_000
State = dict[str, Any]


@dataclass(frozen=True)
class VariantCell:
    """What a variant has for a field: as typed, as shown, and what is wrong with it."""

    typed: Any
    shown: str
    wrong: str = ""


@dataclass(frozen=True)
class GridRow:
    """A variant in the grid: its combination in words, the SKU it goes by and the one made of its parts, its price with all effects,
    and its own values by field. `clash` says who has the SKU it should have, `lacks` names what is missing of
    it: pictures of its own, a price."""

    id: int
    version: int
    choices: Mapping[str, str]
    name: str
    sku: str
    made_sku: str
    clash: str
    price: str | None
    stock: int | None
    retired: bool
    cells: Mapping[str, VariantCell]
    lacks: tuple[str, ...] = ()


@dataclass(frozen=True)
class VariantGrid:
    """All variants of a product: the options that make them, the fields they can have, and the rows in order, retired ones last."""

    product: Product
    options: tuple[tuple[str, str], ...]
    fields: tuple[Field, ...]
    rows: list[GridRow]
    formula: str


def grid(work: Work, product_id: int) -> VariantGrid:
    """The variants of a product. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    product = products.need_record(work, product_id).product
    defs = plans.draft(work.session)
    offer = Offers(defs).of(product)
    found = rows.of_products(work.session, [product_id]).get(product_id, [])
    known = fields_of_variants(defs)
    rules = {key: FieldRules(field, defs.spec(field)) for key, field in known.items()}
    made = _made_skus(defs, product)
    own = {str(variant.values[CODE.key]) for variant in found if variant.values.get(CODE.key)}
    wanted = sorted({sku for sku in (*made.values(), *own) if sku and sku != product.sku})
    taken = rows.taken_skus(work.session, wanted)
    prices = VariantPrices(offer, defs.shop.currency)
    out = [
        _row(product, offer, prices, rules, variant, made.get(_names(offer, variant)), taken)
        for variant in sorted(found, key=lambda variant: (variant.retired, variant.position, variant.id))
    ]
    options = tuple((axis.key, offer.by_key[axis.key].option.name) for axis in offer.axes)
    offered = sum(not row.retired for row in out)
    return VariantGrid(product, options, tuple(known.values()), out, formula_of(offer, offered) if offered else "")


def _made_skus(defs: Definitions, product: Product) -> dict[tuple[str, ...], str | None]:
    """Combination → the SKU made of its parts."""
    matchers = Matchers(Offers(defs))
    matcher = matchers.of(matchers.offers.of(product))
    if matcher is None:
        return {}
    names = (tuple(found.values()) for found in matcher.combinations)
    return {found: matcher.generated(product.sku, found) for found in names}


def _names(offer: Offer, variant: Variant) -> tuple[str, ...]:
    return tuple(variant.choices.get(axis.key, "") for axis in offer.axes)


def _row(
    product: Product,
    offer: Offer,
    prices: VariantPrices,
    rules: Mapping[str, FieldRules],
    variant: Variant,
    made: str | None,
    taken: Mapping[str, tuple[int, int, str]],
) -> GridRow:
    names = _names(offer, variant)
    own = decimal_of(variant.values.get(PRICE.key))
    base = own if own is not None else decimal_of(product.values.get(PRICE.key))
    sound = not variant.retired and all(
        code in offer.by_key[axis.key].by_code for axis, code in zip(offer.axes, names, strict=True)
    )
    cells = {
        key: _cell(field_rules, variant)
        for key, field_rules in rules.items()
        if key in variant.values or key in variant.unread
    }
    should = str(variant.values.get(CODE.key) or made or "")
    holder = taken.get(should)
    price = prices.of(base, names) if sound else None
    lacks = [] if COVER.key in cells else [COVER.key]
    lacks += [] if price is not None else [PRICE.key]
    lost = not variant.retired and variant.sku is None and should not in ("", product.sku)
    return GridRow(
        variant.id,
        variant.version,
        variant.choices,
        offer.words_of(variant.choices),
        variant.sku or ("" if variant.retired else product.sku),
        made or "",
        f"{holder[2] if holder else 'Another variant'} has {should}" if lost else "",
        price,
        variant.stock,
        variant.retired,
        cells,
        () if variant.retired else tuple(lacks),
    )


def _cell(rules: FieldRules, variant: Variant) -> VariantCell:
    key = rules.field.key
    if key in variant.unread:
        wrong = rules.read(variant.unread[key]).wrong
        return VariantCell(variant.unread[key], str(variant.unread[key]), wrong.message if wrong else "not understood")
    value = variant.values[key]
    wrong = rules.judge(value)
    return VariantCell(rules.typed(value), "" if wrong else rules.text(value), wrong.message if wrong else "")


@dataclass(frozen=True)
class VariantStock:
    """The stock of a variant to be put (None: not counted), and what was read of it."""

    id: int
    expected: int | None
    amount: int | None
    undoes: int | None = None


def put_stocks(work: Work, edits: Sequence[VariantStock], group: str | None = None) -> None:
    """Put the counted stock of variants; live at once. Raises Refusal `not_found`, `below`, `above`, Clash."""
    work.need(Right.EDIT)
    if len(edits) > MOST_EDITS:
        raise Refusal("too_many", f"At most {MOST_EDITS:,} variants at once", (), "Write them in parts")
    found = rows.get(work.session, [edit.id for edit in edits])
    offers = offers_of(work, [variant.product for variant in found.values()])
    wanted = []
    for edit in edits:
        variant = found.get(edit.id)
        if variant is None:
            raise Refusal("not_found", "There is no such variant", (), "It may have gone: look again")
        name = variant_writer.name_of(*offers[variant.product], variant)
        of, key = StockKey(VARIANT_STOCK, (variant.id,)), variant_writer.key_of(variant)
        wanted.append(StockEdit(of, key, name, edit.expected, edit.amount, edit.undoes))
    stocks.put(work, wanted, group)


def undo_stocks(work: Work, run: Sequence[ChangeRow], group: str) -> None:
    """Take back changes of variants' stock. Raises Refusal, Clash."""
    edits = []
    for change in run:
        was, now = amounts_of(change)
        edits.append(VariantStock(int(change.key.split("/")[1]), now, was, change.id))
    for start in range(0, len(edits), MOST_EDITS):
        put_stocks(work, edits[start : start + MOST_EDITS], group)


def need_of(work: Work, product_id: int, ids: Sequence[int]) -> None:
    """Whether variants are of a product. Raises Refusal `not_found`."""
    products.need_record(work, product_id)
    found = rows.get(work.session, sorted(set(ids)))
    if any(number not in found or found[number].product != product_id for number in ids):
        raise Refusal("not_found", "There is no such variant", (), "It may have gone: look again")
