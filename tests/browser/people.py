"""What people of the shop do elsewhere while a browser looks on."""

from __future__ import annotations

import contextlib

from sqlalchemy import select

from tests.browser.studio import Studio
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.people import actor_of
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.store.base import make_sessions
from young_fabric.store.tables import PersonRow


def working(studio: Studio, place: int = 0) -> contextlib.AbstractContextManager[Work]:
    """What somebody does elsewhere meanwhile: Rosa, who may do all, or another by their place among the people of the demo."""
    sessions = make_sessions(studio.engine)
    with sessions() as session:
        people = session.scalars(select(PersonRow).order_by(PersonRow.id)).all()
        actor = actor_of(people[place])
    return unit_of_work(sessions, actor)
