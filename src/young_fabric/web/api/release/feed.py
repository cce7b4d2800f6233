"""The feed other systems read: live products in pages, as JSON Lines or CSV."""

from __future__ import annotations

import orjson
from flask import Response, current_app, request
from flask_openapi3 import APIBlueprint

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.interchange import feed as core
from young_fabric.service.releasing import feed
from young_fabric.store.repos import shop
from young_fabric.web.auth import KEY, allow, snapshots
from young_fabric.web.schemas import keys as s

api = APIBlueprint("delivery", __name__, url_prefix="/delivery/v1")
TYPES = {"jsonl": "application/x-ndjson", "csv": "text/csv"}


@api.get("/feed", responses={"200": {"content": {kind: {} for kind in TYPES.values()}}})
@allow(KEY)
def feed_page(query: s.FeedQuery) -> Response:
    """A page of live products with the fields other systems get; `Link` leads to the next, `X-Release` says of which release."""
    cursor = feed.read_cursor(query.cursor) if query.cursor is not None else None
    with snapshots() as session:
        release = cursor.release if cursor else shop.shop_of(session)[2]
        etag = content_hash([release, query.model_dump(mode="json")])[:32]
        if etag in request.if_none_match:
            return _headed(current_app.response_class(status=304), etag, release, None)
        root = current_app.extensions["shop_address"]
        found = feed.page(session, cursor, query.since, query.limit, root)
        if query.format == "csv":
            body = core.table(feed.defs_of(session, found.release), found.items, head=cursor is None).encode()
        else:
            body = b"".join(orjson.dumps(core.record(item)) + b"\n" for item in found.items)
    response = current_app.response_class(body, mimetype=TYPES[query.format])
    return _headed(response, etag, found.release, _next(query, found.next))


def _next(query: s.FeedQuery, cursor: str | None) -> str | None:
    if cursor is None:
        return None
    since = "" if query.since is None else f"&since={query.since}"
    return f"{request.path}?cursor={cursor}&limit={query.limit}&format={query.format}{since}"


def _headed(response: Response, etag: str, release: int, following: str | None) -> Response:
    response.set_etag(etag)
    response.headers["X-Release"] = str(release)
    response.headers["Cache-Control"] = "private, no-cache"
    if following is not None:
        response.headers["Link"] = f'<{following}>; rel="next"'
    return response
