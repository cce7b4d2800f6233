"""Use cases of definitions: make, change, remove, and say beforehand what a change would touch."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial
from itertools import count
from typing import Any, NamedTuple
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import ABSENT
from young_fabric.core.base.text import check_key
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.cascade import EVERY, DisplaySetting, Scope
from young_fabric.core.display.properties import PROPERTIES
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.nouns.base import Noun, state_of
from young_fabric.core.nouns.layouts import display_settings
from young_fabric.core.nouns.layouts.display_settings import SettingKey, nothing_said, spoken_of, with_read_condition
from young_fabric.core.nouns.registry import NOUNS, describe
from young_fabric.core.pages.plans import reached_groups
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Clash, Right, Work
from young_fabric.service.foreseeing.bounds import told_apart
from young_fabric.service.foreseeing.counted import counted, said_alone
from young_fabric.service.foreseeing.field_moves import FieldMoves, field_moves
from young_fabric.service.foreseeing.record_pages import record_pages
from young_fabric.service.foreseeing.value_effects import ValueEffects, value_effects
from young_fabric.service.foreseeing.variant_effects import VariantEffects, variant_effects
from young_fabric.service.planning import plans
from young_fabric.service.planning.referring import referrers
from young_fabric.service.writing import letting_go, noun_hooks, writes
from young_fabric.service.writing.writes import Edit, ThingEdit, WrittenThing
from young_fabric.store.repos import changes, definitions, products, shop
from young_fabric.store.repos.definitions import StoredThing

SETTING = display_settings.NOUN
LONGEST_NAME = 80
LONGEST_COPIED = 68
"""So much of a name is taken over into that of its copy."""


def create(work: Work, noun_code: str, name: str, given: Mapping[str, Any], group: str | None = None) -> WrittenThing:
    """Make a thing from its name; all else has a good default. Raises Refusal."""
    work.need(Right.EDIT)
    noun = writes.noun_of(noun_code)
    name = name.strip()
    if not name:
        raise Refusal("required", "It needs a name", ("name",), "Type a name")
    if len(name) > LONGEST_NAME:
        raise Refusal("long", f"At most {LONGEST_NAME} characters fit", ("name",), "Shorten it")
    if noun.blank is None:
        raise Refusal("not_found", f"A {noun.name} is not made from a name", ("noun",))
    shop.lock_definitions(work.session)
    plans.refresh(work.session)
    defs = plans.draft(work.session)
    key = str(given.get("key") or "") or noun.calling.key(name, defs, noun.code)
    check_key(key)
    state = {**state_of(noun.blank(key, name, defs)), **{k: v for k, v in given.items() if v is not None}, "key": key}
    state = _read_typed(noun, state, defs)

    def edit(current: StoredThing | None) -> Edit:
        if current is not None:
            words = f"There is a {noun.name} with the key {key} already"
            raise Refusal("taken", words, ("key",), "Choose another key")
        return Edit(ABSENT, state)

    return writes.apply(work, noun_code, key, edit, group=group)


def copy(work: Work, noun_code: str, key: str) -> WrittenThing:
    """Make another thing that says the same, but for what is its own alone, and whose name says that it is a copy. Raises Refusal."""
    work.need(Right.EDIT)
    shop.lock_definitions(work.session)
    plans.refresh(work.session)
    noun, defs = writes.noun_of(noun_code), plans.draft(work.session)
    thing = writes.need_current(work, noun_code, key).thing
    taken = {other.name for other in defs.things[noun_code].values()}
    name = thing.name[:LONGEST_COPIED].rstrip()
    names = (f"{name}, copy{f' {number}' if number > 1 else ''}" for number in count(1))
    given = {
        member: value
        for member, value in state_of(thing).items()
        if member not in {"key", "name", *noun.calling.own_alone}
    }
    return create(work, noun_code, next(made for made in names if made not in taken), given, uuid4().hex)


def _read_typed(noun: Noun, state: dict[str, Any], defs: Definitions) -> dict[str, Any]:
    """A state with what was typed in it read into values. Raises Refusal."""
    return state_of(noun_hooks.read_typed(noun.code, writes.read_thing(noun, state), defs))


def change(
    work: Work, noun_code: str, key: str, version: int, given: Mapping[str, Any], group: str | None = None
) -> WrittenThing:
    """Change members of a thing, from the version that was read; what others did since is kept. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    noun = writes.noun_of(noun_code)

    def edit(current: StoredThing | None) -> Edit:
        base = writes.state_at(work, noun, key, version, current)
        if base is ABSENT:
            raise Refusal(
                "not_found", f"There is no {noun.name} {key}", (), "It may have been removed: see the history"
            )
        return Edit(base, _read_typed(noun, {**base, **given, "key": key}, plans.draft(work.session)))

    return writes.apply(work, noun_code, key, edit, group=group)


