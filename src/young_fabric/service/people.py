"""Signing in and passwords."""

from __future__ import annotations

from functools import cache

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError
from sqlalchemy.orm import Session

from young_fabric.core.errors import Refusal
from young_fabric.service.actors import Actor, Right, Work
from young_fabric.store.repos import people
from young_fabric.store.tables import PersonRow

SHORTEST_PASSWORD = 10
LONGEST_PASSWORD = 200


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


def sign_in(session: Session, email: str, password: str) -> PersonRow:
    """The person, when address and password fit. Raises Refusal `sign_in`; takes as long for unknown people."""
    person = people.by_email(session, email)
    fits = _matches(person.password_hash if person else _decoy(), password[:LONGEST_PASSWORD])
    if person is None or not fits:
        raise Refusal("sign_in", "This address and password don't fit", ("password",), "Check both, then try again")
    return person


def actor_of(person: PersonRow) -> Actor:
    """A person as the one who acts."""
    return Actor(person.id, person.name, frozenset(Right(one) for one in person.rights))


def add(session: Session, email: str, name: str, password: str, rights: list[str]) -> PersonRow:
    """Add a person. Raises Refusal `taken`, `short`, `unknown`."""
    if people.by_email(session, email):
        raise Refusal("taken", f"{email} is there already", ("email",))
    if any(one not in set(Right) for one in rights):
        raise Refusal("unknown", "Rights are look, edit and release", ("rights",))
    _check_password(password)
    person = PersonRow(email=email.strip(), name=name, password_hash=_hasher().hash(password), rights=rights, epoch=0)
    session.add(person)
    session.flush()
    return person


def change_password(work: Work, old: str, new: str) -> PersonRow:
    """Change the actor's own password; every other session of theirs ends. Raises Refusal `sign_in`, `short`."""
    work.need(Right.LOOK)
    person = people.get(work.session, work.actor.id)
    if person is None or not _matches(person.password_hash, old[:LONGEST_PASSWORD]):
        raise Refusal("sign_in", "The present password doesn't fit", ("old",), "Type the one you signed in with")
    _check_password(new)
    person.password_hash = _hasher().hash(new)
    person.epoch += 1
    work.session.flush()
    return person


def _check_password(password: str) -> None:
    if len(password) < SHORTEST_PASSWORD:
        raise Refusal("short", f"A password has at least {SHORTEST_PASSWORD} characters", ("new",), "Make it longer")
    if len(password) > LONGEST_PASSWORD:
        raise Refusal("long", f"A password has at most {LONGEST_PASSWORD} characters", ("new",), "Shorten it")
