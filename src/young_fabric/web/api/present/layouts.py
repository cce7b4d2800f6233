"""Layouts in the API: what all nouns share, how one stands for its editor, edits, and what follows from them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from flask import Response

from young_fabric.core.display.cascade import read_scope
from young_fabric.core.nouns.layouts import layouts as noun
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.pages import alike_layouts, layouts, typed_words
from young_fabric.service.pages.arrangements import arrange_own, arrangement
from young_fabric.service.planning import plans
from young_fabric.web.api import answers, reply
from young_fabric.web.api.shared.nouns import NounApi, register_noun_api
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import layouts as s
from young_fabric.web.schemas.common import KeyPath


def _rows(unit: Work, key: str | None) -> Sequence[dict[str, Any]]:
    draft = plans.draft_of(unit.session)
    versions = draft.loaded.versions
    return [
        {
            "thing": layout,
            "version": versions.get((noun.NOUN.code, layout.key), 0),
            "built_in": layout.key not in draft.defs.things[noun.NOUN.code],
        }
        for layout in draft.defs.layouts.values()
        if key is None or layout.key == key
    ]


api = register_noun_api(NounApi(noun.NOUN, s.LayoutOut, _rows))


@api.get("/layouts/<key>/view", responses=answers(s.LayoutViewOut))
@allow(Right.LOOK)
def layouts_view(path: KeyPath) -> Response:
    """A layout with all its steps taken, for its editor; those the core brings too."""
    with work() as unit:
        return reply(s.LayoutViewOut, _view(layouts.layout_view(unit, path.key)))


def _view(view: layouts.LayoutView) -> dict[str, Any]:
    names = ("key", "name", "surface", "base", "version", "built_in", "taken_away", "lost", "uses", "builders", "shown")
    regions = [{"id": name, "blocks": blocks} for name, blocks in view.regions]
    return {**{name: getattr(view, name) for name in names}, "regions": regions}


@api.get("/layouts/<key>/alike", responses=answers(s.AlikeLayoutsOut))
@allow(Right.LOOK)
def layouts_alike(path: KeyPath) -> Response:
    """The layouts that are the same as one but for words."""
    with work() as unit:
        found = alike_layouts.alike_to(unit, path.key)
        layouts_of, passages = (found.layouts, found.differing) if found is not None else ((), ())
        return reply(
            s.AlikeLayoutsOut, {"layouts": layouts_of, "differing": [passage._asdict() for passage in passages]}
        )


@api.post("/layouts/<key>/alike", responses=answers(s.LayoutViewOut))
@allow(Right.EDIT)
def layouts_make_one(path: KeyPath) -> Response:
    """Make one layout of it and those alike, and a field of each place of words that differ."""
    with work() as unit:
        kept = alike_layouts.make_one(unit, path.key)
        return reply(s.LayoutViewOut, _view(layouts.layout_view(unit, kept)))


@api.get("/arrangements", responses=answers(s.ArrangementOut))
@allow(Right.LOOK)
def arrangement_get(query: s.ArrangementQuery) -> Response:
    """What a scope has for itself on a surface, or would have; it begins with its first edit."""
    with work() as unit:
        found = arrangement(unit, read_scope(query.scope), query.surface)
        return reply(s.ArrangementOut, {"key": found.key, "view": _view(found.view)})


@api.post("/arrangements/edits", responses=answers(s.LayoutViewOut))
@allow(Right.EDIT)
def arrangement_edit(body: s.ArrangementEditsIn) -> Response:
    """Edit what a scope has for itself on a surface; the first edit makes it."""
    with work() as unit:
        key = arrange_own(unit, read_scope(body.scope), body.surface, body.edits, body.version)
        return reply(s.LayoutViewOut, _view(layouts.layout_view(unit, key)))


@api.post("/layouts/<key>/edits", responses=answers(s.LayoutViewOut))
@allow(Right.EDIT)
def layouts_edit(path: KeyPath, body: s.LayoutEditsIn) -> Response:
    """Edit a layout, from the version that was read; what others changed meanwhile is kept."""
    with work() as unit:
        layouts.edit(unit, path.key, body.edits, body.version)
        return reply(s.LayoutViewOut, _view(layouts.layout_view(unit, path.key)))


@api.post("/layouts/<key>/edits/preview", responses=answers(s.LayoutConsequencesOut))
@allow(Right.LOOK)
def layouts_preview(path: KeyPath, body: s.TriedEditsIn) -> Response:
    """What edits would touch, and what they do to the layouts that build on it; nothing is written."""
    with work() as unit:
        found = layouts.preview(unit, path.key, body.edits)
        answer = {"consequences": found.consequences, "builders": found.builders, "view": _view(found.view)}
        return reply(s.LayoutConsequencesOut, answer)


@api.post("/layouts/<key>/blocks/<block>/field", responses=answers(s.LayoutViewOut))
@allow(Right.EDIT)
def layouts_words_to_field(path: s.BlockPath) -> Response:
    """Make the words of a block a field whose default they are."""
    with work() as unit:
        typed_words.make_field(unit, path.key, path.block)
        return reply(s.LayoutViewOut, _view(layouts.layout_view(unit, path.key)))


@api.post("/layouts/<key>/blocks/<block>/copy", responses=answers(s.LayoutViewOut))
@allow(Right.EDIT)
def layouts_words_to_copy(path: s.BlockPath) -> Response:
    """Make the words of a block shared copy."""
    with work() as unit:
        typed_words.make_copy(unit, path.key, path.block)
        return reply(s.LayoutViewOut, _view(layouts.layout_view(unit, path.key)))
