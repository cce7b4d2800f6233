"""Fields, value lists, field sets and product types: one shape of handlers for the four."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.core import value_lists
from young_fabric.core.definitions import Definitions
from young_fabric.core.display import SURFACES
from young_fabric.core.errors import Refusal
from young_fabric.core.kinds import KINDS
from young_fabric.core.product_types import ancestry, descendants, type_path
from young_fabric.core.units import UNITS
from young_fabric.service import definitions, fields, plans, writes
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos import products
from young_fabric.store.repos.things import REPOS
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import definitions as s
from young_fabric.web.schemas.common import Done, KeyPath, VersionQuery

api = blueprint("definitions")


@api.get("/meta", responses=answers(s.MetaOut))
@allow(Right.LOOK)
def meta() -> Response:
    """Kinds, units, surfaces and the shop."""
    with work() as unit:
        shop = plans.draft(unit.session).shop
    kinds = [
        s.KindOut(
            code=k.code,
            name=k.name,
            example=k.example,
            limits=list(k.limits),
            takes_unit=k.takes_unit,
            takes_list=k.takes_list,
            takes_many=k.takes_many,
        )
        for k in KINDS.values()
        if k.own_fields
    ]
    return reply(
        s.MetaOut,
        s.MetaOut(
            kinds=kinds,
            units=[s.UnitOut(symbol=u.symbol, dimension=u.dimension) for u in UNITS],
            surfaces=[s.SurfaceOut(code=code, name=name) for code, name in SURFACES.items()],
            shop_name=shop.name,
            prefix=shop.prefix,
            currency=shop.currency,
        ),
    )


# Fields


@api.get("/fields", responses=answers(s.FieldsOut))
@allow(Right.LOOK)
def fields_list() -> Response:
    """All fields with use and filling."""
    with work() as unit:
        return reply(s.FieldsOut, {"fields": fields.overview(unit)})


@api.post("/fields", responses=answers(s.FieldUse))
@allow(Right.EDIT)
def fields_new(body: s.FieldNew) -> Response:
    """Make a field."""
    with work() as unit:
        made = definitions.create(unit, "field", body.name, body.given())
        return _field_use(unit, made.thing.key)


@api.patch("/fields/<key>", responses=answers(s.FieldUse))
@allow(Right.EDIT)
def fields_change(path: KeyPath, body: s.FieldPatch) -> Response:
    """Change a field."""
    with work() as unit:
        given = body.given()
        definitions.change(unit, "field", path.key, given.pop("version"), given)
        return _field_use(unit, path.key)


def _field_use(unit: Work, key: str) -> Response:
    found = next(one for one in fields.overview(unit) if one.field.key == key)
    return reply(s.FieldUse, found)


@api.delete("/fields/<key>", responses=answers(Done))
@allow(Right.EDIT)
def fields_remove(path: KeyPath, query: VersionQuery) -> Response:
    """Remove a field nothing uses."""
    return _remove("field", path, query)


@api.post("/fields/try", responses=answers(s.TryOut))
@allow(Right.LOOK)
def fields_try(body: s.TryIn) -> Response:
    """What typed texts become, with changes to the field that are not saved."""
    with work() as unit:
        defs = plans.draft(unit.session)
        if body.key in defs.fields:
            this = definitions.changed_thing(unit, "field", body.key, body.changes)
        elif body.key in defs.all_fields:
            this = defs.all_fields[body.key]
        else:
            raise Refusal("not_found", f"There is no field {body.key}", ("key",))
        rules = KINDS[this.kind]
        return reply(
            s.TryOut,
            {
                "tried": [
                    s.TriedOut(
                        text=one.text,
                        shown=one.shown,
                        stored=""
                        if one.value is None
                        else (rules.show(one.value, defs.spec(this)) if not this.many else one.shown),
                        code=one.wrong.code if one.wrong else None,
                        message=one.wrong.message if one.wrong else None,
                    )
                    for one in fields.attempt(unit, this, body.texts)
                ]
            },
        )


# Value lists


@api.get("/lists", responses=answers(s.ListsOut))
@allow(Right.LOOK)
def lists_list() -> Response:
    """All value lists."""
    with work() as unit:
        unit.need(Right.LOOK)
        defs = plans.draft(unit.session)
        return reply(
            s.ListsOut,
            {
                "lists": [
                    _list_out(defs, thing, version)
                    for thing, version in REPOS["list"].load(unit.session, None).values()
                ]
            },
        )


def _list_out(defs: Definitions, thing: value_lists.ValueList, version: int) -> dict[str, Any]:
    users = [one.key for one in defs.fields.values() if one.list == thing.key]
    return {"list": thing, "version": version, "fields": users}


@api.post("/lists", responses=answers(s.ListOut))
@allow(Right.EDIT)
def lists_new(body: s.NewNamed) -> Response:
    """Make a value list."""
    with work() as unit:
        made = definitions.create(unit, "list", body.name, {"key": body.key})
        return reply(s.ListOut, _list_out(plans.draft(unit.session), made.thing, made.version))


@api.patch("/lists/<key>", responses=answers(s.ListOut))
@allow(Right.EDIT)
def lists_change(path: KeyPath, body: s.ListPatch) -> Response:
    """Change a value list."""
    with work() as unit:
        given = body.given()
        made = definitions.change(unit, "list", path.key, given.pop("version"), given)
        return reply(s.ListOut, _list_out(plans.draft(unit.session), made.thing, made.version))


@api.delete("/lists/<key>", responses=answers(Done))
@allow(Right.EDIT)
def lists_remove(path: KeyPath, query: VersionQuery) -> Response:
    """Remove a value list nothing uses."""
    return _remove("list", path, query)


@api.post("/lists/<key>/paste", responses=answers(s.PasteOut))
@allow(Right.EDIT)
def lists_paste(path: KeyPath, body: s.PasteIn) -> Response:
    """Read a pasted list of values, and write it when asked to."""
    with work() as unit:
        thing, version = writes.need_current(unit, "list", path.key)
        pasted = value_lists.paste(thing, body.text)
        if body.apply:
            version = writes.write(unit, "list", path.key, pasted.result, body.version).version
        skipped = [{"line": line, "text": text, "reason": reason} for line, text, reason in pasted.skipped]
        return reply(
            s.PasteOut, {"added": list(pasted.added), "skipped": skipped, "list": pasted.result, "version": version}
        )


# Field sets


def _set_out(unit: Work, thing: Any, version: int) -> dict[str, Any]:
    defs = plans.draft(unit.session)
    counts = products.counts_by_type(unit.session)
    users = [key for key in defs.types if any(thing.key in defs.types[up].sets for up in defs.chain(key))]
    return {"set": thing, "version": version, "types": users, "products": sum(counts.get(key, 0) for key in users)}


@api.get("/sets", responses=answers(s.SetsOut))
@allow(Right.LOOK)
def sets_list() -> Response:
    """All field sets."""
    with work() as unit:
        unit.need(Right.LOOK)
        defs = plans.draft(unit.session)
        counts = products.counts_by_type(unit.session)
        out = []
        for thing, version in REPOS["set"].load(unit.session, None).values():
            users = [key for key in defs.types if any(thing.key in defs.types[up].sets for up in defs.chain(key))]
            held = sum(counts.get(key, 0) for key in users)
            out.append({"set": thing, "version": version, "types": users, "products": held})
        return reply(s.SetsOut, {"sets": out})


@api.post("/sets", responses=answers(s.SetOut))
@allow(Right.EDIT)
def sets_new(body: s.NewNamed) -> Response:
    """Make a field set."""
    with work() as unit:
        made = definitions.create(unit, "set", body.name, {"key": body.key})
        return reply(s.SetOut, _set_out(unit, made.thing, made.version))


@api.patch("/sets/<key>", responses=answers(s.SetOut))
@allow(Right.EDIT)
def sets_change(path: KeyPath, body: s.SetPatch) -> Response:
    """Change a field set."""
    with work() as unit:
        given = body.given()
        made = definitions.change(unit, "set", path.key, given.pop("version"), given)
        return reply(s.SetOut, _set_out(unit, made.thing, made.version))


@api.delete("/sets/<key>", responses=answers(Done))
@allow(Right.EDIT)
def sets_remove(path: KeyPath, query: VersionQuery) -> Response:
    """Remove a field set no type takes."""
    return _remove("set", path, query)


# Product types


def _type_out(unit: Work, thing: Any, version: int, counts: dict[str, int] | None = None) -> dict[str, Any]:
    types = plans.draft(unit.session).types
    held = counts if counts is not None else products.counts_by_type(unit.session)
    return {
        "type": thing,
        "version": version,
        "path": type_path(thing.key, types),
        "ancestors": list(ancestry(thing.key, types)[1:]),
        "products": held.get(thing.key, 0),
        "below": sum(held.get(key, 0) for key in descendants(thing.key, types)),
    }


@api.get("/types", responses=answers(s.TypesOut))
@allow(Right.LOOK)
def types_list() -> Response:
    """All product types, parents before children."""
    with work() as unit:
        unit.need(Right.LOOK)
        counts = products.counts_by_type(unit.session)
        rows = [_type_out(unit, *pair, counts) for pair in REPOS["type"].load(unit.session, None).values()]
        return reply(s.TypesOut, {"types": sorted(rows, key=lambda row: row["path"])})


@api.post("/types", responses=answers(s.TypeOut))
@allow(Right.EDIT)
def types_new(body: s.NewNamed) -> Response:
    """Make a product type."""
    with work() as unit:
        made = definitions.create(unit, "type", body.name, {"key": body.key, "parent": body.parent})
        return reply(s.TypeOut, _type_out(unit, made.thing, made.version))


@api.patch("/types/<key>", responses=answers(s.TypeOut))
@allow(Right.EDIT)
def types_change(path: KeyPath, body: s.TypePatch) -> Response:
    """Change a product type."""
    with work() as unit:
        given = body.given()
        made = definitions.change(unit, "type", path.key, given.pop("version"), given)
        return reply(s.TypeOut, _type_out(unit, made.thing, made.version))


@api.delete("/types/<key>", responses=answers(Done))
@allow(Right.EDIT)
def types_remove(path: KeyPath, query: VersionQuery) -> Response:
    """Remove a product type without products and children."""
    return _remove("type", path, query)


@api.get("/types/<key>/fields", responses=answers(s.EffectiveOut))
@allow(Right.LOOK)
def types_fields(path: KeyPath) -> Response:
    """All fields of a type with where each comes from."""
    with work() as unit:
        unit.need(Right.LOOK)
        writes.need_current(unit, "type", path.key)
        return reply(s.EffectiveOut, {"fields": plans.draft(unit.session).effective(path.key)})


# Consequences


_NOUNS = {"fields": "field", "lists": "list", "sets": "set", "types": "type"}


class PluralPath(KeyPath):
    """A thing by its noun's plural and key."""

    nouns: str


@api.post("/<nouns>/<key>/consequences", responses=answers(s.ConsequencesOut))
@allow(Right.LOOK)
def consequences(path: PluralPath, body: s.ConsequencesIn) -> Response:
    """What a change of a definition would touch; nothing is written."""
    if path.nouns not in _NOUNS:
        raise Refusal("not_found", f"There is nothing called {path.nouns}", ("nouns",))
    noun = _NOUNS[path.nouns]
    with work() as unit:
        thing = None if body.remove else definitions.changed_thing(unit, noun, path.key, body.changes)
        return reply(s.ConsequencesOut, consequences_out(definitions.consequences(unit, noun, path.key, thing)))


def consequences_out(found: definitions.Consequences) -> dict[str, Any]:
    """Consequences as the response has them."""
    outside = found.outside
    told = (
        None
        if outside is None
        else {
            "values": outside.values,
            "wrong": outside.wrong,
            "examples": [{"id": number, "title": title} for number, title in outside.examples],
        }
    )
    return {**vars(found), "outside": told}


def _remove(noun: str, path: KeyPath, query: VersionQuery) -> Response:
    with work() as unit:
        definitions.remove(unit, noun, path.key, query.version)
        return reply(Done, Done())
