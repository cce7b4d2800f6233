"""Merging two values of a list: every use of the one becomes a use of the other, in one stroke that is undone together."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds.base import Target
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import NOUN, ValueList
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.acting.asking import hand_in
from young_fabric.service.planning import plans
from young_fabric.service.values import judging, variant_choices
from young_fabric.service.values.holding import HOLDERS
from young_fabric.service.values.value_states import State
from young_fabric.service.values.variant_choices import ListedValue
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit
from young_fabric.store.repos import shop
from young_fabric.store.repos.definitions import StoredThing
from young_fabric.store.repos.stored_values import Containing

MERGE = "merge_values"
BATCH = 1_000


@dataclass(frozen=True)
class ValueMerge(ListedValue):
    """A value of a list that goes, and the one that stands for it."""

    @property
    def target(self) -> Target:
        """The definition whose items they are."""
        return NOUN.code, self.list

    @property
    def items(self) -> Mapping[str, str]:
        """What stands for what."""
        return {self.code: self.into}


@dataclass(frozen=True)
class MergeReach:
    """What a merge touches: holders of values by their subject, variants made of the value and those of them that would meet one made of
    the other, and definitions by (noun, key, name)."""

    held: Mapping[str, int]
    made: int
    meeting: int
    definitions: tuple[tuple[str, str, str], ...]


def reach(work: Work, *merges: ValueMerge) -> MergeReach:
    """What merges of a list's values into one would touch, each holder and variant counted once; nothing is written. Raises Refusal."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    for merge in merges:
        _check(defs, merge)
    touched = dict.fromkeys((noun, key) for merge in merges for noun, key, _ in _definitions(defs, merge))
    named = tuple(
        (noun, key, NOUNS[noun].calling.name_of(key, defs.things[noun][key], defs))
        for noun, key in touched
        if noun != NOUN.code
    )
    held = {code: HOLDERS[code].count(work, wanted) for code, wanted in _held(defs, *merges).items()}
    return MergeReach(held, *variant_choices.count(work, defs, *merges), named)


def merge_values(work: Work, *merges: ValueMerge) -> int | None:
    """Merge values of a list into one of it at once, up to 2,000 that hold one or are made of one; beyond that a job does, and its id
    is given. All of it is undone as one. Raises Refusal, Clash.
    """
    work.need(Right.EDIT)
    shop.lock_definitions(work.session)
    plans.refresh(work.session)
    found = reach(work, *merges)
    group = uuid4().hex
    list_key, into = merges[0].list, merges[0].into
    if sum(found.held.values()) + found.made > judging.MOST_AT_ONCE:
        args = {"list": list_key, "codes": [merge.code for merge in merges], "into": into, "group": group}
        busy = "Two values of this list are being merged already"
        return hand_in(work, MERGE, args, f"merge {list_key}", busy)
    for merge in merges:
        finish(work, merge, group)
    return None


def _check(defs: Definitions, merge: ValueMerge) -> None:
    values_list = defs.lists.get(merge.list)
    if values_list is None:
        raise Refusal("not_found", f"There is no value list {merge.list[:60]}", ())
    for member in ("code", "into"):
        code = getattr(merge, member)
        if code not in values_list.by_code:
            raise Refusal("choice", f"“{code[:60]}” is not in the list", (member,), "Choose another value")
    if merge.code == merge.into:
        raise Refusal("twice", "A value can't be merged with itself", ("into",), "Choose another value")


def _takers(defs: Definitions, merge: ValueMerge) -> dict[str, Field]:
    return {key: field for key, field in defs.fields.items() if field.paths(merge.target)}


def _held(defs: Definitions, *merges: ValueMerge) -> dict[str, Containing]:
    """Subject with a table → those of it that hold one of the values."""
    patterns: dict[str, dict[str, Any]] = {code: {} for code in HOLDERS}
    for key, field in _takers(defs, merges[0]).items():
        if field.subject in HOLDERS:
            patterns[field.subject][key] = [
                pattern for merge in merges for pattern in field.containing(merge.target, merge.code)
            ]
    return {code: Containing(found) for code, found in patterns.items() if found}


def merge_batch(work: Work, merge: ValueMerge, group: str) -> int:
    """Put the one value for the other on the next of those that hold it; gives how many those were."""
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    defs = plans.draft(work.session)
    _check(defs, merge)
    takers = _takers(defs, merge)
    for code, wanted in _held(defs, merge).items():
        found = HOLDERS[code].held(work, wanted, 0, BATCH)
        if found:
            changed = [(holder, _merged_state(holder.state, takers, merge)) for holder in found]
            HOLDERS[code].put(work, changed, group, follows=True)
            return len(found)
    return 0


def _merged_state(state: State, takers: Mapping[str, Field], merge: ValueMerge) -> State:
    changed = {
        key: takers[key].with_items(value, merge.target, merge.items) if key in takers else value
        for key, value in state["values"].items()
    }
    return {**state, "values": changed}


def finish(work: Work, merge: ValueMerge, group: str) -> None:
    """Put the one value for the other in what is left that holds it, is made of it or asks for it, and take it out of the list: its
    names lead to the other."""
    shop.lock_definitions(work.session)
    while merge_batch(work, merge, group):
        pass
    defs = plans.draft(work.session)
    variant_choices.put_other(work, defs, merge, group)
    for noun, key, state in list(_definitions(defs, merge)):
        writes.apply(work, noun, key, writes.edit_to(state), group=group)
    writes.apply(work, NOUN.code, merge.list, lambda current: _merged(current, merge), group=group)


def _definitions(defs: Definitions, merge: ValueMerge) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Definitions that hold or ask for the value, with their states after the merge."""
    for code, noun in NOUNS.items():
        for key, thing in sorted(defs.things[code].items()):
            changed = noun.referring.with_items(thing, merge.target, merge.items, defs)
            if changed != thing:
                yield code, key, state_of(changed)


def _merged(current: StoredThing | None, merge: ValueMerge) -> Edit:
    if current is None:
        raise Refusal("not_found", f"There is no value list {merge.list[:60]}")
    return Edit(state_of(current.thing), state_of(without_value(current.thing, merge)))


def without_value(values_list: ValueList, merge: ValueMerge) -> ValueList:
    """The list with one value merged into another, which is read by both's names."""
    gone = values_list.by_code[merge.code]
    kept = [_named(value, gone) if value.code == merge.into else value for value in values_list.values]
    return replace(values_list, values=tuple(value for value in kept if value.code != merge.code))


def _named(value: ListValue, gone: ListValue) -> ListValue:
    names: Sequence[str] = (*value.synonyms, gone.code, gone.label, *gone.synonyms)
    own = {value.code.casefold(), value.label.casefold()}
    return replace(value, synonyms=tuple(dict.fromkeys(name for name in names if name.casefold() not in own)))