def changed_thing(work: Work, noun_code: str, key: str, given: Mapping[str, Any]) -> Any:
    """A thing with members changed, not written. Raises Refusal."""
    noun = writes.noun_of(noun_code)
    current = writes.need_current(work, noun_code, key)
    state = {**state_of(current.thing), **given, "key": key}
    thing = writes.read_thing(noun, _read_typed(noun, state, plans.draft(work.session)))
    noun.check(thing, plans.draft(work.session))
    return thing


def remove(work: Work, noun_code: str, key: str, version: int, group: str | None = None) -> WrittenThing:
    """Remove a thing that was read at a version; what loosely refers to it lets it go. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    noun = writes.noun_of(noun_code)
    return writes.apply(
        work,
        noun_code,
        key,
        lambda current: Edit(writes.state_at(work, noun, key, version, current), ABSENT),
        group=group,
    )


Removed = tuple[str, str, int]
"""What is removed: noun, key, and the version that was read."""


def remove_all(work: Work, things: Sequence[Removed]) -> None:
    """Remove several things in one stroke, by a few statements, undone as one: all of them, or none. Those that hold each other fast go
    together. Raises Refusal with the place of the first that can't be removed, Clash."""
    work.need(Right.EDIT)
    places = {(noun, key): ("things", at) for at, (noun, key, _) in enumerate(things)}

    def removal(noun_code: str, key: str, version: int) -> ThingEdit:
        noun = writes.noun_of(noun_code)
        return ThingEdit(
            noun_code, key, lambda current: Edit(writes.state_at(work, noun, key, version, current), ABSENT)
        )

    def placed_at(noun: str, key: str, refusal: Refusal) -> Refusal:
        return refusal if isinstance(refusal, Clash) else refusal.at(*places[noun, key])

    writes.apply_many(work, [removal(*thing) for thing in things], placed_at=placed_at)


class SettingEdit(NamedTuple):
    """Properties put for a field on a surface, None taking one away, from the version that was read (None: nothing was set there)."""

    field: str
    surface: str
    set: Mapping[str, Any]
    version: int | None


def display(
    work: Work,
    scope: Scope,
    field: str,
    surface: str,
    given: Mapping[str, Any],
    version: int | None,
    group: str | None = None,
) -> WrittenThing:
    """Set properties for a scope, field and surface; a property given as None goes back to inherited.

    `version` is the one read, None when nothing was set there. Raises Refusal, Clash.
    """
    return display_many(work, scope, [SettingEdit(field, surface, given, version)], group)[0]


