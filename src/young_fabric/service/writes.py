"""The one path by which definitions are written: right, lock, merge, check, write, record, judge."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any
from uuid import uuid4

from pydantic import ValidationError
from sqlalchemy.exc import IntegrityError

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import ABSENT, merge, same
from young_fabric.core.base.patches import backward, diff
from young_fabric.core.nouns.base import Noun, state_of
from young_fabric.core.nouns.definitions import Definitions
from young_fabric.core.nouns.registry import NOUNS, describe
from young_fabric.service import judging, memberships, noun_hooks, plans, referring, variants
from young_fabric.service.actors import Clash, Right, Work
from young_fabric.store.repos import changes, definitions, shop
from young_fabric.store.repos.definitions import StoredThing
from young_fabric.store.states import thing_of

State = dict[str, Any]


@dataclass(frozen=True)
class WrittenThing:
    """What a write gave: the thing as it stands (None when removed), its version, the change recorded, if any."""

    thing: Any
    version: int
    change: int | None


@dataclass(frozen=True)
class Edit:
    """What somebody wants: the state they began from, and the one they want (ABSENT for none)."""

    base: Any
    mine: Any


def noun_of(code: str) -> Noun:
    """A noun by its code. Raises Refusal `not_found`."""
    if code not in NOUNS:
        raise Refusal("not_found", f"There is nothing called {code[:60]}", ("noun",), "Choose one of those there are")
    return NOUNS[code]


def need_current(work: Work, noun: str, key: str) -> StoredThing:
    """A definition with its version. Raises Refusal `not_found`."""
    found = definitions.get(work.session, noun, key)
    if found is None:
        words = f"There is no {NOUNS[noun].name} {key[:80]}"
        raise Refusal("not_found", words, (), "It may have been removed: see the history")
    return found


def read_thing(noun: Noun, state: Mapping[str, Any]) -> Any:
    """A state as a thing. Raises Refusal `shape`."""
    try:
        return thing_of(noun.code, state)
    except ValidationError as error:
        first = error.errors()[0]
        where = tuple(part for part in first["loc"] if isinstance(part, str | int))
        raise Refusal("shape", str(first["msg"]), where, "Send it in the shape of the API") from error


def state_at(work: Work, noun: Noun, key: str, version: int | None, current: StoredThing | None) -> Any:
    """The state a thing had at a version (None: it was not there), found from what was changed since.

    Raises Refusal `version` for one it never had, Clash when the record does not reach back to it.
    """
    state = state_of(current.thing) if current else ABSENT
    if current is not None and version == current.version:
        return state
    later = changes.since_version(work.session, noun.code, key, version or 0)
    if current is None and not later:
        return ABSENT
    newest = current.version if current else max((change.version for change in later), default=0)
    if version is not None and (version > newest or version < 1):
        raise Refusal("version", f"This {noun.name} never had version {version}", ("version",), "Read it again")
    if version is None:
        return ABSENT
    for change in later:
        if change.format != noun.format:
            raise Clash(
                f"This {noun.name}", None, None if state is ABSENT else state, current.version if current else None
            )
        state = backward(state, change.patch)
    return state


def apply(
    work: Work,
    noun_code: str,
    key: str,
    edit_of: Callable[[StoredThing | None], Edit],
    *,
    group: str | None = None,
    undoes: int | None = None,
) -> WrittenThing:
    """Merge an edit with what stands, under the lock, and write it. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    noun, session = NOUNS[noun_code], work.session
    shop.lock_definitions(session)
    plans.refresh(session)
    current = definitions.get(session, noun_code, key)
    theirs = state_of(current.thing) if current else ABSENT
    edit = edit_of(current)
    merged, clashes = _merge(noun, key, edit, theirs)
    defs = plans.draft(session)
    if clashes:
        thing = current.thing if current else read_thing(noun, edit.mine if edit.mine is not ABSENT else edit.base)
        raise Clash(
            noun.name_of(key, thing, defs),
            None if edit.mine is ABSENT else edit.mine,
            None if theirs is ABSENT else theirs,
            current.version if current else None,
            clashes,
        )
    if merged is ABSENT and current is None:
        if noun.nothing is not None:
            return WrittenThing(None, 0, None)
        raise Refusal("not_found", f"There is no {noun.name} {key[:80]}")
    if current is not None and merged is not ABSENT and same(merged, theirs):
        return WrittenThing(current.thing, current.version, None)
    thing = None if merged is ABSENT else read_thing(noun, merged)
    return _write(work, noun, key, current, thing, group or uuid4().hex, undoes)


def _merge(noun: Noun, key: str, edit: Edit, theirs: Any) -> tuple[Any, list[list[Any]]]:
    """The states merged; for nouns that can say nothing, not being there is a state like others."""
    if noun.nothing is None:
        return merge(edit.base, edit.mine, theirs, noun.keyed)
    nothing = noun.nothing(key)
    sides = [nothing if side is ABSENT else side for side in (edit.base, edit.mine, theirs)]
    merged, clashes = merge(sides[0], sides[1], sides[2], noun.keyed)
    return (ABSENT if same(merged, nothing) else merged), clashes


