"""One error shape for every refusal: {code, message, where, help}, with a request id to ask about."""

from __future__ import annotations

from collections.abc import Callable
from http import HTTPStatus
from typing import Any

import structlog
from flask import Flask, Response, g, jsonify, make_response, request
from pydantic import ValidationError
from sqlalchemy.exc import DBAPIError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from werkzeug.exceptions import HTTPException

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting.actors import Clash
from young_fabric.service.acting.people import TooOften
from young_fabric.store.again import is_away

BROKEN = """<!doctype html><html lang="en"><title>Something broke</title><body>
<h1>Something broke on our side</h1><p>Try again in a moment. Request {}.</p><p><a href="/shop/">To the shop</a></p></body></html>"""
Page = Callable[[Refusal, int], Response]
"""Makes a page of the shop of what went wrong."""
log = structlog.get_logger()
STATUS = {
    "not_found": 404,
    "not_made": 409,
    "forbidden": 403,
    "clash": 409,
    "undone": 409,
    "in_use": 409,
    "sign_in": 401,
    "signed_out": 401,
    "csrf": 403,
    "too_large": 413,
    "too_often": 429,
    "unavailable": 503,
}
HTTP_CODES = {
    400: ("bad_request", "The request can't be read", "Send JSON in the shape of the API"),
    404: ("not_found", "There is nothing at this address", "Check the address"),
    405: ("method", "This address does not take that method", "See /api/openapi.json"),
    413: ("too_large", "That is too much at once", "Send at most 12 MB for a file or a picture, 1 MB of text"),
    415: ("media_type", "The request must be JSON", "Send Content-Type: application/json"),
    429: ("too_often", "Too many tries", "Wait a minute, then try again"),
}


def error_body(refusal: Refusal) -> dict[str, Any]:
    """A refusal in the one shape; a clash adds both states and the version that stands."""
    body: dict[str, Any] = {
        "code": refusal.code,
        "message": refusal.message,
        "where": list(refusal.where),
        "help": refusal.help,
        "also": [{"message": other.message, "where": list(other.where), "help": other.help} for other in refusal.also],
    }
    if isinstance(refusal, Clash):
        body |= {"yours": refusal.yours, "theirs": refusal.theirs, "version": refusal.version}
        body |= {"clashes": refusal.clashes, "your_lines": refusal.your_lines, "their_lines": refusal.their_lines}
    return body


def refused(refusal: Refusal) -> Response:
    """A refusal as a response."""
    response = make_response(jsonify(error_body(refusal)), STATUS.get(refusal.code, 422))
    if isinstance(refusal, TooOften):
        response.headers["Retry-After"] = str(refusal.after)
    return response


def invalid(error: ValidationError) -> Response:
    """A request that does not fit its model, told at the first place that is wrong."""
    first = error.errors()[0]
    where = tuple(part for part in first["loc"] if isinstance(part, str | int))
    unknown = first["type"] in ("extra_forbidden", "unexpected_keyword_argument")
    code, text = (
        ("unknown_key", f"“{where[-1]}” is not known here")
        if unknown
        else ("shape", str(first["msg"]).removeprefix("Value error, "))
    )
    return refused(Refusal(code, text, where, "Take it away" if unknown else "See /api/openapi.json for the shape"))


DATA = ("/api", "/delivery")
"""Addresses that are answered in the one shape of errors."""
PAGES = ("/shop", "/proof")
"""Addresses that are answered by a page of the shop."""
SHOP_CASES = {404: "lost", 405: "lost", 413: "large", 400: "sent", 415: "sent"}


def _page(app: Flask, refusal: Refusal, status: int) -> Response:
    """A page of the shop that says what is wrong; a plain one where not even that can be made."""
    try:
        page: Page = app.extensions["refusal_page"]
        return page(refusal, status)
    except Exception as error:
        log.error("refusal page", path=request.path, exc_info=error)
        return make_response(BROKEN.format(g.get("request_id", "?")), status)


def install(app: Flask) -> None:
    """Answer every error: in the one shape under /api and /delivery, by a page of the shop where people look."""

    @app.errorhandler(Refusal)
    def on_refusal(refusal: Refusal) -> Response:
        if request.path.startswith(PAGES):
            return _page(app, refusal, STATUS.get(refusal.code, 422))
        return refused(refusal)

    @app.errorhandler(HTTPException)
    def on_http(error: HTTPException) -> Response | HTTPException:
        if error.code is None or error.code < 400:
            return error
        code, message, help_text = HTTP_CODES.get(error.code, ("http", HTTPStatus(error.code).phrase, ""))
        if request.path.startswith(PAGES):
            facts = {"case": SHOP_CASES.get(error.code, "sent")}
            return _page(app, Refusal(code, message, (), help_text, facts), error.code)
        if not request.path.startswith(DATA):
            return error
        return make_response(jsonify(error_body(Refusal(code, message, (), help_text))), error.code)

    @app.errorhandler(RecursionError)
    def on_depth(_: RecursionError) -> Response:
        code, message, _help = HTTP_CODES[400]
        return make_response(jsonify(error_body(Refusal(code, message, (), "It is nested too deep"))), 400)

    @app.errorhandler(DBAPIError)
    @app.errorhandler(PoolTimeout)
    def on_database(error: Exception) -> Response:
        if isinstance(error, DBAPIError) and not is_away(error):
            return on_fault(error)
        log.error("database", path=request.path, error=str(error).splitlines()[0][:200])
        refusal = Refusal(
            "unavailable", "The database can't be reached just now", (), "Look whether it was done, then try again"
        )
        response = _page(app, refusal, 503) if request.path.startswith(PAGES) else refused(refusal)
        response.headers["Retry-After"] = "5"
        return response

    @app.errorhandler(Exception)
    def on_fault(error: Exception) -> Response:
        log.error("fault", path=request.path, exc_info=error)
        number = g.get("request_id", "?")
        if request.path.startswith(PAGES):
            return _page(app, Refusal("fault", "Something broke on our side", (), "", {"number": number}), 500)
        if not request.path.startswith(DATA):
            return make_response(BROKEN.format(number), 500)
        text = f"Something broke on our side (request {number})"
        return make_response(
            jsonify(error_body(Refusal("fault", text, (), "Try again; if it stays, tell us the request id"))), 500
        )
