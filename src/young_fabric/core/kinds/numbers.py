"""Numbers: whole, decimal, measure, money, and the contents of a pack."""

from __future__ import annotations

import re
from decimal import Decimal
from typing import Any, ClassVar

from young_fabric.core import locales, pricing, units
from young_fabric.core.errors import Refusal
from young_fabric.core.kinds.base import Kind, Limits, Spec, Value

_PLAIN = re.compile(r"-?(0|[1-9][0-9]*)(\.[0-9]*[1-9])?")


def is_plain_decimal(value: Any) -> bool:
    """Whether a stored number is a canonical decimal string."""
    return isinstance(value, str) and _PLAIN.fullmatch(value) is not None


def check_number(amount: str, limits: Limits, locale: str, unit: str = "") -> Refusal | None:
    """The first of decimals, smallest, largest that a plain decimal breaks."""
    tail = f" {unit}" if unit else ""
    decimals = len(amount.partition(".")[2])
    if limits.decimals is not None and decimals > limits.decimals:
        allowed = "no decimals" if limits.decimals == 0 else f"at most {limits.decimals} decimals"
        return Refusal(
            "decimals", f"{locales.show_number(amount, locale)} has {decimals} decimals, {allowed}", help="Round it"
        )
    number = Decimal(amount)
    if limits.min is not None and number < Decimal(limits.min):
        return Refusal("below", f"below {locales.show_number(limits.min, locale)}{tail}", help="Type a larger value")
    if limits.max is not None and number > Decimal(limits.max):
        return Refusal("above", f"above {locales.show_number(limits.max, locale)}{tail}", help="Type a smaller value")
    return None


class DecimalNumber(Kind):
    """A decimal number, kept as a plain decimal string."""

    code, name, example = "decimal", "decimal number", "12.5"
    limits: ClassVar[tuple[str, ...]] = ("min", "max", "decimals")

    def read(self, text: str, spec: Spec) -> Value:
        return locales.read_number(text, spec.locale)

    def check(self, value: Value, spec: Spec) -> Refusal | None:
        return check_number(value, spec.limits, spec.locale)

    def well_formed(self, value: Value) -> bool:
        return is_plain_decimal(value)

    def show(self, value: Value, spec: Spec) -> str:
        return locales.show_number(value, spec.locale)


class WholeNumber(DecimalNumber):
    """A whole number."""

    code, name, example = "whole", "whole number", "12"
    limits = ("min", "max")

    def read(self, text: str, spec: Spec) -> Value:
        number = super().read(text, spec)
        if "." in number:
            raise Refusal("decimals", f"“{text.strip()}” is not a whole number", help="Round it")
        return number

    def well_formed(self, value: Value) -> bool:
        return is_plain_decimal(value) and "." not in value


class Measure(Kind):
    """A number with a unit, kept in the field's unit as {amount, unit}."""

    code, name, example = "measure", "measure", "300 g/m²"
    limits = ("min", "max", "decimals")
    takes_unit = True

    def read(self, text: str, spec: Spec) -> Value:
        wanted = units.find(spec.unit or "")
        if wanted is None:
            raise Refusal("unit", "this field has no unit yet", help="Choose its unit in Define")
        number, writing = locales.split_number(text.strip(), spec.locale)
        amount = locales.read_number(number or text, spec.locale)
        unit = units.find(writing) if writing else wanted
        if unit is None:
            raise Refusal("unit", f"“{writing[:40]}” is not a unit we know", help=f"Type it in {wanted.symbol}")
        if unit.dimension != wanted.dimension:
            raise Refusal(
                "dimension",
                f"{writing} is {units.article(unit.dimension)}, this field needs {wanted.dimension}",
                help=f"Type it in {wanted.symbol}",
            )
        converted = units.plain_decimal(units.convert(Decimal(amount), unit.symbol, wanted.symbol))
        return {"amount": converted, "unit": wanted.symbol}

    def check(self, value: Value, spec: Spec) -> Refusal | None:
        if spec.unit and value["unit"] != spec.unit:
            return Refusal("unit", f"kept in {value['unit']}, this field uses {spec.unit}", help="Type it anew")
        return check_number(value["amount"], spec.limits, spec.locale, value["unit"])

    def well_formed(self, value: Value) -> bool:
        return (
            isinstance(value, dict)
            and set(value) == {"amount", "unit"}
            and is_plain_decimal(value["amount"])
            and units.find(str(value["unit"])) is not None
        )

    def show(self, value: Value, spec: Spec) -> str:
        return f"{locales.show_number(value['amount'], spec.locale)}\u00a0{value['unit']}"

    def typed(self, value: Value, spec: Spec) -> str:
        return f"{locales.show_number(value['amount'], spec.locale)} {value['unit']}"


