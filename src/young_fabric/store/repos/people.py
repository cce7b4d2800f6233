"""People who may sign in, their sessions, and tries to sign in."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import delete, func, insert, select, update
from sqlalchemy.orm import Session

from young_fabric.store.tables import PersonRow, SignInSessionRow, SignInTryRow

S = SignInSessionRow
T = SignInTryRow


def by_email(session: Session, email: str) -> PersonRow | None:
    """The person with an address, case ignored."""
    return session.scalar(select(PersonRow).where(func.lower(PersonRow.email) == email.strip().lower()))


def get(session: Session, person_id: int) -> PersonRow | None:
    """A person by id."""
    return session.get(PersonRow, person_id)


def begin_session(session: Session, token: str, person_id: int, at: datetime, browser: str) -> None:
    """Note that somebody signed in."""
    session.execute(insert(S).values(token=token, person_id=person_id, begun=at, seen=at, browser=browser))


def session_of(session: Session, token: str) -> tuple[SignInSessionRow, PersonRow] | None:
    """The session of a token, with its person."""
    row = session.execute(
        select(S, PersonRow).join(PersonRow, PersonRow.id == S.person_id).where(S.token == token)
    ).first()
    return (row[0], row[1]) if row else None


def touch_session(session: Session, session_id: int, at: datetime) -> None:
    """Note when a session was last used."""
    session.execute(update(S).where(S.id == session_id).values(seen=at).execution_options(synchronize_session=False))


def sessions_of(session: Session, person_id: int) -> Sequence[SignInSessionRow]:
    """A person's sessions, last used first."""
    return session.scalars(select(S).where(S.person_id == person_id).order_by(S.seen.desc(), S.id.desc())).all()


def end_sessions(
    session: Session, person_id: int, *, token: str | None = None, number: int | None = None, but: str | None = None
) -> int:
    """End sessions of a person: the one of a token, the one of a number, or all but that of a token; gives how many."""
    query = delete(S).where(S.person_id == person_id)
    if token is not None:
        query = query.where(S.token == token)
    if number is not None:
        query = query.where(S.id == number)
    if but is not None:
        query = query.where(S.token != but)
    return int(session.execute(query.execution_options(synchronize_session=False)).rowcount)  # type: ignore[attr-defined]


def forget_sessions(session: Session, unseen_since: datetime) -> None:
    """End sessions nobody used for long."""
    session.execute(delete(S).where(S.seen < unseen_since).execution_options(synchronize_session=False))


def failed_tries(session: Session, address: str, account: str, since: datetime) -> list[tuple[datetime, bool, bool]]:
    """(when, from the address?, to the account?) of failures to sign in since a time; oldest first."""
    rows = session.execute(
        select(T.at, T.address, T.account)
        .where(T.at > since, (T.address == address) | (T.account == account))
        .order_by(T.at)
        .limit(1000)
    ).all()
    return [(row[0], row[1] == address, row[2] == account) for row in rows]


def note_try(session: Session, address: str, account: str, at: datetime) -> None:
    """Note that signing in failed."""
    session.execute(insert(T).values(at=at, address=address, account=account))


def forget_tries(session: Session, account: str, before: datetime) -> None:
    """Drop the failures of an account, and all that are old."""
    session.execute(
        delete(T).where((T.account == account) | (T.at < before)).execution_options(synchronize_session=False)
    )
