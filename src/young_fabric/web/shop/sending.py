"""Files that shoppers send while they choose: checked and kept at once, so that the price, and what is wrong, is told before an
order; and small pictures of them for whoever holds their token."""

from __future__ import annotations

import io

from flask import Blueprint, Response, current_app, make_response, request, send_file

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.words import tell
from young_fabric.core.options.quote import QuoteProblem
from young_fabric.service.sales import selling, sent_files
from young_fabric.web.auth import PUBLIC, SHOPPER, allow, snapshots
from young_fabric.web.shop import live, pages
from young_fabric.web.shop.basket import MOST_FORM, keep_files, product_number, received

sending = Blueprint("sending", __name__, url_prefix="/shop")
A_DAY = 24 * 3600


@sending.post("/sent")
@allow(SHOPPER)
def send() -> Response:
    """Keep the file of one option of a product; answers with its token, or with what is wrong with it in words (422)."""
    request.max_content_length = MOST_FORM
    with snapshots() as session:
        locale = live.ways_of(session).defs.shop.locale
        product = product_number()
        found = selling.live_selling(session, [product]).get(product)
        if found is None:
            raise Refusal("not_found", "This is no longer sold", (), "Choose another", {"case": "product"})
        files, wrong = received(found.goods.offer)
    tokens: dict[str, str] = {} if wrong else keep_files(files, wrong)
    if wrong:
        return _refused(locale, wrong[0])
    return _private(make_response({"tokens": tokens}))


def _refused(locale: str, problem: QuoteProblem) -> Response:
    return _private(make_response({"option": problem.option, "words": tell(locale, problem.refusal)}, 422))


@sending.get("/sent/<token>")
@allow(PUBLIC)
def small(token: str) -> Response:
    """A picture that was sent, small, for whoever holds its token."""
    with snapshots() as session:
        stored = sent_files.picture_of(session, token) if len(token) <= 100 and token.isascii() else None
        path = current_app.extensions["sent_files"].path(stored) if stored is not None else None
        if path is None:
            return pages.lost(live.ways_of(session))
    response = send_file(io.BytesIO(sent_files.small_picture(path)), mimetype="image/webp")
    response.headers["Cache-Control"] = f"private, max-age={A_DAY}"
    response.headers["X-Robots-Tag"] = "noindex"
    return response


def _private(response: Response) -> Response:
    response.headers["Cache-Control"] = "no-store"
    return response
