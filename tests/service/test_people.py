"""People: passwords, rights, and sessions that end."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.demo.load import PEOPLE
from young_fabric.service import people
from young_fabric.service.actors import Actor, Right, Work


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
    assert people.actor_of(people.sign_in(session, email, password)).rights == {Right(one) for one in rights}


def test_passwords_are_kept_as_argon2_hashes(session: Session) -> None:
    person = people.sign_in(session, PEOPLE[0][0], PEOPLE[0][2])
    assert person.password_hash.startswith("$argon2id$")
    assert PEOPLE[0][2] not in person.password_hash


def test_a_new_password_ends_other_sessions(work: Work) -> None:
    email, _, old, _ = PEOPLE[0]
    epoch = people.sign_in(work.session, email, old).epoch
    assert code(lambda: people.change_password(work, "not it", "a longer password")) == "sign_in"
    assert code(lambda: people.change_password(work, old, "short")) == "short"
    assert code(lambda: people.change_password(work, old, "x" * 201)) == "long"
    assert people.change_password(work, old, "sedge-and-sparrow").epoch == epoch + 1
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
