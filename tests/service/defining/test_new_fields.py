"""A field made in one go: with its list and where it goes, all of it or nothing, undone together."""

from __future__ import annotations

from typing import Any

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import new_fields
from young_fabric.service.defining.new_fields import Taker
from young_fabric.service.planning import plans

ONE_OF = {"kind": "one_of"}


def definitions(work: Work) -> dict[str, Any]:
    return {noun: dict(things) for noun, things in plans.draft(work.session).things.items()}


def test_list_field_and_place_are_made_and_undone_together(work: Work) -> None:
    before = definitions(work)
    key = new_fields.make(work, "Stand", ONE_OF, "Wall\nFloor;floor;ground, base\n", Taker("field_set", "furniture"))
    defs = plans.draft(work.session)
    field = defs.fields[key]
    assert (field.kind, field.name) == ("one_of", "Stand")
    assert [value.label for value in defs.lists[field.options["list"]].values] == ["Wall", "Floor"]
    assert defs.sets["furniture"].sections[-1].fields[-1] == key
    assert history.undo_last(work).name == "Easel basics"
    assert definitions(work) == before
    history.redo_last(work)
    assert key in plans.draft(work.session).sets["furniture"].fields


@pytest.mark.parametrize("into", [Taker("product_type", "easels"), None])
def test_it_may_go_to_a_type_or_nowhere(work: Work, into: Taker | None) -> None:
    key = new_fields.make(work, "Reach", {"kind": "measure", "options": {"unit": "cm"}}, None, into)
    defs = plans.draft(work.session)
    assert (key in defs.types["easels"].fields) == (into is not None)


@pytest.mark.parametrize(
    ("given", "values", "into", "code", "where"),
    [
        (ONE_OF, "", None, "list", ("values",)),
        (ONE_OF, "Wall\nwall", None, "list", ("values",)),
        (ONE_OF, "Wall;Not A Code", None, "list", ("values",)),
        (ONE_OF, None, None, "list", ("options", "list")),
        ({"kind": "text"}, "Wall", None, "list", ("values",)),
        ({"kind": "none"}, None, None, "kind", ("kind",)),
        (ONE_OF, "Wall", Taker("field_set", "gone"), "not_found", ("into",)),
        (ONE_OF, "Wall", Taker("value_list", "wood"), "not_found", ("into",)),
        (ONE_OF, "Wall", Taker("no_noun", "wood"), "not_found", ("into",)),
    ],
)
def test_what_can_not_be_made_is_refused_at_its_place_and_nothing_is_left(
    work: Work, given: dict[str, Any], values: str | None, into: Taker | None, code: str, where: tuple[str, ...]
) -> None:
    before = definitions(work)
    with pytest.raises(Refusal) as caught, work.session.begin_nested():
        new_fields.make(work, "Stand", given, values, into)
    assert (caught.value.code, caught.value.where) == (code, where)
    assert caught.value.help
    assert definitions(work) == before


def test_starter_fields_are_added_with_their_lists_in_one_stroke(work: Work) -> None:
    before = definitions(work)
    there = {row.starter.key: row.there for row in new_fields.offered(work)}
    assert there["maker"] == "ss_maker", "the demo has it"
    assert there["brand"] is None
    made = new_fields.add_starters(work, ["brand", "washing", "steps", "brand"], Taker("field_set", "furniture"))
    assert made == ["ss_brand", "ss_washing", "ss_steps"]
    defs = plans.draft(work.session)
    assert defs.fields["ss_brand"].schema_org == "brand"
    assert len(defs.lists[defs.fields["ss_washing"].options["list"]].values) == 5
    assert set(made) <= set(defs.sets["furniture"].fields)
    history.undo_last(work)
    assert definitions(work) == before


@pytest.mark.parametrize(("key", "code"), [("maker", "taken"), ("gone", "not_found")])
def test_a_starter_that_is_there_or_none_is_refused_by_name(work: Work, key: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        new_fields.add_starters(work, [key], None)
    assert (caught.value.code, caught.value.where[:2]) == (code, ("keys", key))


def test_it_shows_where_it_is_said_from_the_start_and_all_is_undone_together(work: Work) -> None:
    before = definitions(work)
    shown = {"listing_card": True, "product_page": False}
    key = new_fields.make(work, "Stand", ONE_OF, "Wall\nFloor", Taker("field_set", "furniture"), shown=shown)
    settings = plans.draft(work.session).settings
    assert settings[f"shop/{key}/listing_card"].set == {"shown": True}
    assert settings[f"shop/{key}/product_page"].set == {"shown": False}
    history.undo_last(work)
    assert definitions(work) == before


@pytest.mark.parametrize(
    ("given", "code"), [({"subject": "record"}, "listing_card"), ({}, "record_page"), ({}, "nothing")]
)
def test_it_is_refused_where_it_can_t_show(work: Work, given: dict[str, Any], code: str) -> None:
    with pytest.raises(Refusal) as caught:
        new_fields.make(work, "Stand", given, None, None, shown={code: True})
    assert (caught.value.code, caught.value.where) == ("not_found", ("shown", code))
