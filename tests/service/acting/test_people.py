"""People: passwords, rights, and sessions that end."""

from __future__ import annotations

from datetime import timedelta

import pytest
from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.demo.load import PEOPLE
from young_fabric.service.acting import people
from young_fabric.service.acting.actors import Actor, Right, Work


def code(attempt: object) -> str:
    with pytest.raises(Refusal) as caught:
        attempt()  # type: ignore[operator]
    return caught.value.code


def test_the_right_password_opens_and_no_other(session: Session) -> None:
    email, name, password, rights = PEOPLE[0]
    assert people.sign_in(session, email, password).name == name
    assert people.sign_in(session, email.upper(), password).name == name
    for wrong in ("", password[:-1], password.upper(), "x" * 1000):
        assert code(lambda wrong=wrong: people.sign_in(session, email, wrong)) == "sign_in"
    assert code(lambda: people.sign_in(session, "nobody@saltmarsh.example", password)) == "sign_in"
    assert people.actor_of(people.sign_in(session, email, password)).rights == {Right(right) for right in rights}


def test_passwords_are_kept_as_argon2_hashes(session: Session) -> None:
    person = people.sign_in(session, PEOPLE[0][0], PEOPLE[0][2])
    assert person.password_hash.startswith("$argon2id$")
    assert PEOPLE[0][2] not in person.password_hash


def test_a_new_password_ends_other_sessions(work: Work) -> None:
    email, _, old, _ = PEOPLE[0]
    person = people.sign_in(work.session, email, old)
    mine, other = (people.begin_session(work.session, person, name, work.now) for name in ("here", "there"))
    assert [row.browser for row in people.sessions(work, mine) if row.current] == ["here"]
    assert code(lambda: people.change_password(work, "not it", "a longer password", mine)) == "sign_in"
    assert code(lambda: people.change_password(work, old, "short", mine)) == "short"
    assert code(lambda: people.change_password(work, old, "x" * 201, mine)) == "long"
    people.change_password(work, old, "sedge-and-sparrow", mine)
    assert people.person_of(work.session, mine, work.now) is not None
    assert people.person_of(work.session, other, work.now) is None
    assert people.sign_in(work.session, email, "sedge-and-sparrow")
    assert code(lambda: people.sign_in(work.session, email, old)) == "sign_in"


def test_people_are_added_once_with_rights_there_are(session: Session) -> None:
    made = people.add(session, "nell@saltmarsh.example", "Nell Sand", "heron-and-harbour", ["look", "edit"])
    assert people.actor_of(made).rights == {Right.LOOK, Right.EDIT}
    assert code(lambda: people.add(session, "NELL@saltmarsh.example", "N", "heron-and-harbour", ["look"])) == "taken"
    assert code(lambda: people.add(session, "a@b.example", "N", "short", ["look"])) == "short"
    assert code(lambda: people.add(session, "a@b.example", "N", "heron-and-harbour", ["rule"])) == "unknown"


def test_each_right_is_asked_for_on_its_own(work: Work) -> None:
    for right in Right:
        only = Work(work.session, Actor(1, "A", frozenset({right})), work.now)
        only.need(right)
        for other in set(Right) - {right}:
            assert code(lambda only=only, other=other: only.need(other)) == "forbidden"


def test_a_session_ends_on_the_server(work: Work) -> None:
    person = people.sign_in(work.session, PEOPLE[0][0], PEOPLE[0][2])
    tokens = [people.begin_session(work.session, person, f"b{number}", work.now) for number in range(3)]
    people.end_session(work, token=tokens[0])
    assert people.person_of(work.session, tokens[0], work.now) is None
    last = next(row for row in people.sessions(work, tokens[1]) if row.browser == "b2")
    people.end_session(work, number=last.id)
    assert people.person_of(work.session, tokens[2], work.now) is None
    assert code(lambda: people.end_session(work, number=last.id)) == "not_found"
    later = work.now + people.FORGOTTEN_AFTER + timedelta(days=1)
    people.begin_session(work.session, person, "new", later)
    assert people.person_of(work.session, tokens[1], later) is None, "what nobody uses for long ends by itself"


def test_failures_count_by_account_and_address_and_nobody_shuts_out_another(work: Work) -> None:
    email, now = PEOPLE[0][0], work.now

    def check(address: str, account: str = email, at: timedelta = timedelta(0)) -> None:
        people.check_tries(work.session, account, address, now + at, 3)

    for _ in range(3):
        check("10.0.0.1")
        people.note_failure(work.session, email, "10.0.0.1", now)
    with pytest.raises(people.TooOften) as caught:
        check("10.0.0.1")
    assert (caught.value.code, 1 <= caught.value.after <= 61) == ("too_often", True)
    check("10.0.0.2")
    check("10.0.0.1", "other@saltmarsh.example")
    check("10.0.0.1", at=timedelta(minutes=1, seconds=1))
    for number in range(3 * people.MORE_FROM_ADDRESS - 3):
        people.note_failure(work.session, f"{number}@x.example", "10.0.0.1", now)
    with pytest.raises(people.TooOften):
        check("10.0.0.1", "other@saltmarsh.example")
    for number in range(3 * people.MORE_TO_ACCOUNT - 3):
        people.note_failure(work.session, email, f"10.1.0.{number}", now)
    with pytest.raises(people.TooOften):
        check("10.0.0.2")
