"""Definitions as files: what goes out comes in elsewhere alike, a plan tells what it comes to, and one stroke takes it back."""

from __future__ import annotations

import json
import os
from collections.abc import Callable
from pathlib import Path
from typing import Any

import orjson
import pytest
from jsonschema import Draft202012Validator
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from tests.conftest import person
from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import bundles, definitions
from young_fabric.service.planning import plans
from young_fabric.service.values import recount
from young_fabric.service.writing import writes
from young_fabric.store.base import make_sessions

Sessions = Callable[[], Session]


def sent(data: Any) -> Any:
    """A document as it comes back from a file."""
    return json.loads(json.dumps(data))


def drafts(work: Work) -> dict[str, dict[str, Any]]:
    things = plans.draft(work.session).things
    return {noun: {key: state_of(thing) for key, thing in sorted(rows.items())} for noun, rows in things.items()}


def hows(planned: Any) -> dict[str, str]:
    return {thing.key: thing.how for thing in planned}


def test_what_is_exported_goes_into_an_empty_shop_and_comes_out_the_same(own_engine: Engine) -> None:
    shop = make_sessions(own_engine)
    with shop() as session:
        rosa = person(session, 0)
    with unit_of_work(shop, rosa) as work:
        whole = bundles.export(work)
    empty(shop)
    with unit_of_work(shop, rosa) as work:
        assert not any(drafts(work).values())
        planned = bundles.import_definitions(work, sent(whole), from_file=False)
        assert {thing.how for thing in planned} == {"new"}
    with unit_of_work(shop, rosa) as work:
        again = bundles.export(work)
        assert orjson.dumps(again) == orjson.dumps(whole)
        assert not recount.recount(work.session)
        assert {thing.how for thing in bundles.plan(work, sent(whole), from_file=False)} == {"same"}
        assert len(bundles.import_definitions(work, sent(whole), from_file=True)) == len(planned)
        history.undo_last(work)
        assert not any(drafts(work).values()), "one stroke takes it back"


def empty(shop: Sessions) -> None:
    with shop() as session:
        session.execute(text("TRUNCATE product, definition, reference, unreleased, field_fill CASCADE"))
        session.execute(text("UPDATE shop SET stamp = nextval('definitions_stamp')"))
        session.commit()


def test_one_type_goes_with_all_it_needs(work: Work) -> None:
    data = bundles.export(work, "watercolour")
    found = {plural: {row["key"] for row in rows["things"]} for plural, rows in data["definitions"].items()}
    assert found["product_types"] == {"watercolour", "paint"}
    assert {"pigments", "opacity"} <= found["value_lists"]
    assert "ss_wash_steps" in found["fields"]
    assert "easels" not in found["product_types"]
    with pytest.raises(Refusal):
        bundles.export(work, "gone")


def test_what_both_have_is_merged_and_what_clashes_is_chosen(work: Work) -> None:
    data = sent(bundles.export(work, "easels"))
    rows = {row["key"]: row for section in data["definitions"].values() for row in section["things"]}
    rows["wood"]["values"].append({"code": "yew", "label": "Yew"})
    rows["ss_wood"]["label"] = "Timber"
    rows["ss_folds"]["help"] = "Flat"
    before = drafts(work)
    planned = bundles.plan(work, data, from_file=False)
    assert (hows(planned)["wood"], hows(planned)["ss_wood"], hows(planned)["easels"]) == ("merged", "clash", "same")
    wood = next(thing for thing in planned if thing.key == "ss_wood")
    assert (wood.clashes, wood.lines) == (("label",), ())
    assert drafts(work) == before, "a plan writes nothing"
    bundles.import_definitions(work, data, from_file=False)
    defs = plans.draft(work.session)
    assert defs.lists["wood"].by_code["yew"].label == "Yew"
    assert defs.fields["ss_wood"].label == "Wood"
    bundles.import_definitions(work, data, from_file=True)
    defs = plans.draft(work.session)
    assert (defs.fields["ss_wood"].label, defs.fields["ss_folds"].help) == ("Timber", "Flat")
    history.undo_last(work)
    history.undo_last(work)
    assert drafts(work) == before


def test_one_fault_and_nothing_is_written(work: Work) -> None:
    data = sent(bundles.export(work, "easels"))
    rows = {row["key"]: row for section in data["definitions"].values() for row in section["things"]}
    rows["wood"]["values"].append({"code": "yew", "label": "Yew"})
    rows["ss_weighs"]["limits"] = {"min": "9", "max": "3"}
    before = drafts(work)
    with pytest.raises(Refusal) as caught, work.session.begin_nested():
        bundles.import_definitions(work, data, from_file=True)
    assert (caught.value.code, caught.value.where) == ("limit_order", ("bundle", "field", "ss_weighs"))
    plans.refresh(work.session, wrote=True)
    assert drafts(work) == before