def display_many(
    work: Work, scope: Scope, edits: Sequence[SettingEdit], group: str | None = None
) -> list[WrittenThing]:
    """The same for several fields and surfaces, written together. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    _check_scope(work, scope)
    # The history is read under the lock that the write takes.
    shop.lock_definitions(work.session)
    keys = {
        (SETTING.code, str(SettingKey(scope, wanted.field, wanted.surface))): wanted.version or 0 for wanted in edits
    }
    later = changes.since_versions(work.session, keys)

    def edit(wanted: SettingEdit, key: str, current: StoredThing | None) -> Edit:
        base = writes.state_before(SETTING, wanted.version, current, later[SETTING.code, key])
        if base is ABSENT:
            base = nothing_said(key)
        _check_meaning(plans.draft(work.session), scope, wanted)
        members = {**base["set"], **wanted.set}
        state = {**base, "set": {prop: value for prop, value in members.items() if value is not None}}
        return Edit(base, _read_typed(SETTING, state, plans.draft(work.session)))

    def of(wanted: SettingEdit) -> ThingEdit:
        key = str(SettingKey(scope, wanted.field, wanted.surface))
        return ThingEdit(SETTING.code, key, partial(edit, wanted, key))

    return writes.apply_many(work, list(map(of, edits)), group)


def _check_meaning(defs: Definitions, scope: Scope, wanted: SettingEdit) -> None:
    """Whether what is put means anything for the field, there. Raises Refusal `no_meaning`."""
    spoken = spoken_of(defs, scope, wanted.surface, wanted.field) if wanted.field != EVERY else None
    among = (
        SURFACES.values()
        if wanted.surface == EVERY
        else [SURFACES[wanted.surface]]
        if wanted.surface in SURFACES
        else []
    )
    for code, value in wanted.set.items():
        prop = PROPERTIES.get(code)
        if spoken is None or value is None or prop is None or prop.whole:
            continue
        if not any(prop.means(spoken, surface) for surface in among):
            words = f"“{prop.name}” means nothing for {spoken.name} there"
            raise Refusal("no_meaning", words, ("set", code), "Leave it out")


def _check_scope(work: Work, scope: Scope) -> None:
    if scope.sort.subject is not None:
        ids = [int(scope.key)] if len(scope.key) < 10 else []
        if not products.groups_of(work.session, ids):
            raise Refusal("not_found", f"There is no {scope.sort.subject} {scope.key}", ("scope",))
    noun = scope.sort.noun
    if noun is not None and scope.key not in plans.draft(work.session).things[noun]:
        raise Refusal("not_found", f"There is no {noun.replace('_', ' ')} {scope.key}", ("scope",))


def changed_settings(work: Work, scope: Scope, edits: Sequence[SettingEdit]) -> list[tuple[str, DisplaySetting | None]]:
    """(key, setting) of each with properties put and taken away, found by one statement; no setting when none are left. Raises
    Refusal."""
    _check_scope(work, scope)
    defs = plans.draft(work.session)
    keys = [str(SettingKey(scope, edit.field, edit.surface)) for edit in edits]
    stands = definitions.get_many(work.session, [(SETTING.code, key) for key in keys])
    out: list[tuple[str, DisplaySetting | None]] = []
    for edit, key in zip(edits, keys, strict=True):
        current = stands.get((SETTING.code, key))
        old = dict(current.thing.set) if current else {}
        new = {prop: value for prop, value in {**old, **edit.set}.items() if value is not None}
        setting = None
        if new:
            setting = with_read_condition(DisplaySetting(scope, edit.field, edit.surface, new), defs)
            SETTING.check(setting, defs)
        out.append((key, setting))
    return out


@dataclass(frozen=True)
class ThingUse:
    """What refers to a thing: `place` is the member in it, `loose` says that it lets go when the thing is removed."""

    noun: str
    key: str
    name: str
    place: str
    loose: bool


def uses(work: Work, noun_code: str, key: str) -> list[ThingUse]:
    """All that refers to a thing. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    writes.need_current(work, noun_code, key)
    defs = plans.draft(work.session)
    named = [
        ThingUse(
            code,
            user,
            NOUNS[code].calling.name_of(user, defs.things[code][user], defs),
            reference.place,
            reference.loose,
        )
        for code, user, reference in defs.referrers(noun_code, key)
    ]
    target = NOUNS[noun_code].chosen.item_of(defs.things[noun_code][key]) if key in defs.things[noun_code] else None
    if target is None:
        return named
    found = referrers(work.session, defs, target, key)
    named += [
        ThingUse(code, user, NOUNS[code].calling.name_of(user, defs.things[code][user], defs), "values", loose=False)
        for code, user in found.definitions
    ]
    return named + [
        ThingUse(PRODUCT.code, str(record.product.id), record.product.title, "values", loose=False)
        for record in found.first
    ]