class Money(DecimalNumber):
    """An amount in the shop's currency, never negative."""

    code, name, example = "money", "money", "9.80"
    limits = ("min", "max")
    own_fields = False

    def read(self, text: str, spec: Spec) -> Value:
        body = text.strip()
        for sign in (spec.currency, "€", "$", "£", "¥"):
            body = body.removeprefix(sign).removesuffix(sign).strip()
        return locales.read_number(body, spec.locale)

    def check(self, value: Value, spec: Spec) -> Refusal | None:
        if Decimal(value) < 0:
            return Refusal("below", "below 0", help="Type a price of 0 or more")
        digits = pricing.minor_units(spec.currency)
        if len(value.partition(".")[2]) > digits:
            return Refusal("decimals", f"{spec.currency} has {digits} decimals", help="Round it")
        return super().check(value, spec)

    def show(self, value: Value, spec: Spec) -> str:
        return locales.show_money(value, spec.currency, spec.locale)

    def typed(self, value: Value, spec: Spec) -> str:
        signs = locales.number_signs(spec.locale)
        return pricing.in_currency(Decimal(value), spec.currency).replace(".", signs.decimal)


class Contents(Kind):
    """What one sold piece holds, as {count, amount, unit}: `15 ml`, or `6 × 15 ml` for a pack."""

    code, name, example = "contents", "contents", "6 × 15 ml"
    own_fields = False
    takes_many = False

    def read(self, text: str, spec: Spec) -> Value:
        body = text.strip()
        pack = re.fullmatch(r"([0-9]+)\s*(?:×|[xX*]|\bof\b)\s*(.+)", body)
        count, rest = (int(pack[1]), pack[2]) if pack else (1, body)
        number, writing = locales.split_number(rest, spec.locale)
        amount = locales.read_number(number or rest, spec.locale)
        unit = units.find(writing) if writing else None
        if unit is None or unit.dimension not in units.REFERENCE_AMOUNTS:
            shown = f"“{writing[:40]}” can't be contents" if writing else "the unit is missing"
            raise Refusal("unit", shown, help="Type an amount with a unit, such as 15 ml, 0.5 m² or 12 pieces")
        return {"count": count, "amount": amount, "unit": unit.symbol}

    def check(self, value: Value, spec: Spec) -> Refusal | None:  # noqa: ARG002
        if value["count"] < 1 or Decimal(value["amount"]) <= 0:
            return Refusal("below", "contents of nothing", help="Type an amount above 0")
        return None

    def well_formed(self, value: Value) -> bool:
        return (
            isinstance(value, dict)
            and set(value) == {"count", "amount", "unit"}
            and isinstance(value["count"], int)
            and is_plain_decimal(value["amount"])
            and units.find(str(value["unit"])) is not None
        )

    def show(self, value: Value, spec: Spec) -> str:
        pack = f"{value['count']} × " if value["count"] != 1 else ""
        many = "s" if value["unit"] == "piece" and value["amount"] != "1" else ""
        return f"{pack}{locales.show_number(value['amount'], spec.locale)}\u00a0{value['unit']}{many}"

    def typed(self, value: Value, spec: Spec) -> str:
        return self.show(value, spec).replace("\u00a0", " ")
