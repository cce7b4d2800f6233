"""Numbers: whole, decimal, measure, money, and the contents of a pack."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import replace
from decimal import Decimal
from functools import lru_cache
from typing import Any, ClassVar

from young_fabric.core.base import decimal_patterns as patterns
from young_fabric.core.base import locales, money, units
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.locales import is_plain_decimal
from young_fabric.core.base.unit_codes import measured
from young_fabric.core.base.wording.words import say, unit_word
from young_fabric.core.kinds.base import Judge, Kind, KindOption, Show, Spec, Value, object_schema
from young_fabric.core.kinds.limits import DECIMALS, LARGEST, SMALLEST, Limit
from young_fabric.core.kinds.shown import Text

MOST_PIECES = 1_000_000


def number_checker(spec: Spec, unit: str = "", grouped: bool = True) -> Judge:
    """A function that gives the first of decimals, smallest, largest that a plain decimal breaks."""
    limits, locale, tail = spec.limits, spec.locale, f" {unit}" if unit else ""
    most_decimals = limits.get("decimals")
    least = None if limits.get("min") is None else Decimal(limits["min"])
    most = None if limits.get("max") is None else Decimal(limits["max"])

    def check(amount: Value) -> Refusal | None:
        if most_decimals is not None and (decimals := len(amount.partition(".")[2])) > most_decimals:
            allowed = "no decimals" if most_decimals == 0 else f"at most {most_decimals} decimals"
            words = f"{locales.show_number(amount, locale)} has {decimals} decimals, {allowed}"
            return Refusal("decimals", words, help="Round it")
        number = Decimal(amount)
        if least is not None and number < least:
            words = f"below {locales.show_number(limits['min'], locale, grouped)}{tail}"
            return Refusal("below", words, help="Type a larger value")
        if most is not None and number > most:
            words = f"above {locales.show_number(limits['max'], locale, grouped)}{tail}"
            return Refusal("above", words, help="Type a smaller value")
        return None

    return check


def number_schema(spec: Spec, least: Decimal | None = None) -> dict[str, Any]:
    """JSON Schema of a plain decimal string within its limits, and not below `least`."""
    limits = spec.limits
    found = None if limits.get("min") is None else Decimal(limits["min"])
    floors = [bound for bound in (found, least) if bound is not None]
    bounds = [patterns.at_least(max(floors))] if floors else []
    bounds += [] if limits.get("max") is None else [patterns.at_most(Decimal(limits["max"]))]
    bounds += [] if limits.get("decimals") is None else [patterns.decimals(limits["decimals"])]
    made: dict[str, Any] = {"type": "string", "maxLength": locales.LONGEST_NUMBER, "pattern": patterns.CANONICAL}
    return {**made, "allOf": [{"pattern": bound} for bound in bounds]} if bounds else made


def number_writer(spec: Spec, properties: Mapping[str, Any]) -> Callable[[str], str]:
    """A function from a plain decimal string to how it is written, by the field and by display properties."""
    locale, decimals = spec.locale, properties.get("decimals")
    said = properties.get("grouping") or spec.options.get(WRITING.code)
    grouped = said != PLAIN

    def write(value: str) -> str:
        number = locales.rounded(value, decimals) if type(decimals) is int else value
        return locales.show_number(number, locale, grouped)

    return write


class DecimalNumber(Kind):
    """A decimal number, kept as a plain decimal string."""

    code, name, example = "decimal", "decimal number", "12.5"
    shapes: ClassVar[tuple[str, ...]] = ("text", "quantity")
    limits: ClassVar[tuple[Limit, ...]] = (SMALLEST, LARGEST, DECIMALS)
    formats: ClassVar[tuple[str, ...]] = ("decimals", "grouping")
    comparison = "number"

    def read(self, text: str, spec: Spec) -> Value:
        return locales.read_number(text, spec.locale)

    def checker(self, spec: Spec) -> Judge:
        return number_checker(spec)

    def well_formed(self, value: Any) -> bool:
        return is_plain_decimal(value)

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:
        write = number_writer(spec, properties)
        return lambda value: Text(write(value))

    def json_schema(self, spec: Spec) -> dict[str, Any]:
        return number_schema(spec)

    def words(self, value: Value) -> str:
        return value if is_plain_decimal(value) else super().words(value)

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": value}


GROUPED, PLAIN = "grouped", "plain"


def _check_writing(value: Any) -> Refusal | None:
    if value in (None, GROUPED, PLAIN):
        return None
    return Refusal("writing", "Not a way to write a whole number", help="Choose one of those offered")


WRITING = KindOption("writing", "written", "writing", _check_writing, "", reads=False)


class WholeNumber(DecimalNumber):
    """A whole number: a quantity, written with the locale's group signs, or one that is none, such as a year."""

    code, name, example = "whole", "whole number", "12"
    limits = (SMALLEST, LARGEST)
    options = (WRITING,)
    formats = ("grouping",)

    def checker(self, spec: Spec) -> Judge:
        return number_checker(spec, grouped=_is_grouped(spec))

    def read(self, text: str, spec: Spec) -> Value:
        number = super().read(text, spec)
        if "." in number:
            raise Refusal("decimals", f"“{text.strip()}” is not a whole number", help="Round it")
        return number

    def well_formed(self, value: Any) -> bool:
        return is_plain_decimal(value) and "." not in value

    def json_schema(self, spec: Spec) -> dict[str, Any]:
        return number_schema(replace(spec, limits={**spec.limits, "decimals": 0}))


