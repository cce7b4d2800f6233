"""Glances: a statement by itself, on connections of their own that come back after the database was away."""

from __future__ import annotations

import pytest
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from young_fabric.store.glances import Glances, NoGlance, of_session


def test_each_statement_is_a_transaction_of_its_own(own_engine: Engine) -> None:
    with Glances(own_engine, 1)() as glance:
        glance.execute("UPDATE shop SET name = 'Glanced at'")
        with own_engine.connect() as other:
            assert other.scalar(text("SELECT name FROM shop")) == "Glanced at"
        assert glance.execute("""SELECT '{"a": [1, null]}'::jsonb""").fetchone() == ({"a": [1, None]},)


def test_a_connection_that_was_lost_is_made_anew(own_engine: Engine) -> None:
    glances = Glances(own_engine, 1)
    with glances() as glance:
        lost = glance.info.backend_pid
    with own_engine.begin() as other:
        other.execute(text("SELECT pg_terminate_backend(:pid)"), {"pid": lost})
    with pytest.raises(NoGlance), glances() as glance:
        glance.execute("SELECT 1")
    with glances() as glance:
        assert glance.execute("SELECT 1").fetchone() == (1,)
        assert glance.info.backend_pid != lost


def test_none_is_waited_for_without_end(own_engine: Engine, monkeypatch: pytest.MonkeyPatch) -> None:
    glances = Glances(own_engine, 1)
    with glances():
        monkeypatch.setattr("young_fabric.store.glances.LONGEST_WAIT", 0.05)
        with pytest.raises(NoGlance), glances():
            pass
        monkeypatch.undo()
    with glances() as glance:
        assert glance.execute("SELECT 1").fetchone() == (1,)


def test_they_end_with_the_engine_and_begin_anew_after_it(own_engine: Engine) -> None:
    glances = Glances(own_engine, 2)
    with glances() as glance:
        held = glance
    own_engine.dispose()
    assert held.closed
    with glances() as glance:
        assert glance.execute("SELECT 1").fetchone() == (1,)


def test_what_a_session_speaks_on_sees_what_the_session_wrote(own_engine: Engine) -> None:
    with Session(own_engine) as session:
        session.execute(text("UPDATE shop SET name = 'Not committed'"))
        assert of_session(session).execute("SELECT name FROM shop").fetchone() == ("Not committed",)
        with Glances(own_engine, 1)() as glance:
            assert glance.execute("SELECT name FROM shop").fetchone() != ("Not committed",)
        session.rollback()
