"""What is referred to and goes: what lets it go, and what holds it fast."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.counting import counted
from young_fabric.core.nouns.base import Noun
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.service.acting.actors import Work
from young_fabric.service.planning import plans, referring
from young_fabric.service.writing import noun_hooks
from young_fabric.store.repos import definitions


def let_go_by(
    work: Work, noun: Noun, key: str, thing: Any, written: Mapping[tuple[str, str], Any] = MappingProxyType({})
) -> list[tuple[str, str, Any]]:
    """(noun, key, reference) of what lets a thing go when it is removed. Raises Refusal `in_use` while something holds it fast.

    What is `written` with it is left out where it goes too, or no longer refers to it.
    """
    defs = plans.draft(work.session)

    def still(code: str, other: str) -> bool:
        found = written.get((code, other))
        if found is None:
            return True
        refers = NOUNS[code].referring.refers(found.thing) if found.thing is not None else ()
        return any((reference.noun, reference.key) == (noun.code, key) for reference in refers)

    rows = [row for row in defs.referrers(noun.code, key) if still(row[0], row[1])]
    users = list(
        dict.fromkeys(
            f"the {NOUNS[code].name} {NOUNS[code].calling.name_of(other, defs.things[code][other], defs)}"
            for code, other, reference in rows
            if not reference.loose
        )
    )
    single = definitions_loose(work, noun.code, key)
    users += [
        f"the {NOUNS[code].name} of {counted(len(single), 'product')}" for code, _, ref in single[:1] if not ref.loose
    ]
    users += noun_hooks.held(work, noun.code, key)
    target = noun.chosen.item_of(thing)
    users += referring.held_by(work.session, defs, target, key) if target is not None else []
    if users:
        more = f" and {len(users) - 4} more" if len(users) > 4 else ""
        name = noun.calling.name_of(key, thing, defs)
        raise Refusal("in_use", f"{name} is used by {', '.join(users[:4])}{more}", (), "Take it off there first")
    return [*((code, other, reference) for code, other, reference in rows if reference.loose), *single]


def loosely(work: Work, noun: str, key: str) -> list[tuple[str, str, Any]]:
    """(noun, key, reference) of what would let a thing go."""
    rows = plans.draft(work.session).referrers(noun, key)
    return [(code, other, reference) for code, other, reference in rows if reference.loose]


def definitions_loose(work: Work, noun: str, key: str) -> list[tuple[str, str, Any]]:
    """What is said of single subjects and refers to a thing."""
    out = []
    for code, other in definitions.referring_of_subjects(work.session, noun, key):
        stored = definitions.get(work.session, code, other)
        if stored is not None:
            out += [
                (code, other, reference)
                for reference in NOUNS[code].referring.refers(stored.thing)
                if (reference.noun, reference.key) == (noun, key)
            ]
    return out
