"""Pages kept in the process as long as the shop is as it was: the release they were made of, and the stock they tell.

Whoever asks gets what stands: one statement tells whether it still does, before anything kept is given.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, TypeVar

from flask import Response, current_app
from markupsafe import Markup
from sqlalchemy.orm import Session

from young_fabric.core.base.memory import Memory
from young_fabric.store.base import AsksMore
from young_fabric.store.glances import Glance, NoGlance
from young_fabric.store.repos import shop
from young_fabric.store.repos.shop import LiveState
from young_fabric.web.shop.contexts import BlockContext, CardContext, Frame

T = TypeVar("T")
MOST_BYTES = 48 * 1024 * 1024
MOST_OF_CARDS = 24 * 1024 * 1024


@dataclass(frozen=True)
class Made:
    """A page, or another answer, the products and option sets whose stock it tells, and the state of the shop it tells; None is not to be
    kept."""

    page: str | Response
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

    def anew() -> Made:
        # One state of the shop throughout: a page made of what changed meanwhile would be kept for good.
        with current_app.extensions["snapshots"]() as session:
            return make(session)

    return _as_kept(key) or _keep(key, anew())


def kept_of(key: str | None, ask: Callable[[Glance], T], make: Callable[[Session, T], Made]) -> Response:
    """The same of a page for which one statement mostly brings all: `ask` asks it, `make` makes the page of its answer. One that needs
    more is made anew from one state of the shop."""

    def anew() -> Made:
        try:
            with current_app.extensions["glance"]() as glance:
                found = ask(glance)
            with current_app.extensions["answered"]() as session:
                return make(session, found)
        except (AsksMore, NoGlance):
            with current_app.extensions["snapshots"]() as session:
                return make(session, ask(session.connection().connection.driver_connection))

    return _as_kept(key) or _keep(key, anew())


def _as_kept(key: str | None) -> Response | None:
    """A page as it is kept, None when it is not, or no longer stands."""
    pages: KeptPages = current_app.extensions["kept_pages"]
    page = pages.get(key) if key is not None else None
    if page is None:
        return None
    try:
        with current_app.extensions["glance"]() as glance:
            state = shop.glance_at(glance, page.ids, page.sets)
    except NoGlance:
        return None
    return _response(page) if state == page.state else None


def _keep(key: str | None, made: Made) -> Response:
    """A page that was made, kept from now on."""
    if made.state is None or key is None or not isinstance(made.page, str):
        return current_app.make_response(made.page)
    body = made.page.encode()
    page = Page(body, hashlib.sha256(body).hexdigest()[:32], tuple(made.ids), made.state, tuple(made.sets))
    current_app.extensions["kept_pages"].put(key, page)
    return _response(page)


def _response(page: Page) -> Response:
    response = current_app.response_class(page.body, mimetype="text/html")
    response.set_etag(page.etag)
    return response
