"""Tables as downloads, sent batch by batch however long they are."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Any

import orjson
from flask import Response, current_app, stream_with_context

from young_fabric.core.interchange.tables import csv_text
from young_fabric.web.api import PROBLEMS

CSV = "text/csv"


def csv_answer() -> dict[Any, Any]:
    """What a handler that sends a table declares."""
    return {"200": {"content": {CSV: {}}}, **PROBLEMS}


def json_answer() -> dict[Any, Any]:
    """What a handler that sends a JSON document declares."""
    return {"200": {"content": {"application/json": {}}}, **PROBLEMS}


def document(content: Any, name: str) -> Response:
    """A JSON document under a file name."""
    text = orjson.dumps(content, option=orjson.OPT_INDENT_2) + b"\n"
    response = current_app.response_class(text, mimetype="application/json")
    response.headers["Content-Disposition"] = f'attachment; filename="{name}.json"'
    return response


def table(name: str, head: Sequence[str], rows: Callable[[int], Sequence[tuple[int, Sequence[str]]]]) -> Response:
    """A table under a file name; `rows` gives the next ones after a number, each with its own, none at the end.

    The first batch is read before anything is sent, so that what is wrong is answered as such.
    """
    first = rows(0)

    def body() -> Iterator[str]:
        yield csv_text([head])
        batch = first
        while batch:
            yield csv_text(row for _, row in batch)
            batch = rows(batch[-1][0])

    response = current_app.response_class(stream_with_context(body()), mimetype=CSV)
    response.headers["Content-Disposition"] = f'attachment; filename="{name}.csv"'
    return response
