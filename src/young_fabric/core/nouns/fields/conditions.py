"""Conditions on products: typed tests read into values, checked by the definitions, told in words, and what they ask for."""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping
from typing import Any

from young_fabric.core.base.conditions import JOINS, TAKES, check_condition, comparison_of, tests_of
from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.base import Known, Reference
from young_fabric.core.nouns.fields.fields import Field

TYPE = "type"
"""What a condition calls a product's type: it takes in all above it."""
MOST_TESTS = 60
MOST_VALUES = 200
LONGEST_PART = 200
PARTS_OF_TEXT = frozenset({"contains", "starts_with"})
_WORDS = {
    "is": "is",
    "is_not": "is not",
    "any_of": "is one of",
    "all_of": "has all of",
    "none_of": "is none of",
    "contains": "contains",
    "starts_with": "begins with",
    "empty": "is empty",
    "filled": "is filled",
    "lt": "below",
    "le": "at most",
    "gt": "above",
    "ge": "at least",
    "between": "between",
}
_TYPES = {
    "is": "is or is below",
    "is_not": "is not below",
    "any_of": "is or is below one of",
    "none_of": "is below none of",
}


def asked_fields(defs: Known) -> Mapping[str, Field]:
    """The fields a condition may ask for: those that are filled."""
    return {key: field for key, field in defs.all_fields.items() if not field.derived}


def comparisons(defs: Known) -> Mapping[str, str]:
    """Field → how its values compare; the type too."""
    return {TYPE: "list", **{key: field.rules.comparison for key, field in asked_fields(defs).items()}}


def offered_tests(comparison: str, field: str) -> tuple[tuple[str, str, str], ...]:
    """(op, words, how many values it takes) of the tests that make sense of a field, the likeliest first."""
    if field == TYPE:
        return tuple((op, words, TAKES[op]) for op, words in _TYPES.items())
    return tuple((op, op_words(op, comparison), TAKES[op]) for op in comparison_of(comparison).tests)


def op_words(op: str, comparison: str = "text", field: str = "") -> str:
    """A test in words, as it stands between a field and what it is asked with."""
    if field == TYPE:
        return _TYPES.get(op, op)
    return comparison_of(comparison).words.get(op) or _WORDS.get(op, op)


def read_condition(tree: Any, defs: Known) -> dict[str, Any]:
    """A condition with what was typed in its tests (`typed`) read into values (`value`). Raises Refusal with its place.

    Codes: `condition`, `unknown_field`, `required`, `too_many`, `unknown_product_type`, or of the kind that reads a value.
    """
    check_condition(tree, comparisons(defs))
    if sum(1 for _ in tests_of(tree)) > MOST_TESTS:
        raise Refusal("too_many", f"A condition has at most {MOST_TESTS} tests", (), "Make two collections")
    return _read(tree, defs)


def _read(tree: Mapping[str, Any], defs: Known) -> dict[str, Any]:
    join = next((name for name in JOINS if name in tree), None)
    if join is not None:
        out = []
        for position, branch in enumerate(tree[join]):
            try:
                out.append(_read(branch, defs))
            except Refusal as refusal:
                raise refusal.at(join, position) from None
        return {join: out}
    return _read_test(tree, defs) if tree else {}


def _read_test(test: Mapping[str, Any], defs: Known) -> dict[str, Any]:
    read: dict[str, Any] = {"field": test["field"], "op": test["op"]}
    takes = TAKES[test["op"]]
    if takes == "none":
        return read
    given = test.get("typed", test.get("value"))
    items = given if isinstance(given, list | tuple) and takes != "one" else [given]
    if takes == "two" and len(items) != 2:
        raise Refusal("required", "Between takes two values", ("value",), "Type both")
    if len(items) > MOST_VALUES:
        raise Refusal("too_many", f"A test takes at most {MOST_VALUES} values", ("value",), "Make two tests")
    values = [value for item in items for value in _read_value(item, test, "typed" in test, defs)]
    if not values:
        raise Refusal("required", "This test needs a value", ("value",), "Type or choose one")
    return {**read, "value": values[0] if takes == "one" else values}


