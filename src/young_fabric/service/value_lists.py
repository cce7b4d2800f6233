"""Use cases of value lists: the list with use, and pasting values."""

from __future__ import annotations

from dataclasses import dataclass

from young_fabric.core.base.merge import ABSENT
from young_fabric.core.nouns import fields
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.value_lists import NOUN, Paste, ValueList, paste
from young_fabric.service import plans, writes
from young_fabric.service.actors import Right, Work
from young_fabric.service.writes import Edit
from young_fabric.store.repos.definitions import StoredThing


@dataclass(frozen=True)
class ListUse:
    """A value list with the fields that take from it."""

    thing: ValueList
    version: int
    fields: tuple[str, ...]


def overview(work: Work, only: str | None = None) -> list[ListUse]:
    """All value lists (or one), by name."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    lists = [values for key, values in draft.defs.lists.items() if only in (None, key)]
    return [
        ListUse(
            values,
            draft.loaded.versions[NOUN.code, values.key],
            tuple(
                user
                for noun, user, _ in draft.defs.referrers.get((NOUN.code, values.key), ())
                if noun == fields.NOUN.code
            ),
        )
        for values in sorted(lists, key=lambda values: values.name.casefold())
    ]


@dataclass(frozen=True)
class PastedList:
    """What a pasted list came to, and the version of the list after it."""

    pasted: Paste
    version: int


def paste_values(work: Work, key: str, text: str, version: int, apply: bool) -> PastedList:
    """Read a pasted list of values, and write it when asked to: added to what stands now. Raises Refusal, Clash."""
    work.need(Right.EDIT if apply else Right.LOOK)
    if not apply:
        current = writes.need_current(work, NOUN.code, key)
        return PastedList(paste(current.thing, text), current.version)
    pasted: list[Paste] = []

    def edit(current: StoredThing | None) -> Edit:
        base = writes.state_at(work, NOUN, key, version, current)
        standing = state_of(current.thing) if current else base
        if current is None or base is ABSENT:
            return Edit(base, ABSENT)
        pasted.append(paste(current.thing, text))
        return Edit(standing, state_of(pasted[0].result))

    done = writes.apply(work, NOUN.code, key, edit)
    return PastedList(pasted[0], done.version)
