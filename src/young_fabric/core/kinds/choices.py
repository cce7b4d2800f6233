"""Yes/no, one of a list, many of a list, date and colour: values out of a known set."""

from __future__ import annotations

import re

from young_fabric.core import locales
from young_fabric.core.errors import Refusal
from young_fabric.core.kinds.base import Kind, Spec, Value
from young_fabric.core.value_lists import ValueList, fold


class YesNo(Kind):
    """True or false."""

    code, name, example = "yes_no", "yes / no", "yes"
    takes_many = False

    def read(self, text: str, spec: Spec) -> Value:
        yes, no = locales.yes_no_words(spec.locale)
        word = fold(text)
        if word in yes:
            return True
        if word in no:
            return False
        raise Refusal("yes_no", f"“{text.strip()[:40]}” is neither yes nor no", help="Type yes or no")

    def well_formed(self, value: Value) -> bool:
        return isinstance(value, bool)

    def show(self, value: Value, spec: Spec) -> str:
        return locales.show_yes_no(value, spec.locale)


def _list(spec: Spec) -> ValueList:
    return spec.values or ValueList("", "")


def _choice(text: str, spec: Spec) -> str:
    code = _list(spec).find(text)
    if code is None:
        some = ", ".join(v.label for v in _list(spec).values if not v.retired)
        raise Refusal(
            "choice",
            f"“{text.strip()[:40]}” is not in the list",
            help=f"Choose one of: {some[:160]}" if some else "The list is empty: add values to it",
        )
    return code


class OneOf(Kind):
    """One value of a value list, kept as its code."""

    code, name = "one_of", "one of a list"
    takes_list = True
    takes_many = False

    def read(self, text: str, spec: Spec) -> Value:
        return _choice(text, spec)

    def check(self, value: Value, spec: Spec) -> Refusal | None:
        if value not in _list(spec).by_code:
            return Refusal("choice", f"“{value}” is not in the list", help="Choose another value")
        return None

    def show(self, value: Value, spec: Spec) -> str:
        return _list(spec).label(value)


class ManyOf(Kind):
    """Several values of a value list, kept as codes in the order given."""

    code, name = "many_of", "many of a list"
    limits = ("min_count", "max_count")
    takes_list = True
    takes_many = False

    def read(self, text: str, spec: Spec) -> Value:
        parts = [part for part in re.split(r"[,;\n]", text) if part.strip()]
        return list(dict.fromkeys(_choice(part, spec) for part in parts)) or None

    def check(self, value: Value, spec: Spec) -> Refusal | None:
        for code in value:
            if code not in _list(spec).by_code:
                return Refusal("choice", f"“{code}” is not in the list", help="Take it off")
        return check_count(len(value), spec)

    def well_formed(self, value: Value) -> bool:
        return isinstance(value, list) and bool(value) and all(isinstance(code, str) for code in value)

    def show(self, value: Value, spec: Spec) -> str:
        return ", ".join(_list(spec).label(code) for code in value)


def check_count(count: int, spec: Spec) -> Refusal | None:
    """`few` or `many` when a count of values is outside its limits."""
    limits = spec.limits
    if limits.min_count is not None and count < limits.min_count:
        return Refusal("few", f"{count}, at least {limits.min_count} are needed", help="Add more")
    if limits.max_count is not None and count > limits.max_count:
        return Refusal("many", f"{count}, at most {limits.max_count} are allowed", help="Take some off")
    return None


class Date(Kind):
    """A day, kept as ISO 8601."""

    code, name, example = "date", "date", "2026-02-28"

    def read(self, text: str, spec: Spec) -> Value:
        return locales.read_date(text, spec.locale)

    def show(self, value: Value, spec: Spec) -> str:
        return locales.show_date(value, spec.locale)

    def typed(self, value: Value, spec: Spec) -> str:  # noqa: ARG002
        return str(value)


class Colour(Kind):
    """A colour as sRGB hex, kept as #rrggbb."""

    code, name, example = "colour", "colour", "#27476e"

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        body = text.strip().lower()
        if not re.fullmatch(r"#([0-9a-f]{3}|[0-9a-f]{6})", body):
            raise Refusal("colour", f"“{body[:40]}” is not a colour", help="Write # and six digits, such as #27476e")
        return body if len(body) == 7 else "#" + "".join(digit * 2 for digit in body[1:])
