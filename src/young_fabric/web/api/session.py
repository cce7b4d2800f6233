"""Signing in and out, and passwords."""

from __future__ import annotations

from flask import Response, session
from flask_login import current_user, login_user, logout_user

from young_fabric.service import people
from young_fabric.service.actors import Right
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import PUBLIC, SignedIn, allow, csrf_token, sessions, work
from young_fabric.web.limits import limiter, sign_in_rate
from young_fabric.web.schemas.common import Done
from young_fabric.web.schemas.session import PasswordIn, SessionOut, SignInIn

api = blueprint("session", "/session")


def _told() -> Response:
    if not current_user.is_authenticated:
        return reply(SessionOut, SessionOut(csrf=csrf_token()))
    actor = current_user.actor
    told = SessionOut(csrf=csrf_token(), name=actor.name, email=current_user.email, rights=sorted(actor.rights))
    return reply(SessionOut, told)


@api.get("", responses=answers(SessionOut))
@allow(PUBLIC)
def session_get() -> Response:
    """Who is signed in, and the CSRF token."""
    return _told()


@api.post("", responses=answers(SessionOut))
@limiter.limit(sign_in_rate)
@allow(PUBLIC)
def session_sign_in(body: SignInIn) -> Response:
    """Sign in."""
    with sessions() as database:
        person = people.sign_in(database, body.email, body.password)
        signed_in = SignedIn(person)
    session.clear()
    login_user(signed_in)
    return _told()


@api.delete("", responses=answers(Done))
@allow(Right.LOOK)
def session_sign_out() -> Response:
    """Sign out."""
    logout_user()
    session.clear()
    return reply(Done, Done())


@api.post("/password", responses=answers(SessionOut))
@limiter.limit(sign_in_rate)
@allow(Right.LOOK)
def session_password(body: PasswordIn) -> Response:
    """Change one's own password; other sessions end."""
    with work() as unit:
        person = people.change_password(unit, body.old, body.new)
        signed_in = SignedIn(person)
    login_user(signed_in)
    return _told()
