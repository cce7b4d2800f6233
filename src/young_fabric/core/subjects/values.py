"""Values of fields: what was typed read into values, stored values judged and shown, for fields of one value or many.

One path judges a value: pages, *why*, the editor and the counts all go through `FieldRules`.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.collation import order_of
from young_fabric.core.kinds import KINDS, Spec, StoredFile, Value
from young_fabric.core.kinds.base import Judge
from young_fabric.core.kinds.counts import MOST
from young_fabric.core.kinds.shown import Text, framed, listed
from young_fabric.core.nouns.fields.built_in import BUILT_IN
from young_fabric.core.nouns.fields.fields import Field, judge_of
from young_fabric.core.subjects.derived import DERIVED, Compute, Derived
from young_fabric.core.subjects.products import Product

MOST_FAULTS = 200
"""So many things wrong with a value are told one by one."""


@dataclass(frozen=True, slots=True)
class Reading:
    """What became of something typed: a value (None when empty), or `wrong` with the reason.

    `value` can be there with `wrong`: it was understood and breaks a limit. `kept` is what was not understood, as typed.
    """

    value: Value | None = None
    wrong: Refusal | None = None
    kept: Any = None


class Outcome(NamedTuple):
    """A product's value for a field: `state` is good, empty or wrong; `source` product, default or derived."""

    state: str
    value: Any = None
    wrong: Refusal | None = None
    source: str = "product"


def read_value(kind: str, text: str, spec: Spec) -> Value | None:
    """Typed text as one value of a kind, all limits held. Raises Refusal with a code of the rules."""
    rules = KINDS[kind]
    value = rules.read(text, spec) if text.strip() else None
    if value is None or value == "":
        if spec.limits.get("required"):
            raise Refusal("required", "not filled", help="Type a value")
        return None
    wrong = rules.judge(spec)(value)
    if wrong:
        raise wrong
    return value


