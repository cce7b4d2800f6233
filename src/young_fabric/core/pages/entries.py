"""Entries of documents, made from values; where values recur from product to product the same entry serves again."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any
from weakref import WeakSet

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Resolved
from young_fabric.core.display.surfaces import Surface
from young_fabric.core.kinds.shown import Nothing
from young_fabric.core.nouns.built_in import BuiltInField
from young_fabric.core.pages.document import Entry
from young_fabric.core.subjects.values import FieldRules

MOST_ENTRIES = 200_000
Make = Callable[[Any], Entry | None]


class EntryBudget:
    """How many entries all plans together remember. When it is spent, all of them begin anew."""

    def __init__(self, most: int = MOST_ENTRIES) -> None:
        self.most, self.spent = most, 0
        self._memos: WeakSet[Memo] = WeakSet()

    def memo(self) -> Memo:
        """A memory that draws on this budget."""
        made = Memo(self)
        self._memos.add(made)
        return made

    def spend(self) -> None:
        """Count one more entry, and let all go when there are too many."""
        self.spent += 1
        if self.spent > self.most:
            for memo in list(self._memos):
                memo.known.clear()
            self.spent = 0


class Memo:
    """Entries by value. Values that can't be told apart by their hash are not remembered."""

    __slots__ = ("__weakref__", "budget", "known")

    def __init__(self, budget: EntryBudget) -> None:
        self.budget = budget
        self.known: dict[Any, Entry | None] = {}

    def over(self, fresh: Make) -> Make:
        """`fresh`, asked once for each value."""
        known, budget = self.known, self.budget

        def make(value: Any) -> Entry | None:
            key = value if value.__class__ is str else told_apart(value)
            try:
                found = known.get(key, _UNKNOWN)
            except TypeError:
                return fresh(value)
            if found is not _UNKNOWN:
                return found
            made = known[key] = fresh(value)
            budget.spend()
            return made

        return make


_UNKNOWN = Entry("", "", "", Nothing(), None, ())
"""Stands for what was not asked yet; known by its identity."""


def told_apart(value: Any) -> Any:
    """What tells JSON values of one field apart, types included; unhashable for those nested deeper."""
    if isinstance(value, dict):
        parts = value.values()
        return (*value, *parts, *map(type, parts))
    if isinstance(value, list | tuple):
        return (*value, *map(type, value))
    return value.__class__, value


def entry_maker(
    rules: FieldRules, label: str, settings: Mapping[str, Resolved], budget: EntryBudget | None = None
) -> Make:
    """A function from stored value (of a computed field: what it is computed from) to the entry, None when not good."""
    properties = {code: resolved.value for code, resolved in settings.items()}
    head, devices = (rules.field.key, label, properties["label"]), tuple(properties["devices"])
    judge, show, compute = rules.judge, rules.shower(properties), rules.compute

    def fresh(value: Any) -> Entry | None:
        return Entry(*head, show(value), value, devices) if judge(value) is None else None

    def computed(values: Any) -> Entry | None:
        try:
            value = compute(values) if compute is not None else None
        except (Refusal, TypeError, KeyError, ValueError, ArithmeticError):
            return None
        return fresh(value)

    if compute is not None:
        return computed
    unlike = isinstance(rules.field, BuiltInField) and rules.field.unlike
    if budget is None or unlike or not rules.kind.recurs:
        return fresh
    return budget.memo().over(fresh)


def stand_in(rules: FieldRules, label: str, settings: Mapping[str, Resolved], surface: Surface) -> Entry | None:
    """What stands for an empty value, when the setting asks for it and the surface has such a thing."""
    if not surface.stand_ins or settings["empty"].value == "omit":
        return None
    devices = tuple(settings["devices"].value)
    return Entry(rules.field.key, label, settings["label"].value, Nothing(), None, devices)
