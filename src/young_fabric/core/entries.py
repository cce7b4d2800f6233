"""A field's value for one product: judged and shown for those who ask, and made into an entry of a document."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from decimal import Decimal
from typing import Any, NamedTuple

from young_fabric.core import locales, pricing, units
from young_fabric.core.definitions import Product
from young_fabric.core.display import Resolved
from young_fabric.core.document import Entry
from young_fabric.core.errors import Refusal
from young_fabric.core.fields import DERIVED, Field
from young_fabric.core.kinds import Spec
from young_fabric.core.values import bind_value, judge, show_value

KEPT_ENTRIES = 1024
PLAIN = frozenset({"text", "whole", "decimal", "one_of", "date", "colour", "yes_no"})
UNLIKE_EACH_OTHER = frozenset({"long_text", "picture", "gtin", "title", "sku", "slug", "unit_price"})
NOTHING = "–"


class Outcome(NamedTuple):
    """A product's value for a field: `text` as shown when `state` is good, else what is wrong."""

    state: str
    value: Any
    text: str
    wrong: Refusal | None = None
    source: str = "product"


def value_of(this: Field, product: Product) -> Any:
    """What a product holds for a field; for computed ones what they are computed from."""
    if this.key in DERIVED:
        return (product.values.get("price"), product.values.get("contents"))
    return product.values.get(this.key)


def outcome_of(this: Field, spec: Spec, product: Product) -> Outcome:
    """The value step for one product: good, empty or wrong, and where the value came from."""
    if this.key in product.unread:
        typed = str(product.unread[this.key])[:60]
        return Outcome("wrong", None, "", Refusal("unread", f"“{typed}” was not understood"))
    value = value_of(this, product)
    if value is not None:
        return _told(this, spec, value)
    if this.default is None:
        return Outcome("empty", None, "")
    return _told(this, spec, this.default)._replace(source="default")


def _told(this: Field, spec: Spec, value: Any) -> Outcome:
    if this.key == "unit_price":
        return _told_unit_price(value, spec)
    wrong = judge(this, value, spec)
    if wrong:
        return Outcome("wrong", value, "", wrong)
    return Outcome("good", value, show_value(this, value, spec))


def _told_unit_price(value: Any, spec: Spec) -> Outcome:
    price, contents = value
    if price is None or contents is None:
        missing = "price" if price is None else "contents"
        return Outcome("empty", None, "", Refusal("no_contents", f"there is no {missing} to compute it from"))
    try:
        raw, text = _unit_price(spec)(value)
    except Refusal as refusal:
        return Outcome("wrong", None, "", refusal)
    return Outcome("good", raw, text)


def _unit_price(spec: Spec) -> Callable[[Any], tuple[dict[str, str], str]]:
    """A function from (price, contents) to the raw unit price and its text. That raises Refusal `no_contents`."""
    known: dict[tuple[Any, ...], pricing.PerReference] = {}
    written = locales.money_writer(spec.currency, spec.locale)

    def shown(value: Any) -> tuple[dict[str, str], str]:
        price, contents = value
        held = (contents["count"], contents["amount"], contents["unit"])
        per = known.get(held)
        if per is None:
            unit = units.find(held[2])
            reference = units.REFERENCE_AMOUNTS.get(unit.dimension if unit else "", ("1", held[2]))
            per = pricing.per_reference(held[0], (Decimal(held[1]), held[2]), (Decimal(reference[0]), reference[1]))
            if len(known) >= KEPT_ENTRIES:
                known.clear()
            known[held] = per
        amount = per.price(Decimal(price), spec.currency)
        raw = {"amount": format(amount, "f"), "reference": per.reference, "unit": per.unit}
        return raw, f"{written(amount)} {per.label}"

    return shown


def dash_entry(this: Field, label: str, settings: Mapping[str, Resolved]) -> Entry | None:
    """The dash that stands for an empty value, when the setting asks for one."""
    if settings["empty"].value != "dash":
        return None
    return Entry(this.key, label, settings["label"].value, NOTHING, None, tuple(settings["devices"].value))


def entry_maker(this: Field, spec: Spec, label: str, settings: Mapping[str, Resolved]) -> Callable[[Any], Entry | None]:
    """A function from stored value to the finished entry, None when the value is not good.

    Entries are frozen, so where values recur from product to product the same one serves again.
    """
    head = (this.key, label, settings["label"].value)
    devices = tuple(settings["devices"].value)
    if this.key == "unit_price":
        return _unit_price_maker(spec, head, devices)
    bound = bind_value(this, spec)

    def fresh(value: Any) -> Entry | None:
        text = bound(value)
        return None if text is None else Entry(*head, text, value, devices)

    if this.kind in UNLIKE_EACH_OTHER or this.key in UNLIKE_EACH_OTHER:
        return fresh
    return _remembering(fresh, this)


def _unit_price_maker(
    spec: Spec, head: tuple[str, str, str], devices: tuple[str, ...]
) -> Callable[[Any], Entry | None]:
    priced = _unit_price(spec)

    def make(value: Any) -> Entry | None:
        if value[0] is None or value[1] is None:
            return None
        try:
            raw, text = priced(value)
        except Refusal:
            return None
        return Entry(*head, text, raw, devices)

    return make


def _remembering(fresh: Callable[[Any], Entry | None], this: Field) -> Callable[[Any], Entry | None]:
    if this.kind in PLAIN and not this.many:
        return _Remembered(fresh).__getitem__
    told_apart_by = tuple if this.kind == "many_of" or (this.many and this.kind in PLAIN) else _frozen
    known: dict[Any, Entry | None] = {}

    def make(value: Any) -> Entry | None:
        key = told_apart_by(value)
        # One question, not two: other threads share the plan, and may clear what is known in between.
        found = known.get(key, _UNKNOWN)
        if found is not _UNKNOWN:
            return found
        if len(known) >= KEPT_ENTRIES:
            known.clear()
        made = known[key] = fresh(value)
        return made

    return make


_UNKNOWN = Entry("", "", "", "", None, ())
"""Stands for what was not asked yet; known by being this very one."""


class _Remembered(dict[Any, Entry | None]):
    """Entries by value: asked for one it lacks, it has it made."""

    def __init__(self, fresh: Callable[[Any], Entry | None]) -> None:
        super().__init__()
        self._fresh = fresh

    def __missing__(self, value: Any) -> Entry | None:
        if len(self) >= KEPT_ENTRIES:
            self.clear()
        made = self[value] = self._fresh(value)
        return made


def _frozen(value: Any) -> Any:
    if isinstance(value, dict):
        return tuple(value.values())
    if isinstance(value, list | tuple):
        return tuple(_frozen(item) for item in value)
    return value
