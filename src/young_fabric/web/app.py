"""The application: made from settings, with every route guarded."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any
from uuid import uuid4

import structlog
from flask import Flask, Response, g, redirect, request, send_from_directory
from flask_openapi3 import Info, OpenAPI
from sqlalchemy import text
from sqlalchemy.engine import Engine
from sqlalchemy.exc import DBAPIError
from werkzeug.middleware.proxy_fix import ProxyFix
from werkzeug.routing import BaseConverter, ValidationError

from young_fabric import logs
from young_fabric.config import Settings
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording import words
from young_fabric.core.display.icons import ICONS
from young_fabric.jobs.queue import asker
from young_fabric.service.acting.news import Bulletin
from young_fabric.service.files.pictures import MOST_BYTES
from young_fabric.store.again import MOST_TRIES, worth_another_try
from young_fabric.store.base import make_answered, make_engine, make_sessions, make_snapshots
from young_fabric.store.files import FilesOnDisk
from young_fabric.store.glances import Glances
from young_fabric.web import auth, errors
from young_fabric.web.api import compose, define, fill, present, release, studio
from young_fabric.web.api.fill import files, products
from young_fabric.web.schemas.common import In, unstorable
from young_fabric.web.shop import marks, pages
from young_fabric.web.shop.basket import basket
from young_fabric.web.shop.block_html import BlockHtml
from young_fabric.web.shop.choosing import halves, needs_outline
from young_fabric.web.shop.kept import KeptCards, KeptPages, card_html
from young_fabric.web.shop.live import live, refusal_page
from young_fabric.web.shop.proof import proof
from young_fabric.web.shop.sending import sending

CSP = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; script-src 'self'; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'self'; form-action 'self'"
)
SHOP_CSP = f"{CSP}; frame-src 'self' https:; media-src 'self' https:"
"""Pages of the shop may hold a player of videos, put there when a shopper asks for it."""
MODULES = (*studio.MODULES, *define.MODULES, *compose.MODULES, *fill.MODULES, *present.MODULES, *release.MODULES)
log = structlog.get_logger()


class IdConverter(BaseConverter):
    """Numbers of things in addresses: what no column holds is at no address."""

    regex = "[1-9][0-9]{0,9}"

    def to_python(self, value: str) -> int:
        number = int(value)
        if number >= 2**31:
            raise ValidationError
        return number


class _StrictOpenAPI(OpenAPI):
    """The application, with numbers of things in addresses."""

    def __init__(self, *args: Any, **more: Any) -> None:
        super().__init__(*args, **more)
        self.url_map.converters["id"] = IdConverter

    def dispatch_request(self) -> Any:
        """Answer a request; one whose transaction only met another's is done again."""
        for attempt in range(1, MOST_TRIES + 1):
            try:
                return super().dispatch_request()
            except DBAPIError as error:
                if attempt == MOST_TRIES or not worth_another_try(error):
                    raise
            for kept in ("asked", "wrong"):
                g.pop(kept, None)
            for file in request.files.values():
                file.stream.seek(0)
        raise AssertionError("a request is answered or fails")


def create_app(settings: Settings, engine: Engine | None = None, ask: Callable[[int], None] | None = None) -> Flask:
    """The application for settings, on an engine given or made; `ask` hands a job's id to the worker."""
    logs.set_up()
    app = _StrictOpenAPI(
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
        MOST_SENT=settings.most_sent_mb * 1024 * 1024,
    )
    wire(app, settings, engine, ask)
    app.jinja_env.filters["halves"] = halves
    app.jinja_env.filters["pale"] = needs_outline
    app.jinja_env.globals["built"] = pages.built
    app.jinja_env.globals["say"] = words.say
    app.jinja_env.globals["words"] = pages.shop_words
    app.jinja_env.globals["tell"] = pages.shop_refusal
    app.jinja_env.globals["way"] = pages.way
    app.jinja_env.globals["icons"] = ICONS
    app.jinja_env.filters["number"] = pages.shop_number
    app.jinja_env.globals["data_html"] = marks.data_html
    for put in (marks.on, marks.marks, marks.look, card_html):
        app.jinja_env.filters[put.__name__] = put
    BlockHtml(app.jinja_env).install()
    app.jinja_env.trim_blocks = app.jinja_env.lstrip_blocks = True
    if settings.trusted_proxies:
        app.wsgi_app = ProxyFix(app.wsgi_app, x_for=settings.trusted_proxies, x_proto=settings.trusted_proxies)  # type: ignore[method-assign]
    _wrap_requests(app)
    auth.install(app)
    errors.install(app)
    for module in MODULES:
        app.register_api(module.api)
    app.register_blueprint(basket)
    app.register_blueprint(sending)
    app.register_blueprint(live)
    app.register_blueprint(proof)
    _own_routes(app)
    auth.check_every_route(app)
    return app


