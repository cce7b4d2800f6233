"""Signing in, sessions and passwords."""

from __future__ import annotations

import hashlib
import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cache

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError
from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting.actors import Actor, Right, Work
from young_fabric.store.repos import people
from young_fabric.store.tables import PersonRow

SHORTEST_PASSWORD = 10
LONGEST_PASSWORD = 200
WINDOW = timedelta(minutes=1)
MORE_FROM_ADDRESS, MORE_TO_ACCOUNT = 5, 20
"""How many times as many failures an address and an account have as the two together: people behind one address share it,
and nobody elsewhere can shut a person out of their own."""
FORGOTTEN_AFTER = timedelta(days=60)
SEEN_EVERY = timedelta(minutes=5)


class TooOften(Refusal):
    """Signing in failed too often; `after` is in how many seconds one may try again."""

    def __init__(self, after: int) -> None:
        super().__init__("too_often", "Too many tries to sign in", (), f"Wait {after} seconds, then try again")
        self.after = after


@cache
def _hasher() -> PasswordHasher:
    return PasswordHasher()


@cache
def _decoy() -> str:
    return _hasher().hash("nobody has this password")


def _matches(digest: str, password: str) -> bool:
    try:
        return _hasher().verify(digest, password)
    except (VerifyMismatchError, InvalidHashError):
        return False


def _digest(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()


def check_tries(session: Session, email: str, address: str, now: datetime, most: int) -> None:
    """Whether one may try to sign in: by failures of the last minute, of this address to this account above all. Raises TooOften."""
    tries = people.failed_tries(session, address, _digest(email.strip().lower()), now - WINDOW)
    limits = (
        ([at for at, here, own in tries if here and own], most),
        ([at for at, here, _ in tries if here], most * MORE_FROM_ADDRESS),
        ([at for at, _, own in tries if own], most * MORE_TO_ACCOUNT),
    )
    for failures, allowed in limits:
        if len(failures) >= allowed:
            raise TooOften(max(1, int((failures[-allowed] + WINDOW - now).total_seconds()) + 1))


def sign_in(session: Session, email: str, password: str) -> PersonRow:
    """The person, when address and password fit. Raises Refusal `sign_in`; takes as long for unknown people."""
    person = people.by_email(session, email)
    fits = _matches(person.password_hash if person else _decoy(), password[:LONGEST_PASSWORD])
    if person is None or not fits:
        raise Refusal("sign_in", "This address and password don't fit", ("password",), "Check both, then try again")
    return person


def note_failure(session: Session, email: str, address: str, now: datetime) -> None:
    """Count a failure to sign in."""
    people.note_try(session, address, _digest(email.strip().lower()), now)


def begin_session(session: Session, person: PersonRow, browser: str, now: datetime) -> str:
    """A new session of a person; gives the token its cookie holds. Old failures are forgotten."""
    token = secrets.token_urlsafe(32)
    people.begin_session(session, _digest(token), person.id, now, browser[:200])
    people.forget_tries(session, _digest(person.email.lower()), now - WINDOW)
    people.forget_sessions(session, now - FORGOTTEN_AFTER)
    return token


def person_of(session: Session, token: str, now: datetime) -> PersonRow | None:
    """Whose session a token is of, None when it ended."""
    found = people.session_of(session, _digest(token))
    if found is None:
        return None
    row, person = found
    if now - row.seen > SEEN_EVERY:
        people.touch_session(session, row.id, now)
        session.commit()
    return person


@dataclass(frozen=True)
class SignedInSession:
    """A session of one's own: when it began and was last used, in which browser, and whether it is this very one."""

    id: int
    begun: datetime
    seen: datetime
    browser: str
    current: bool


def sessions(work: Work, token: str) -> list[SignedInSession]:
    """The actor's own sessions, last used first."""
    digest = _digest(token)
    return [
        SignedInSession(row.id, row.begun, row.seen, row.browser, row.token == digest)
        for row in people.sessions_of(work.session, work.actor.id)
    ]


def end_session(work: Work, *, token: str | None = None, number: int | None = None) -> None:
    """End a session of the actor's own, by its token or number. Raises Refusal `not_found`."""
    digest = _digest(token) if token is not None else None
    if not people.end_sessions(work.session, work.actor.id, token=digest, number=number) and number is not None:
        raise Refusal("not_found", "There is no such session", (), "It may have ended already")


def actor_of(person: PersonRow) -> Actor:
    """A person as the one who acts."""
    return Actor(person.id, person.name, frozenset(Right(right) for right in person.rights))


def add(session: Session, email: str, name: str, password: str, rights: list[str]) -> PersonRow:
    """Add a person. Raises Refusal `taken`, `short`, `unknown`."""
    if people.by_email(session, email):
        raise Refusal("taken", f"{email} is there already", ("email",))
    if any(right not in set(Right) for right in rights):
        raise Refusal("unknown", "Rights are look, edit and release", ("rights",))
    _check_password(password)
    person = PersonRow(email=email.strip(), name=name, password_hash=_hasher().hash(password), rights=rights)
    session.add(person)
    session.flush()
    return person


def change_password(work: Work, old: str, new: str, token: str) -> None:
    """Change the actor's own password; every other session of theirs ends. Raises Refusal `sign_in`, `short`."""
    work.need(Right.LOOK)
    person = people.get(work.session, work.actor.id)
    if person is None or not _matches(person.password_hash, old[:LONGEST_PASSWORD]):
        raise Refusal("sign_in", "The present password doesn't fit", ("old",), "Type the one you signed in with")
    _check_password(new)
    person.password_hash = _hasher().hash(new)
    people.end_sessions(work.session, work.actor.id, but=_digest(token))
    work.session.flush()


def _check_password(password: str) -> None:
    if len(password) < SHORTEST_PASSWORD:
        raise Refusal("short", f"A password has at least {SHORTEST_PASSWORD} characters", ("new",), "Make it longer")
    if len(password) > LONGEST_PASSWORD:
        raise Refusal("long", f"A password has at most {LONGEST_PASSWORD} characters", ("new",), "Shorten it")
