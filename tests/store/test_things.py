"""Definitions in their tables: what is written is read back, versions and all."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy import inspect, text
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session
from young_fabric.store.repos.things import REPOS, settings_of_products

from young_fabric.core.display.cascade import DisplaySetting, Scope
from young_fabric.core.kinds import Limits
from young_fabric.core.nouns.definitions import setting_key
from young_fabric.core.nouns.field_sets import FieldSet, Section
from young_fabric.core.nouns.fields import Field
from young_fabric.core.nouns.product_types import ProductType
from young_fabric.core.nouns.value_lists import ListValue, ValueList
from young_fabric.store.repos import shop
from young_fabric.store.states import hash_of, state_of, thing_of

LIST = ValueList("tones", "Tones", (ListValue("b", "B-side", ("bee", "beta")), ListValue("a", "A-side", (), True)))
FIELD = Field(
    "ss_tone", "Tone", "Shade", "many_of", list="tones", limits=Limits(min_count=0, max_count=2), need="wanted",
    audience="feeds", help="As heard", example="B-side", default=["b"],
)  # fmt: skip
PATTERN = Field("ss_code", "Code", "Code", "text", many=True, limits=Limits(pattern="[A-Z]+", max_length=9))
SET = FieldSet("sound", "Sound", (Section("s2", "Second", ("ss_code",)), Section("s1", "First", ("ss_tone",))))
BARE = FieldSet("bare", "Bare", (Section("main", "General"),))
TYPE = ProductType("drums", "Drums", None, "drums", ("sound", "bare"), ("ss_code",), {"ss_tone": "required"})
SETTING = DisplaySetting(Scope("shop"), "ss_tone", "product_page", {"shown": False, "devices": ["phone"]})
OWN = DisplaySetting(Scope("product", "7"), "ss_tone", "*", {"label_text": "Note"})

THINGS: list[tuple[str, str, Any]] = [
    ("list", "tones", LIST),
    ("field", "ss_tone", FIELD),
    ("field", "ss_code", PATTERN),
    ("set", "sound", SET),
    ("set", "bare", BARE),
    ("type", "drums", TYPE),
    ("setting", setting_key(SETTING), SETTING),
    ("setting", setting_key(OWN), OWN),
]


@pytest.fixture
def written(session: Session) -> Session:
    for noun, _, thing in THINGS:
        REPOS[noun].write(session, thing, 1)
    session.flush()
    session.expire_all()
    return session


@pytest.mark.parametrize(("noun", "key", "thing"), THINGS, ids=[f"{noun} {key}" for noun, key, _ in THINGS])
def test_a_thing_is_read_as_it_was_written(written: Session, noun: str, key: str, thing: Any) -> None:
    assert REPOS[noun].load(written, [key]) == {key: (thing, 1)}


@pytest.mark.parametrize(("noun", "key", "thing"), THINGS, ids=[f"{noun} {key}" for noun, key, _ in THINGS])
def test_a_state_gives_the_thing_again(noun: str, key: str, thing: Any) -> None:
    state = state_of(noun, thing)
    again = thing_of(noun, key, state)
    assert state_of(noun, again) == state
    assert hash_of(noun, again) == hash_of(noun, thing)


def test_writing_again_replaces_and_removing_leaves_nothing(written: Session) -> None:
    shorter = ValueList("tones", "Tones, few", (ListValue("z", "Z-side"),))
    REPOS["list"].write(written, shorter, 2)
    turned = FieldSet("sound", "Sound", (Section("s1", "First", ("ss_tone", "ss_code")),))
    REPOS["set"].write(written, turned, 5)
    written.flush()
    assert REPOS["list"].load(written, ["tones"]) == {"tones": (shorter, 2)}
    assert REPOS["set"].load(written, ["sound"]) == {"sound": (turned, 5)}
    for noun, key, _ in reversed(THINGS):
        REPOS[noun].remove(written, key)
    written.flush()
    for noun, key, _ in THINGS:
        assert REPOS[noun].load(written, [key]) == {}


def test_what_others_refer_to_can_not_go(written: Session) -> None:
    for noun, key in (("list", "tones"), ("field", "ss_tone"), ("set", "sound")):
        with pytest.raises(IntegrityError), written.begin_nested():
            REPOS[noun].remove(written, key)


def test_settings_of_products_stay_out_of_the_definitions(written: Session) -> None:
    every = REPOS["setting"].load(written, None)
    assert setting_key(SETTING) in every
    assert setting_key(OWN) not in every
    assert settings_of_products(written, [7, 8]) == {7: (OWN,)}


def test_the_stamp_rises_and_is_never_given_twice(session: Session) -> None:
    seen = [shop.shop_of(session)[1]]
    for _ in range(3):
        shop.raise_stamp(session)
        session.flush()
        seen.append(shop.shop_of(session)[1])
    assert seen == sorted(set(seen))


def test_every_constraint_has_a_name_of_ours(session: Session) -> None:
    found = inspect(session.connection())
    for table in found.get_table_names():
        if table.startswith(("procrastinate", "alembic")):
            continue
        names = [found.get_pk_constraint(table)["name"]]
        names += [one["name"] for one in found.get_foreign_keys(table)]
        names += [one["name"] for one in found.get_unique_constraints(table)]
        for name in names:
            assert name.startswith(("pk_", "fk_", "uq_")), (table, name)


def test_numbers_in_json_stay_text(written: Session) -> None:
    stored = written.execute(text("SELECT limits FROM field WHERE key = 'ss_tone'")).scalar_one()
    assert stored == {"min_count": 0, "max_count": 2}
