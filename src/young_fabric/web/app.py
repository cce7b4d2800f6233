"""The application: made from settings, with every route guarded."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from itertools import groupby
from typing import Any, NamedTuple
from uuid import uuid4

import structlog
from flask import Flask, Response, g, redirect, request, send_from_directory
from flask_openapi3 import Info, OpenAPI
from sqlalchemy import text
from sqlalchemy.engine import Engine

from young_fabric import logs
from young_fabric.config import Settings
from young_fabric.core.document import Entry
from young_fabric.core.errors import Refusal
from young_fabric.jobs.queue import asker
from young_fabric.service.pictures import MOST_BYTES, FilesOnDisk
from young_fabric.store.base import make_engine, make_sessions
from young_fabric.web import auth, errors
from young_fabric.web.api import (
    definitions,
    field_sets,
    fields,
    jobs,
    present,
    product_types,
    products,
    release,
    session,
    value_lists,
)
from young_fabric.web.limits import limiter
from young_fabric.web.shop import pages

MOST_JSON = 1024 * 1024
CSP = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; script-src 'self'; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'self'; form-action 'self'"
)
NOUNS = (session, definitions, fields, value_lists, field_sets, product_types, products, present, release, jobs)
log = structlog.get_logger()


class Together(NamedTuple):
    """Entries next to each other whose labels stand alike."""

    at: str
    entries: Sequence[Entry]


def groups(entries: Sequence[Entry]) -> list[Together]:
    """Runs of entries by where their label stands."""
    return [Together(at, list(run)) for at, run in groupby(entries, key=lambda entry: entry.label_at)]


def create_app(settings: Settings, engine: Engine | None = None, ask: Callable[[int], None] | None = None) -> Flask:
    """The application for settings, on an engine given or made; `ask` hands a job's id to the worker."""
    logs.set_up()
    app = OpenAPI(
        "young_fabric.web",
        info=Info(title="Young Fabric", version="1"),
        doc_ui=False,
        validation_error_callback=errors.invalid,
        static_folder="static",
    )
    app.config.update(
        SECRET_KEY=settings.secret.get_secret_value(),
        MAX_CONTENT_LENGTH=MOST_BYTES + 65_536,
        SESSION_COOKIE_NAME="young_fabric",
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Lax",
        SESSION_COOKIE_SECURE=settings.secure_cookies,
        SIGN_INS_PER_MINUTE=settings.sign_ins_per_minute,
    )
    made = engine or make_engine(settings.sqlalchemy_url, settings.pool)
    app.extensions["sessions"] = make_sessions(made)
    app.extensions["ask"] = ask or asker(settings.database_url)
    app.extensions["files"] = FilesOnDisk(settings.files)
    app.jinja_env.filters["groups"] = groups
    app.jinja_env.globals["built"] = pages.built
    app.jinja_env.trim_blocks = app.jinja_env.lstrip_blocks = True
    limiter.init_app(app)
    _wrap_requests(app)
    auth.install(app)
    errors.install(app)
    for noun in NOUNS:
        app.register_api(noun.api)
    app.register_blueprint(pages.live)
    app.register_blueprint(pages.proof)
    _own_routes(app)
    auth.check_every_route(app)
    return app


def openapi(app: OpenAPI) -> dict[str, Any]:
    """The API's description. Members of responses are always there, so they are told as required."""
    doc: dict[str, Any] = app.api_doc
    for name, schema in doc.get("components", {}).get("schemas", {}).items():
        if (
            not name.endswith(("In", "New", "Patch", "Query", "Path", "Form", "NewNamed", "Problem"))
            and "properties" in schema
        ):
            schema["required"] = sorted(schema["properties"])
    return doc


def _own_routes(app: OpenAPI) -> None:
    @app.route("/")
    @auth.allow(auth.PUBLIC)
    def root() -> Any:
        return redirect("/shop/")

    @app.route("/studio/")
    @app.route("/studio/<path:rest>")
    @auth.allow(auth.PUBLIC)
    def studio(rest: str = "") -> Response:  # noqa: ARG001
        response = send_from_directory(pages.BUILT, "index.html")
        response.headers["Cache-Control"] = "no-cache"
        return response

    @app.route("/healthz")
    @auth.allow(auth.PUBLIC)
    def healthz() -> Any:
        with auth.sessions() as database:
            database.execute(text("SELECT 1"))
        return {"ok": True}

    @app.route("/api/openapi.json")
    @auth.allow(auth.PUBLIC)
    def openapi_json() -> Any:
        return openapi(app)

    app.add_url_rule("/files/<name>", "picture", products.serve_picture)


def _wrap_requests(app: Flask) -> None:
    @app.before_request
    def begin() -> None:
        g.request_id = uuid4().hex[:12]
        g.begun = time.perf_counter()
        if request.is_json and (request.content_length or 0) > MOST_JSON:
            raise Refusal(
                "too_large",
                "That is too much text at once",
                (),
                "Send at most 1 MB; a long text has at most 50,000 characters",
            )

    @app.after_request
    def end(response: Response) -> Response:
        response.headers["X-Request-Id"] = g.get("request_id", "")
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "same-origin"
        response.headers["Content-Security-Policy"] = CSP
        if request.path.startswith(("/api", "/proof")):
            response.headers["Cache-Control"] = "no-store"
        elif request.path.startswith("/static/built/assets/"):
            response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        took = (time.perf_counter() - g.get("begun", time.perf_counter())) * 1000
        log.info(
            "request",
            id=g.get("request_id"),
            method=request.method,
            path=request.path,
            status=response.status_code,
            ms=round(took, 1),
        )
        return response
