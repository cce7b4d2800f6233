"""Products worth proving with."""

from __future__ import annotations

from flask import Response

from young_fabric.service.acting.actors import Right
from young_fabric.service.pages import proofs
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import present as s

api = blueprint("examples")


@api.get("/example", responses=answers(s.ExampleOut))
@allow(Right.LOOK)
def example_get(query: s.ExampleQuery) -> Response:
    """A product whose pages read a thing: something to prove with."""
    with work() as unit:
        record = proofs.example_record(unit, query.noun, query.key)
        if record is not None:
            return reply(s.ExampleOut, {"product": None, "title": record.name, "record": record.key})
        found = proofs.example_for(unit, query.noun, query.key)
        return reply(s.ExampleOut, {"product": found.id if found else None, "title": found.title if found else ""})


@api.get("/examples", responses=answers(s.ExamplesOut))
@allow(Right.LOOK)
def examples_get(query: s.FieldQuery) -> Response:
    """Products worth proving a field with: one that has a value, one that lacks it, the longest."""
    with work() as unit:
        return reply(s.ExamplesOut, {"examples": proofs.examples_of(unit, query.field)})
