"""References: things of the shop that a value names, records, products and collections, kept as their key or number."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, ClassVar

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds.base import Items, Judge, Kind, KindOption, Show, Spec, Target, Value
from young_fabric.core.kinds.schema_org import NAMED
from young_fabric.core.kinds.shown import References, gathered

ITEM, NAME, ADDRESS = "item", "name", "address"
_MEMBERS = {ITEM, NAME, ADDRESS}
MOST_PRODUCTS = 2**31


def named(item: Any, name: str, address: str) -> dict[str, Any]:
    """What stands for a key or number while a page is made: with the name of the thing, and its address, "" for no page."""
    return {ITEM: item, NAME: name, ADDRESS: address}


def is_named(value: Any) -> bool:
    """Whether any value is one that `named` gave."""
    return (
        isinstance(value, dict)
        and value.keys() == _MEMBERS
        and isinstance(value[NAME], str)
        and isinstance(value[ADDRESS], str)
    )


class ReferenceKind(Kind):
    """A thing that is named. Stored values are keys or numbers; names are put in as pages are made, so that none is old.

    `noun` is what it is, by the noun or subject.
    """

    noun: ClassVar[str]
    shapes = NAMED
    formats_of_many = ("item_order",)
    takes_default = False
    comparison = "reference"

    def chosen(self, options: Mapping[str, Any]) -> Target | None:  # noqa: ARG002
        return self.noun, ""

    def targets(self, options: Mapping[str, Any]) -> tuple[Target, ...]:
        target = self.chosen(options)
        return () if target is None else (target,)

    def chooses_of(self, options: Mapping[str, Any], target: Target) -> bool:
        return self.chosen(options) == target

    def items(self, value: Value, options: Mapping[str, Any]) -> Iterable[tuple[Target, Any]]:
        target = self.chosen(options)
        if target is not None:
            yield target, value[ITEM] if isinstance(value, dict) else value

    def with_items(self, value: Value, options: Mapping[str, Any], target: Target, items: Items) -> Value:
        return items.get(value, value) if self._is_item(value) and self.chooses_of(options, target) else value

    def read(self, text: str, spec: Spec) -> Value:
        found = spec.choices.find(text) if spec.choices is not None else None
        if found is None:
            some = ", ".join(spec.choices.offered()) if spec.choices is not None else ""
            words = f"There is no {self._called} “{text.strip()[:60]}”"
            raise Refusal("gone", words, help=f"Choose one, such as {some[:160]}" if some else "Make it first")
        return found

    def take(self, value: Any, spec: Spec) -> Value:
        if isinstance(value, dict) and is_named(value):
            return self.take(value[ITEM], spec)
        return super().take(value, spec)

    @property
    def _called(self) -> str:
        return self.noun.replace("_", " ")

    def _is_item(self, value: Any) -> bool:
        return isinstance(value, str) and value != ""

    def well_formed(self, value: Any) -> bool:
        return self._is_item(value) or (is_named(value) and self._is_item(value[ITEM]))

    def checker(self, spec: Spec) -> Judge:  # noqa: ARG002
        gone = Refusal("gone", f"this {self._called} is there no more", help="Choose another")
        return lambda value: gone if isinstance(value, dict) and not value[NAME] else None

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        def show(value: Value) -> References:
            if isinstance(value, dict):
                return References(((value[NAME], self.noun, str(value[ITEM]), value[ADDRESS]),))
            return References(((self._label(value, spec), self.noun, str(value), ""),))

        return show

    def _label(self, value: Value, spec: Spec) -> str:
        """What a thing is called by the definitions at hand, or its key or number."""
        return spec.choices.label(value) if spec.choices is not None and isinstance(value, str) else str(value)

    def retyped(self, value: Value, spec: Spec) -> Any:
        return value[NAME] if isinstance(value, dict) else self._label(value, spec)

    def together(self, nodes: list[Any]) -> Any:
        return gathered(nodes)

    def typed(self, value: Value, spec: Spec) -> Any:  # noqa: ARG002
        return value[ITEM] if isinstance(value, dict) else value

    def to_text(self, value: Value, spec: Spec) -> str:
        return str(self.typed(value, spec))

    def example_for(self, spec: Spec) -> str:
        return next(iter(spec.choices.offered()), "") if spec.choices is not None else ""

    def json_schema(self, spec: Spec) -> dict[str, Any]:  # noqa: ARG002
        return {"type": "string", "minLength": 1}

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": value[NAME] if isinstance(value, dict) else str(value)}


class ToRecord(ReferenceKind):
    """A record of a type."""

    code, name, noun = "record", "record", "record"
    options = (
        KindOption(
            "record_type",
            "record type",
            "record_type",
            lambda given: (
                None
                if isinstance(given, str) and given
                else Refusal(
                    "record_type", "Choose what sort of record it is", help="Choose a record type, or make one"
                )
            ),
            "Choose what sort of record it is",
            "record_type",
            chooses=True,
        ),
    )

    def chosen(self, options: Mapping[str, Any]) -> Target | None:
        key = options.get("record_type")
        return ("record_type", key) if isinstance(key, str) else None


class ToProduct(ReferenceKind):
    """Another product, kept as its number."""

    code, name, noun = "product", "product", "product"

    def _is_item(self, value: Any) -> bool:
        return type(value) is int and 0 < value < MOST_PRODUCTS

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        digits = text.strip()
        if digits.isascii() and digits.isdecimal() and len(digits) < 11 and 0 < int(digits) < MOST_PRODUCTS:
            return int(digits)
        words = f"“{digits[:40]}” is no number of a product"
        raise Refusal("gone", words, help="Search for the product, and choose it")

    def example_for(self, spec: Spec) -> str:  # noqa: ARG002
        return "12"

    def json_schema(self, spec: Spec) -> dict[str, Any]:  # noqa: ARG002
        return {"type": "integer", "minimum": 1, "maximum": MOST_PRODUCTS - 1}


class ToCollection(ReferenceKind):
    """A collection."""

    code, name, noun = "collection", "collection", "collection"
