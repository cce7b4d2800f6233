"""News: what others wrote since a studio last asked, and who has the same thing open."""

from __future__ import annotations

from typing import Any

from flask import Response, current_app

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting.actors import Actor
from young_fabric.service.acting.news import Bulletin
from young_fabric.store.glances import NoGlance
from young_fabric.store.repos.news import NewsItem, Presence
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import HEARER, allow, hearer
from young_fabric.web.schemas import news as s

api = blueprint("news")


@api.post("/news", responses=answers(s.NewsOut))
@allow(HEARER, quiet=True)
def news_hear(body: s.NewsIn) -> Response:
    """What others wrote since a mark, for a window of the studio that has something open, and who has it open too."""
    person = hearer()
    if person is None:
        raise Refusal("signed_out", "You are signed out", (), "Sign in again: what you typed is kept")
    bulletin: Bulletin = current_app.extensions["bulletin"]
    try:
        heard = bulletin.hear(Presence(body.window, person.id, person.name, body.noun, body.key), body.since)
    except NoGlance as error:
        raise Refusal("unavailable", "The database can't be reached", (), "Try again in a moment") from error
    items = [_item(item, person) for item in heard.items]
    return reply(s.NewsOut, {"mark": heard.mark, "missed": heard.missed, "items": items, "people": heard.people})


def _item(item: NewsItem, person: Actor) -> dict[str, Any]:
    things = [{"noun": noun, "key": key, "version": version} for noun, key, version in item.things or ()]
    return {
        "id": item.id,
        "by": item.person,
        "mine": item.person_id == person.id,
        "nouns": item.nouns,
        "things": None if item.things is None else things,
    }