def _is_grouped(spec: Spec) -> bool:
    return spec.options.get(WRITING.code) != PLAIN


def _unit_is_known(value: Any) -> bool:
    return isinstance(value, str) and units.find(value) is not None


def _check_unit(value: Any) -> Refusal | None:
    if _unit_is_known(value):
        return None
    return Refusal("unit", "A measure needs a unit", help="Choose a unit, such as mm or g/m²")


UNIT = KindOption("unit", "unit", "unit", _check_unit, "A measure needs a unit")


class Measure(Kind):
    """A number with a unit, kept in the field's unit as {amount, unit}."""

    code, name, example = "measure", "measure", "300 g/m²"
    shapes = ("quantity", "text")
    limits = (SMALLEST, LARGEST, DECIMALS)
    options = (UNIT,)
    formats = ("unit", "decimals", "grouping")
    comparison = "measure"

    def read(self, text: str, spec: Spec) -> Value:
        wanted = units.find(spec.options.get("unit") or "")
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
        if not is_plain_decimal(converted):
            raise Refusal("number", f"“{text.strip()[:40]}” is too long a number", help="Type it in another unit")
        return {"amount": converted, "unit": wanted.symbol}

    def checker(self, spec: Spec) -> Judge:
        unit = spec.options.get("unit")
        check_amount = number_checker(spec, unit or "")

        def check(value: Value) -> Refusal | None:
            if unit and value["unit"] != unit:
                return Refusal("unit", f"kept in {value['unit']}, this field uses {unit}", help="Type it anew")
            return check_amount(value["amount"])

        return check

    def well_formed(self, value: Any) -> bool:
        return (
            isinstance(value, dict)
            and len(value) == 2
            and is_plain_decimal(value.get("amount"))
            and _unit_is_known(value.get("unit"))
        )

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:
        write, wanted = number_writer(spec, properties), units.find(properties.get("unit") or "")

        def show(value: Value) -> Text:
            amount, unit = value["amount"], value["unit"]
            kept = units.find(unit) if wanted is not None else None
            if wanted is not None and kept is not None and kept.dimension == wanted.dimension:
                amount = units.plain_decimal(units.convert(Decimal(amount), kept.symbol, wanted.symbol))
                unit = wanted.symbol
            return Text(f"{write(amount)}\u00a0{unit}")

        return show

    def to_text(self, value: Value, spec: Spec) -> str:
        return f"{locales.show_number(value['amount'], spec.locale)} {value['unit']}"

    def example_for(self, spec: Spec) -> str:
        unit = spec.options.get("unit")
        return f"300 {unit}" if unit else self.example

    def json_schema(self, spec: Spec) -> dict[str, Any]:
        unit = spec.options.get("unit")
        members = {"amount": number_schema(spec), "unit": {"const": unit} if unit else {"enum": units.symbols()}}
        return object_schema(members)

    def identity(self, value: Value) -> Any:
        return len(value), value["unit"], value["amount"]

    def words(self, value: Value) -> str:
        return f"{value['amount']} {value['unit']}" if self.well_formed(value) else super().words(value)

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return measured(value["amount"], value["unit"])


class Money(DecimalNumber):
    """An amount in the shop's currency, never negative."""

    code, name, example = "money", "money", "9.80"
    shapes = ()
    limits = (SMALLEST, LARGEST)
    formats = ()
    comparison = "money"

    def read(self, text: str, spec: Spec) -> Value:
        body = text.strip()
        for sign in (spec.currency, "€", "$", "£", "¥"):
            body = body.removeprefix(sign).removesuffix(sign).strip()
        return locales.read_number(body, spec.locale)

    def checker(self, spec: Spec) -> Judge:
        digits, check_amount = money.minor_units(spec.currency), super().checker(spec)

        def check(value: Value) -> Refusal | None:
            if value[0] == "-":
                return Refusal("below", "below 0", help="Type a price of 0 or more")
            if len(value.partition(".")[2]) > digits:
                return Refusal("decimals", f"{spec.currency} has {digits} decimals", help="Round it")
            return check_amount(value)

        return check

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        write = locales.money_writer(spec.currency, spec.locale)
        return lambda value: Text(write(Decimal(value)))

    def json_schema(self, spec: Spec) -> dict[str, Any]:
        digits = money.minor_units(spec.currency)
        made = number_schema(replace(spec, limits={**spec.limits, "decimals": digits}))
        return {**made, "pattern": patterns.UNSIGNED}

    def to_text(self, value: Value, spec: Spec) -> str:
        signs = locales.number_signs(spec.locale)
        return money.in_currency(Decimal(value), spec.currency).replace(".", signs.decimal)

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": value, "unitText": spec.currency}


