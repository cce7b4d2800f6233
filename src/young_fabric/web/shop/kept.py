"""Pages kept in the process as long as the shop is as it was: the release they were made of, and the stock they tell.

Whoever asks gets what stands: one statement tells whether it still does, before anything kept is given.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from flask import Response, current_app
from markupsafe import Markup
from sqlalchemy.orm import Session

from young_fabric.core.base.memory import Memory
from young_fabric.store.repos import shop
from young_fabric.store.repos.shop import LiveState
from young_fabric.web.shop.contexts import BlockContext, CardContext, Frame

MOST_BYTES = 48 * 1024 * 1024
MOST_OF_CARDS = 24 * 1024 * 1024


@dataclass(frozen=True)
class Made:
    """A page, the products and option sets whose stock it tells, and the state of the shop it tells; None is not to be kept."""

    response: Response
    ids: Sequence[int]
    state: LiveState | None
    sets: Sequence[str] = ()


@dataclass(frozen=True)
class Page:
    """A page as it was made, and what the shop was like then."""

    body: bytes
    etag: str
    ids: Sequence[int]
    state: LiveState
    sets: Sequence[str] = ()


class KeptCards(Memory[tuple[Any, ...], Markup]):
    """The HTML of cards by what decides it, those longest not asked for going first: a listing made anew is put together of them."""

    def __init__(self, most: int = MOST_OF_CARDS) -> None:
        super().__init__(most, len)


def card_html(card: CardContext, frame: Frame) -> Markup:
    """A card as HTML; one that is marked is made once for all pages it stands on."""

    def make() -> Markup:
        show = current_app.jinja_env.get_template("_card.html").module.show  # type: ignore[attr-defined]
        return Markup(show(card, BlockContext("cards", frame, card.item, card=card)))  # noqa: S704

    cards: KeptCards = current_app.extensions["kept_cards"]
    return make() if card.mark is None else cards.of(card.mark, make)


class KeptPages(Memory[str, Page]):
    """Pages by address, those longest not asked for going first when they take too much room."""

    def __init__(self, most: int = MOST_BYTES) -> None:
        super().__init__(most, lambda page: len(page.body))


def kept(key: str | None, make: Callable[[Session], Made]) -> Response:
    """The page at an address: as kept while it stands, else made; without a key it is not kept."""
    pages: KeptPages = current_app.extensions["kept_pages"]
    page = pages.get(key) if key is not None else None
    if page is not None:
        with current_app.extensions["glance"]() as connection:
            state = shop.live_state(connection, page.ids, page.sets)
        if state == page.state:
            return _response(page)
    # One state of the shop throughout: a page made of what changed meanwhile would be kept for good.
    with current_app.extensions["snapshots"]() as session:
        made = make(session)
    if made.state is None or key is None:
        return made.response
    body = made.response.get_data()
    page = Page(body, hashlib.sha256(body).hexdigest()[:32], tuple(made.ids), made.state, tuple(made.sets))
    pages.put(key, page)
    return _response(page)


def _response(page: Page) -> Response:
    response = current_app.response_class(page.body, mimetype="text/html")
    response.set_etag(page.etag)
    return response
