"""Entries of documents, made from values; where values recur from product to product the same entry serves again."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Mapping
from threading import Lock
from typing import Any, NamedTuple
from weakref import WeakValueDictionary

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Resolved
from young_fabric.core.display.surfaces import Surface
from young_fabric.core.kinds.base import told_apart
from young_fabric.core.kinds.shown import Nothing
from young_fabric.core.nouns.fields.built_in import BuiltInField
from young_fabric.core.pages.document import UNKNOWN, Entry
from young_fabric.core.subjects.values import FieldRules

MOST_ENTRIES = 24_576
"""How many entries are remembered of all fields on all surfaces: some 15 MB, whatever the catalogue."""
Make = Callable[[Any], Entry | None]


class EntryBudget:
    """How many entries all plans together remember. When it is spent, the memory that holds most loses the older half: prices hardly recur
    from product to product, and only on its surfaces, while of what recurs there are few."""

    def __init__(self, most: int = MOST_ENTRIES) -> None:
        self.most, self.spent = most, 0
        self._memos: WeakValueDictionary[Hashable, Memo] = WeakValueDictionary()
        self._lock = Lock()

    def memo(self, key: Hashable | None = None) -> Memo:
        """A memory that draws on this budget; the one there is for a key, which tells apart all that decides its entries."""
        name = object() if key is None else key
        with self._lock:
            found = self._memos.get(name)
            if found is None:
                found = self._memos[name] = Memo(self)
        return found

    def spend(self) -> None:
        """Count one more entry, and make room when there are too many."""
        self.spent += 1
        if self.spent > self.most:
            with self._lock:
                self._make_room()

    def _make_room(self) -> None:
        memos = list(self._memos.values())
        held = sum(len(memo.known) for memo in memos)
        while held > self.most:
            largest = max(memos, key=lambda memo: len(memo.known))
            older = list(largest.known)[: (len(largest.known) + 1) // 2]
            for key in older:
                largest.known.pop(key, None)
            held -= len(older)
        self.spent = held


class Memo:
    """Entries by value. Values that can't be told apart by their hash are not remembered."""

    __slots__ = ("__weakref__", "budget", "known")

    def __init__(self, budget: EntryBudget) -> None:
        self.budget = budget
        self.known: dict[Any, Entry | None] = {}

    def over(self, fresh: Make, identity: Callable[[Any], Any]) -> EntryMaker:
        """`fresh`, asked once for each value; `identity` tells values apart that are no texts."""
        # The maker holds the memory, so that the budget can let it go as long as anybody remembers by it.
        memo, known = self, self.known

        def make(value: Any) -> Entry | None:
            try:
                key = value if value.__class__ is str else identity(value)
                found = known.get(key, UNKNOWN)
            except (TypeError, KeyError):
                return fresh(value)
            if found is UNKNOWN:
                found = known[key] = fresh(value)
                memo.budget.spend()
            return found

        return EntryMaker(make, known)


class EntryMaker(NamedTuple):
    """A function from stored value to its entry (None when it is not good), and what is remembered of it: texts by themselves."""

    make: Make
    known: Mapping[Any, Entry | None]

    def __call__(self, value: Any) -> Entry | None:
        return self.make(value)


_NOTHING_KNOWN: Mapping[Any, Entry | None] = {}

_entry = tuple.__new__
"""Makes an entry of its members in order, at half the time of calling it."""


def entry_maker(
    rules: FieldRules,
    label: str,
    settings: Mapping[str, Resolved],
    budget: EntryBudget | None = None,
    mark: Hashable | None = None,
) -> EntryMaker:
    """A maker of entries from stored values (of a computed field: what it is computed from).

    `mark` tells apart all that decides its entries: makers of the same one remember together.
    """
    properties = {code: resolved.value for code, resolved in settings.items()}
    key, label_at, devices = rules.field.key, properties["label"], tuple(properties["devices"])
    judge, show, compute = rules.judge, rules.shower(properties), rules.compute

    def fresh(value: Any) -> Entry | None:
        return _entry(Entry, (key, label, label_at, show(value), value, devices)) if judge(value) is None else None

    def computed(values: Any) -> Entry | None:
        try:
            value = compute(values) if compute is not None else None
        except (Refusal, TypeError, KeyError, ValueError, ArithmeticError):
            return None
        return fresh(value)

    if compute is not None:
        return EntryMaker(computed, _NOTHING_KNOWN) if budget is None else budget.memo(mark).over(computed, _inputs)
    unlike = isinstance(rules.field, BuiltInField) and rules.field.unlike
    if budget is None or unlike or not rules.kind.recurs:
        return EntryMaker(fresh, _NOTHING_KNOWN)
    return budget.memo(mark).over(fresh, rules.kind.identity if not rules.field.many else told_apart)


def _inputs(values: tuple[Any, ...]) -> Any:
    return tuple([value if value.__class__ is str else told_apart(value) for value in values])


def stand_in(rules: FieldRules, label: str, settings: Mapping[str, Resolved], surface: Surface) -> Entry | None:
    """What stands for an empty value, when the setting asks for it and the surface has such a thing."""
    if not surface.stand_ins or settings["empty"].value == "omit":
        return None
    devices = tuple(settings["devices"].value)
    own = settings["empty_words"].value if settings["empty"].value == "own" else ""
    return Entry(rules.field.key, label, settings["label"].value, Nothing(own) if own else Nothing(), None, devices)