class FieldRules:
    """A field bound to all its kind must know: reads, judges and shows values. Made once, asked often."""

    def __init__(self, field: Field, spec: Spec) -> None:
        self.field, self.spec, self.kind = field, spec, field.rules
        self.judge: Judge = judge_of(field, spec)
        self.derived: Derived | None = DERIVED.get(field.key) if not field.own else None
        self.compute: Compute | None = self.derived.bind(spec) if self.derived else None

    def read(self, typed: Any) -> Reading:
        """What was typed or chosen: text, a list of texts, or a value already canonical; never raises."""
        if typed is None or typed == "" or typed == []:
            return Reading()
        try:
            value = self._read_many(typed) if self.field.many else self._read_single(typed)
        except Refusal as refusal:
            return Reading(None, refusal, typed)
        return Reading() if value is None else Reading(value, self.judge(value))

    def faults(self, typed: Any) -> list[Refusal]:
        """All that is wrong with what was typed or is stored, each with its place, MOST_FAULTS at most; never raises."""
        several = typed if self.field.many and isinstance(typed, list) else None
        found = [
            wrong if several is None else wrong.at(position)
            for position, item in enumerate([typed] if several is None else several)
            for wrong in self.kind.faults(item, self.spec)
        ]
        first = None if found else self.read(typed).wrong
        return found[:MOST_FAULTS] if first is None else [first]

    def _read_single(self, typed: Any) -> Value | None:
        value = self.kind.take(typed, self.spec)
        return None if value == "" else value

    def _read_many(self, typed: Any) -> Value | None:
        items: Sequence[Any] = typed if isinstance(typed, list) else self._lines(typed)
        if len(items) > MOST:
            raise Refusal("many", f"A field holds at most {MOST} values", help="Take some off")
        out = []
        for position, item in enumerate(items):
            try:
                value = self._read_single(item)
            except Refusal as refusal:
                raise refusal.at(position) from None
            if value is not None:
                out.append(value)
        return out or None

    def _lines(self, typed: Any) -> Sequence[Any]:
        return typed.splitlines() if isinstance(typed, str) else [typed]

    def outcome(self, product: Product) -> Outcome:
        """The value step for one product: good, empty or wrong, and where the value came from; never raises."""
        key = self.field.key
        if self.compute is not None:
            return self._computed(product)
        if key in product.unread:
            return Outcome("wrong", None, self.read(product.unread[key]).wrong or _NOT_UNDERSTOOD)
        value = product.values.get(key)
        source = "product"
        if value is None:
            value, source = self.field.default, "default"
        if value is None:
            return Outcome("empty")
        wrong = self.judge(value)
        return Outcome("wrong" if wrong else "good", value, wrong, source)

    def _computed(self, product: Product) -> Outcome:
        if self.derived is None or self.compute is None:
            return Outcome("empty")
        values = product.inputs(self.derived.reads)
        for key, value in zip(self.derived.reads, values, strict=True):
            if value is None:
                words = f"{BUILT_IN[key].label} is not filled, and it is computed from that"
                return Outcome("empty", None, Refusal(self.derived.lacking, words), "derived")
        try:
            computed = self.compute(values)
            wrong = self.judge(computed)
            return Outcome("empty" if wrong else "good", None if wrong else computed, wrong, "derived")
        except (Refusal, TypeError, KeyError, ValueError, ArithmeticError) as error:
            words = error.message.lower() if isinstance(error, Refusal) else "what it is computed from is wrong"
            return Outcome("empty", None, Refusal(self.derived.lacking, words), "derived")

    def shower(self, properties: Mapping[str, Any]) -> Callable[[Value], Any]:
        """A function from a good value to the node it shows as, for resolved display properties."""
        show = self._shower(properties)
        before, after = properties.get("before") or "", properties.get("after") or ""
        return (lambda value: framed(show(value), before, after)) if before or after else show

    def bare(self) -> tuple[int, int] | None:
        """Within which lengths texts of one line are good and, where nothing is set, show as they are; None for fields of others."""
        return None if self.field.many or self.compute is not None else self.kind.bare(self.spec)

    def _shower(self, properties: Mapping[str, Any]) -> Callable[[Value], Any]:
        show_item = self.kind.shower(self.spec, properties)
        if not self.field.many:
            return show_item
        together, locale, said = self.kind.together, self.spec.locale, properties.get("item_order")
        alphabetical = said == "alphabet" or (self.spec.alphabetical and said != "reverse")
        order = order_of(locale) if alphabetical else None

        def show(values: list[Value]) -> Any:
            if len(values) == 1:
                return show_item(values[0])
            nodes = list(map(show_item, values))
            if order is not None:
                nodes.sort(key=lambda node: order(node.plain))
            elif said == "reverse":
                nodes.reverse()
            if all(node.__class__ is Text for node in nodes):
                return listed([node.text for node in nodes if node.text], properties, locale)
            return together(nodes)

        return show

    def text(self, value: Value) -> str:
        """A good value as shoppers read it."""
        return str(self.shower({})(value).plain)

    def typed(self, value: Value) -> Any:
        """A stored value as a person would type it; what has not the field's shape as it is."""
        if self.field.many and isinstance(value, list):
            return [self._typed(item) for item in value]
        return value if self.field.many else self._typed(value)

    def _typed(self, item: Any) -> Any:
        return self.kind.typed(item, self.spec) if self.kind.well_formed(item) else item

    def files(self, value: Value) -> tuple[str, ...]:
        """The stored files that a value names."""
        items = value if self.field.many and isinstance(value, list) else [value]
        return tuple(file for item in items if self.kind.well_formed(item) for file in self.kind.files(item, self.spec))

    def with_files(self, value: Value, stored: Mapping[str, StoredFile]) -> Value:
        """A value as the stored files have it. Raises Refusal when one is not there."""
        if not self.files(value):
            return value
        if not self.field.many:
            return self.kind.with_files(value, stored, self.spec)
        return [self.kind.with_files(item, stored, self.spec) for item in value]


_NOT_UNDERSTOOD = Refusal("unread", "what was typed was not understood", help="Type it anew")
