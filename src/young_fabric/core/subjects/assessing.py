"""Which values of products are good, wrong or missing by some definitions: the one judge of pages, lists and counts."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.nouns.content.collections import COLLECTIONS
from young_fabric.core.nouns.fields.built_in import DERIVED
from young_fabric.core.subjects.completeness import Completeness, Wanted, completeness
from young_fabric.core.subjects.gatherers import GATHERERS, put_in
from young_fabric.core.subjects.memberships import Memberships
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import FieldRules, Outcome

MOST_GROUPS = 20_000


class Assessor:
    """Definitions with the rules of their fields bound, each when first asked for."""

    def __init__(self, defs: Definitions) -> None:
        self.defs = defs
        self._rules: dict[str, FieldRules] = {}
        self._tight: dict[Group, Mapping[str, FieldRules]] = {}
        self.gathering = {noun: Memberships(defs, noun) for noun in GATHERERS}
        self.memberships = self.gathering[COLLECTIONS]
        self._required: dict[Group, tuple[str, ...]] = {}
        self._fillable: dict[Group, Mapping[str, str]] = {}
        self._groups: dict[tuple[str, tuple[str, ...]], Group] = {}

    def placed(self, product: Product) -> Product:
        """A product in all that gathers it by condition or by hand."""
        return put_in(product, {noun: asked.of(product) for noun, asked in self.gathering.items()})

    def rules(self, key: str) -> FieldRules:
        """The rules of a field. Raises KeyError when there is none."""
        found = self._rules.get(key)
        if found is None:
            definition = self.defs.all_fields[key]
            found = self._rules[key] = FieldRules(definition, self.defs.spec(definition))
        return found

    def rules_of(self, product: Product, key: str) -> FieldRules:
        """The rules of a field as a product's type and collections have it. Raises KeyError when there is none."""
        group = self.group(product.type, product.collections)
        found = self._tight.get(group)
        if found is None:
            found = self._tight[group] = {
                effective.field.key: FieldRules(effective.field, self.defs.spec(effective.field))
                for effective in self.defs.applicable(group)
                if effective.field is not self.defs.all_fields[effective.field.key]
            }
        return found.get(key) or self.rules(key)

    def group(self, type_key: str, collections: tuple[str, ...]) -> Group:
        """The group of products of a type in some collections."""
        found = self._groups.get((type_key, collections))
        if found is None:
            if len(self._groups) >= MOST_GROUPS:
                self._groups.clear()
            found = self._groups[type_key, collections] = self.defs.group_of(type_key, collections)
        return found

    def fillable(self, group: Group) -> Mapping[str, str]:
        """The fields of a group that can be filled, in order, with the need for each."""
        found = self._fillable.get(group)
        if found is None:
            found = self._fillable[group] = {
                effective.field.key: effective.need
                for effective in self.defs.applicable(group)
                if effective.field.key not in DERIVED
            }
        return found

    def fillable_of(self, product: Product) -> Mapping[str, str]:
        """The fields of a product that can be filled, in order, with the need for each."""
        return self.fillable(self.group(product.type, product.collections))

    def required(self, group: Group) -> tuple[str, ...]:
        """The required fields of a group that no default fills."""
        found = self._required.get(group)
        if found is None:
            found = self._required[group] = tuple(
                effective.field.key
                for effective in self.defs.applicable(group)
                if effective.need == "required" and effective.field.default is None
            )
        return found

    def outcomes(self, product: Product) -> Mapping[str, Outcome]:
        """The outcome of every field that can be filled."""
        return {key: self.rules_of(product, key).outcome(product) for key in self.fillable_of(product)}

    def completeness(self, product: Product, outcomes: Mapping[str, Outcome]) -> Completeness:
        """What is filled and missing, and what to fill next."""
        wanted = [Wanted(key, need) for key, need in self.fillable_of(product).items()]  # type: ignore[arg-type]
        return completeness(wanted, {key: outcome.state for key, outcome in outcomes.items()})

    def wrong(self, product: Product, was: Iterable[str] = (), keys: Iterable[str] | None = None) -> frozenset[str]:
        """The fields whose value is wrong; with `keys` only those are judged, and of the others what `was` wrong stands."""
        fillable = self.fillable_of(product)
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
        return value is not None and self.rules_of(product, key).judge(value) is not None

    def has_gaps(self, product: Product, wrong: Iterable[str]) -> bool:
        """Whether a product lacks a required value or holds a wrong one."""
        return bool(wrong) or any(
            product.values.get(key) is None for key in self.required(self.group(product.type, product.collections))
        )
