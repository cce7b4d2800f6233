"""Values of fields: typed text read into values, stored values judged, for fields of one value or many."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

from young_fabric.core.errors import Refusal
from young_fabric.core.fields import Field
from young_fabric.core.kinds import KINDS, Spec, Value
from young_fabric.core.kinds.base import needs_value
from young_fabric.core.kinds.choices import check_count

State = Literal["empty", "good", "wrong"]


@dataclass(frozen=True, slots=True)
class Reading:
    """What became of typed text: a value (None when empty), or `wrong` with the reason.

    `value` can be there with `wrong`: it was understood and breaks a limit. `kept` is text not understood.
    """

    value: Value | None = None
    wrong: Refusal | None = None
    kept: Any = None


def read_value(kind: str, text: str, spec: Spec) -> Value | None:
    """Typed text as one value of a kind, all limits held. Raises Refusal with a code of the rules."""
    rules = KINDS[kind]
    value = rules.read(text, spec) if text.strip() else None
    if value is None or value == "":
        missing = needs_value(spec)
        if missing:
            raise missing
        return None
    wrong = rules.check(value, spec)
    if wrong:
        raise wrong
    return value


def read_field(this: Field, typed: Any, spec: Spec) -> Reading:
    """What was typed or chosen for a field: text, a list of texts, or a value already canonical."""
    if typed is None or typed == "" or typed == []:
        return Reading()
    try:
        value = _read_many(this, typed, spec) if this.many else _read_one(this, typed, spec)
    except Refusal as refusal:
        return Reading(None, refusal, typed)
    if value is None:
        return Reading()
    return Reading(value, judge(this, value, spec))


def _read_one(this: Field, typed: Any, spec: Spec) -> Value | None:
    rules = KINDS[this.kind]
    if isinstance(typed, str):
        value = rules.read(typed, spec) if typed.strip() else None
        return None if value == "" else value
    if isinstance(typed, bool) and this.kind == "yes_no":
        return typed
    if rules.well_formed(typed):
        return typed
    raise Refusal("shape", f"Not a value of kind {rules.name}", help=f"Type it, such as {rules.example}")


def _read_many(this: Field, typed: Any, spec: Spec) -> Value | None:
    items: Sequence[Any] = typed if isinstance(typed, list) else str(typed).splitlines()
    if len(items) > 200:
        raise Refusal("many", "A field holds at most 200 values", help="Take some off")
    out = []
    for place, item in enumerate(items):
        try:
            value = _read_one(this, item, spec)
        except Refusal as refusal:
            raise refusal.at(place) from None
        if value is not None:
            out.append(value)
    return out or None


def well_formed(this: Field, value: Value) -> bool:
    """Whether a stored value has the field's shape."""
    rules = KINDS[this.kind]
    if this.many:
        return isinstance(value, list) and bool(value) and all(rules.well_formed(item) for item in value)
    return rules.well_formed(value)


def judge(this: Field, value: Value, spec: Spec) -> Refusal | None:
    """The first limit a stored value breaks, None when it is good."""
    rules = KINDS[this.kind]
    if not well_formed(this, value):
        return Refusal("shape", f"not a value of kind {rules.name}", help="Type it anew")
    if not this.many:
        return rules.check(value, spec)
    for place, item in enumerate(value):
        wrong = rules.check(item, spec)
        if wrong:
            return wrong.at(place)
    return check_count(len(value), spec)


def show_value(this: Field, value: Value, spec: Spec, joiner: str = ", ") -> str:
    """A value as shoppers read it; several are joined."""
    rules = KINDS[this.kind]
    if this.many:
        return joiner.join(filter(None, (rules.show(item, spec) for item in value)))
    return rules.show(value, spec)


def bind_value(this: Field, spec: Spec) -> Callable[[Value], str | None]:
    """Judging and showing for many products: a function from stored value to the text shown, None when not good."""
    if not this.many:
        return KINDS[this.kind].bind(spec)
    one = KINDS[this.kind].bind(without_counts(spec))

    def shown(value: Value) -> str | None:
        if not isinstance(value, list) or not value or check_count(len(value), spec) is not None:
            return None
        texts = [one(item) for item in value]
        return None if None in texts else ", ".join(filter(None, texts))

    return shown


def typed_value(this: Field, value: Value, spec: Spec) -> Any:
    """A value as a person would type it; a list of texts for fields of many, pictures as they are."""
    rules = KINDS[this.kind]
    if this.kind in ("picture", "many_of", "one_of", "yes_no"):
        return value
    return [rules.typed(item, spec) for item in value] if this.many else rules.typed(value, spec)


def without_counts(spec: Spec) -> Spec:
    """The same, for judging one of many values alone."""
    return replace(spec, limits=replace(spec.limits, min_count=None, max_count=None, required=False))