def _read_value(item: Any, test: Mapping[str, Any], typed: bool, defs: Known) -> list[Any]:
    """One typed or canonical value as values: a text that holds several codes gives them all. Raises Refusal."""
    if item is None or item == "" or item == []:
        raise Refusal("required", "This test needs a value", ("value",), "Type or choose one")
    if test["field"] == TYPE:
        if not isinstance(item, str) or item not in defs.types:
            words = f"There is no product type {str(item)[:60]}"
            raise Refusal("unknown_product_type", words, ("value",), "Choose another")
        return [item]
    if test["op"] in PARTS_OF_TEXT:
        if not isinstance(item, str) or len(item) > LONGEST_PART:
            raise Refusal("long", f"At most {LONGEST_PART} characters can be looked for", ("value",), "Shorten it")
        return [item.strip()]
    field = defs.all_fields[test["field"]]
    if not typed:
        if field.rules.well_formed(item) or field.rules.well_formed([item]):
            return [item]
        words = f"Not a value of kind {field.rules.name}"
        raise Refusal("shape", words, ("value",), f"Type it, such as {field.rules.example_for(defs.spec(field))}")
    try:
        value = field.rules.take(item, defs.spec(field))
    except Refusal as refusal:
        raise refusal.at("value") from None
    return value if isinstance(value, list) else [value]


def refers_of_condition(tree: Mapping[str, Any] | None, built_in: Container[str], place: str) -> Iterable[Reference]:
    """What a condition names: own fields and product types, held fast, and no page is made from them."""
    for test in tests_of(tree or {}):
        if test["field"] == TYPE:
            wanted = test["value"] if isinstance(test["value"], list) else [test["value"]]
            yield from (Reference("product_type", key, place, apart=True) for key in wanted)
        elif test["field"] not in built_in:
            yield Reference("field", test["field"], place, apart=True)


def condition_words(tree: Mapping[str, Any] | None, defs: Known) -> str:
    """A condition in a line of plain words; never raises."""
    if not tree:
        return "every product" if tree is not None else "by hand only"
    for join, word in (("all", " and "), ("any", " or "), ("none", " or ")):
        if join in tree:
            parts = [_nested(branch, defs) for branch in tree[join]]
            words = word.join(parts) or ("every product" if join != "any" else "no product")
            return f"not ({words})" if join == "none" and parts else words
    return words_of_test(tree, defs)


def _nested(branch: Mapping[str, Any], defs: Known) -> str:
    words = condition_words(branch, defs)
    return f"({words})" if any(join in branch and len(branch[join]) > 1 for join in JOINS) else words


def words_of_test(test: Mapping[str, Any], defs: Known) -> str:
    """One test in words, such as `Contents at most 15 ml`; never raises."""
    key = str(test.get("field"))
    field = defs.all_fields.get(key)
    name = "Type" if key == TYPE else field.name if field else key
    asked = f"{name} {op_words(str(test.get('op')), field.rules.comparison if field else 'list', key)}"
    values = test.get("value")
    if values is None:
        return asked
    items = values if isinstance(values, list) else [values]
    joiner = " and " if test.get("op") == "between" else ", "
    return f"{asked} {joiner.join(value_words(key, item, defs) for item in items)}"


def value_words(key: str, value: Any, defs: Known) -> str:
    """A value of a test in words; never raises."""
    if key == TYPE:
        return defs.types[value].name if value in defs.types else str(value)
    field = defs.all_fields.get(key)
    if field is None:
        return str(value)
    spec = defs.spec(field)
    if spec.choices is not None and isinstance(value, str):
        return spec.choices.label(value)
    if isinstance(value, str) and not field.rules.well_formed(value):
        return value
    return str(field.rules.shower(spec, {})(value).plain) if field.rules.well_formed(value) else str(value)


def with_asked(tree: Mapping[str, Any], fields: Container[str], items: Mapping[Any, Any]) -> dict[str, Any]:
    """A kept condition with other items asked for in the tests of some fields."""
    for join in JOINS:
        if join in tree:
            return {join: [with_asked(branch, fields, items) for branch in tree[join]]}
    if tree.get("field") not in fields or "value" not in tree:
        return dict(tree)
    value = tree["value"]
    if isinstance(value, list | tuple):
        return {**tree, "value": list(dict.fromkeys(items.get(item, item) for item in value))}
    return {**tree, "value": items.get(value, value)}


def renamed_field(tree: Mapping[str, Any], field: str, into: str) -> dict[str, Any]:
    """A kept condition that asks for one field in another's place."""
    for join in JOINS:
        if join in tree:
            return {join: [renamed_field(branch, field, into) for branch in tree[join]]}
    return {**tree, "field": into} if tree.get("field") == field else dict(tree)
