"""The application as it is served, with one route more that gives the bytes of a file from memory."""

from __future__ import annotations

import os
from pathlib import Path

from flask import Response

from young_fabric.config import settings
from young_fabric.web.app import create_app
from young_fabric.web.auth import PUBLIC, allow

app = create_app(settings(), ask=lambda _job: None)
_kept: dict[float, bytes] = {}


@app.route("/bytes")
@allow(PUBLIC)
def same_bytes() -> Response:
    """What was measured last, from memory."""
    path = Path(os.environ["BENCH_BODIES"]) / "body"
    stamp = path.stat().st_mtime
    if stamp not in _kept:
        _kept.clear()
        _kept[stamp] = path.read_bytes()
    return app.response_class(_kept[stamp], mimetype="text/html")
