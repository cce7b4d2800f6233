"""Records: what all nouns have, listed by pages; their own values; and things to refer to."""

from __future__ import annotations

from flask import Response
from pydantic import BaseModel

from young_fabric.core.nouns.content.records import NOUN
from young_fabric.service.acting.actors import Right
from young_fabric.service.defining import records
from young_fabric.service.products import references
from young_fabric.web.api import answers, reply
from young_fabric.web.api.shared.holders import add_own_fields
from young_fabric.web.api.shared.nouns import NounApi, register_noun_api
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import records as s
from young_fabric.web.schemas.common import Key

api = register_noun_api(NounApi(NOUN, s.RecordOut, records.overview))
add_own_fields(api, NOUN)


class NounPath(BaseModel):
    """What is referred to: record_type, collection or product."""

    noun: Key


@api.get("/records", responses=answers(s.RecordsOut))
@allow(Right.LOOK)
def records_page(query: s.RecordsQuery) -> Response:
    """Records by name, a page at a time."""
    with work() as unit:
        return reply(s.RecordsOut, records.page(unit, query.type, query.words, query.offset))


@api.get("/references/<noun>", responses=answers(s.ReferencesOut))
@allow(Right.LOOK)
def references_choices(path: NounPath, query: s.ReferenceQuery) -> Response:
    """Things that values can refer to, those whose name begins with the words first."""
    with work() as unit:
        found = references.choices(unit, (path.noun, query.of), query.words)
        return reply(s.ReferencesOut, {"choices": found})
