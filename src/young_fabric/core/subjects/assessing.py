"""Which values of products are good, wrong or missing by some definitions: the one judge of pages, lists and counts."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from young_fabric.core.nouns.built_in import DERIVED
from young_fabric.core.nouns.definitions import Definitions
from young_fabric.core.subjects.completeness import Completeness, Wanted, completeness
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import FieldRules, Outcome


class Assessor:
    """Definitions with the rules of their fields bound, each when first asked for."""

    def __init__(self, defs: Definitions) -> None:
        self.defs = defs
        self._rules: dict[str, FieldRules] = {}
        self._required: dict[str, tuple[str, ...]] = {}
        self._fillable: dict[str, Mapping[str, str]] = {}

    def rules(self, key: str) -> FieldRules:
        """The rules of a field. Raises KeyError when there is none."""
        found = self._rules.get(key)
        if found is None:
            definition = self.defs.all_fields[key]
            found = self._rules[key] = FieldRules(definition, self.defs.spec(definition))
        return found

    def fillable(self, type_key: str) -> Mapping[str, str]:
        """The fields of a type that can be filled, in order, with the need for each."""
        found = self._fillable.get(type_key)
        if found is None:
            found = self._fillable[type_key] = {
                effective.field.key: effective.need
                for effective in self.defs.effective(type_key)
                if effective.field.key not in DERIVED
            }
        return found

    def required(self, type_key: str) -> tuple[str, ...]:
        """The required fields of a type that no default fills."""
        found = self._required.get(type_key)
        if found is None:
            found = self._required[type_key] = tuple(
                effective.field.key
                for effective in self.defs.effective(type_key)
                if effective.need == "required" and effective.field.default is None
            )
        return found

    def outcomes(self, product: Product) -> Mapping[str, Outcome]:
        """The outcome of every field that can be filled."""
        return {key: self.rules(key).outcome(product) for key in self.fillable(product.type)}

    def completeness(self, product: Product, outcomes: Mapping[str, Outcome]) -> Completeness:
        """What is filled and missing, and what to fill next."""
        wanted = [Wanted(key, need) for key, need in self.fillable(product.type).items()]  # type: ignore[arg-type]
        return completeness(wanted, {key: outcome.state for key, outcome in outcomes.items()})

    def wrong(self, product: Product, was: Iterable[str] = (), keys: Iterable[str] | None = None) -> frozenset[str]:
        """The fields whose value is wrong; with `keys` only those are judged, and of the others what `was` wrong stands."""
        fillable = self.fillable(product.type)
        judged = fillable.keys() if keys is None else {key for key in keys if key in fillable}
        found = {key for key in judged if self.is_wrong(product, key)}
        if keys is None:
            return frozenset(found)
        untouched = set(was) - set(keys)
        return frozenset(found | {key for key in untouched if key in fillable})

    def is_wrong(self, product: Product, key: str) -> bool:
        """Whether what a product holds for a field is wrong."""
        if key in product.unread:
            return True
        value = product.values.get(key)
        return value is not None and self.rules(key).judge(value) is not None

    def has_gaps(self, product: Product, wrong: Iterable[str]) -> bool:
        """Whether a product lacks a required value or holds a wrong one."""
        return bool(wrong) or any(product.values.get(key) is None for key in self.required(product.type))
