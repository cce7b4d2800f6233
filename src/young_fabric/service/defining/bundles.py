"""Definitions as files: out as one document, and in again after a plan, all or nothing, undone in one stroke."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from pydantic import TypeAdapter

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import ABSENT
from young_fabric.core.interchange.bundle import DEFINED, PlannedThing, bundle_of, bundle_schema, plan_import, things_of
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.nouns.types.product_types import NOUN as TYPE
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit, ThingEdit
from young_fabric.store.repos import files, shop
from young_fabric.store.repos.definitions import StoredThing


def export(work: Work, type_key: str | None = None) -> dict[str, Any]:
    """All definitions as one document, or one product type with all it needs. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    if type_key is None:
        return bundle_of(defs)
    if type_key not in defs.types:
        raise Refusal("not_found", f"There is no product type {type_key[:60]}", ("type",), "Choose another")
    return bundle_of(defs, [(TYPE.code, type_key)])


def plan(work: Work, data: Any, from_file: bool) -> Sequence[PlannedThing]:
    """What importing a document comes to; nothing is written. Raises Refusal."""
    work.need(Right.LOOK)
    named = {file for noun, thing in things_of(data, writes.read_thing) for file in noun.sent.files(thing)}
    stored = frozenset(files.stored(work.session, sorted(named))) if named else frozenset()
    return plan_import(data, plans.draft(work.session), writes.read_thing, stored, from_file)


def import_definitions(work: Work, data: Any, from_file: bool) -> Sequence[PlannedThing]:
    """Import a document in one stroke: all of it, or nothing. Raises Refusal with the thing in `where`, Clash."""
    work.need(Right.EDIT)
    shop.lock_definitions(work.session)
    plans.refresh(work.session)
    planned = plan(work, data, from_file)
    wanted = [ThingEdit(thing.noun, thing.key, _to(thing)) for thing in planned if thing.lines]
    names = {(thing.noun, thing.key): thing.name for thing in planned}

    def placed_at(noun: str, key: str, refusal: Refusal) -> Refusal:
        words = f"{NOUNS[noun].name.capitalize()} {names.get((noun, key), key)}: {refusal.message}"
        return Refusal(refusal.code, words, ("bundle", noun, key), refusal.help)

    writes.apply_many(work, wanted, placed_at=placed_at)
    return planned


def _to(thing: PlannedThing) -> Any:
    def edit(current: StoredThing | None) -> Edit:
        return Edit(state_of(current.thing) if current else ABSENT, dict(thing.state))

    return edit


def schema() -> dict[str, Any]:
    """The JSON Schema of such documents."""
    return bundle_schema({code: _state_schema(code) for code in DEFINED})


def _state_schema(code: str) -> dict[str, Any]:
    noun = NOUNS[code]
    made = TypeAdapter(noun.type).json_schema()
    made["properties"] = {name: member for name, member in made["properties"].items() if name not in noun.sent.local}
    whole: dict[str, Any] = _without_refs(made, made.pop("$defs", {}))
    return whole


def _without_refs(schema: Any, known: dict[str, Any]) -> Any:
    """A schema with what it refers to written out, so that it can stand inside another."""
    if isinstance(schema, list):
        return [_without_refs(item, known) for item in schema]
    if not isinstance(schema, dict):
        return schema
    if "$ref" in schema:
        return _without_refs(known[schema["$ref"].rsplit("/", 1)[-1]], known)
    return {name: _without_refs(member, known) for name, member in schema.items()}
