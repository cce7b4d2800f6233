"""The one path by which definitions are written: right, lock, version, check, write, record."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any
from uuid import uuid4

from sqlalchemy.exc import IntegrityError

from young_fabric.core.changes import NOUN_NAMES
from young_fabric.core.definitions import Definitions
from young_fabric.core.display import DisplaySetting, check_setting
from young_fabric.core.errors import Refusal
from young_fabric.core.field_sets import check_field_set
from young_fabric.core.fields import check_field
from young_fabric.core.product_types import check_type
from young_fabric.core.value_lists import check_list
from young_fabric.service import field_values, plans
from young_fabric.service.actors import Clash, Right, Work
from young_fabric.store.repos import changes, products, shop
from young_fabric.store.repos.things import REPOS
from young_fabric.store.states import hash_of, state_of


@dataclass(frozen=True)
class Written:
    """What a write gave: the thing (None when removed), its version, the change recorded (None when nothing differed)."""

    thing: Any
    version: int
    change: int | None


def current(work: Work, noun: str, key: str) -> tuple[Any, int] | None:
    """A definition and its version as they stand."""
    return REPOS[noun].load(work.session, [key]).get(key)


def need_current(work: Work, noun: str, key: str) -> tuple[Any, int]:
    """The same. Raises Refusal `not_found`."""
    found = current(work, noun, key)
    if found is None:
        raise Refusal(
            "not_found", f"There is no {NOUN_NAMES[noun]} {key}", (), "It may have been removed: see the history"
        )
    return found


def name_of(key: str, thing: Any, defs: Definitions) -> str:
    """What people call a thing."""
    if isinstance(thing, DisplaySetting):
        if thing.field in defs.all_fields:
            return defs.all_fields[thing.field].name
        return "Every field"
    return str(thing.name) if thing is not None else key


def write(
    work: Work,
    noun: str,
    key: str,
    thing: Any | None,
    version: int | None,
    *,
    group: str | None = None,
    undoes: int | None = None,
) -> Written:
    """Put a definition (or take it out when `thing` is None).

    `version` is the one that was read, None to make a new thing, -1 to write whatever stands. Raises Refusal, Clash.
    """
    work.need(Right.EDIT)
    session = work.session
    shop.lock_definitions(session)
    before = current(work, noun, key)
    _check_version(noun, key, thing, before, version)
    defs = plans.draft(session)
    if thing is None and before is None:
        raise Refusal("not_found", f"There is no {NOUN_NAMES[noun]} {key}")
    old = before[0] if before else None
    if thing is not None and old is not None and state_of(noun, thing) == state_of(noun, old):
        return Written(thing, before[1] if before else 1, None)
    check(work, defs, noun, key, old, thing)
    number = (before[1] if before else 0) + 1
    try:
        if thing is None:
            REPOS[noun].remove(session, key)
        else:
            REPOS[noun].write(session, thing, number)
        session.flush()
    except IntegrityError as error:
        raise Refusal("in_use", f"This {NOUN_NAMES[noun]} is used elsewhere", (), "Take it off there first") from error
    if not key.startswith("product:"):
        shop.raise_stamp(session)
    change = changes.add(
        session,
        at=work.now,
        person_id=work.actor.id,
        noun=noun,
        key=key,
        name=name_of(key, thing or old, defs),
        before=state_of(noun, old) if old is not None else None,
        after=state_of(noun, thing) if thing is not None else None,
        group_id=group or uuid4().hex,
        undoes=undoes,
    )
    changes.mark(session, noun, key, hash_of(noun, thing) if thing is not None else None)
    if noun in ("field", "set", "type"):
        field_values.follow(work, defs, defs.having(noun, key, thing))
    return Written(thing, number, change)


def _check_version(noun: str, key: str, thing: Any, before: tuple[Any, int] | None, version: int | None) -> None:
    if version == -1:
        return
    if version is None and before is not None:
        raise Refusal(
            "taken", f"There is a {NOUN_NAMES[noun]} with the key {key} already", ("key",), "Choose another key"
        )
    if version is not None and (before is None or before[1] != version):
        theirs = state_of(noun, before[0]) if before else None
        yours = state_of(noun, thing) if thing is not None else None
        name = getattr(before[0] if before else thing, "name", "") or f"This {NOUN_NAMES[noun]}"
        raise Clash(name, yours, theirs, before[1] if before else None)


def check(work: Work, defs: Definitions, noun: str, key: str, old: Any, thing: Any) -> None:
    """Whether a definition may be written so. Raises Refusal."""
    if thing is None:
        _check_removal(work, defs, noun, key, old)
    elif noun == "field":
        check_field(thing, defs.lists, defs.shop.prefix)
        field_values.check_change(work, defs, old, thing)
    elif noun == "list":
        check_list(thing)
        if old is not None:
            _check_codes(work, defs, old, {v.code for v in old.values} - {v.code for v in thing.values})
    elif noun == "set":
        check_field_set(thing, defs.fields)
    elif noun == "type":
        check_type(thing, defs.types, defs.sets, defs.fields)
        same = next((one for one in defs.types.values() if one.slug == thing.slug and one.key != key), None)
        if same:
            raise Refusal("taken", f"{same.name} has this address already", ("slug",), "Choose another")
    else:
        check_setting(thing, defs.all_fields)


def _check_codes(work: Work, defs: Definitions, old: Any, gone: set[str]) -> None:
    keys = [one.key for one in defs.fields.values() if one.list == old.key]
    users = products.users_of_codes(work.session, keys, sorted(gone))
    if users:
        raise Refusal(
            "in_use", f"{users} products hold a value you take out", ("values",), "Retire it instead: it stays on them"
        )


def _check_removal(work: Work, defs: Definitions, noun: str, key: str, old: Any) -> None:
    users: list[str] = []
    if noun == "field":
        users += [f"the set {one.name}" for one in defs.sets.values() if key in one.fields]
        users += [f"the type {one.name}" for one in defs.types.values() if key in one.fields]
        held = products.count(work.session, products.Search(having=key))
        users += [f"{held} products with a value"] if held else []
    elif noun == "list":
        users += [f"the field {one.name}" for one in defs.fields.values() if one.list == key]
    elif noun == "set":
        users += [f"the type {one.name}" for one in defs.types.values() if key in one.sets]
    elif noun == "type":
        users += [f"the type {one.name} below it" for one in defs.types.values() if one.parent == key]
        held = products.counts_by_type(work.session).get(key, 0)
        users += [f"{held} products"] if held else []
    if users:
        more = f" and {len(users) - 4} more" if len(users) > 4 else ""
        raise Refusal("in_use", f"{old.name} is used by {', '.join(users[:4])}{more}", (), "Take it off there first")
