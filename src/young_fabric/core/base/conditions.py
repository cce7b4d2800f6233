"""Conditions: a tree of `all`, `any`, `none` over tests `{field, op, value}`, asked of a product's values.

How values of a field compare is told by a comparison, which its kind names: text, list (codes of a list), number, money,
measure, yes_no or date.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from decimal import Decimal, InvalidOperation
from typing import Any

from young_fabric.core.base import units
from young_fabric.core.base.errors import Refusal

JOINS = ("all", "any", "none")
_NEGATIVE = frozenset({"empty", "is_not", "none_of"})
Comparable = Any


def check_condition(tree: Any, known: Mapping[str, str], depth: int = 0) -> None:
    """Whether a tree can be asked. `known` is field → comparison. Raises Refusal `condition`, `unknown_field`."""
    if not isinstance(tree, Mapping) or depth > 8:
        raise Refusal("condition", "A condition is a tree of all, any, none and tests, at most 8 deep")
    joins = [name for name in JOINS if name in tree]
    if joins:
        for position, branch in enumerate(tree[joins[0]]):
            try:
                check_condition(branch, known, depth + 1)
            except Refusal as refusal:
                raise refusal.at(joins[0], position) from None
    elif tree:
        if tree.get("field") not in known:
            raise Refusal("unknown_field", f"There is no field {tree.get('field')}", ("field",), "Choose another")
        if tree.get("op") not in OPS:
            raise Refusal("condition", f"There is no test “{tree.get('op')}”", ("op",), "Choose one of those offered")


def holds(tree: Mapping[str, Any], values: Mapping[str, Any], comparisons: Mapping[str, str]) -> bool:
    """Whether a condition holds for values by field. An empty tree holds."""
    if "all" in tree:
        return all(holds(branch, values, comparisons) for branch in tree["all"])
    if "any" in tree:
        return any(holds(branch, values, comparisons) for branch in tree["any"])
    if "none" in tree:
        return not any(holds(branch, values, comparisons) for branch in tree["none"])
    if not tree:
        return True
    value, op = values.get(tree["field"]), tree["op"]
    if is_empty(value):
        return op in _NEGATIVE
    read = COMPARISONS.get(comparisons.get(tree["field"], "text"), _text)
    return OPS[op](value, tree.get("value"), read)


def is_empty(value: Any) -> bool:
    """Whether there is no value: none, blank text, or a list of nothing."""
    return value is None or (isinstance(value, str) and not value.strip()) or (isinstance(value, list) and not value)


def _text(value: Any) -> Comparable:
    return value.strip().casefold() if isinstance(value, str) else None


def _number(value: Any) -> Comparable:
    if isinstance(value, bool) or not isinstance(value, str | int | float | Decimal):
        return None
    try:
        number = Decimal(str(value))
    except InvalidOperation:
        return None
    return number if number.is_finite() else None


def _measure(value: Any) -> Comparable:
    """The amount in the dimension's first unit, with the dimension: measures of two dimensions never compare."""
    if not isinstance(value, Mapping):
        return None
    amount, unit = _number(value.get("amount")), units.find(str(value.get("unit")))
    if amount is None or unit is None:
        return None
    first = next(other for other in units.UNITS if other.dimension == unit.dimension)
    return unit.dimension, units.convert(amount, unit.symbol, first.symbol)


def _yes_no(value: Any) -> Comparable:
    return value if isinstance(value, bool) else None


COMPARISONS: Mapping[str, Callable[[Any], Comparable]] = {
    "text": _text,
    "list": _text,
    "date": _text,
    "number": _number,
    "money": _number,
    "measure": _measure,
    "yes_no": _yes_no,
}
"""What values are compared as, by the name a kind gives; None for what is not of that sort."""


def _members(value: Any) -> list[Any]:
    return value if isinstance(value, list) else [value]


def _equal(value: Any, wanted: Any, read: Callable[[Any], Comparable]) -> bool:
    other = read(wanted)
    return other is not None and read(value) == other


def _is(value: Any, wanted: Any, read: Callable[[Any], Comparable]) -> bool:
    return any(_equal(item, wanted, read) for item in _members(value))


def _any_of(value: Any, wanted: Any, read: Callable[[Any], Comparable]) -> bool:
    return any(_is(value, item, read) for item in _members(wanted))


def _all_of(value: Any, wanted: Any, read: Callable[[Any], Comparable]) -> bool:
    return all(_is(value, item, read) for item in _members(wanted))


def _contains(value: Any, wanted: Any, read: Callable[[Any], Comparable]) -> bool:
    if isinstance(value, list):
        return _is(value, wanted, read)
    return isinstance(value, str) and isinstance(wanted, str) and read is _text and _text(wanted) in _text(value)


def _starts_with(value: Any, wanted: Any, read: Callable[[Any], Comparable]) -> bool:
    text = isinstance(value, str) and isinstance(wanted, str) and read is _text
    return text and bool(_text(value).startswith(_text(wanted)))


def _ordered(passes: Callable[[Any, Any], bool]) -> Callable[[Any, Any, Callable[[Any], Comparable]], bool]:
    def test(value: Any, wanted: Any, read: Callable[[Any], Comparable]) -> bool:
        found, other = (None, None) if isinstance(value, list) else (read(value), read(wanted))
        if found is None or other is None:
            return False
        if isinstance(found, tuple) and found[0] != other[0]:
            return False
        return passes(found, other)

    return test


def _between(value: Any, wanted: Any, read: Callable[[Any], Comparable]) -> bool:
    if not isinstance(wanted, list) or len(wanted) != 2:
        return False
    return OPS["ge"](value, wanted[0], read) and OPS["le"](value, wanted[1], read)


OPS: Mapping[str, Callable[[Any, Any, Callable[[Any], Comparable]], bool]] = {
    "is": _is,
    "is_not": lambda value, wanted, read: not _is(value, wanted, read),
    "any_of": _any_of,
    "all_of": _all_of,
    "none_of": lambda value, wanted, read: not _any_of(value, wanted, read),
    "contains": _contains,
    "starts_with": _starts_with,
    "lt": _ordered(lambda found, other: found < other),
    "le": _ordered(lambda found, other: found <= other),
    "gt": _ordered(lambda found, other: found > other),
    "ge": _ordered(lambda found, other: found >= other),
    "between": _between,
    "empty": lambda _value, _wanted, _read: False,
    "filled": lambda _value, _wanted, _read: True,
}
"""The tests there are, each asked of a value that is not empty."""
