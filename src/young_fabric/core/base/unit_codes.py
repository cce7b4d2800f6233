"""Codes of units of measure in trade: UN/CEFACT Recommendation 20, by the symbols units are stored under."""

from __future__ import annotations

from collections.abc import Mapping

UNIT_CODES: Mapping[str, str] = {
    "µm": "4H", "mm": "MMT", "cm": "CMT", "dm": "DMT", "m": "MTR", "km": "KMT",
    "in": "INH", "ft": "FOT", "yd": "YRD", "mi": "SMI",
    "mm²": "MMK", "cm²": "CMK", "dm²": "DMK", "m²": "MTK", "ha": "HAR", "in²": "INK", "ft²": "FTK", "yd²": "YDK",
    "µl": "4G", "ml": "MLT", "cl": "CLT", "dl": "DLT", "l": "LTR",
    "mm³": "MMQ", "cm³": "CMQ", "dm³": "DMQ", "m³": "MTQ", "in³": "INQ", "ft³": "FTQ",
    "fl oz": "OZA", "pt": "PTL", "qt": "QTL", "gal": "GLL",
    "µg": "MC", "mg": "MGM", "g": "GRM", "kg": "KGM", "t": "TNE", "oz": "ONZ", "lb": "LBR", "st": "STI",
    "g/m²": "GM", "kg/m²": "28", "g/cm²": "25", "mg/cm²": "H63", "oz/yd²": "ON", "oz/ft²": "37", "lb/ft²": "FP",
    "g/cm³": "23", "kg/l": "B35", "kg/m³": "KMQ", "g/l": "GL", "g/m": "GF", "kg/m": "KL",
    "mPa": "74", "Pa": "PAL", "hPa": "A97", "kPa": "KPA", "MPa": "MPA", "mbar": "MBR", "bar": "BAR", "psi": "PS",
    "N": "NEW", "kN": "B47", "ms": "C26", "s": "SEC", "min": "MIN", "h": "HUR", "d": "DAY", "week": "WEE",
    "°C": "CEL", "°F": "FAH", "K": "KEL", "°": "DD", "rad": "C81",
    "mW": "C31", "W": "WTT", "kW": "KWT", "MW": "MAW", "mV": "2Z", "V": "VLT", "kV": "KVT", "mA": "4K", "A": "AMP",
    "J": "JOU", "kJ": "KJO", "Wh": "WHR", "kWh": "KWH", "kcal": "E14", "m/s": "MTS", "km/h": "KMH", "mph": "HM",
    "%": "P1", "piece": "C62",
}  # fmt: skip
"""Symbol → code."""


def measured(amount: str, unit: str) -> dict[str, str]:
    """An amount in a unit as schema.org has it: `value`, `unitCode` where the unit has one, `unitText`."""
    code = UNIT_CODES.get(unit)
    return {"value": amount, **({"unitCode": code} if code else {}), "unitText": unit}
