"""Who may use a route: signed-in sessions, rights, and the CSRF header for writes."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from contextlib import AbstractContextManager
from threading import Lock
from typing import Any, TypeVar
from urllib.parse import quote

import structlog
from cachetools import TTLCache
from flask import Flask, Response, current_app, redirect, request, session
from flask_login import LoginManager, UserMixin, current_user
from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting import keys, people
from young_fabric.service.acting.actors import WORDS, Actor, Right, Work
from young_fabric.service.acting.people import actor_of
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.long_work.jobs import now
from young_fabric.store.tables import PersonRow

View = TypeVar("View", bound=Callable[..., Any])
PUBLIC = "public"
KEY = "key"
"""Whoever shows a key of another system, as `Authorization: Bearer KEY`."""
SHOPPER = "shopper"
"""Anybody, by a form of the shop itself: its browser says that it comes from there (Fetch Metadata, and Origin of RFC 6454)."""
HEARER = "hearer"
"""Somebody signed in, by a session that held some seconds ago: for what every open studio asks all the time."""
HEARS_ON = 5.0
"""Seconds for which a session is taken to hold that held: one that was ended hears for so long what was written, not what it says."""
log = structlog.get_logger()
CSRF_HEADER = "X-CSRF-Token"
WINDOW_HEADER = "X-Window"
LONGEST_WINDOW = 40
SAFE = frozenset({"GET", "HEAD", "OPTIONS"})


MOST_JSON = 1024 * 1024
"""How many bytes a request of JSON has, unless its route takes more."""


def allow(who: Right | str, most_json: int = MOST_JSON, *, quiet: bool = False) -> Callable[[View], View]:
    """Say who may use a route (a right, KEY, HEARER or PUBLIC), and how many bytes of JSON it takes; `quiet` ones are not logged."""

    def mark(view: View) -> View:
        view.allowed_to = who  # type: ignore[attr-defined]
        view.most_json = most_json  # type: ignore[attr-defined]
        view.quiet = quiet  # type: ignore[attr-defined]
        return view

    return mark


class SignedIn(UserMixin):  # type: ignore[misc]
    """A person in a session; `id` is the session's token."""

    def __init__(self, person: PersonRow, token: str) -> None:
        self.id = token
        self.email = person.email
        self.actor: Actor = actor_of(person)


def sessions() -> Session:
    """A new database session."""
    found: Session = current_app.extensions["sessions"]()
    return found


def snapshots() -> Session:
    """A new database session that sees one state of the database throughout, whatever is written meanwhile."""
    found: Session = current_app.extensions["snapshots"]()
    return found


def work() -> AbstractContextManager[Work]:
    """A unit of work for the person signed in; routes that only look see one state of the database throughout."""
    looks = getattr(current_app.view_functions[request.endpoint or ""], "allowed_to", None) == Right.LOOK
    return unit_of_work(snapshots if looks else _told_of, current_user.actor, hand_over=_hand_over)


def _told_of() -> Session:
    """A new database session that says from which window of the studio it writes."""
    made = sessions()
    made.info["window"] = request.headers.get(WINDOW_HEADER, "")[:LONGEST_WINDOW]
    return made


def _hand_over(job_id: int) -> None:
    """Give a job to the worker; one that can't be handed over is found by the worker later, or says that it waits for one."""
    try:
        current_app.extensions["ask"](job_id)
    except Exception as error:
        log.error("hand_over", job=job_id, exc_info=error)


def caller() -> str:
    """The address a request comes from; proxies that are trusted are a setting."""
    return request.remote_addr or ""


def csrf_token() -> str:
    """The session's token, made when first asked for."""
    if "csrf" not in session:
        session["csrf"] = secrets.token_urlsafe(32)
    return str(session["csrf"])


def _load(token: str) -> SignedIn | None:
    if len(token) > 100 or not token.isascii():
        return None
    with sessions() as database:
        person = people.person_of(database, token, now())
        return SignedIn(person, token) if person else None


