"""What all nouns share in the API, registered once a noun: list, open, make, change, remove, uses, consequences."""

# Annotations here are read when a noun is registered, so they are values, not text.
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from flask import Response
from flask_openapi3 import APIBlueprint
from pydantic import create_model

from young_fabric.core.nouns.base import Noun
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.foreseeing.value_effects import ValueEffects
from young_fabric.service.writing import writes
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import nouns as s
from young_fabric.web.schemas.common import Done, KeyPath, Out, VersionQuery


@dataclass(frozen=True)
class NounApi:
    """A noun in the API: its model, and the rows of all its things, or of the one with a key."""

    noun: Noun
    out: type[Out]
    rows: Callable[[Work, str | None], Sequence[Any]]


Dump = Callable[[Work, str], Response]


def register_noun_api(noun_api: NounApi) -> APIBlueprint:
    """The routes of a noun; its own module adds what is its own to them."""
    noun, out = noun_api.noun, noun_api.out
    api = blueprint(noun.plural)

    def dump(unit: Work, key: str) -> Response:
        rows = noun_api.rows(unit, key)
        return reply(out, rows[0] if rows else writes.need_current(unit, noun.code, key))

    _add_reading(api, noun_api, dump)
    _add_writing(api, noun_api, dump)
    _add_reach(api, noun)
    return api


def _add_reading(api: APIBlueprint, noun_api: NounApi, dump: Dump) -> None:
    noun, out = noun_api.noun, noun_api.out
    listed = create_model(f"{out.__name__}s", __base__=Out, __doc__=f"All {noun.name}s.", things=(list[out], ...))  # type: ignore[valid-type]

    def things_list() -> Response:
        """All things of the noun."""
        with work() as unit:
            return reply(listed, {"things": noun_api.rows(unit, None)})

    if not noun.sent.content:
        get_all = api.get(f"/{noun.plural}", responses=answers(listed), endpoint="things_list")
        get_all(allow(Right.LOOK)(things_list))

    @api.get(f"/{noun.plural}/<key>", responses=answers(out), endpoint="things_open")
    @allow(Right.LOOK)
    def things_open(path: KeyPath) -> Response:
        """One thing."""
        with work() as unit:
            writes.need_current(unit, noun.code, path.key)
            return dump(unit, path.key)


def _add_writing(api: APIBlueprint, noun_api: NounApi, dump: Dump) -> None:
    noun, out = noun_api.noun, noun_api.out
    new_model, patch_model = s.request_models(noun)

    @api.post(f"/{noun.plural}", responses=answers(out), endpoint="things_new")
    @allow(Right.EDIT)
    def things_new(body: new_model) -> Response:  # type: ignore[valid-type]
        """Make a thing: a name is enough."""
        with work() as unit:
            given = body.given()  # type: ignore[attr-defined]
            made = definitions.create(unit, noun.code, given["name"], given)
            return dump(unit, noun.calling.key_of(made.thing))

    if noun.blank is not None:

        @api.post(f"/{noun.plural}/<key>/copy", responses=answers(out), endpoint="things_copy")
        @allow(Right.EDIT)
        def things_copy(path: KeyPath) -> Response:
            """Make another that says the same, and whose name says that it is a copy."""
            with work() as unit:
                return dump(unit, noun.calling.key_of(definitions.copy(unit, noun.code, path.key).thing))

    @api.patch(f"/{noun.plural}/<key>", responses=answers(out), endpoint="things_change")
    @allow(Right.EDIT)
    def things_change(path: KeyPath, body: patch_model) -> Response:  # type: ignore[valid-type]
        """Change members of a thing; what others changed meanwhile is kept."""
        with work() as unit:
            given = body.given()  # type: ignore[attr-defined]
            definitions.change(unit, noun.code, path.key, given.pop("version"), given)
            return dump(unit, path.key)

    @api.delete(f"/{noun.plural}/<key>", responses=answers(Done), endpoint="things_remove")
    @allow(Right.EDIT)
    def things_remove(path: KeyPath, query: VersionQuery) -> Response:
        """Remove a thing that nothing holds fast."""
        with work() as unit:
            definitions.remove(unit, noun.code, path.key, query.version)
            return reply(Done, Done())


def _add_reach(api: APIBlueprint, noun: Noun) -> None:
    @api.get(f"/{noun.plural}/<key>/uses", responses=answers(s.UsesOut), endpoint="things_uses")
    @allow(Right.LOOK)
    def things_uses(path: KeyPath) -> Response:
        """What refers to a thing."""
        with work() as unit:
            return reply(s.UsesOut, {"uses": definitions.uses(unit, noun.code, path.key)})

    @api.post(
        f"/{noun.plural}/<key>/consequences", responses=answers(s.ConsequencesOut), endpoint="things_consequences"
    )
    @allow(Right.LOOK)
    def things_consequences(path: KeyPath, body: s.ConsequencesIn) -> Response:
        """What a change of a thing would touch; nothing is written."""
        with work() as unit:
            writes.need_current(unit, noun.code, path.key)
            thing = None if body.remove else definitions.changed_thing(unit, noun.code, path.key, body.changes)
            return reply(s.ConsequencesOut, definitions.consequences(unit, noun.code, path.key, thing))

    @api.post(f"/{noun.plural}/<key>/effects", responses=answers(s.ValueEffectsOut), endpoint="things_effects")
    @allow(Right.LOOK)
    def things_effects(path: KeyPath, body: s.EffectsIn) -> Response:
        """What would become of the next stored values, were a thing changed; nothing is written."""
        with work() as unit:
            thing = definitions.changed_thing(unit, noun.code, path.key, body.changes)
            found = definitions.effects_after(unit, noun.code, path.key, thing, body.after)
            return reply(s.ValueEffectsOut, found or ValueEffects())
