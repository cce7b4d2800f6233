"""A client of the application inside the test's transaction."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import nullcontext
from pathlib import Path
from typing import Any

import pytest
from flask import Flask
from flask.testing import FlaskClient
from sqlalchemy import Connection, Engine
from sqlalchemy.orm import Session
from werkzeug.test import TestResponse

from young_fabric.config import Settings
from young_fabric.demo.load import PEOPLE
from young_fabric.service.long_work import job_runs
from young_fabric.web.app import create_app, wire
from young_fabric.web.auth import CSRF_HEADER

SECRET = "a-secret-for-tests-that-is-long-enough"


class Api:
    """A browser session: keeps the cookie and sends the CSRF token."""

    def __init__(self, client: FlaskClient) -> None:
        self.client = client
        self.csrf = self.client.get("/api/session").get_json()["csrf"]

    def sign_in(self, place: int = 0) -> Api:
        email, _, password, _ = PEOPLE[place]
        signed_in = self.send("POST", "/api/session", {"email": email, "password": password}).get_json()
        self.csrf = signed_in["csrf"]
        return self

    def send(self, method: str, path: str, body: Any = None, **more: Any) -> TestResponse:
        headers = {CSRF_HEADER: self.csrf, **more.pop("headers", {})}
        return self.client.open(path, method=method, json=body, headers=headers, **more)

    def get(self, path: str) -> Any:
        response = self.client.get(path)
        assert response.status_code == 200, response.get_data(as_text=True)
        return response.get_json()

    def refused(self, method: str, path: str, body: Any = None, **more: Any) -> tuple[int, dict[str, Any]]:
        response = self.send(method, path, body, **more)
        problem = response.get_json()
        assert {"code", "message", "where", "help"} <= problem.keys()
        return response.status_code, problem


@pytest.fixture(scope="session")
def wired(engine: Engine, tmp_path_factory: pytest.TempPathFactory) -> Flask:
    """The worker's application: making one takes longer than most tests do."""
    return create_app(set_up(tmp_path_factory.mktemp("files")), engine, lambda _job: None)


def set_up(files: Path) -> Settings:
    return Settings(DATABASE_URL="postgresql://unused", secret=SECRET, files=files, sign_ins_per_minute=5)  # type: ignore[arg-type]


@pytest.fixture
def app(wired: Flask, engine: Engine, connection: Connection, sessions: Callable[[], Session], tmp_path: Path) -> Flask:
    """The application inside the test's transaction, which knows nothing of the tests before."""
    wire(wired, set_up(tmp_path), engine, lambda job: job_runs.run(sessions, job))
    wired.extensions["sessions"] = wired.extensions["snapshots"] = sessions
    wired.extensions["glance"] = lambda: nullcontext(connection.connection.driver_connection)
    return wired


@pytest.fixture
def stranger(app: Flask) -> Api:
    """Somebody not signed in."""
    return Api(app.test_client())


@pytest.fixture
def rosa(app: Flask) -> Api:
    """Rosa, who may do all."""
    return Api(app.test_client()).sign_in(0)


@pytest.fixture
def lena(app: Flask) -> Api:
    """Lena, who may only look."""
    return Api(app.test_client()).sign_in(2)
