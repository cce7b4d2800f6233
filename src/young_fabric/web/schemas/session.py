"""Signing in and out, as the API takes and sends it."""

from __future__ import annotations

from datetime import datetime

from pydantic import Field as Member

from young_fabric.web.schemas.common import In, Out


class SignInIn(In):
    """Address and password."""

    email: str = Member(max_length=200)
    password: str = Member(max_length=1000)


class PasswordIn(In):
    """The present and the new password."""

    old: str = Member(max_length=1000)
    new: str = Member(max_length=1000)


class OwnSessionOut(Out):
    """A session of one's own."""

    id: int
    begun: datetime
    seen: datetime
    browser: str
    current: bool


class OwnSessionsOut(Out):
    """One's own sessions, last used first."""

    sessions: list[OwnSessionOut]


class SessionOut(Out):
    """Who is signed in, if anyone, and the token writes must send."""

    csrf: str
    name: str | None = None
    email: str | None = None
    rights: list[str] = []