@pytest.mark.parametrize(
    ("data", "where"),
    [
        ({}, ("bundle",)),
        ({"format": 1}, ("bundle",)),
        ({"format": 2, "definitions": {}}, ("bundle",)),
        ({"format": "1", "definitions": {}}, ("bundle",)),
        ({"format": 1, "definitions": {"things": {}}}, ("bundle", "definitions")),
        ({"format": 1, "definitions": {"fields": []}}, ("bundle", "definitions", "fields")),
        ({"format": 1, "definitions": {"fields": {"format": 9, "things": []}}}, ("bundle", "definitions", "fields")),
        ({"format": 1, "definitions": {"fields": {"format": 2, "things": [1]}}}, ("bundle", "definitions", "fields")),
        ({"format": 1, "definitions": {"fields": {"format": 1, "things": [{"limits": 3}]}}}, ("bundle", "definitions", "fields", "things", 0)),
        ({"format": 1, "definitions": {"fields": {"format": 2, "things": [{"key": "a"}]}}}, ("bundle", "definitions", "fields", "things", 0)),
    ],
)  # fmt: skip
def test_what_is_no_file_of_definitions_is_refused_at_its_place(work: Work, data: Any, where: tuple[Any, ...]) -> None:
    with pytest.raises(Refusal) as caught:
        bundles.plan(work, data, from_file=False)
    assert caught.value.where[: len(where)] == where
    assert caught.value.help


def test_pictures_the_shop_has_not_are_left_out(work: Work) -> None:
    data = sent(bundles.export(work, "easels"))
    wood = next(row for row in data["definitions"]["value_lists"]["things"] if row["key"] == "wood")
    wood["values"][0]["swatch"] = {"picture": "a" * 64, "colours": ["#112233"]}
    bundles.import_definitions(work, data, from_file=True)
    swatch = plans.draft(work.session).lists["wood"].values[0].swatch
    assert (swatch.picture, swatch.colours) == ("", ("#112233",))


def test_a_schema_describes_what_goes_out_and_not_other_things(work: Work) -> None:
    schema = bundles.schema()
    Draft202012Validator.check_schema(schema)
    validator = Draft202012Validator(schema)
    whole = sent(bundles.export(work))
    assert not list(validator.iter_errors(whole))
    assert not list(validator.iter_errors(sent(bundles.export(work, "oil"))))
    whole["definitions"]["fields"]["things"][0]["kind"] = 3
    assert list(validator.iter_errors(whole))


def test_who_may_only_look_imports_nothing(looking: Work) -> None:
    with pytest.raises(Refusal) as caught:
        bundles.import_definitions(looking, sent(bundles.export(looking)), from_file=True)
    assert caught.value.code == "forbidden"


def test_products_picked_by_hand_stay_in_their_shop(work: Work) -> None:
    made = definitions.create(work, "collection", "By hand", {"picked": [1, 2]}).thing
    data = sent(bundles.export(work))
    row = next(row for row in data["definitions"]["collections"]["things"] if row["key"] == made.key)
    assert "picked" not in row
    bundles.import_definitions(work, data, from_file=True)
    assert writes.need_current(work, "collection", made.key).thing.picked == (1, 2)


def test_the_schema_that_ships_is_the_one_of_this_code() -> None:
    """After a change that is meant: `KEEP_SCHEMA=1 python -m pytest tests/service/defining/test_bundles.py -k ships`."""
    kept = Path(__file__).parents[3] / "docs/definitions.schema.json"
    made = orjson.dumps(bundles.schema(), option=orjson.OPT_INDENT_2) + b"\n"
    if "KEEP_SCHEMA" in os.environ:
        kept.write_bytes(made)
    assert kept.read_bytes() == made


@pytest.mark.parametrize(
    ("plural", "thing", "code"),
    [
        ("value_lists", {"key": "A list", "name": "A"}, "key"),
        (
            "display_settings",
            {"scope": {"kind": "product", "key": "1"}, "field": "title", "surface": "*", "set": {"shown": True}},
            "bundle",
        ),
    ],
)
def test_what_could_not_be_made_here_does_not_come_by_a_file(
    work: Work, plural: str, thing: dict[str, Any], code: str
) -> None:
    written = {"value_lists": 1, "display_settings": NOUNS["display_setting"].stored.format}[plural]
    data = {"format": 1, "definitions": {plural: {"format": written, "things": [thing]}}}
    with pytest.raises(Refusal) as caught:
        bundles.plan(work, data, from_file=False)
    assert caught.value.code == code


def test_types_come_after_those_they_stand_under_whatever_the_order_of_the_file(work: Work) -> None:
    rows = [
        {"key": f"level_{n}", "name": f"Level {n}", "slug": f"level-{n}", "parent": f"level_{n - 1}" if n else None}
        for n in (3, 1, 2, 0)
    ]
    data = {
        "format": 1,
        "definitions": {"product_types": {"format": NOUNS["product_type"].stored.format, "things": rows}},
    }
    planned = bundles.import_definitions(work, data, from_file=False)
    assert [thing.key for thing in planned] == ["level_0", "level_1", "level_2", "level_3"]
    ring = [
        {**rows[0], "key": "ring_a", "slug": "ring-a", "parent": "ring_b"},
        {**rows[0], "key": "ring_b", "slug": "ring-b", "parent": "ring_a"},
    ]
    data["definitions"]["product_types"]["things"] = ring
    with pytest.raises(Refusal):
        bundles.import_definitions(work, data, from_file=False)
