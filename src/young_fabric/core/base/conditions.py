"""Conditions: a tree of `all`, `any`, `none` over tests `{field, op, value}`, asked of a product's values.

How values of a field compare is told by a comparison, which its kind names: text, list (codes of a list), number, money,
measure, yes_no, date, or presence for what can only be there or not.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from young_fabric.core.base import units
from young_fabric.core.base.decimals import MOST_DIGITS, read_decimal
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
        if not isinstance(tree[joins[0]], list | tuple):
            raise Refusal("condition", "What is joined is a list of tests", (joins[0],), "Send a list")
        for position, branch in enumerate(tree[joins[0]]):
            try:
                check_condition(branch, known, depth + 1)
            except Refusal as refusal:
                raise refusal.at(joins[0], position) from None
    elif tree:
        if not isinstance(tree.get("field"), str) or tree["field"] not in known:
            raise Refusal("unknown_field", f"There is no field {tree.get('field')}", ("field",), "Choose another")
        if not isinstance(tree.get("op"), str) or tree["op"] not in OPS:
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
    return OPS[op](value, tree.get("value"), comparison_of(comparisons.get(tree["field"], "text")).read)


def is_empty(value: Any) -> bool:
    """Whether there is no value: none, blank text, or a list of nothing."""
    return value is None or (isinstance(value, str) and not value.strip()) or (isinstance(value, list) and not value)


def _text(value: Any) -> Comparable:
    return value.strip().casefold() if isinstance(value, str) else None


def _number(value: Any) -> Comparable:
    if isinstance(value, bool) or not isinstance(value, str | int | float | Decimal):
        return None
    if isinstance(value, str):
        return read_decimal(value.strip())
    number = Decimal(str(value))
    return number if number.is_finite() and abs(number.adjusted()) <= MOST_DIGITS else None


def _measure(value: Any) -> Comparable:
    """The amount in the dimension's first unit, with the dimension: measures of two dimensions never compare."""
    if not isinstance(value, Mapping):
        return None
    amount, unit = _number(value.get("amount")), units.find(str(value.get("unit")))
    if amount is None or unit is None:
        return None
    first = next(other for other in units.UNITS if other.dimension == unit.dimension)
    return unit.dimension, units.convert(amount, unit.symbol, first.symbol)


def _rating(value: Any) -> Comparable:
    """Which part of the best a rating is, so that ratings out of different numbers compare."""
    if not isinstance(value, Mapping):
        return None
    rated, best = _number(value.get("value")), _number(value.get("out_of"))
    return rated / best if rated is not None and best is not None and best > 0 else None


def _yes_no(value: Any) -> Comparable:
    return value if isinstance(value, bool) else None


def _reference(value: Any) -> Comparable:
    """The key or number a value names, whether or not a name was put in with it."""
    item = value.get("item") if isinstance(value, Mapping) else value
    return str(item) if isinstance(item, str | int) and not isinstance(item, bool) else None


BY_TEXT, BY_AMOUNT, BY_MEASURE, BY_RATING = "text", "amount", "measure", "rating"
"""What values are put in order by."""
_THERE = ("filled", "empty")
_ORDERED = ("is", "is_not", "lt", "le", "gt", "ge", "between", *_THERE)


@dataclass(frozen=True)
class Comparison:
    """A way to compare values: what they are `read` as (None for what is not of that sort), the tests that make sense of
    them, the likeliest first, what they are put in order by, words for tests that are called otherwise of them, and the
    control that asks for a value."""

    read: Callable[[Any], Comparable]
    tests: tuple[str, ...]
    order: str = BY_TEXT
    words: Mapping[str, str] = field(default_factory=dict)
    control: str = "words"


_DATES = {"lt": "before", "le": "up to", "gt": "after", "ge": "from"}
COMPARISONS: Mapping[str, Comparison] = {
    "text": Comparison(_text, ("is", "is_not", "contains", "starts_with", "any_of", "none_of", *_THERE)),
    "list": Comparison(_text, ("is", "is_not", "any_of", "all_of", "none_of", *_THERE), control="list"),
    "reference": Comparison(_reference, ("is", "is_not", "any_of", "all_of", "none_of", *_THERE), control="reference"),
    "date": Comparison(_text, _ORDERED, words=_DATES),
    "number": Comparison(_number, _ORDERED, BY_AMOUNT),
    "money": Comparison(_number, _ORDERED, BY_AMOUNT),
    "measure": Comparison(_measure, _ORDERED, BY_MEASURE),
    "rating": Comparison(_rating, _ORDERED, BY_RATING),
    "yes_no": Comparison(_yes_no, ("is", *_THERE), control="yes_no"),
    "presence": Comparison(lambda _value: None, _THERE),
}
"""How values compare, by the name a kind gives."""


def comparison_of(name: str) -> Comparison:
    """A way to compare by its name, as text when nobody knows it."""
    return COMPARISONS.get(name, COMPARISONS["text"])


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

TAKES: Mapping[str, str] = {
    **dict.fromkeys(OPS, "one"),
    **dict.fromkeys(("any_of", "all_of", "none_of"), "many"),
    "between": "two",
    **dict.fromkeys(("empty", "filled"), "none"),
}
"""How many values a test is asked with: none, one, two or many."""


def tests_of(tree: Mapping[str, Any]) -> Iterator[Mapping[str, Any]]:
    """Every test of a tree, in order."""
    for join in JOINS:
        if join in tree:
            for branch in tree[join]:
                yield from tests_of(branch)
            return
    if tree:
        yield tree
