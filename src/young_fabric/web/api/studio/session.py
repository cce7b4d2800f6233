"""Signing in and out, one's sessions, and passwords."""

from __future__ import annotations

from flask import Response, current_app, request, session
from flask_login import current_user, login_user, logout_user

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting import people
from young_fabric.service.acting.actors import Right
from young_fabric.service.long_work.jobs import now
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import PUBLIC, SignedIn, allow, caller, csrf_token, sessions, work
from young_fabric.web.schemas.common import Done, NumberPath
from young_fabric.web.schemas.session import OwnSessionsOut, PasswordIn, SessionOut, SignInIn

api = blueprint("session", "/session")


def _session_out() -> Response:
    if not current_user.is_authenticated:
        return reply(SessionOut, SessionOut(csrf=csrf_token()))
    actor = current_user.actor
    out = SessionOut(csrf=csrf_token(), name=actor.name, email=current_user.email, rights=sorted(actor.rights))
    return reply(SessionOut, out)


@api.get("", responses=answers(SessionOut))
@allow(PUBLIC)
def session_get() -> Response:
    """Who is signed in, and the CSRF token."""
    return _session_out()


@api.post("", responses=answers(SessionOut))
@allow(PUBLIC)
def session_sign_in(body: SignInIn) -> Response:
    """Sign in."""
    with sessions() as database:
        people.check_tries(database, body.email, caller(), now(), current_app.config["SIGN_INS_PER_MINUTE"])
        try:
            person = people.sign_in(database, body.email, body.password)
        except Refusal:
            people.note_failure(database, body.email, caller(), now())
            database.commit()
            raise
        token = people.begin_session(database, person, request.headers.get("User-Agent", ""), now())
        signed_in = SignedIn(person, token)
        database.commit()
    session.clear()
    login_user(signed_in)
    return _session_out()


@api.delete("", responses=answers(Done))
@allow(Right.LOOK)
def session_sign_out() -> Response:
    """Sign out: the session ends on the server, whoever else holds its cookie."""
    with work() as unit:
        people.end_session(unit, token=current_user.id)
    logout_user()
    session.clear()
    return reply(Done, Done())


@api.get("/all", responses=answers(OwnSessionsOut))
@allow(Right.LOOK)
def session_all() -> Response:
    """One's own sessions."""
    with work() as unit:
        return reply(OwnSessionsOut, {"sessions": people.sessions(unit, current_user.id)})


@api.delete("/all/<id:number>", responses=answers(Done))
@allow(Right.LOOK)
def session_end(path: NumberPath) -> Response:
    """End one of one's own sessions."""
    with work() as unit:
        people.end_session(unit, number=path.number)
        return reply(Done, Done())


@api.post("/password", responses=answers(SessionOut))
@allow(Right.LOOK)
def session_password(body: PasswordIn) -> Response:
    """Change one's own password; other sessions end."""
    with sessions() as database:
        people.check_tries(database, current_user.email, caller(), now(), current_app.config["SIGN_INS_PER_MINUTE"])
    try:
        with work() as unit:
            people.change_password(unit, body.old, body.new, current_user.id)
    except Refusal as refusal:
        if refusal.code == "sign_in":
            with sessions() as database:
                people.note_failure(database, current_user.email, caller(), now())
                database.commit()
        raise
    return _session_out()
