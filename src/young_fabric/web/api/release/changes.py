"""The history of changes, undo and redo."""

from __future__ import annotations

from flask import Response

from young_fabric.service import history
from young_fabric.service.acting.actors import Right
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import release as s
from young_fabric.web.schemas.common import NumberPath

api = blueprint("changes")


@api.get("/changes", responses=answers(s.ChangesOut))
@allow(Right.LOOK)
def changes_list(query: s.ChangesQuery) -> Response:
    """Changes of a thing, or of all, last first."""
    with work() as unit:
        return reply(s.ChangesOut, {"changes": history.history(unit, query.noun, query.key, query.before)})


@api.post("/changes/<id:number>/undo", responses=answers(s.UndoneOut))
@allow(Right.EDIT)
def changes_undo(path: NumberPath) -> Response:
    """Take back a change."""
    with work() as unit:
        return reply(s.UndoneOut, history.undo(unit, path.number))


@api.post("/undo", responses=answers(s.UndoneOut))
@allow(Right.EDIT)
def undo() -> Response:
    """Take back one's own last change."""
    with work() as unit:
        return reply(s.UndoneOut, history.undo_last(unit))


@api.post("/redo", responses=answers(s.UndoneOut))
@allow(Right.EDIT)
def redo() -> Response:
    """Do again what one last took back."""
    with work() as unit:
        return reply(s.UndoneOut, history.redo_last(unit))
