"""Fields: what all nouns have, and trying a value."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from flask import Response

from young_fabric.core.nouns.fields.fields import NOUN
from young_fabric.service.acting.actors import Right
from young_fabric.service.defining import definitions, field_merging, fields, housekeeping, new_fields
from young_fabric.service.defining.field_merging import FieldMerge
from young_fabric.service.defining.new_fields import Taker
from young_fabric.service.foreseeing import value_effects
from young_fabric.web.api import answers, reply
from young_fabric.web.api.shared.downloads import csv_answer, table
from young_fabric.web.api.shared.nouns import NounApi, register_noun_api
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import nouns as s
from young_fabric.web.schemas.common import Done, KeyPath

api = register_noun_api(NounApi(NOUN, s.FieldOut, fields.overview))


@api.post("/fields/whole", responses=answers(s.FieldOut))
@allow(Right.EDIT)
def fields_whole(body: s.WholeFieldIn) -> Response:
    """Make a field with a list of its own, and put it in a set or type, all in one stroke."""
    with work() as unit:
        given = {name: value for name, value in body.given().items() if name not in ("name", "values", "into", "shown")}
        into = None if body.into is None else Taker(body.into.noun, body.into.key)
        key = new_fields.make(unit, body.name, given, body.values, into, shown=body.shown)
        return reply(s.FieldOut, fields.overview(unit, key)[0])


@api.get("/fields/starters", responses=answers(s.StartersOut))
@allow(Right.LOOK)
def fields_starters() -> Response:
    """Ready definitions of what nearly every shop records."""
    with work() as unit:
        rows = [
            {
                **vars(row.starter),
                "kind": row.starter.kind_words,
                "there": row.there,
                **_starter_words(row.starter.members),
            }
            for row in new_fields.offered(unit)
        ]
    return reply(s.StartersOut, {"fields": rows})


def _starter_words(members: Mapping[str, Any]) -> dict[str, str]:
    return {name: members.get(name, "") for name in ("help", "schema_org")}


@api.post("/fields/starters", responses=answers(s.AddedFieldsOut))
@allow(Right.EDIT)
def fields_add_starters(body: s.AddStartersIn) -> Response:
    """Make the fields of some starters, and put them in a set or type, all in one stroke."""
    into = None if body.into is None else Taker(body.into.noun, body.into.key)
    with work() as unit:
        return reply(s.AddedFieldsOut, {"keys": new_fields.add_starters(unit, body.keys, into)})


@api.post("/fields/try", responses=answers(s.TryOut))
@allow(Right.LOOK)
def fields_try(body: s.TryIn) -> Response:
    """What typed texts become, with changes to the field that are not saved."""
    with work() as unit:
        tried = fields.try_texts(unit, body.key, body.changes, body.texts)
        rows = [
            s.TriedOut(
                text=row.text,
                shown=row.shown,
                stored=row.stored,
                code=row.wrong.code if row.wrong else None,
                message=row.wrong.message if row.wrong else None,
            )
            for row in tried.texts
        ]
        return reply(s.TryOut, {"tried": rows, "example": tried.example})


@api.get("/fields/<key>/fits", responses=answers(s.FitsOut))
@allow(Right.LOOK)
def fields_fits(path: KeyPath) -> Response:
    """Which kinds the values of a field fit."""
    with work() as unit:
        return reply(s.FitsOut, value_effects.kinds_that_fit(unit, path.key))


@api.get("/fields/<key>/wrong.csv", responses=csv_answer())
@allow(Right.LOOK)
def fields_wrong(path: KeyPath) -> Response:
    """Every product whose value of a field is wrong or kept aside, as CSV: id, SKU, title, what was typed, and why."""

    def rows(after: int) -> list[tuple[int, list[str]]]:
        with work() as unit:
            found = value_effects.wrong_values(unit, path.key, after)
        return [(row.product, [str(row.product), row.sku, row.title, row.typed, row.reason]) for row in found]

    return table(f"{path.key}-wrong", ["id", "sku", "title", path.key, "reason"], rows)


@api.post("/fields/<key>/merge", responses=answers(s.FieldMergeOut))
@allow(Right.EDIT)
def fields_merge(path: KeyPath, body: s.FieldMergeIn) -> Response:
    """Merge a field into another, or tell what that would touch."""
    merge = FieldMerge(path.key, body.into)
    with work() as unit:
        touched = field_merging.reach(unit, merge)
        job = field_merging.merge_fields(unit, merge) if body.apply else None
    examples = [{"noun": noun, "key": holder.key, "name": holder.name} for noun, holder in touched.examples]
    differ = {"count": touched.differ, "name": touched.counted[touched.differ != 1]}
    found = {"moves": touched.moves, "differ": differ, "examples": examples}
    return reply(s.FieldMergeOut, {**found, "definitions": list(touched.definitions), "job": job})


@api.post("/removal/consequences", responses=answers(s.ConsequencesOut))
@allow(Right.LOOK)
def removal_consequences(body: s.RemovalIn) -> Response:
    """What it would touch to remove several things; nothing is removed."""
    with work() as unit:
        gone = [(thing.noun, thing.key, None) for thing in body.things]
        return reply(s.ConsequencesOut, definitions.consequences_of_all(unit, gone))


@api.post("/removal", responses=answers(Done))
@allow(Right.EDIT)
def removal(body: s.RemovalIn) -> Response:
    """Remove several things in one stroke: all of them, or none."""
    with work() as unit:
        definitions.remove_all(unit, [(thing.noun, thing.key, thing.version) for thing in body.things])
        return reply(Done, Done())


@api.get("/housekeeping", responses=answers(s.FindingsOut))
@allow(Right.LOOK)
def housekeeping_findings() -> Response:
    """What is unused, never filled, or looks like another."""
    with work() as unit:
        return reply(s.FindingsOut, {"findings": housekeeping.findings(unit)})
