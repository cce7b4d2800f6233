"""Value lists: what all nouns have, and pasting values."""

from __future__ import annotations

from flask import Response

from young_fabric.core.nouns.value_lists import NOUN
from young_fabric.service import value_lists
from young_fabric.service.actors import Right
from young_fabric.web.api import answers, reply
from young_fabric.web.api.nouns import NounApi, register_noun_api
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import nouns as s
from young_fabric.web.schemas.common import KeyPath

api = register_noun_api(NounApi(NOUN, s.ValueListOut, value_lists.overview))


@api.post("/value_lists/<key>/paste", responses=answers(s.PasteOut))
@allow(Right.EDIT)
def lists_paste(path: KeyPath, body: s.PasteIn) -> Response:
    """Read a pasted list of values, and write it when asked to."""
    with work() as unit:
        done = value_lists.paste_values(unit, path.key, body.text, body.version, body.apply)
        skipped = [{"line": line, "text": text, "reason": reason} for line, text, reason in done.pasted.skipped]
        added = list(done.pasted.added)
        return reply(
            s.PasteOut, {"added": added, "skipped": skipped, "list": done.pasted.result, "version": done.version}
        )
