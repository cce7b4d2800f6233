"""Bounds of plain decimal strings as regular expressions (ECMA-262), since JSON Schema has no words for them.

They are asked of canonical strings: no needless noughts, a minus sign before what is negative.
"""

from __future__ import annotations

from decimal import Decimal

CANONICAL = r"^-?(0|[1-9][0-9]*)(\.[0-9]*[1-9])?$"
UNSIGNED = r"^(0|[1-9][0-9]*)(\.[0-9]*[1-9])?$"
_ANY_FRACTION = r"(?:\.[0-9]+)?"


def at_most(most: Decimal) -> str:
    """A pattern that canonical strings up to a number match, and no others."""
    if most < 0:
        return f"^-(?:{_not_below(-most)})$"
    return f"^(?:-[0-9.]+|{_not_above(most)})$"


def at_least(least: Decimal) -> str:
    """A pattern that canonical strings from a number on match, and no others."""
    if least > 0:
        return f"^(?:{_not_below(least)})$"
    return f"^(?:[0-9][0-9.]*|-(?:{_not_above(-least)}))$"


def decimals(most: int) -> str:
    """A pattern that canonical strings of so many decimals or fewer match, and no others."""
    return f"^[^.]*(?:\\.[0-9]{{1,{most}}})?$" if most else "^[^.]*$"


def _parts(number: Decimal) -> tuple[str, str]:
    whole, _, fraction = f"{number:f}".partition(".")
    return whole.lstrip("0") or "0", fraction.rstrip("0")


def _digits(low: int, high: int) -> str:
    return str(low) if low == high else f"[{low}-{high}]"


def _not_above(number: Decimal) -> str:
    """Unsigned strings up to a number that is not negative."""
    whole, fraction = _parts(number)
    ways = []
    if len(whole) > 1:
        ways.append(f"(?:0|[1-9][0-9]{{0,{len(whole) - 2}}}){_ANY_FRACTION}")
    for index, digit in enumerate(whole):
        low = 1 if index == 0 and len(whole) > 1 else 0
        if int(digit) > low:
            rest = f"[0-9]{{{len(whole) - index - 1}}}"
            ways.append(f"{whole[:index]}{_digits(low, int(digit) - 1)}{rest}{_ANY_FRACTION}")
    same = []
    for index, digit in enumerate(fraction):
        if int(digit) > 0:
            same.append(f"{fraction[:index]}{_digits(0, int(digit) - 1)}[0-9]*")
        same.append(fraction[: index + 1])
    ways.append(f"{whole}(?:\\.(?:{'|'.join(same)}))?" if same else whole)
    return "|".join(ways)


def _not_below(number: Decimal) -> str:
    """Unsigned strings from a number that is not negative."""
    whole, fraction = _parts(number)
    ways = [f"[1-9][0-9]{{{len(whole)},}}{_ANY_FRACTION}"]
    for index, digit in enumerate(whole):
        if int(digit) < 9:
            low = int(digit) + 1
            rest = f"[0-9]{{{len(whole) - index - 1}}}"
            ways.append(f"{whole[:index]}{_digits(low, 9)}{rest}{_ANY_FRACTION}")
    same = [
        f"{fraction[:index]}{_digits(int(digit) + 1, 9)}[0-9]*"
        for index, digit in enumerate(fraction)
        if int(digit) < 9
    ]
    ways.append(f"{whole}\\.(?:{'|'.join([*same, fraction + '[0-9]*'])})" if fraction else f"{whole}{_ANY_FRACTION}")
    return "|".join(ways)
