"""What nouns share whose things gather products: putting them in by hand, by a pasted list, and gathering anew."""

# Annotations here are read when a noun is registered, so they are values, not text.
from flask import Response
from flask_openapi3 import APIBlueprint

from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import hands
from young_fabric.service.writing import by_hand
from young_fabric.web.api import answers, reply
from young_fabric.web.api.shared.nouns import NounApi
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import collections as s
from young_fabric.web.schemas.common import KeyPath
from young_fabric.web.schemas.nouns import ConsequencesOut


def add_hands(api: APIBlueprint, noun_api: NounApi) -> None:
    """The routes that put products into a noun's things."""
    noun, out = noun_api.noun, noun_api.out

    def opened(unit: Work, key: str) -> Response:
        return reply(out, noun_api.rows(unit, key)[0])

    @api.post(f"/{noun.plural}/<key>/hands", responses=answers(out), endpoint="things_hands")
    @allow(Right.EDIT)
    def things_hands(path: KeyPath, body: s.HandIn) -> Response:
        """Put products in by hand, keep them out, or leave them to the condition."""
        with work() as unit:
            by_hand.by_hand(unit, noun.code, path.key, body.ids, body.to)
            return opened(unit, path.key)

    @api.post(f"/{noun.plural}/<key>/skus", responses=answers(s.SkusOut), endpoint="things_skus")
    @allow(Right.EDIT)
    def things_skus(path: KeyPath, body: s.SkusIn) -> Response:
        """The same for a pasted list of SKUs."""
        with work() as unit:
            return reply(s.SkusOut, by_hand.paste(unit, noun.code, path.key, body.text, body.to))

    @api.post(
        f"/{noun.plural}/<key>/hands/consequences",
        responses=answers(ConsequencesOut),
        endpoint="things_hands_consequences",
    )
    @allow(Right.LOOK)
    def things_hands_consequences(path: KeyPath, body: s.HandsAskedIn) -> Response:
        """What it would touch to put products in by hand, or to keep them out; nothing is written."""
        with work() as unit:
            ids = [*body.ids, *(by_hand.named(unit, body.text).ids if body.text.strip() else ())]
            return reply(ConsequencesOut, hands.consequences(unit, noun.code, path.key, ids, body.to))

    @api.post(f"/{noun.plural}/<key>/gather", responses=answers(out), endpoint="things_gather")
    @allow(Right.EDIT)
    def things_gather(path: KeyPath) -> Response:
        """Have its products gathered whose job was stopped or lost."""
        with work() as unit:
            by_hand.gather(unit, noun.code, path.key)
            return opened(unit, path.key)
