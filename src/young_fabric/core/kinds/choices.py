"""Yes/no, one of a list and many of a list: values out of a known set."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from typing import Any

from young_fabric.core.base import locales
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.text import fold
from young_fabric.core.base.wording.collation import order_of
from young_fabric.core.kinds.base import Choices, Items, Judge, Kind, KindOption, Show, Spec, Target, Value
from young_fabric.core.kinds.counts import check_count
from young_fabric.core.kinds.limits import FEWEST, MOST_VALUES
from young_fabric.core.kinds.schema_org import NAMED
from young_fabric.core.kinds.shown import Samples, Text, listed


class YesNo(Kind):
    """True or false."""

    code, name, example = "yes_no", "yes / no", "yes"
    shapes = ("yes_no",)
    takes_many = False
    formats = ("yes_words", "no_words")
    comparison = "yes_no"

    def read(self, text: str, spec: Spec) -> Value:
        yes, no = locales.yes_no_words(spec.locale)
        word = fold(text)
        if word in yes:
            return True
        if word in no:
            return False
        raise Refusal("yes_no", f"“{text.strip()[:40]}” is neither yes nor no", help="Type yes or no")

    def well_formed(self, value: Any) -> bool:
        return isinstance(value, bool)

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:
        own = {True: properties.get("yes_words"), False: properties.get("no_words")}
        words = {answer: Text(own[answer] or locales.show_yes_no(answer, spec.locale)) for answer in (True, False)}
        return words.__getitem__

    def typed(self, value: Value, spec: Spec) -> Any:  # noqa: ARG002
        return value

    def json_schema(self, spec: Spec) -> dict[str, Any]:  # noqa: ARG002
        return {"type": "boolean"}

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": value}


class NoChoices:
    """Stands where a field's list is gone."""

    by_code: Mapping[str, Any] = {}
    more = False
    looks: Any = None

    def find(self, text: str) -> str | None:  # noqa: ARG002
        return None

    def label(self, code: str) -> str:
        return code

    def offered(self) -> tuple[str, ...]:
        return ()


def _named(value: Any) -> Refusal | None:
    return (
        None
        if isinstance(value, str) and value
        else Refusal("list", "Choose the value list it takes from", help="Choose a list, or make one")
    )


LIST = KindOption(
    "list", "value list", "value_list", _named, "Choose the value list it takes from", "value_list", chooses=True
)


def _choices(spec: Spec) -> Choices:
    return spec.choices or NoChoices()


def _choice(text: str, spec: Spec) -> str:
    choices = _choices(spec)
    code = choices.find(text)
    if code is None:
        some = ", ".join(choices.offered())
        raise Refusal(
            "choice",
            f"“{text.strip()[:40]}” is not in the list",
            help=f"Choose one of: {some[:160]}" if some else "The list is empty: add values to it",
        )
    return code


def _node_of(spec: Spec, properties: Mapping[str, Any]) -> Callable[[Iterable[str]], Any]:
    """What codes show as: their labels, with how each looks where any of the list shows more than its label."""
    choices, locale = _choices(spec), spec.locale
    label, by_code, how = choices.label, choices.by_code, properties.get("colour_as") or "both"
    listing = (properties.get("several_as") or "line") != "line"
    if not choices.more or listing:
        return lambda codes: listed(list(map(label, codes)), properties, locale)

    def sample(code: str) -> tuple[Any, ...]:
        value = by_code.get(code)
        if value is None:
            return (), "", "", code, "", ""
        swatch = value.swatch
        return swatch.colours, swatch.picture, swatch.short, value.label, value.note, value.link

    return lambda codes: Samples(tuple(map(sample, codes)), how)


class OneOf(Kind):
    """One value of a value list, kept as its code."""

    code, name = "one_of", "one of a list"
    shapes = NAMED
    options = (LIST,)
    formats = ("colour_as",)
    takes_many = False
    comparison = "list"

    def read(self, text: str, spec: Spec) -> Value:
        return _choice(text, spec)

    def checker(self, spec: Spec) -> Judge:
        known = _choices(spec).by_code

        def check(value: Value) -> Refusal | None:
            if value in known:
                return None
            return Refusal("choice", f"“{value[:60]}” is not in the list", help="Choose another value")

        return check

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:
        node = _node_of(spec, properties)
        return lambda value: node((value,))

    def typed(self, value: Value, spec: Spec) -> Any:  # noqa: ARG002
        return value

    def example_for(self, spec: Spec) -> str:
        return next(iter(_choices(spec).offered()), "")

    def json_schema(self, spec: Spec) -> dict[str, Any]:
        return {"enum": list(_choices(spec).by_code)}

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": _choices(spec).label(value)}


class ManyOf(OneOf):
    """Several values of a value list, kept as codes in the order given."""

    code, name = "many_of", "many of a list"
    several = True
    limits = (FEWEST, MOST_VALUES)

    def read(self, text: str, spec: Spec) -> Value:
        whole = _choices(spec).find(text)
        parts = [text] if whole is not None else [part for part in re.split(r"[,;\n]", text) if part.strip()]
        return list(dict.fromkeys(_choice(part, spec) for part in parts)) or None

    def checker(self, spec: Spec) -> Judge:
        check_code = super().checker(spec)

        def check(value: Value) -> Refusal | None:
            for code in value:
                wrong = check_code(code)
                if wrong:
                    return Refusal(wrong.code, wrong.message, help="Take it off")
            return check_count(len(value), spec.limits)

        return check

    def containing(self, options: Mapping[str, Any], target: Target, item: Any) -> tuple[Any, ...]:
        return tuple([pattern] for pattern in super().containing(options, target, item))

    def with_items(self, value: Value, options: Mapping[str, Any], target: Target, items: Items) -> Value:
        if not self.well_formed(value) or not self.chooses_of(options, target):
            return value
        return list(dict.fromkeys(items.get(code, code) for code in value))

    def identity(self, value: Value) -> Any:
        return value.__class__, *value

    def well_formed(self, value: Any) -> bool:
        return isinstance(value, list) and bool(value) and all(isinstance(code, str) for code in value)

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:
        node, label = _node_of(spec, properties), _choices(spec).label
        said = properties.get("item_order")
        if said == "alphabet" or (spec.alphabetical and said != "reverse"):
            order = order_of(spec.locale)
            return lambda value: node(sorted(value, key=lambda code: order(label(code))))
        return (lambda value: node(value[::-1])) if said == "reverse" else node

    def json_schema(self, spec: Spec) -> dict[str, Any]:
        least, most = spec.limits.get("min_count") or 0, spec.limits.get("max_count")
        made = {"type": "array", "items": super().json_schema(spec), "minItems": max(1, least)}
        return made if most is None else {**made, "maxItems": most}

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": [_choices(spec).label(code) for code in value]}
