"""The grid of a product's variants: what each has of its own, written many at a time, and what is missing.

One writer for a cell, a filled-down column, a pasted block and an undo: rows are locked in order of id, merged field by field
with what others did, and SKUs settled once.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import ABSENT, merge
from young_fabric.core.base.money import decimal_of
from young_fabric.core.base.patches import backward, diff
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.fields.built_in import CODE, COVER, PRICE
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.variant_prices import VariantPrices
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import VARIANT
from young_fabric.core.subjects.stock import VARIANT_STOCK, StockKey
from young_fabric.core.subjects.values import FieldRules
from young_fabric.core.subjects.variants import Variant, fields_of_variants
from young_fabric.service.acting.actors import Clash, Right, Work
from young_fabric.service.foreseeing.variant_effects import words_of
from young_fabric.service.planning import plans
from young_fabric.service.planning.offering import Offers
from young_fabric.service.products import products
from young_fabric.service.sales.quotes import formula_of
from young_fabric.service.values import stocks, variants
from young_fabric.service.values.existing import existing
from young_fabric.service.values.stocks import StockEdit, amounts_of
from young_fabric.service.values.variants import Matchers
from young_fabric.store.repos import changes, shop
from young_fabric.store.repos import products as product_rows
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
        words_of(offer, variant.choices),
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
class VariantEdit:
    """What somebody wants of one variant, from the version they read: values as typed, by field key; None or "" for none.

    `states` are whole states instead (base, mine): what an undo puts back.
    """

    id: int
    version: int | None = None
    values: Mapping[str, Any] = field(default_factory=dict)
    states: tuple[Any, Any] | None = None
    undoes: int | None = None


def put_many(work: Work, edits: Sequence[VariantEdit], group: str | None = None) -> None:
    """Write what variants have of their own, all or none. Raises Refusal `not_found`, `unknown_field`, `version`, Clash.

    What is not understood is kept as typed and marked.
    """
    work.need(Right.EDIT)
    if len(edits) > MOST_EDITS:
        raise Refusal("too_many", f"At most {MOST_EDITS:,} variants at once", (), "Write them in parts")
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    ordered = sorted(edits, key=lambda edit: edit.id)
    at = rows.get(work.session, [edit.id for edit in ordered])
    product_rows.lock(work.session, sorted({variant.product for variant in at.values()}))
    locked = rows.of_products(work.session, sorted({variant.product for variant in at.values()}), lock=True)
    stored = {variant.id: variant for found in locked.values() for variant in found}
    writer = _Writer(work, stored, _offers_of(work, locked), ordered)
    for edit in ordered:
        writer.put(edit)
    writer.store(group or uuid4().hex)


def _offers_of(work: Work, locked: Mapping[int, Sequence[Variant]]) -> dict[int, tuple[Product, Offer]]:
    offers = Offers(plans.draft(work.session))
    found = product_rows.get(work.session, list(locked))
    return {number: (record.product, offers.of(record.product)) for number, record in found.items()}


class _Writer:
    """Edits of variants gathered, then written and recorded together."""

    def __init__(
        self,
        work: Work,
        stored: Mapping[int, Variant],
        offers: Mapping[int, tuple[Product, Offer]],
        edits: Sequence[VariantEdit],
    ) -> None:
        self._work, self._stored, self._offers = work, stored, offers
        self._defs = plans.draft(work.session)
        known = fields_of_variants(self._defs)
        self._rules = {key: FieldRules(field, self._defs.spec(field)) for key, field in known.items()}
        read = (
            (self._rules[key], self._rules[key].read(typed).value)
            for edit in edits
            for key, typed in edit.values.items()
            if key in self._rules and not isinstance(typed, str)
        )
        self._there = existing(work.session, self._defs, [(rules, value) for rules, value in read if value is not None])
        self._changed: list[tuple[Variant, Variant]] = []
        self._recorded: list[dict[str, Any]] = []

    def put(self, edit: VariantEdit) -> None:
        """Merge one edit with what stands. Raises Refusal, Clash."""
        old = self._stored.get(edit.id)
        if old is None:
            raise Refusal("not_found", "There is no such variant", (), "It may have been retired: look again")
        theirs = VARIANT.state_of(old)
        base, mine = edit.states if edit.states is not None else self._wanted(edit, old, theirs)
        merged, clashes = merge(_cells(base), _cells(mine), _cells(theirs))
        if clashes:
            raise Clash(self._name(old), mine, theirs, old.version, clashes)
        state = _state(merged)
        if state == theirs:
            return
        new = replace(old, values=state["values"], unread=state["unread"], version=old.version + 1)
        self._changed.append((old, new))
        self._recorded.append(
            {
                "noun": VARIANT.code,
                "key": f"{old.product}/{old.id}",
                "name": self._name(old),
                "lines": VARIANT.describe(theirs, state, self._defs),
                "patch": diff(theirs, state) or {"in": {}},
                "format": FORMAT,
                "version": new.version,
                "undoes": edit.undoes,
            }
        )

    def _wanted(self, edit: VariantEdit, old: Variant, theirs: State) -> tuple[State, State]:
        """(the state the edit began from, the one it wants). Raises Refusal."""
        base = theirs
        if edit.version is not None and edit.version != old.version:
            key = f"{old.product}/{old.id}"
            if not 1 <= edit.version < old.version:
                words = f"This variant never had version {edit.version}"
                raise Refusal("version", words, ("version",), "Read it again")
            for change in changes.since_version(self._work.session, VARIANT.code, key, edit.version):
                base = backward(base, change.patch)
        values, unread = dict(base["values"]), dict(base["unread"])
        for key, typed in edit.values.items():
            rules = self._rules.get(key)
            if rules is None:
                raise Refusal("unknown_field", f"Variants have no field {key[:80]}", ("values", key), "Look again")
            read = rules.read(typed)
            values.pop(key, None)
            unread.pop(key, None)
            if read.kept is not None:
                unread[key] = read.kept
            elif read.value is not None:
                values[key] = self._settled(rules, key, read.value)
        return base, {"values": values, "unread": unread}

    def _settled(self, rules: FieldRules, key: str, value: Any) -> Any:
        """A value as what it names stands in the shop: pictures with their size. Raises Refusal."""
        try:
            return self._there.settled(rules, value)
        except Refusal as refusal:
            raise refusal.at("values", key) from None

    def _name(self, variant: Variant) -> str:
        product, offer = self._offers[variant.product]
        return f"{product.title}: {words_of(offer, variant.choices)}"

    def store(self, group: str) -> None:
        """Write and record all of it."""
        if not self._changed:
            return
        work = self._work
        self._check_skus()
        matchers = Matchers(Offers(self._defs))
        pairs = []
        for old, new in self._changed:
            product, offer = self._offers[old.product]
            matcher = matchers.of(offer)
            pairs.append((old, new if matcher is None or new.retired else matcher.with_sku(new, product.sku)))
        variants.write(work, pairs, ())
        changes.add_many(work.session, self._recorded, at=work.now, person_id=work.actor.id, group_id=group)

    def _check_skus(self) -> None:
        """Whether SKUs that are typed are nobody else's. Raises Refusal `taken`."""
        wanted = {
            str(new.values[CODE.key]): new
            for old, new in self._changed
            if new.values.get(CODE.key) and new.values.get(CODE.key) != old.values.get(CODE.key)
        }
        mine = {new.id for _, new in self._changed}
        for sku, (_, variant, title) in rows.taken_skus(self._work.session, sorted(wanted)).items():
            if variant not in mine or not variant:
                where = ("values", CODE.key)
                raise Refusal("taken", f"{title} has the SKU {sku} already", where, "Type another, one nobody has")
        typed = Counter(str(new.values[CODE.key]) for _, new in self._changed if new.values.get(CODE.key))
        twice = next((sku for sku, times in typed.items() if times > 1), None)
        if twice is not None:
            where = ("values", CODE.key)
            raise Refusal("taken", f"Two variants would have the SKU {twice}", where, "Type another for one of them")


def _cells(state: Any) -> Any:
    """A state with each field as one thing, understood or not."""
    if state is ABSENT:
        return {}
    return {
        **{key: ["value", value] for key, value in state["values"].items()},
        **{key: ["typed", typed] for key, typed in state["unread"].items()},
    }


def _state(cells: Mapping[str, Any]) -> State:
    return {
        "values": {key: cell[1] for key, cell in cells.items() if cell[0] == "value"},
        "unread": {key: cell[1] for key, cell in cells.items() if cell[0] == "typed"},
    }


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
    offers = _offers_of(work, dict.fromkeys(sorted({variant.product for variant in found.values()}), ()))
    wanted = []
    for edit in edits:
        variant = found.get(edit.id)
        if variant is None:
            raise Refusal("not_found", "There is no such variant", (), "It may have gone: look again")
        product, offer = offers[variant.product]
        name = f"{product.title}: {words_of(offer, variant.choices)}"
        of, key = StockKey(VARIANT_STOCK, (variant.id,)), f"{variant.product}/{variant.id}"
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
