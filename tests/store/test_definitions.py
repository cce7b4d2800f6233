"""Definitions in their table: what is written is read back, versions, references and all."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy import inspect, text
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from tests.core.helpers import field, limits
from young_fabric.core.display.cascade import DisplaySetting, Scope
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.nouns.types.field_sets import FieldSet, Section
from young_fabric.core.nouns.types.product_types import ProductType
from young_fabric.store.repos import definitions, shop
from young_fabric.store.states import hash_of, thing_of

LIST = ValueList("tones", "Tones", (ListValue("b", "B-side", ("bee", "beta")), ListValue("a", "A-side", (), True)))
FIELD = field(
    "ss_tone", "Tone", "Shade", "many_of", list="tones", limits=limits(min_count=0, max_count=2), need="wanted",
    audience="feeds", help="As heard", example="B-side", default=["b"],
)  # fmt: skip
PATTERN = field("ss_code", "Code", "Code", "text", many=True, limits=limits(pattern="[A-Z]+", max_length=9))
SET = FieldSet("sound", "Sound", (Section("s2", "Second", ("ss_code",)), Section("s1", "First", ("ss_tone",))))
BARE = FieldSet("bare", "Bare", (Section("main", "General"),))
TYPE = ProductType("drums", "Drums", None, "drums", ("sound", "bare"), ("ss_code",), {"ss_tone": "required"})
SETTING = DisplaySetting(Scope("shop"), "ss_tone", "product_page", {"shown": False, "devices": ["phone"]})
OWN = DisplaySetting(Scope("product", "7"), "ss_tone", "*", {"label_text": "Note"})

THINGS: list[tuple[str, Any]] = [
    ("value_list", LIST),
    ("field", FIELD),
    ("field", PATTERN),
    ("field_set", SET),
    ("field_set", BARE),
    ("product_type", TYPE),
    ("display_setting", SETTING),
    ("display_setting", OWN),
]


def write(session: Session, noun: str, thing: Any, version: int = 1) -> None:
    key = NOUNS[noun].calling.key_of(thing)
    row = definitions.row_of(NOUNS[noun], key, key, thing, version, shop.next_stamp(session))
    definitions.write_many(session, [row], [])


@pytest.fixture
def written(session: Session) -> Session:
    for noun, thing in THINGS:
        write(session, noun, thing)
    return session


@pytest.mark.parametrize(("noun", "thing"), THINGS)
def test_a_thing_is_read_as_it_was_written(written: Session, noun: str, thing: Any) -> None:
    assert definitions.get(written, noun, NOUNS[noun].calling.key_of(thing)) == (thing, 1)


@pytest.mark.parametrize(("noun", "thing"), THINGS)
def test_a_state_gives_the_thing_again(noun: str, thing: Any) -> None:
    again = thing_of(noun, state_of(thing), NOUNS[noun].stored.format)
    assert again == thing
    assert hash_of(again) == hash_of(thing)


def test_a_field_of_the_first_format_opens_as_one_of_now() -> None:
    old = {
        "key": "ss_w", "name": "W", "label": "W", "kind": "measure", "many": False, "unit": "mm", "list": None,
        "limits": {"required": False, "min": None, "max": "5"}, "need": "wanted", "audience": "shoppers", "help": "",
        "example": "", "default": None, "own": True,
    }  # fmt: skip
    assert thing_of("field", old, 1) == field(
        "ss_w", "W", "W", "measure", unit="mm", limits=limits(max="5"), need="wanted"
    )


def test_writing_again_replaces_and_removing_leaves_nothing(written: Session) -> None:
    shorter = ValueList("tones", "Tones, few", (ListValue("z", "Z-side"),))
    write(written, "value_list", shorter, 2)
    turned = FieldSet("sound", "Sound", (Section("s1", "First", ("ss_tone", "ss_code")),))
    write(written, "field_set", turned, 5)
    assert definitions.get(written, "value_list", "tones") == (shorter, 2)
    assert definitions.get(written, "field_set", "sound") == (turned, 5)
    for noun, thing in reversed(THINGS):
        definitions.write_many(written, [], [(noun, NOUNS[noun].calling.key_of(thing))])
    for noun, thing in THINGS:
        assert definitions.get(written, noun, NOUNS[noun].calling.key_of(thing)) is None


def test_what_others_refer_to_can_not_go(written: Session) -> None:
    for noun, key in (("value_list", "tones"), ("field", "ss_tone"), ("field_set", "sound")):
        with pytest.raises(IntegrityError, match="fk_reference"), written.begin_nested():
            definitions.write_many(written, [], [(noun, key)])


def test_what_is_not_there_can_not_be_referred_to(written: Session) -> None:
    lost = FieldSet("lost", "Lost", (Section("a", "A", ("ss_nowhere",)),))
    with pytest.raises(IntegrityError, match="fk_reference_to_definition"), written.begin_nested():
        write(written, "field_set", lost)


def test_no_two_things_have_one_address(written: Session) -> None:
    with pytest.raises(IntegrityError, match="uq_definition_address"), written.begin_nested():
        write(written, "product_type", ProductType("more", "More", None, "drums"))


def test_settings_of_products_stay_out_of_the_definitions(written: Session) -> None:
    loaded = definitions.load_all(written)
    assert "shop/ss_tone/product_page" in loaded.defs.settings
    assert "product:7/ss_tone/*" not in loaded.defs.settings
    assert definitions.of_subjects(written, "display_setting", "product", [7, 8]) == {"7": (OWN,)}
    assert definitions.keys_of_subjects(written, "product", [7]) == [("display_setting", "product:7/ss_tone/*")]
    assert definitions.referring_of_subjects(written, "field", "ss_tone") == [
        ("display_setting", "product:7/ss_tone/*")
    ]


def test_what_did_not_change_is_the_same_object_when_loaded_again(written: Session) -> None:
    before = definitions.load_all(written)
    write(written, "field_set", FieldSet("bare", "Bare", ()), 2)
    definitions.write_many(written, [], [("product_type", "drums")])
    shop.next_stamp(written)
    after = definitions.load_all(written, before)
    assert after.defs.fields["ss_tone"] is before.defs.fields["ss_tone"]
    assert after.defs.sets["bare"] == FieldSet("bare", "Bare", ())
    assert after.versions["field_set", "bare"] == 2
    assert "drums" not in after.defs.types
    assert after.defs == definitions.load_all(written).defs


def test_the_stamp_rises_and_is_never_given_twice(session: Session) -> None:
    seen = [shop.shop_of(session)[1]]
    for _ in range(3):
        seen.append(shop.next_stamp(session))
    assert seen == sorted(set(seen))
    assert shop.shop_of(session)[1] == seen[-1]


@pytest.mark.parametrize(
    ("locale", "collation"), [("de", "de-x-icu"), ("de_AT", "de-AT-x-icu"), ("sv", "sv-x-icu"), ("xx", "und-x-icu")]
)
def test_titles_are_ordered_as_the_locale_has_it(session: Session, locale: str, collation: str) -> None:
    assert shop.collation_for(session, locale) == collation


def test_every_constraint_has_a_name_of_ours(session: Session) -> None:
    found = inspect(session.connection())
    for table in found.get_table_names():
        if table.startswith(("procrastinate", "alembic")):
            continue
        names = [found.get_pk_constraint(table)["name"]]
        names += [constraint["name"] for constraint in found.get_foreign_keys(table)]
        names += [constraint["name"] for constraint in found.get_unique_constraints(table)]
        for name in names:
            assert name.startswith(("pk_", "fk_", "uq_")), (table, name)


def test_numbers_in_json_stay_text(written: Session) -> None:
    stored = written.execute(text("SELECT state -> 'limits' FROM definition WHERE key = 'ss_tone'")).scalar_one()
    assert stored == {"min_count": 0, "max_count": 2}
