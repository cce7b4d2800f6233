"""The application as it is served, with one route more that gives the bytes of a file from memory."""

from __future__ import annotations

import os
from pathlib import Path

from flask import Response

from young_fabric.config import settings
from young_fabric.core.base.collector import seldom_collected
from young_fabric.web.app import create_app
from young_fabric.web.auth import PUBLIC, allow
from young_fabric.web.shop.kept import KeptPages

app = create_app(settings(), ask=lambda _job: None)
if "BENCH_ANEW" in os.environ:
    # No page is in the memory of the process that is asked for it, however often it was: of a large shop most are not.
    app.extensions["kept_pages"] = KeptPages(0)
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


seldom_collected()
