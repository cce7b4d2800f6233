"""Use cases of definitions: make, change, remove, and say beforehand what a change would touch."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any
from uuid import uuid4

from pydantic import ValidationError

from young_fabric.core import value_lists
from young_fabric.core.definitions import Definitions
from young_fabric.core.display import DisplaySetting, Scope
from young_fabric.core.errors import Refusal
from young_fabric.core.field_sets import FieldSet, Section
from young_fabric.core.fields import Field, make_key
from young_fabric.core.plans import Plans, changed_types, reached_types
from young_fabric.core.product_types import ProductType
from young_fabric.core.values import read_field
from young_fabric.service import field_values, plans, writes
from young_fabric.service.actors import Clash, Right, Work
from young_fabric.service.field_values import Outside
from young_fabric.service.writes import Written
from young_fabric.store.repos import products
from young_fabric.store.states import state_of, thing_of


def create(work: Work, noun: str, name: str, given: Mapping[str, Any]) -> Written:
    """Make a thing from its name; all else has a good default. Raises Refusal."""
    work.need(Right.EDIT)
    defs = plans.draft(work.session)
    name = name.strip()
    if not name:
        raise Refusal("required", "It needs a name", ("name",), "Type a name")
    if len(name) > 80:
        raise Refusal("long", "At most 80 characters fit", ("name",), "Shorten it")
    key = str(given.get("key") or "") or _new_key(defs, noun, name)
    blank: dict[str, Any] = {
        "field": lambda: Field(key, name, name, "text"),
        "list": lambda: value_lists.ValueList(key, name),
        "set": lambda: FieldSet(key, name, (Section("main", "General"),)),
        "type": lambda: ProductType(key, name, slug=_new_slug(defs, name)),
    }
    state = {**state_of(noun, blank[noun]()), **{k: v for k, v in given.items() if v is not None}, "key": key}
    return writes.write(work, noun, key, _read(noun, key, state, defs), None)


def _new_key(defs: Definitions, noun: str, name: str) -> str:
    if noun == "field":
        return make_key(name, defs.shop.prefix, defs.all_fields)
    return make_key(name, "", {"list": defs.lists, "set": defs.sets, "type": defs.types}[noun])


def _new_slug(defs: Definitions, name: str) -> str:
    return value_lists.make_code(name, [one.slug for one in defs.types.values()])


def _read(noun: str, key: str, state: Mapping[str, Any], defs: Definitions) -> Any:
    try:
        thing = thing_of(noun, key, state)
    except ValidationError as error:
        first = error.errors()[0]
        raise Refusal("shape", str(first["msg"]), tuple(first["loc"]), "Send it in the shape of the API") from error
    if noun == "field" and isinstance(thing.default, str):
        read = read_field(thing, thing.default, defs.spec(thing))
        if read.wrong:
            raise Refusal(read.wrong.code, f"The default: {read.wrong}", ("default",), read.wrong.help)
        thing = replace(thing, default=read.value)
    if noun == "type" and not re.fullmatch(r"[a-z0-9]+(-[a-z0-9]+)*", thing.slug):
        raise Refusal(
            "pattern", "An address has small letters, digits and hyphens", ("slug",), "Such as watercolour-paper"
        )
    return thing


def change(work: Work, noun: str, key: str, version: int, given: Mapping[str, Any]) -> Written:
    """Change members of a thing. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    return writes.write(work, noun, key, changed_thing(work, noun, key, given), version)


def changed_thing(work: Work, noun: str, key: str, given: Mapping[str, Any]) -> Any:
    """A thing with members changed, not written."""
    before, _ = writes.need_current(work, noun, key)
    state = {**state_of(noun, before), **given, "key": key}
    return _read(noun, key, state, plans.draft(work.session))


def remove(work: Work, noun: str, key: str, version: int) -> Written:
    """Remove a thing nothing uses, and what is only said of it. Raises Refusal, Clash.

    A field takes along its display settings and what types say of its need, a type the settings said for it; undo
    brings all of it back.
    """
    work.need(Right.EDIT)
    group = uuid4().hex
    defs = plans.draft(work.session)
    for setting_key, setting in defs.settings.items():
        if (noun == "field" and setting.field == key) or (noun == "type" and setting.scope == Scope("type", key)):
            writes.write(work, "setting", setting_key, None, -1, group=group)
    if noun == "field":
        for kind in defs.types.values():
            if key in kind.needs:
                needs = {name: need for name, need in kind.needs.items() if name != key}
                writes.write(work, "type", kind.key, replace(kind, needs=needs), -1, group=group)
    return writes.write(work, noun, key, None, version, group=group)