@dataclass(frozen=True)
class Consequences:
    """What a change would touch: the change in short lines, types and products that have the thing, documents that differ by
    surface (so many at most where not `exact`), and what becomes of stored values, None when it bears on none; `moves` are the fields that products get and lose, `variants` what becomes of
    variants, None when it has no bearing on them."""

    types: int
    products: int
    surfaces: Mapping[str, int]
    effects: ValueEffects | None
    moves: FieldMoves = FieldMoves()  # noqa: RUF009
    variants: VariantEffects | None = None
    lines: tuple[str, ...] = ()
    exact: bool = True


def consequences(work: Work, noun_code: str, key: str, thing: Any | None) -> Consequences:
    """What writing a definition would touch, found without writing; of stored values the first slice is looked at."""
    noun, current = writes.noun_of(noun_code), definitions.get(work.session, noun_code, key)
    states = [state_of(held) if held is not None else None for held in (current and current.thing, thing)]
    lines: list[str] = []
    if states != [None, None]:
        lines = describe(noun, states[0], states[1], plans.draft(work.session))
    return replace(consequences_of_all(work, [(noun_code, key, thing)]), lines=tuple(lines))


def consequences_of_all(work: Work, written: Sequence[tuple[str, str, Any | None]]) -> Consequences:
    """What writing definitions together (noun, key, thing or None) would touch, found without writing.

    Raises Refusal `not_found`.
    """
    work.need(Right.LOOK)
    written = [*written, *_left_behind(work, written)]
    nouns = [writes.noun_of(code) for code, _, _ in written]
    if all(noun.bearing.subject_of_key(key) is not None for noun, (_, key, _) in zip(nouns, written, strict=True)):
        differ = said_alone(work, written)
        return Consequences(0, 1, differ, None)
    before = plans.draft_plans(work.session)
    changed = before.having_all(written)
    every_type = {Group(type_key): 0 for type_key in {*before.defs.types, *changed.defs.types}}
    counts = {**every_type, **plans.group_counts(work.session, before.defs, speaking=told_apart(before, changed))}
    reached = frozenset[Group]().union(
        *(reached_groups(made, counts, code, key) for code, key, _ in written for made in (before, changed))
    )
    keys = [(code, key) for code, key, _ in written]
    found = counted(work, before, changed, keys, counts)
    surfaces = {**found.surfaces, **record_pages(before, changed, keys)}
    judges = any(noun.bearing.judges for noun in nouns)
    return Consequences(
        len({group.type for group in reached}),
        max(sum(counts[group] for group in reached), *(n for code, n in surfaces.items() if not SURFACES[code].listed)),
        surfaces,
        value_effects(work, before.defs, changed.defs) if judges else None,
        field_moves(work, before.defs, changed.defs) if judges else FieldMoves(),
        variant_effects(work, before.defs, changed.defs) if any(noun.bearing.offers for noun in nouns) else None,
        exact=found.exact,
    )


def _left_behind(work: Work, written: Sequence[tuple[str, str, Any | None]]) -> list[tuple[str, str, Any | None]]:
    """What else is written when things are removed: what loosely refers to them lets them go. What holds them fast stays as it is:
    what would change can be asked all the same. Raises Refusal `not_found`."""
    defs = plans.draft(work.session)
    left: dict[tuple[str, str], Any] = {}
    for code, key, thing in written:
        noun = writes.noun_of(code)
        if thing is not None or noun.stored.nothing is not None:
            continue
        writes.need_current(work, code, key)
        for other, other_key, reference in letting_go.loosely(work, code, key):
            stands = left.get((other, other_key), defs.things[other].get(other_key))
            if stands is not None:
                left[other, other_key] = NOUNS[other].referring.without(stands, reference)
    return [(code, key, thing) for (code, key), thing in left.items()]


def effects_after(work: Work, noun_code: str, key: str, thing: Any | None, cursor: str) -> ValueEffects | None:
    """What would become of the next stored values, were a definition written. Raises Refusal `cursor`."""
    work.need(Right.LOOK)
    before = plans.draft_plans(work.session)
    return value_effects(work, before.defs, before.having(writes.noun_of(noun_code).code, key, thing).defs, cursor)