class Contents(Kind):
    """What one sold piece holds, as {count, amount, unit}: `15 ml`, or `6 × 15 ml` for a pack."""

    code, name, example = "contents", "contents", "6 × 15 ml"
    own_fields = False
    takes_many = False
    comparison = "measure"

    def read(self, text: str, spec: Spec) -> Value:
        body = text.strip()
        pack = re.fullmatch(r"([0-9]{1,7})\s*(?:×|[xX*]|\bof\b)\s*(.+)", body)
        count, rest = (int(pack[1]), pack[2]) if pack else (1, body)
        number, writing = locales.split_number(rest, spec.locale)
        amount = locales.read_number(number or rest, spec.locale)
        unit = units.find(writing) if writing else None
        if unit is None or unit.dimension not in units.REFERENCE_AMOUNTS:
            shown = f"“{writing[:40]}” can't be contents" if writing else "the unit is missing"
            raise Refusal("unit", shown, help="Type an amount with a unit, such as 15 ml, 0.5 m² or 12 pieces")
        return {"count": count, "amount": amount, "unit": unit.symbol}

    def checker(self, spec: Spec) -> Judge:  # noqa: ARG002
        def check(value: Value) -> Refusal | None:
            if value["count"] < 1 or Decimal(value["amount"]) <= 0:
                return Refusal("below", "contents of nothing", help="Type an amount above 0")
            return None

        return check

    def well_formed(self, value: Any) -> bool:
        return (
            isinstance(value, dict)
            and len(value) == 3
            and type(value.get("count")) is int
            and abs(value["count"]) <= MOST_PIECES
            and is_plain_decimal(value.get("amount"))
            and _unit_is_known(value.get("unit"))
        )

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        return lambda value: Text(self._written(value, spec, "\u00a0", spec.locale))

    def to_text(self, value: Value, spec: Spec) -> str:
        return self._written(value, spec, " ", "en")

    def _written(self, value: Value, spec: Spec, space: str, language: str) -> str:
        pack = f"{value['count']} × " if value["count"] != 1 else ""
        word = unit_word(language, value["unit"], 1 if value["amount"] == "1" else None)
        return f"{pack}{locales.show_number(value['amount'], spec.locale)}{space}{word}"

    def json_schema(self, spec: Spec) -> dict[str, Any]:  # noqa: ARG002
        amount = {**number_schema(Spec()), "allOf": [{"pattern": patterns.UNSIGNED}, {"not": {"const": "0"}}]}
        count = {"type": "integer", "minimum": 1, "maximum": MOST_PIECES}
        return object_schema({"count": count, "amount": amount, "unit": {"enum": units.symbols()}})

    def words(self, value: Value) -> str:
        if not self.well_formed(value):
            return super().words(value)
        pack = f"{value['count']} × " if value["count"] != 1 else ""
        return f"{pack}{value['amount']} {value['unit']}"

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        held = Decimal(value["amount"]) * value["count"]
        return measured(units.plain_decimal(held), value["unit"])


def _is_reference(reference: Any, unit: Any) -> bool:
    return reference.__class__ is str and unit.__class__ is str and _reference_is_sound(reference, unit)


@lru_cache(maxsize=512)
def _reference_is_sound(reference: str, unit: str) -> bool:
    return is_plain_decimal(reference) and _unit_is_known(unit)


class UnitPrice(Kind):
    """A price per reference quantity, as {amount, reference, unit}; computed, never typed."""

    code, name, example = "unit_price", "unit price", "65.33 per 100 ml"
    shapes = ("unit_price",)
    own_fields = False
    takes_many = False
    takes_default = False
    recurs = False
    comparison = "money"

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        raise Refusal("derived", "a unit price is computed", help="Fill price and contents")

    def well_formed(self, value: Any) -> bool:
        return (
            isinstance(value, dict)
            and len(value) == 3
            and is_plain_decimal(value.get("amount"))
            and _is_reference(value.get("reference"), value.get("unit"))
        )

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        write = locales.money_writer(spec.currency, spec.locale)
        per = lru_cache(maxsize=64)(lambda reference, unit: self._per(reference, unit, spec.locale))

        def show(value: Value) -> Text:
            return Text(f"{write(Decimal(value['amount']))} {per(value['reference'], value['unit'])}")

        return show

    def _per(self, reference: str, unit: str, locale: str) -> str:
        single = reference == "1"
        word = unit_word(locale, unit, 1 if single else None)
        return say(locale, "per", reference=word if single else f"{locales.show_number(reference, locale)} {word}")

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": value["amount"], "reference": measured(value["reference"], value["unit"])}