def display(work: Work, scope: Scope, field: str, surface: str, given: Mapping[str, Any], version: int) -> Written:
    """Set properties for a scope, field and surface; a property given as None goes back to inherited.

    `version` is the one read, 0 when nothing was set there. Raises Refusal, Clash.
    """
    work.need(Right.EDIT)
    key, thing = changed_setting(work, scope, field, surface, given)
    found = writes.current(work, "setting", key)
    if (found[1] if found else 0) != version:
        theirs = dict(found[0].set) if found else {}
        raise Clash("This display setting", dict(given), theirs, found[1] if found else 0)
    if thing is None and found is None:
        return Written(None, 0, None)
    return writes.write(work, "setting", key, thing, -1)


def changed_setting(
    work: Work, scope: Scope, field: str, surface: str, given: Mapping[str, Any]
) -> tuple[str, DisplaySetting | None]:
    """(key, setting) with properties put and taken away; no setting when none are left. Raises Refusal."""
    defs = plans.draft(work.session)
    if scope.kind == "type" and scope.key not in defs.types:
        raise Refusal("not_found", f"There is no product type {scope.key}", ("scope",))
    if scope.kind == "product" and int(scope.key) not in products.get(work.session, [int(scope.key)]):
        raise Refusal("not_found", f"There is no product {scope.key}", ("scope",))
    key = f"{scope}/{field}/{surface}"
    found = writes.current(work, "setting", key)
    old = dict(found[0].set) if found else {}
    new = {prop: value for prop, value in {**old, **given}.items() if value is not None}
    return key, DisplaySetting(scope, field, surface, new) if new else None


@dataclass(frozen=True)
class Consequences:
    """What a change would touch: products that have the thing, pages and cards that would differ, values made wrong."""

    types: int
    products: int
    pages: int
    cards: int
    outside: Outside | None


def consequences(work: Work, noun: str, key: str, thing: Any | None) -> Consequences:
    """What writing a definition would touch, found without writing."""
    work.need(Right.LOOK)
    before = plans.draft_plans(work.session)
    old = {
        "field": before.defs.fields,
        "list": before.defs.lists,
        "set": before.defs.sets,
        "type": before.defs.types,
        "setting": before.defs.settings,
    }[noun].get(key)
    after = Plans(before.defs.having(noun, key, thing))
    counts = products.counts_by_type(work.session)
    if key.startswith("product:"):
        return Consequences(0, 1, int(_shows_on(thing, "product_page")), int(_shows_on(thing, "listing_card")), None)
    reached = reached_types(before, noun, key) | reached_types(after, noun, key)
    differ = changed_types(before, after)
    found = None
    if noun == "field" and isinstance(thing, Field) and isinstance(old, Field) and old.limits != thing.limits:
        found = field_values.outside(work, thing, after.defs)
    pages = differ["product_page"] | differ["structured_data"]
    holders = _holders(work, noun, old, thing, after)
    return Consequences(
        len(reached),
        sum(counts.get(one, 0) for one in reached),
        _sum(pages, holders or counts),
        _sum(differ["listing_card"], holders or counts),
        found,
    )


def _shows_on(thing: DisplaySetting | None, surface: str) -> bool:
    return thing is None or thing.surface in (surface, "*")


def _holders(work: Work, noun: str, old: Any, new: Any, after: Plans) -> dict[str, int] | None:
    """For a setting of one field that leaves empty ones out: only products with a value are touched."""
    setting = new or old
    if noun != "setting" or setting.field == "*" or setting.field in ("unit_price",):
        return None
    this = after.defs.all_fields.get(setting.field)
    dashes = any(
        "dash" in dict(one.set).values() for one in after.defs.settings.values() if one.field in ("*", setting.field)
    )
    if this is None or this.default is not None or dashes or "dash" in dict(setting.set).values():
        return None
    return products.counts_by_type(work.session, setting.field) or {"": 0}


def _sum(types: frozenset[str], counts: Mapping[str, int]) -> int:
    return sum(counts.get(one, 0) for one in types)