def _write(
    work: Work, noun: Noun, key: str, current: StoredThing | None, thing: Any, group: str, undoes: int | None
) -> WrittenThing:
    session = work.session
    if thing is None and current is not None:
        _let_go(work, noun, key, current.thing, group)
    before = plans.draft(session)
    after = before.having(noun.code, key, thing)
    if thing is not None:
        check(work, before, after, noun, key, current.thing if current else None, thing)
    version = (current.version if current else changes.last_version(session, noun.code, key)) + 1
    named = thing if thing is not None else current.thing if current else None
    name = noun.name_of(key, named, before)
    stamp = shop.next_stamp(session)
    digest = _store(work, noun, key, name, thing, version, stamp)
    plans.refresh(session, wrote=True)
    old = state_of(current.thing) if current else ABSENT
    new = state_of(thing) if thing is not None else ABSENT
    change = changes.add(
        session,
        at=work.now,
        person_id=work.actor.id,
        noun=noun.code,
        key=key,
        name=name,
        lines=describe(noun, None if old is ABSENT else old, None if new is ABSENT else new, before),
        patch=diff(old, new, noun.keyed) or {"in": {}},
        format=noun.format,
        version=version,
        group_id=group,
        undoes=undoes,
    )
    changes.note(session, noun.code, {key: digest})
    if undoes is None:
        follow(work, before, after, noun.code, key, group)
    if noun.gathers:
        memberships.regather(work, before, after)
    if noun.offers:
        variants.rematch(work, before, after)
    if noun.judges:
        judging.rejudge(work, before, after)
    return WrittenThing(thing, version, change)


def follow(work: Work, before: Definitions, after: Definitions, noun: str, key: str, group: str) -> None:
    """Put values, and what else holds such, in step with a definition that was changed."""
    old, new = before.things[noun].get(key), after.things[noun].get(key)
    for code, other, state, wanted in noun_hooks.follow(work, before, after, noun, old, new, group):
        apply(work, code, other, _edit_of(Edit(state, wanted)), group=group)


def edit_to(state: State) -> Callable[[StoredThing | None], Edit]:
    """An edit from whatever stands to a state."""
    return lambda current: Edit(state_of(current.thing) if current else state, state)


def _edit_of(edit: Edit) -> Callable[[StoredThing | None], Edit]:
    return lambda _stored: edit


def _store(work: Work, noun: Noun, key: str, name: str, thing: Any, version: int, stamp: int) -> str | None:
    try:
        with work.session.begin_nested():
            if thing is not None:
                return definitions.write(work.session, noun, key, name, thing, version, stamp)
            definitions.remove(work.session, noun.code, key)
    except IntegrityError as error:
        if "uq_definition_address" in str(error.orig):
            raise Refusal("taken", "Something else has this address already", ("slug",), "Choose another") from error
        raise Refusal("in_use", f"This {noun.name} is used elsewhere", (), "Take it off there first") from error
    return None


def check(work: Work, before: Definitions, after: Definitions, noun: Noun, key: str, old: Any, thing: Any) -> None:
    """Whether a definition may be written so: by itself, by what refers to it, and by what products hold. Raises Refusal."""
    if old is None and noun.key_of(thing) != key:
        raise Refusal("key", "The key can't be changed", ("key",), "Make a new one")
    if old is None and key in noun.kept_keys():
        words = f"The key {key} is kept for the {noun.name} that comes with Young Fabric"
        raise Refusal("key", words, ("key",), "Choose another key")
    noun.check(thing, before)
    address = noun.address(thing)
    if address is not None:
        holder = next(
            (
                other
                for code, others in before.things.items()
                for other_key, other in others.items()
                if NOUNS[code].address(other) == address and (code, other_key) != (noun.code, key)
            ),
            None,
        )
        if holder is not None:
            raise Refusal("taken", f"{holder.name} has this address already", ("slug",), "Choose another")
    noun_hooks.check_stored(work, before, after, noun.code, old, thing)
    for other_noun, other_key, _ in before.referrers(noun.code, key):
        other = NOUNS[other_noun]
        referring = after.things[other_noun][other_key]
        try:
            other.check(referring, after)
        except Refusal as refusal:
            words = f"{other.name_of(other_key, referring, before)} would no longer be right: {refusal.message}"
            raise Refusal("in_use", words, (), f"Change that {other.name} first") from refusal


def _let_go(work: Work, noun: Noun, key: str, thing: Any, group: str) -> None:
    """Before a thing is removed: what loosely refers to it lets it go; what holds it fast is told. Raises Refusal."""
    defs = plans.draft(work.session)
    rows = defs.referrers(noun.code, key)
    users = list(
        dict.fromkeys(
            f"the {NOUNS[code].name} {NOUNS[code].name_of(other, defs.things[code][other], defs)}"
            for code, other, reference in rows
            if not reference.loose
        )
    )
    single = definitions_loose(work, noun.code, key)
    users += [f"the {NOUNS[code].name} of {len(single)} products" for code, _, ref in single[:1] if not ref.loose]
    users += noun_hooks.held(work, noun.code, key)
    target = noun.item_of(thing)
    users += referring.held_by(work.session, defs, target, key) if target is not None else []
    if users:
        more = f" and {len(users) - 4} more" if len(users) > 4 else ""
        name = noun.name_of(key, thing, defs)
        raise Refusal("in_use", f"{name} is used by {', '.join(users[:4])}{more}", (), "Take it off there first")
    loose = [(code, other, reference) for code, other, reference in rows if reference.loose]
    loose += single
    for code, other, reference in loose:
        stored = definitions.get(work.session, code, other)
        if stored is None:
            continue
        left = NOUNS[code].without(stored.thing, reference)
        _write(work, NOUNS[code], other, stored, left, group, None)


def definitions_loose(work: Work, noun: str, key: str) -> list[tuple[str, str, Any]]:
    """What is said of single subjects and refers to a thing."""
    out = []
    for code, other in definitions.referring_of_subjects(work.session, noun, key):
        stored = definitions.get(work.session, code, other)
        if stored is not None:
            out += [
                (code, other, reference)
                for reference in NOUNS[code].refers(stored.thing)
                if (reference.noun, reference.key) == (noun, key)
            ]
    return out
