"""Keys other systems read with: shown once when made, known by their hash alone, ended at once."""

from __future__ import annotations

import hashlib
import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting.actors import Right, Work
from young_fabric.store.repos import keys

MOST_OPEN = 50
LONGEST_NAME = 80
NOTED_EVERY = timedelta(minutes=1)


@dataclass(frozen=True)
class ApiKey:
    """A key as people see it: never itself, but its last signs."""

    id: int
    name: str
    tail: str
    person: str
    made: datetime
    used: datetime | None
    ended: datetime | None


def listed(work: Work) -> list[ApiKey]:
    """Every key, the newest first."""
    work.need(Right.LOOK)
    return [
        ApiKey(row.id, row.name, row.tail, person, row.made, row.used, row.ended)
        for row, person in keys.all_of(work.session)
    ]


def make(work: Work, name: str) -> tuple[int, str]:
    """Make a key; gives its id and the key itself, which nobody can read again. Raises Refusal `required`, `long`, `too_many`."""
    work.need(Right.RELEASE)
    name = name.strip()
    if not name:
        raise Refusal("required", "A key needs a name", ("name",), "Type which system it is for")
    if len(name) > LONGEST_NAME:
        raise Refusal("long", f"At most {LONGEST_NAME} characters fit", ("name",), "Shorten it")
    if keys.count_open(work.session) >= MOST_OPEN:
        raise Refusal("too_many", f"There are {MOST_OPEN} keys already", (), "End one that nobody uses")
    key = secrets.token_urlsafe(32)
    number = keys.add(
        work.session, name=name, hash=digest_of(key), tail=key[-4:], person_id=work.actor.id, made=work.now
    )
    return number, key


def end(work: Work, number: int) -> None:
    """End a key: whoever reads with it is refused from now on. Raises Refusal `not_found`."""
    work.need(Right.RELEASE)
    if not keys.end(work.session, number, work.now):
        raise Refusal("not_found", "There is no such key, or it was ended already", (), "See the list")


def admits(session: Session, key: str, at: datetime) -> bool:
    """Whether a key lets one read; notes once a minute that it was used."""
    found = keys.find(session, digest_of(key)) if key else None
    if found is None:
        return False
    if found.used is None or at - found.used >= NOTED_EVERY:
        keys.use(session, found.id, at)
    return True


def digest_of(key: str) -> str:
    """The hash a key is known by: it is as long as a hash, so that none can be guessed from it."""
    return hashlib.sha256(key.encode()).hexdigest()
