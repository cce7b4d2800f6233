"""What a choice does: to price, weight and cost, by an amount, a percentage or in the base's place, and to the SKU."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from decimal import Decimal
from typing import Any, Literal

from young_fabric.core.base import locales
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.base.units import plain_decimal
from young_fabric.core.kinds import KINDS, Spec

Mode = Literal["amount", "percent", "replace", "typed"]
Charge = Literal["each", "once"]
ONCE = "once"
LONGEST_PART = 24
LARGEST = Decimal(100_000_000)
_SHOWN_SIGNS = {"-": "− ", "": "+ "}


@dataclass(frozen=True)
class Amount:
    """By how much: `value` is a plain decimal in the currency (of weights: grams), a percentage of the base, or what stands
    in the base's place. What is `typed` is read before it is kept. Charged for each piece, or once per order line."""

    __pydantic_config__ = STRICT
    mode: Mode = "amount"
    value: str = "0"
    charge: Charge = "each"


@dataclass(frozen=True)
class Effect:
    """What one choice does; None where nothing. `sku` is the part it adds to the SKU."""

    __pydantic_config__ = STRICT
    price: Amount | None = None
    weight: Amount | None = None
    cost: Amount | None = None
    sku: str = ""

    @property
    def amounts(self) -> Mapping[str, Amount]:
        """What it changes, by what it changes."""
        found = {figure: getattr(self, figure) for figure in FIGURES}
        return {figure: amount for figure, amount in found.items() if amount is not None}


def _money_words(value: str, locale: str, currency: str) -> str:
    return locales.show_money(value, currency, locale)


def _gram_words(value: str, locale: str, currency: str) -> str:  # noqa: ARG001
    return f"{locales.show_number(value, locale)}\u00a0g"


@dataclass(frozen=True)
class Figure:
    """Something that choices change: how its amounts are typed and written for people, and whether they are whole grams.

    `aside` stands behind its amounts where several figures are told together.
    """

    code: str
    label: str
    kind: str
    words: Callable[[str, str, str], str]
    options: Mapping[str, str] = field(default_factory=dict)
    grams: bool = False
    aside: str = ""

    def read(self, text: str, locale: str, currency: str) -> str:
        """A typed amount as a plain decimal, weights in grams. Raises Refusal."""
        value = KINDS[self.kind].read(text, Spec({}, self.options, None, locale, currency))
        return str(value["amount"] if isinstance(value, dict) else value)


PRICE = Figure("price", "Price", "money", _money_words)
WEIGHT = Figure("weight", "Weight", "measure", _gram_words, {"unit": "g"}, grams=True, aside=" weight")
COST = Figure("cost", "Cost", "money", _money_words, aside=" cost")
FIGURES: Mapping[str, Figure] = {figure.code: figure for figure in (PRICE, WEIGHT, COST)}
"""What choices change, by code."""


def read_amount(amount: Amount | None, figure: str, locale: str, currency: str) -> Amount | None:
    """An amount as it is kept: what was typed (`1.20`, `+8 %`, `= 25`, `3 once`) read in the locale; None for nothing. Raises Refusal."""
    if amount is None or amount.mode != "typed":
        return amount
    text = amount.value.strip()
    charge: Charge = amount.charge
    if text.casefold().endswith(ONCE):
        text, charge = text[: -len(ONCE)].strip(), "once"
    if not text:
        return None
    if text.startswith("="):
        return Amount("replace", _figure(text[1:], figure, locale, currency), charge)
    text = text.replace("+ ", "+").replace("− ", "-").replace("- ", "-").lstrip("+")
    if text.endswith("%"):
        value = locales.read_number(text[:-1].strip(), locale)
        return Amount("percent", value, charge) if value != "0" else None
    value = _figure(text, figure, locale, currency)
    return Amount("amount", value, charge) if value != "0" else None


def _figure(text: str, figure: str, locale: str, currency: str) -> str:
    negative = text.strip().startswith(("-", "−"))
    plain = text.strip().lstrip("-−").strip()
    value = FIGURES[figure].read(plain, locale, currency)
    return f"-{value}" if negative and value != "0" else value


def read_effect(effect: Effect, locale: str, currency: str) -> Effect:
    """An effect with what was typed in it read. Raises Refusal with its place."""
    read: dict[str, Any] = {}
    for figure in FIGURES:
        try:
            read[figure] = read_amount(getattr(effect, figure), figure, locale, currency)
        except Refusal as refusal:
            raise refusal.at(figure) from None
    return replace(effect, **read)


def check_effect(effect: Effect) -> None:
    """Raises Refusal with its place: `number`, `below`, `above`, `replace_once`, `long`, `text`."""
    for figure, amount in effect.amounts.items():
        try:
            _check_amount(amount)
        except Refusal as refusal:
            raise refusal.at(figure) from None
    if len(effect.sku) > LONGEST_PART:
        raise Refusal("long", f"A part of a SKU has at most {LONGEST_PART} characters", ("sku",), "Shorten it")
    if not effect.sku.isprintable():
        raise Refusal("text", "A part of a SKU is plain text", ("sku",), "Type it anew")


def _check_amount(amount: Amount) -> None:
    if amount.mode == "typed" or not locales.is_plain_decimal(amount.value):
        raise Refusal("number", "Not an amount", (), "Write it as 1.20, 8 % or = 25")
    value = Decimal(amount.value)
    if abs(value) > LARGEST:
        raise Refusal("above", f"At most {LARGEST:,}", (), "Write less")
    if amount.mode == "percent" and value < -100:
        raise Refusal("below", "No more than all of the base can be taken off", (), "Write −100 % or more")
    if amount.mode == "replace":
        if value < 0:
            raise Refusal("below", "What stands in the base's place is nought or more", (), "Write it without a minus")
        if amount.charge == ONCE:
            words = "What stands in the base's place is charged for each piece"
            raise Refusal("replace_once", words, (), "Charge it for each piece, or add an amount")


def amount_words(amount: Amount, figure: str, locale: str, currency: str) -> str:
    """An amount in short, such as `+ €1.20`, `+ 8 %`, `= €25.00`, `+ €3.00 once`."""
    number = Decimal(amount.value) if locales.is_plain_decimal(amount.value) else Decimal(0)
    size = plain_decimal(abs(number))
    shown = (
        f"{locales.show_number(size, locale)}\u00a0%"
        if amount.mode == "percent"
        else FIGURES[figure].words(size, locale, currency)
    )
    sign = "= " if amount.mode == "replace" else _SHOWN_SIGNS["-" if number < 0 else ""]
    return f"{sign}{shown}{' once' if amount.charge == ONCE else ''}"


def effect_words(effect: Effect, locale: str, currency: str) -> str:
    """All that an effect does, in short."""
    parts = [
        amount_words(amount, figure, locale, currency) + FIGURES[figure].aside
        for figure, amount in effect.amounts.items()
    ]
    return ", ".join([*parts, *([f"SKU {effect.sku}"] if effect.sku else [])])


def effect_of(state: Mapping[str, Any] | None) -> Effect:
    """An effect from its JSON state, for telling changes."""
    found = state or {}
    amounts = {figure: Amount(**found[figure]) for figure in FIGURES if found.get(figure)}
    return Effect(**amounts, sku=str(found.get("sku") or ""))
