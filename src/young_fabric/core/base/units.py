"""Units of measure: which ones a shop can use, how they are written, and exact conversion.

Conversion factors come from Pint, with decimals throughout; what is ours is the choice of units, the
dimensions as a shopkeeper names them, and the writings that are understood.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal, localcontext
from functools import cache, lru_cache
from typing import Any

from pint import UnitRegistry

from young_fabric.core.base.errors import Refusal

PRECISION = 60
PLACES = Decimal("1e-12")


@dataclass(frozen=True, slots=True)
class Unit:
    """`symbol` is the stored form, `dimension` the plain name of what it measures, `pint` its definition."""

    symbol: str
    dimension: str
    pint: str
    writings: tuple[str, ...] = ()


def _units(dimension: str, rows: Mapping[str, tuple[str, str]]) -> list[Unit]:
    return [Unit(s, dimension, p, tuple(w.split("|")) if w else ()) for s, (p, w) in rows.items()]


UNITS: tuple[Unit, ...] = (
    *_units(
        "length",
        {
            "µm": ("micrometer", "um|micron|microns|micrometre|micrometres|micrometer|micrometers"),
            "mm": ("millimeter", "millimetre|millimetres|millimeter|millimeters"),
            "cm": ("centimeter", "centimetre|centimetres|centimeter|centimeters"),
            "dm": ("decimeter", "decimetre|decimetres|decimeter|decimeters"),
            "m": ("meter", "metre|metres|meter|meters"),
            "km": ("kilometer", "kilometre|kilometres|kilometer|kilometers"),
            "in": ("inch", "inch|inches|″|\"|''|′′|”"),
            "ft": ("foot", "foot|feet|′|'|’"),
            "yd": ("yard", "yds|yard|yards"),
            "mi": ("mile", "mile|miles"),
        },
    ),
    *_units(
        "area",
        {
            "mm²": (
                "millimeter**2",
                "sqmm|sq mm|square millimetre|square millimetres|square millimeter|square millimeters",
            ),
            "cm²": (
                "centimeter**2",
                "sqcm|sq cm|square centimetre|square centimetres|square centimeter|square centimeters",
            ),
            "dm²": ("decimeter**2", "sqdm|sq dm|square decimetre|square decimetres"),
            "m²": ("meter**2", "sqm|sq m|qm|square metre|square metres|square meter|square meters"),
            "ha": ("hectare", "hectare|hectares"),
            "in²": ("inch**2", "sqin|sq in|square inch|square inches"),
            "ft²": ("foot**2", "sqft|sq ft|square foot|square feet"),
            "yd²": ("yard**2", "sqyd|sq yd|square yard|square yards"),
        },
    ),
    *_units(
        "volume",
        {
            "µl": ("microliter", "ul|microlitre|microlitres|microliter|microliters"),
            "ml": ("milliliter", "millilitre|millilitres|milliliter|milliliters"),
            "cl": ("centiliter", "centilitre|centilitres|centiliter|centiliters"),
            "dl": ("deciliter", "decilitre|decilitres|deciliter|deciliters"),
            "l": ("liter", "litre|litres|liter|liters|ltr"),
            "mm³": ("millimeter**3", "cubic millimetre|cubic millimetres"),
            "cm³": ("centimeter**3", "cc|ccm|cubic centimetre|cubic centimetres|cubic centimeter|cubic centimeters"),
            "dm³": ("decimeter**3", "cubic decimetre|cubic decimetres"),
            "m³": ("meter**3", "cbm|cubic metre|cubic metres|cubic meter|cubic meters"),
            "in³": ("inch**3", "cuin|cu in|cubic inch|cubic inches"),
            "ft³": ("foot**3", "cuft|cu ft|cubic foot|cubic feet"),
            "fl oz": ("fluid_ounce", "floz|fl. oz.|fl. oz|fluid ounce|fluid ounces"),
            "pt": ("pint", "pint|pints"),
            "qt": ("quart", "quart|quarts"),
            "gal": ("gallon", "gallon|gallons"),
        },
    ),
    *_units(
        "mass",
        {
            "µg": ("microgram", "ug|mcg|microgram|micrograms"),
            "mg": ("milligram", "milligram|milligrams"),
            "g": ("gram", "gr|gram|grams|gramme|grammes"),
            "kg": ("kilogram", "kilo|kilos|kilogram|kilograms"),
            "t": ("metric_ton", "tonne|tonnes"),
            "oz": ("ounce", "ounce|ounces"),
            "lb": ("pound", "lbs|pound|pounds"),
            "st": ("stone", "stone|stones"),
        },
    ),
    *_units(
        "mass per area",
        {
            "g/m²": ("gram/meter**2", "gsm|g/sqm|g/qm|grams per square metre|grams per square meter|gm²"),
            "kg/m²": ("kilogram/meter**2", "kg/sqm|kg/qm|kilograms per square metre|kilograms per square meter"),
            "g/cm²": ("gram/centimeter**2", "grams per square centimetre"),
            "mg/cm²": ("milligram/centimeter**2", ""),
            "oz/yd²": ("ounce/yard**2", "oz/sqyd|ounces per square yard|osy"),
            "oz/ft²": ("ounce/foot**2", "oz/sqft|ounces per square foot"),
            "lb/ft²": ("pound/foot**2", "lb/sqft|pounds per square foot"),
        },
    ),
    *_units(
        "density",
        {
            "g/cm³": ("gram/centimeter**3", "g/cc|g/ml"),
            "kg/l": ("kilogram/liter", ""),
            "kg/m³": ("kilogram/meter**3", ""),
            "g/l": ("gram/liter", ""),
        },
    ),
    *_units("mass per length", {"g/m": ("gram/meter", ""), "kg/m": ("kilogram/meter", "")}),
    *_units(
        "pressure",
        {
            "mPa": ("millipascal", "millipascal|millipascals"),
            "Pa": ("pascal", "pascal|pascals"),
            "hPa": ("hectopascal", "hectopascal|hectopascals"),
            "kPa": ("kilopascal", "kilopascal|kilopascals"),
            "MPa": ("megapascal", "megapascal|megapascals"),
            "mbar": ("millibar", "millibar|millibars"),
            "bar": ("bar", "bars"),
            "psi": ("pound_force_per_square_inch", "lbf/in²"),
        },
    ),
    *_units("force", {"N": ("newton", "newton|newtons"), "kN": ("kilonewton", "kilonewton|kilonewtons")}),
    *_units(
        "time",
        {
            "ms": ("millisecond", "millisecond|milliseconds"),
            "s": ("second", "sec|secs|second|seconds"),
            "min": ("minute", "mins|minute|minutes"),
            "h": ("hour", "hr|hrs|hour|hours"),
            "d": ("day", "day|days"),
            "week": ("week", "weeks|wk"),
        },
    ),
    *_units(
        "temperature",
        {
            "°C": ("degree_Celsius", "degC|celsius|℃"),
            "°F": ("degree_Fahrenheit", "degF|fahrenheit|℉"),
            "K": ("kelvin", "kelvin|kelvins"),
        },
    ),
    *_units("angle", {"°": ("degree", "deg|degree|degrees"), "rad": ("radian", "radian|radians")}),
    *_units(
        "power",
        {
            "mW": ("milliwatt", "milliwatt|milliwatts"),
            "W": ("watt", "watt|watts"),
            "kW": ("kilowatt", "kilowatt|kilowatts"),
            "MW": ("megawatt", "megawatt|megawatts"),
        },
    ),
    *_units("voltage", {"mV": ("millivolt", ""), "V": ("volt", "volt|volts"), "kV": ("kilovolt", "")}),
    *_units("current", {"mA": ("milliampere", ""), "A": ("ampere", "amp|amps|ampere|amperes")}),
    *_units(
        "energy",
        {
            "J": ("joule", "joule|joules"),
            "kJ": ("kilojoule", "kilojoule|kilojoules"),
            "Wh": ("watt_hour", ""),
            "kWh": ("kilowatt_hour", ""),
            "kcal": ("kilocalorie", "kilocalorie|kilocalories"),
        },
    ),
    *_units("speed", {"m/s": ("meter/second", ""), "km/h": ("kilometer/hour", "kph"), "mph": ("mile/hour", "mi/h")}),
    *_units("share", {"%": ("percent", "percent|per cent")}),
    *_units("piece", {"piece": ("piece", "pieces|pc|pcs|pce|pces|item|items|each|sheet|sheets|Stück|Stk")}),
)

REFERENCE_AMOUNTS: Mapping[str, tuple[str, str]] = {
    "volume": ("100", "ml"),
    "mass": ("100", "g"),
    "area": ("1", "m²"),
    "length": ("1", "m"),
    "piece": ("1", "piece"),
    "mass per area": ("1", "g/m²"),
}
"""The reference quantity a unit price is told for, per dimension of the contents."""


def _plain(text: str) -> str:
    """One spelling for the usual writings: m^2, m2 and m² alike, `per` for a stroke, single spaces."""
    text = text.replace("″", '"').replace("′", "'")
    text = unicodedata.normalize("NFKC", text).replace("μ", "µ").replace("^", "").replace("**", "")
    text = re.sub(r"\s*(?:/|\bper\b)\s*", "/", " ".join(text.split()))
    return text.strip()


def _index() -> tuple[dict[str, Unit], dict[str, Unit | None]]:
    exact: dict[str, Unit] = {}
    folded: dict[str, Unit | None] = {}
    for unit in UNITS:
        for writing in (unit.symbol, *unit.writings):
            plain = _plain(writing)
            exact.setdefault(plain, unit)
            fold = plain.casefold()
            same = folded.get(fold, unit)
            folded[fold] = unit if same is unit else None
    return exact, folded


_EXACT, _FOLDED = _index()


@lru_cache(maxsize=2048)
def symbols() -> list[str]:
    """The symbols that units are kept by."""
    return [unit.symbol for unit in UNITS]


def find(text: str) -> Unit | None:
    """The unit meant by `text`, by symbol, name or usual writing; case counts only where units differ by it."""
    plain = _plain(text)
    return _EXACT.get(plain) or _FOLDED.get(plain.casefold())


@cache
def _registry() -> Any:
    registry: Any = UnitRegistry(non_int_type=Decimal, autoconvert_offset_to_baseunit=True)
    registry.define("piece = [piece]")
    return registry


@cache
def _line(symbol: str) -> tuple[Decimal, Decimal]:
    """(factor, offset) from this unit to the base of its dimension: base = amount × factor + offset."""
    unit = _EXACT[_plain(symbol)]
    with localcontext(prec=PRECISION):
        registry = _registry()
        at_nought = registry.Quantity(Decimal(0), unit.pint).to_base_units().magnitude
        at_one = registry.Quantity(Decimal(1), unit.pint).to_base_units().magnitude
        return Decimal(at_one) - Decimal(at_nought), Decimal(at_nought)


def plain_decimal(number: Decimal) -> str:
    """A decimal without exponent, trailing noughts or a signed nought."""
    text = format(number, "f")
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def convert_exact(amount: Decimal, unit: str, to: str) -> Decimal:
    """`amount` of `unit` in `to`, unrounded. Raises Refusal `unit` or `dimension`."""
    a, b = find(unit), find(to)
    if a is None or b is None:
        raise Refusal("unit", f"“{unit if a is None else to}” is not a unit we know")
    if a.dimension != b.dimension:
        raise Refusal("dimension", f"{a.symbol} is {article(a.dimension)}, this needs {b.dimension}")
    if a is b:
        return amount
    with localcontext(prec=PRECISION):
        factor, offset = _line(a.symbol)
        to_factor, to_offset = _line(b.symbol)
        return (amount * factor + offset - to_offset) / to_factor


def convert(amount: Decimal, unit: str, to: str) -> Decimal:
    """`amount` of `unit` in `to`, rounded to 12 decimals. Raises Refusal `unit` or `dimension`."""
    exact = convert_exact(amount, unit, to)
    with localcontext(prec=PRECISION + 40):
        return exact.quantize(PLACES) if exact.is_finite() else exact


def lines(dimension: str) -> dict[str, tuple[Decimal, Decimal]]:
    """Unit → (factor, offset) that turn an amount into the dimension's own measure: amount × factor + offset."""
    return {unit.symbol: _line(unit.symbol) for unit in UNITS if unit.dimension == dimension}


def article(noun: str) -> str:
    """`mass` → `a mass`, `area` → `an area`."""
    return f"{'an' if noun[0] in 'aeiou' else 'a'} {noun}"
