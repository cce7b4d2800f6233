"""Shared copy: what all nouns have, and the places that keep their own words."""

from __future__ import annotations

from flask import Response

from young_fabric.core.nouns.content.shared_copies import NOUN
from young_fabric.service.acting.actors import Right
from young_fabric.service.defining import shared_copies
from young_fabric.web.api import answers, reply
from young_fabric.web.api.shared.nouns import NounApi, register_noun_api
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import shared_copies as s
from young_fabric.web.schemas.common import KeyPath

api = register_noun_api(NounApi(NOUN, s.SharedCopyOut, shared_copies.overview))


@api.get("/shared_copies/<key>/places", responses=answers(s.OwnWordsListOut))
@allow(Right.LOOK)
def copies_places(path: KeyPath) -> Response:
    """Which places keep their own words, and how those differ."""
    with work() as unit:
        return reply(s.OwnWordsListOut, {"places": shared_copies.own_words(unit, path.key)})