def _need_key() -> None:
    """Raises Refusal `signed_out` unless a key that was not ended is shown."""
    scheme, _, key = request.headers.get("Authorization", "").partition(" ")
    with sessions() as database:
        admitted = scheme.lower() == "bearer" and keys.admits(database, key.strip(), now())
        database.commit()
    if not admitted:
        help = "Send Authorization: Bearer and a key made in the studio, under Release"
        raise Refusal("signed_out", "This needs a key that holds", (), help)


class Hearers:
    """Whose sessions held within the last HEARS_ON seconds, by token."""

    def __init__(self) -> None:
        self._known: TTLCache[str, Actor] = TTLCache(maxsize=10_000, ttl=HEARS_ON)
        self._lock = Lock()

    def of(self, token: str) -> Actor | None:
        """The person of a token, asked for where it is not known; None when its session ended."""
        with self._lock:
            found: Actor | None = self._known.get(token)
        if found is None and (signed_in := _load(token)) is not None:
            found = signed_in.actor
            with self._lock:
                self._known[token] = found
        return found


def hearer() -> Actor | None:
    """The person whose session held within HEARS_ON seconds, None when there is none."""
    hearers: Hearers = current_app.extensions["hearers"]
    token = str(session.get("_user_id") or "")
    return hearers.of(token) if token else None


def _need_own_page() -> None:
    """Raises Refusal `csrf` when a form was sent from a page elsewhere, or by what does not say from where."""
    if request.method in SAFE:
        return
    site, origin = request.headers.get("Sec-Fetch-Site"), request.headers.get("Origin")
    same = origin == request.host_url.rstrip("/") if site is None else site in ("same-origin", "none")
    if not same:
        raise Refusal("csrf", "This form does not come from the shop", (), "Open the page anew, then send it again")


def _guard() -> Response | None:
    if request.endpoint is None or request.endpoint == "static":
        return None
    view = current_app.view_functions[request.endpoint]
    who = getattr(view, "allowed_to", None)
    if who is None:
        raise Refusal("forbidden", "Nobody may use this route")
    if who == KEY:
        _need_key()
        return None
    if who == SHOPPER:
        _need_own_page()
        return None
    if who != PUBLIC and _asking(who) is None:
        if request.path.startswith("/api"):
            raise Refusal("signed_out", "You are signed out", (), "Sign in again: what you typed is kept")
        return redirect(f"/studio/?next={quote(request.path)}")  # type: ignore[return-value]
    if request.method not in SAFE:
        sent = request.headers.get(CSRF_HEADER, "")
        if not secrets.compare_digest(sent.encode(), str(session.get("csrf", "")).encode()) or not sent:
            raise Refusal("csrf", "This request does not come from the studio", (), "Reload the page, then try again")
    right = Right.LOOK if who == HEARER else who
    actor = _asking(who) if isinstance(right, Right) else None
    if isinstance(right, Right) and (actor is None or right not in actor.rights):
        raise Refusal("forbidden", f"You may not {WORDS[right]}", (), "Ask someone who may")
    return None


def _asking(who: Right | str) -> Actor | None:
    """The person signed in, None when there is none; for a HEARER by what was known seconds ago."""
    if who == HEARER:
        return hearer()
    return current_user.actor if current_user.is_authenticated else None


def install(app: Flask) -> None:
    """Load the person of a session, and guard every route."""
    manager = LoginManager()
    manager.session_protection = None
    manager.init_app(app)
    manager.user_loader(_load)
    app.before_request(_guard)


def check_every_route(app: Flask) -> None:
    """Raises RuntimeError when a route does not say who may use it."""
    silent = [
        r.rule
        for r in app.url_map.iter_rules()
        if r.endpoint != "static" and not hasattr(app.view_functions[r.endpoint], "allowed_to")
    ]
    if silent:
        raise RuntimeError(f"These routes do not say who may use them: {', '.join(silent)}")