def wire(app: Flask, settings: Settings, engine: Engine | None, ask: Callable[[int], None] | None) -> None:
    """Give an application what it works with: the database, memories, files, and whom it hands jobs to."""
    made = engine or make_engine(settings.sqlalchemy_url, settings.pool)
    app.extensions["sessions"] = make_sessions(made)
    app.extensions["glance"] = Glances(made, settings.pool)
    app.extensions["bulletin"] = Bulletin(lambda: app.extensions["glance"]())
    app.extensions["hearers"] = auth.Hearers()
    app.extensions["snapshots"] = make_snapshots(made)
    app.extensions["answered"] = make_answered(made)
    app.extensions["kept_pages"] = KeptPages()
    app.extensions["kept_cards"] = KeptCards()
    app.extensions["ask"] = ask or asker(settings.database_url)
    app.extensions["refusal_page"] = refusal_page
    app.extensions["shop_address"] = settings.shop_address.rstrip("/")
    app.extensions["files"] = FilesOnDisk(settings.files)
    app.extensions["sent_files"] = FilesOnDisk(settings.files / "sent")
    app.extensions["orders"] = FilesOnDisk(settings.files / "orders")


def openapi(app: OpenAPI) -> dict[str, Any]:
    """The API's description. Members of responses are always there, so they are told as required."""
    doc: dict[str, Any] = app.api_doc
    components = doc.get("components", {})
    asked = {model.__name__ for model in _subclasses(In)} | {"UploadForm"}
    for name, schema in components.get("schemas", {}).items():
        if name not in asked and name != "Problem" and "properties" in schema:
            schema["required"] = sorted(schema["properties"])
    # The session's cookie is what lets one in; writes send the token of the session as a header besides.
    cookie = {"type": "apiKey", "in": "cookie", "name": "young_fabric"}
    csrf = {"type": "apiKey", "in": "header", "name": auth.CSRF_HEADER}
    components["securitySchemes"] = {"session": cookie, "csrf": csrf}
    doc["security"] = [{"session": [], "csrf": []}]
    return doc


def _subclasses(model: type[Any]) -> set[type[Any]]:
    return {model}.union(*(_subclasses(inner) for inner in model.__subclasses__()))


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
    app.add_url_rule("/downloads/<file>", "download", files.serve_download)


def _wrap_requests(app: Flask) -> None:
    @app.before_request
    def begin() -> None:
        g.request_id = uuid4().hex[:12]
        g.begun = time.perf_counter()
        if not request.path.isprintable() or unstorable(list(request.args.items(multi=True))):
            raise Refusal("not_found", "There is nothing at this address", (), "Check the address")
        most = getattr(app.view_functions.get(request.endpoint or ""), "most_json", auth.MOST_JSON)
        if request.is_json and (request.content_length or 0) > most:
            words = f"Send at most {most // auth.MOST_JSON} MB; a long text has at most 50,000 characters"
            raise Refusal("too_large", "That is too much text at once", (), words)

    @app.after_request
    def end(response: Response) -> Response:
        response.headers["X-Request-Id"] = g.get("request_id", "")
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "same-origin"
        response.headers["Content-Security-Policy"] = SHOP_CSP if request.path.startswith(("/shop", "/proof")) else CSP
        if request.path.startswith(("/api", "/proof")):
            response.headers["Cache-Control"] = "no-store"
        elif request.path.startswith("/static/built/assets/"):
            response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        if getattr(app.view_functions.get(request.endpoint or ""), "quiet", False) and response.status_code < 400:
            return response
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
