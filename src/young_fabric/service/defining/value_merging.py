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
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.acting.asking import hand_in
from young_fabric.service.planning import plans
from young_fabric.service.values import judging, value_writer
from young_fabric.service.values.value_writer import ValueEdit
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit
from young_fabric.store.repos import products, shop, stored_values
from young_fabric.store.repos.definitions import StoredThing

MERGE = "merge_values"
BATCH = 1_000


@dataclass(frozen=True)
class ValueMerge:
    """A value of a list that goes, and the one that stands for it."""

    list: str
    code: str
    into: str

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
    """What a merge touches: products, and definitions by (noun, key, name)."""

    products: int
    definitions: tuple[tuple[str, str, str], ...]


def reach(work: Work, merge: ValueMerge) -> MergeReach:
    """What a merge would touch; nothing is written. Raises Refusal."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    _check(defs, merge)
    touched = [(noun, key) for noun, key, _ in _definitions(defs, merge)]
    named = tuple(
        (noun, key, NOUNS[noun].calling.name_of(key, defs.things[noun][key], defs))
        for noun, key in touched
        if noun != NOUN.code
    )
    return MergeReach(products.count_where(work.session, _holding(defs, merge)), named)


def merge_values(work: Work, merge: ValueMerge) -> int | None:
    """Merge two values at once, up to 2,000 products; beyond that a job does, and its id is given. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    shop.lock_definitions(work.session)
    plans.refresh(work.session)
    defs = plans.draft(work.session)
    _check(defs, merge)
    group = uuid4().hex
    if products.count_where(work.session, _holding(defs, merge), judging.MOST_AT_ONCE + 1) > judging.MOST_AT_ONCE:
        args = {"list": merge.list, "code": merge.code, "into": merge.into, "group": group}
        busy = "Two values of this list are being merged already"
        return hand_in(work, MERGE, args, f"merge {merge.list}", busy)
    while merge_batch(work, merge, group)[1]:
        pass
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


def _holding(defs: Definitions, merge: ValueMerge) -> Any:
    takers = _takers(defs, merge)
    patterns = {key: field.containing(merge.target, merge.code) for key, field in takers.items()}
    return stored_values.containing(patterns)


def merge_batch(work: Work, merge: ValueMerge, group: str, after: int = 0) -> tuple[int, int]:
    """Put the one value for the other on the next products that hold it; gives (last id, how many)."""
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    defs = plans.draft(work.session)
    _check(defs, merge)
    found = products.stream_where(work.session, _holding(defs, merge), after, BATCH)
    takers = _takers(defs, merge)
    edits = [ValueEdit(product.id, states=_states(product, takers, merge)) for product in found]
    value_writer.put_many(work, edits, group, follows=True)
    return (found[-1].id if found else after), len(found)


def _states(product: Product, takers: Mapping[str, Field], merge: ValueMerge) -> tuple[Any, Any]:
    state = PRODUCT.state_of(product)
    changed = {
        key: takers[key].with_items(value, merge.target, merge.items) if key in takers else value
        for key, value in state["values"].items()
    }
    return state, {**state, "values": changed}


def finish(work: Work, merge: ValueMerge, group: str) -> None:
    """Put the one value for the other in what else asks for it, and take it out of the list: its names lead to the other."""
    shop.lock_definitions(work.session)
    while merge_batch(work, merge, group)[1]:
        pass
    for noun, key, state in list(_definitions(plans.draft(work.session), merge)):
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
