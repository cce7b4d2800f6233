"""The one path by which definitions are written: right, lock, merge, check, write, record, judge."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any
from uuid import uuid4

from pydantic import ValidationError
from sqlalchemy.exc import IntegrityError

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import ABSENT, merge, same
from young_fabric.core.base.patches import backward, diff
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import Noun, state_of
from young_fabric.core.nouns.registry import NOUNS, describe
from young_fabric.service.acting.actors import Clash, Right, Work
from young_fabric.service.acting.clashing import Sides, clash
from young_fabric.service.planning import plans
from young_fabric.service.values import judging, memberships, variants
from young_fabric.service.writing import letting_go, noun_hooks
from young_fabric.service.writing.sound import Addresses, check
from young_fabric.store.repos import changes, definitions, shop
from young_fabric.store.repos.definitions import StoredThing
from young_fabric.store.states import thing_of
from young_fabric.store.tables import ChangeRow

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
    if current is not None and version == current.version:
        return state_of(current.thing)
    return state_before(noun, version, current, changes.since_version(work.session, noun.code, key, version or 0))


def state_before(noun: Noun, version: int | None, current: StoredThing | None, later: Sequence[ChangeRow]) -> Any:
    """The same from the changes since, last first."""
    state = state_of(current.thing) if current else ABSENT
    if current is not None and version == current.version:
        return state
    if current is None and not later:
        return ABSENT
    newest = current.version if current else max((change.version for change in later), default=0)
    if version is not None and (version > newest or version < 1):
        raise Refusal("version", f"This {noun.name} never had version {version}", ("version",), "Read it again")
    if version is None:
        return ABSENT
    for change in later:
        if change.format != noun.stored.format:
            raise Clash(
                f"This {noun.name}", None, None if state is ABSENT else state, current.version if current else None
            )
        state = backward(state, change.patch)
    return state


EditOf = Callable[[StoredThing | None], Edit]
"""What somebody wants of a thing, given what stands."""


@dataclass(frozen=True)
class ThingEdit:
    """An edit of one definition, among others written with it; `undoes` is the change it takes back."""

    noun: str
    key: str
    edit_of: EditOf
    undoes: int | None = None


@dataclass(frozen=True)
class _Wanted:
    """A definition as it stands (None: it is not there) and is to be (None: gone)."""

    noun: Noun
    key: str
    current: StoredThing | None
    thing: Any
    undoes: int | None = None

    @property
    def id(self) -> tuple[str, str]:
        return self.noun.code, self.key


def apply(
    work: Work, noun_code: str, key: str, edit_of: EditOf, *, group: str | None = None, undoes: int | None = None
) -> WrittenThing:
    """Merge an edit with what stands, under `shop.lock_definitions`, which it takes, and write it. Raises Refusal, Clash.

    Changes of one `group` are undone together.
    """
    return apply_many(work, [ThingEdit(noun_code, key, edit_of, undoes)], group)[0]


def apply_many(
    work: Work,
    edits: Sequence[ThingEdit],
    group: str | None = None,
    placed_at: Callable[[str, str, Refusal], Refusal] = lambda _noun, _key, refusal: refusal,
) -> list[WrittenThing]:
    """Merge edits with what stands, under the lock, and write them together by a few statements, all or none; gives what each came to.

    They are checked as they stand together, so that their order does not matter; they are recorded in theirs. `placed_at` puts the place of
    a thing into what is wrong with it. Raises Refusal, Clash.
    """
    work.need(Right.EDIT)
    session = work.session
    shop.lock_definitions(session)
    plans.refresh(session)
    stored = definitions.get_many(session, [(edit.noun, edit.key) for edit in edits])
    wanted: dict[tuple[str, str], _Wanted] = {}
    out: list[WrittenThing | tuple[str, str]] = []
    for edit in edits:
        noun, key = NOUNS[edit.noun], edit.key
        current = stored.get((edit.noun, key))
        try:
            merged = _merged(work, noun, key, edit.edit_of(current), current)
            if merged is ABSENT and current is None:
                if noun.stored.nothing is None:
                    raise Refusal("not_found", f"There is no {noun.name} {key[:80]}")
                out.append(WrittenThing(None, 0, None))
            elif current is not None and merged is not ABSENT and same(merged, state_of(current.thing)):
                out.append(WrittenThing(current.thing, current.version, None))
            else:
                thing = None if merged is ABSENT else read_thing(noun, merged)
                wanted[noun.code, key] = _Wanted(noun, key, current, thing, edit.undoes)
                out.append((noun.code, key))
        except Refusal as refusal:
            raise placed_at(edit.noun, key, refusal) from None
    written = _write_all(work, wanted, group or uuid4().hex, placed_at) if wanted else {}
    return [found if isinstance(found, WrittenThing) else written[found] for found in out]


def _merged(work: Work, noun: Noun, key: str, edit: Edit, current: StoredThing | None) -> Any:
    """The state an edit comes to, ABSENT for none. Raises Clash."""
    theirs = state_of(current.thing) if current else ABSENT
    found, clashes = _merge(noun, key, edit, theirs)
    if clashes:
        raise clash_of(work, noun, key, edit, current, clashes)
    return found


def clash_of(
    work: Work, noun: Noun, key: str, edit: Edit, current: StoredThing | None, clashes: Sequence[Sequence[Any]]
) -> Clash:
    """The refusal of an edit of a thing of which others made something else at some paths."""
    defs = plans.draft(work.session)
    theirs = state_of(current.thing) if current else ABSENT
    thing = current.thing if current else read_thing(noun, edit.mine if edit.mine is not ABSENT else edit.base)
    name, sides = noun.calling.name_of(key, thing, defs), Sides(edit.base, edit.mine, theirs)

    def lines(before: Any, after: Any) -> list[str]:
        return describe(noun, before, after, defs) if before is not None or after is not None else []

    return clash(work, (noun.code, key), name, sides, current.version if current else None, clashes, lines)


def _merge(noun: Noun, key: str, edit: Edit, theirs: Any) -> tuple[Any, list[list[Any]]]:
    """The states merged; for nouns that can say nothing, not being there is a state like others."""
    if noun.stored.nothing is None:
        return merge(edit.base, edit.mine, theirs, noun.stored.keyed)
    nothing = noun.stored.nothing(key)
    sides = [nothing if side is ABSENT else side for side in (edit.base, edit.mine, theirs)]
    merged, clashes = merge(sides[0], sides[1], sides[2], noun.stored.keyed)
    return (ABSENT if same(merged, nothing) else merged), clashes


def _write_all(
    work: Work, wanted: dict[tuple[str, str], _Wanted], group: str, placed_at: Callable[[str, str, Refusal], Refusal]
) -> dict[tuple[str, str], WrittenThing]:
    """Write definitions together, with what lets go of those that are removed. Raises Refusal."""
    session = work.session
    before = plans.draft(session)
    wanted = _with_let_go(work, wanted, placed_at)
    after = before.having_all([(*found.id, found.thing) for found in wanted.values()])
    _check_all(work, before, after, wanted, placed_at)
    stamp = shop.next_stamp(session)
    last = changes.last_versions_of(session, [found.id for found in wanted.values() if found.current is None])
    versions = {id: (found.current.version if found.current else last.get(id, 0)) + 1 for id, found in wanted.items()}
    digests = _store_all(work, before, wanted, versions, stamp, placed_at)
    plans.refresh(session, wrote=True)
    ids = _record_all(work, before, wanted, versions, digests, group)
    for id, found in wanted.items():
        if found.undoes is None:
            follow(work, before, after, *id, group)
    nouns = [found.noun for found in wanted.values()]
    if any(noun.bearing.gathers for noun in nouns):
        memberships.regather(work, before, after)
    if any(noun.bearing.offers for noun in nouns):
        variants.rematch(work, before, after)
    if any(noun.bearing.judges for noun in nouns):
        judging.rejudge(work, before, after)
    return {id: WrittenThing(found.thing, versions[id], ids[id]) for id, found in wanted.items()}


def _with_let_go(
    work: Work, wanted: Mapping[tuple[str, str], _Wanted], placed_at: Callable[[str, str, Refusal], Refusal]
) -> dict[tuple[str, str], _Wanted]:
    """Definitions to be written, those before that let go of what is removed. Raises Refusal."""
    left: dict[tuple[str, str], _Wanted] = {}
    changed = dict(wanted)
    for id, found in wanted.items():
        if found.thing is not None or found.current is None:
            continue
        try:
            loose = letting_go.let_go_by(work, found.noun, found.key, found.current.thing, wanted)
        except Refusal as refusal:
            raise placed_at(*id, refusal) from None
        for code, other, reference in loose:
            stands = changed.get((code, other))
            current = stands.current if stands else definitions.get(work.session, code, other)
            thing = stands.thing if stands else (current.thing if current else None)
            if thing is None:
                continue
            made = _Wanted(NOUNS[code], other, current, NOUNS[code].referring.without(thing, reference))
            changed[code, other] = made if stands is None else replace(stands, thing=made.thing)
            if (code, other) not in wanted:
                left[code, other] = changed[code, other]
    return {**left, **{id: changed[id] for id in wanted}}


def _check_all(
    work: Work,
    before: Definitions,
    after: Definitions,
    wanted: Mapping[tuple[str, str], _Wanted],
    placed_at: Callable[[str, str, Refusal], Refusal],
) -> None:
    """Whether definitions may be written so together, and what refers to them stands. Raises Refusal."""
    addresses = Addresses(after)
    for id, found in wanted.items():
        if found.thing is None:
            continue
        try:
            old = found.current.thing if found.current else None
            check(work, before, after, found.noun, found.key, old, found.thing, addresses)
        except Refusal as refusal:
            raise placed_at(*id, refusal) from None
    seen: set[tuple[str, str]] = set(wanted)
    for id, found in wanted.items():
        for code, key, _ in after.referrers(*id) if found.current is not None else ():
            if (code, key) in seen:
                continue
            seen.add((code, key))
            other, referring_thing = NOUNS[code], after.things[code][key]
            try:
                other.check(referring_thing, after)
            except Refusal as refusal:
                name = other.calling.name_of(key, referring_thing, before)
                words = f"{name} would no longer be right: {refusal.message}"
                again = Refusal("in_use", words, (), f"Change that {other.name} first")
                raise placed_at(*id, again) from refusal


def _store_all(
    work: Work,
    before: Definitions,
    wanted: Mapping[tuple[str, str], _Wanted],
    versions: Mapping[tuple[str, str], int],
    stamp: int,
    placed_at: Callable[[str, str, Refusal], Refusal],
) -> dict[tuple[str, str], str | None]:
    """Put definitions and their references; gives the hashes of their states, None of those removed. Raises Refusal."""
    rows = [
        definitions.row_of(
            found.noun,
            found.key,
            found.noun.calling.name_of(found.key, found.thing, before),
            found.thing,
            versions[id],
            stamp,
        )
        for id, found in wanted.items()
        if found.thing is not None
    ]
    gone = [id for id, found in wanted.items() if found.thing is None]
    try:
        with work.session.begin_nested():
            definitions.write_many(work.session, rows, gone)
    except IntegrityError as error:
        id = next(iter(wanted))
        if "uq_definition_address" in str(error.orig):
            again = Refusal("taken", "Something else has this address already", ("slug",), "Choose another")
        else:
            words = f"This {NOUNS[id[0]].name} is used elsewhere, or names what is not there"
            again = Refusal("in_use", words, (), "Take it off there first")
        raise placed_at(*id, again) from error
    return {**{(row["noun"], row["key"]): str(row["hash"]) for row in rows}, **dict.fromkeys(gone)}


def _record_all(
    work: Work,
    before: Definitions,
    wanted: Mapping[tuple[str, str], _Wanted],
    versions: Mapping[tuple[str, str], int],
    digests: Mapping[tuple[str, str], str | None],
    group: str,
) -> dict[tuple[str, str], int]:
    """Record what was written, in order, and note it for the next release; gives the ids of the changes."""
    recorded: list[dict[str, Any]] = []
    notes: dict[tuple[str, str], str | None] = {}
    for id, found in wanted.items():
        named = found.thing if found.thing is not None else found.current.thing if found.current else None
        old = state_of(found.current.thing) if found.current else ABSENT
        new = state_of(found.thing) if found.thing is not None else ABSENT
        lines = describe(found.noun, None if old is ABSENT else old, None if new is ABSENT else new, before)
        recorded.append(
            {
                "noun": found.noun.code,
                "key": found.key,
                "name": found.noun.calling.name_of(found.key, named, before),
                "lines": lines,
                "patch": diff(old, new, found.noun.stored.keyed) or {"in": {}},
                "format": found.noun.stored.format,
                "version": versions[id],
                "undoes": found.undoes,
            }
        )
        notes[id] = digests[id]
    made = changes.add_many(work.session, recorded, at=work.now, person_id=work.actor.id, group_id=group)
    changes.note(work.session, notes)
    return dict(zip(wanted, made, strict=True))


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
