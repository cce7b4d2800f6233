"""Pages kept in the process as long as the shop is as it was: the release they were made of, and the stock they tell.

Whoever asks gets what stands: one statement tells whether it still does, before anything kept is given.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any, NamedTuple, TypeVar

from flask import Response, current_app
from markupsafe import Markup
from sqlalchemy.orm import Session

from young_fabric.core.base.memory import Memory
from young_fabric.store.base import AsksMore
from young_fabric.store.glances import Glance, NoGlance, of_session
from young_fabric.store.repos import kept_pages, shop
from young_fabric.store.repos.kept_pages import KeptPage
from young_fabric.store.repos.shop import LiveState
from young_fabric.web.shop.contexts import BlockContext, CardContext, Frame

T = TypeVar("T")
CODE = Path(__file__).parents[2]
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


class At(NamedTuple):
    """What a page is kept by: its address and the day it tells, "" for one that tells none. Pages of a `choice` are kept by the process
    that made them, all others for every process."""

    address: str
    day: str = ""
    choice: str = ""


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


class KeptPages(Memory[At, KeptPage]):
    """Pages of this process, those longest not asked for going first when they take too much room."""

    def __init__(self, most: int = MOST_BYTES) -> None:
        super().__init__(most, lambda page: len(page.body))


def kept(at: At, make: Callable[[Session], Made]) -> Response:
    """The page at an address: as kept while it stands, else made."""

    def anew() -> Made:
        # One state of the shop throughout: a page made of what changed meanwhile would be kept for good.
        with current_app.extensions["snapshots"]() as session:
            return make(session)

    return _as_kept(at) or _keep(at, anew())


def kept_of(at: At | None, ask: Callable[[Glance], T], make: Callable[[Session, T], Made]) -> Response:
    """The same of a page for which one statement mostly brings all: `ask` asks it, `make` makes the page of its answer. One that needs
    more is made anew from one state of the shop. Without a place it is not kept."""

    def anew() -> Made:
        try:
            with current_app.extensions["glance"]() as glance:
                found = ask(glance)
            with current_app.extensions["answered"]() as session:
                return make(session, found)
        except (AsksMore, *NoGlance):
            with current_app.extensions["snapshots"]() as session:
                return make(session, ask(of_session(session)))

    return _as_kept(at) or _keep(at, anew())


def _as_kept(at: At | None) -> Response | None:
    """A page as it is kept, here or for every process; None when it is not, or no longer stands."""
    if at is None:
        return None
    pages: KeptPages = current_app.extensions["kept_pages"]
    page = pages.get(at)
    try:
        with current_app.extensions["glance"]() as glance:
            if page is not None and shop.glance_at(glance, page.ids, page.sets) == page.state:
                return _response(page)
            page = None if at.choice else kept_pages.find(glance, at.address, _mark(at))
    except NoGlance:
        return None
    if page is None:
        return None
    pages.put(at, page)
    return _response(page)


def _keep(at: At | None, made: Made) -> Response:
    """A page that was made, kept from now on; one that shows no product is not, as there are as many as anyone writes addresses."""
    if made.state is None or at is None or not isinstance(made.page, str):
        return current_app.make_response(made.page)
    body = made.page.encode()
    page = KeptPage(body, hashlib.sha256(body).hexdigest()[:32], list(made.ids), list(made.sets), made.state)
    current_app.extensions["kept_pages"].put(at, page)
    if page.ids and not at.choice:
        with suppress(*NoGlance), current_app.extensions["glance"]() as glance:
            kept_pages.put(glance, at.address, _mark(at), page)
    return _response(page)


def _mark(at: At) -> str:
    """What makes pages, as far as it is not the state of the shop: the code, its settings, and the day."""
    return f"{code_mark()} {current_app.extensions['shop_address']} {at.day}"


@lru_cache
def code_mark() -> str:
    """What tells this code, its words and its templates from any other."""
    found = hashlib.sha256()
    for path in sorted(CODE.rglob("*")):
        if path.suffix in (".py", ".html", ".toml", ".json") and path.is_file():
            found.update(str(path.relative_to(CODE)).encode() + b"\0" + path.read_bytes() + b"\0")
    return found.hexdigest()[:16]


def _response(page: KeptPage) -> Response:
    response = current_app.response_class(page.body, mimetype="text/html")
    response.set_etag(page.etag)
    return response
