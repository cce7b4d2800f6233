"""Handing in long work: a job's row, and the worker told once all is committed."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from sqlalchemy.exc import IntegrityError

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting.actors import Work
from young_fabric.store.repos import jobs


def hand_in(work: Work, kind: str, args: Mapping[str, Any], exclusive: str | None = None, busy: str = "") -> int:
    """Ask for a job; gives its id. Raises Refusal `busy` when an open one excludes it."""
    try:
        with work.session.begin_nested():
            number = jobs.add(work.session, kind, work.actor.id, exclusive, args, work.now)
    except IntegrityError as error:
        raise Refusal("busy", busy, (), "Wait until it is done, or stop it") from error
    work.asked.append(number)
    return number
