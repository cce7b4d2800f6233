"""The write path: rights, versions, clashes, records, undo, and what a definition's change means for values."""

from __future__ import annotations

from dataclasses import replace

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope, read_scope
from young_fabric.core.nouns.types.field_sets import Section
from young_fabric.service import history
from young_fabric.service.acting.actors import Clash, Work
from young_fabric.service.checking import checks
from young_fabric.service.defining import definitions, fields
from young_fabric.service.pages import weave
from young_fabric.service.planning import plans
from young_fabric.service.products import find, products
from young_fabric.service.values import recount
from young_fabric.service.writing import writes
from young_fabric.store.repos import changes as change_rows
from young_fabric.store.repos import fills


def refused(code: str) -> object:
    return pytest.raises(Refusal, check=lambda refusal: refusal.code == code)


def product_like(work: Work, words: str) -> products.AssessedProduct:
    return products.search(work, products.Filters(words=words), None).rows[0]


def change_field(work: Work, key: str, **given: object) -> writes.WrittenThing:
    _, version = writes.need_current(work, "field", key)
    return definitions.change(work, "field", key, version, given)


def test_a_field_is_made_from_its_name_with_the_shops_prefix(work: Work) -> None:
    made = definitions.create(work, "field", "Drying time", {})
    assert (made.thing.key, made.thing.label, made.version) == ("ss_drying_time", "Drying time", 1)
    assert definitions.create(work, "field", "Drying time", {}).thing.key == "ss_drying_time_2"
    with refused("taken"):
        definitions.create(work, "field", "Again", {"key": "ss_drying_time"})
    with refused("required"):
        definitions.create(work, "field", "  ", {})


def test_only_looking_is_not_enough_to_write(looking: Work) -> None:
    for attempt in (
        lambda: definitions.create(looking, "field", "No", {}),
        lambda: definitions.remove(looking, "field_set", "origin", 1),
        lambda: products.create(looking, "canvas", "No"),
        lambda: products.set_stock(looking, 1, None, 3),
        lambda: history.undo_last(looking),
        lambda: definitions.display(looking, Scope("shop"), "title", "*", {}, None),
    ):
        with refused("forbidden"):
            attempt()


def test_the_second_of_two_writers_is_told_and_both_states_are_given(work: Work) -> None:
    _, version = writes.need_current(work, "field", "ss_hair")
    definitions.change(work, "field", "ss_hair", version, {"label": "Tuft"})
    joined = definitions.change(work, "field", "ss_hair", version, {"help": "Feel it"})
    assert (joined.thing.label, joined.thing.help) == ("Tuft", "Feel it"), "what others did meanwhile is kept"
    with pytest.raises(Clash) as caught:
        definitions.change(work, "field", "ss_hair", version, {"label": "Bristle"})
    assert caught.value.version == version + 2
    assert caught.value.clashes == [["label"]]
    assert caught.value.yours["label"] == "Bristle"  # type: ignore[index]
    assert caught.value.theirs["label"] == "Tuft"  # type: ignore[index]


def test_nothing_is_recorded_when_nothing_differs(work: Work) -> None:
    before = change_rows.unreleased_count(work.session)
    assert change_field(work, "ss_hair", label="Hair").change is None
    assert change_rows.unreleased_count(work.session) == before


def test_every_write_is_recorded_and_undone(work: Work) -> None:
    change_field(work, "ss_hair", label="Tuft", help="Feel it")
    newest = history.history(work, "field", "ss_hair", None)[0]
    assert newest.lines == ["label “Hair” → “Tuft”", "help nothing → “Feel it”"]
    assert history.undo_last(work).name == "Hair"
    assert writes.need_current(work, "field", "ss_hair")[0].label == "Hair"
    rows = history.history(work, "field", "ss_hair", None)
    assert (rows[0].is_undo, rows[1].undone) == (True, True)
    with refused("undone"):
        history.undo(work, newest.id)
    history.undo(work, rows[0].id)
    assert writes.need_current(work, "field", "ss_hair")[0].label == "Tuft", "an undo can be undone"


def test_undoing_goes_further_back_each_time(work: Work) -> None:
    change_field(work, "ss_hair", label="One")
    change_field(work, "ss_hair", label="Two")
    history.undo_last(work)
    history.undo_last(work)
    assert writes.need_current(work, "field", "ss_hair")[0].label == "Hair"


def test_what_was_undone_is_done_again_until_something_new_is_changed(work: Work) -> None:
    def label() -> str:
        return str(writes.need_current(work, "field", "ss_hair")[0].label)

    start = label()
    for word in ("One", "Two", "Three"):
        change_field(work, "ss_hair", label=word)
    with refused("nothing_to_undo"):
        history.redo_last(work)
    for expected in ("Two", "One", start):
        history.undo_last(work)
        assert label() == expected
    for expected in ("One", "Two"):
        history.redo_last(work)
        assert label() == expected
    history.undo_last(work)
    assert label() == "One", "what was done again can be undone again"
    rows = history.history(work, "field", "ss_hair", None)
    assert [row.is_undo for row in rows[:4]] == [True, False, False, True]
    change_field(work, "ss_hair", label="Four")
    with refused("nothing_to_undo"):
        history.redo_last(work)
    assert label() == "Four"


def test_undo_keeps_later_changes_of_other_members_and_refuses_the_same(work: Work) -> None:
    first = change_field(work, "ss_hair", label="One")
    change_field(work, "ss_hair", help="Later")
    assert first.change is not None
    history.undo(work, first.change)
    thing, _ = writes.need_current(work, "field", "ss_hair")
    assert (thing.label, thing.help) == ("Hair", "Later")
    second = change_field(work, "ss_hair", label="Two")
    change_field(work, "ss_hair", label="Three")
    assert second.change is not None
    with refused("clash"):
        history.undo(work, second.change)


def test_a_removed_field_comes_back_with_its_settings(work: Work) -> None:
    made = definitions.create(work, "field", "Passing", {})
    definitions.display(work, Scope("shop"), "ss_passing", "product_page", {"label": "above"}, None)
    definitions.remove(work, "field", "ss_passing", made.version)
    assert "shop/ss_passing/product_page" not in plans.draft(work.session).settings
    history.undo_last(work)
    defs = plans.draft(work.session)
    assert "ss_passing" in defs.fields
    assert "shop/ss_passing/product_page" in defs.settings


@pytest.mark.parametrize(
    ("noun", "key"),
    [
        ("field", "ss_hair"),
        ("value_list", "hair"),
        ("field_set", "origin"),
        ("product_type", "paint"),
        ("product_type", "oil"),
    ],
)
def test_what_is_used_is_not_removed(work: Work, noun: str, key: str) -> None:
    _, version = writes.need_current(work, noun, key)
    with pytest.raises(Refusal) as caught:
        definitions.remove(work, noun, key, version)
    assert caught.value.code == "in_use"
    assert "is used by" in caught.value.message


def test_a_retired_value_stays_on_products_and_is_no_longer_taken(work: Work) -> None:
    hair, version = writes.need_current(work, "value_list", "hair")
    retired = [{"code": v.code, "label": v.label, "synonyms": [], "retired": True} for v in hair.values]
    definitions.change(work, "value_list", "hair", version, {"values": retired})
    heron = product_like(work, "Heron Round 8")
    assert heron.outcomes["ss_hair"].state == "good"
    typed = products.fill(work, heron.product.id, heron.version, {"ss_hair": "Goat"})
    assert typed.outcomes["ss_hair"].wrong is not None


def test_a_narrowed_limit_tells_first_then_marks_and_widening_unmarks(work: Work) -> None:
    weight, version = writes.need_current(work, "field", "ss_paper_weight")
    narrow = {**weight.limits, "max": "250"}
    thing = definitions.changed_thing(work, "field", weight.key, {"limits": narrow})
    touched = definitions.consequences(work, "field", weight.key, thing)
    assert touched.effects is not None
    assert (touched.effects.values, touched.effects.wrong) == (20, 5), "one is wrong already"
    assert touched.types == 5
    before = fills.wrong_counts(work.session)["ss_paper_weight"]
    definitions.change(work, "field", weight.key, version, {"limits": narrow})
    assert fills.wrong_counts(work.session)["ss_paper_weight"] == 6
    assert before == 1
    history.undo_last(work)
    assert fills.wrong_counts(work.session)["ss_paper_weight"] == 1


def test_a_default_must_keep_the_limits(work: Work) -> None:
    assert change_field(work, "ss_deckle", default="2").thing.default == "2"
    with refused("above"):
        change_field(work, "ss_deckle", default="9")
    with refused("number"):
        change_field(work, "ss_deckle", default="many")


def test_changing_a_set_tells_how_much_it_touches(work: Work) -> None:
    origin, version = writes.need_current(work, "field_set", "origin")
    wider = replace(origin, sections=(Section("s1", "Origin", (*origin.fields, "ss_old_note")),))
    touched = definitions.consequences(work, "field_set", "origin", wider)
    assert (touched.types, touched.products, touched.surfaces["product_page"]) == (11, 61, 0), (
        "a staff field changes no page"
    )
    narrower = replace(origin, sections=(Section("s1", "Origin", ("ss_maker",)),))
    assert definitions.consequences(work, "field_set", "origin", narrower).surfaces["product_page"] == 61
    assert writes.need_current(work, "field_set", "origin")[1] == version, "nothing was written"


def test_a_setting_counts_the_pages_it_changes_and_goes_back_to_inherited(work: Work) -> None:
    edit = definitions.SettingEdit("ss_granul", "product_page", {"shown": False}, None)
    [(key, thing)] = definitions.changed_settings(work, Scope("type", "paint"), [edit])
    touched = definitions.consequences(work, "display_setting", key, thing)
    assert touched.lines, "the change is told"
    assert (touched.surfaces["product_page"], touched.surfaces["listing_card"]) == (22, 0), (
        "oil colours hide it already"
    )
    done = definitions.display(work, Scope("type", "paint"), "ss_granul", "product_page", {"shown": False}, None)
    with refused("clash"):
        definitions.display(work, Scope("type", "paint"), "ss_granul", "product_page", {"shown": True}, None)
    definitions.display(work, Scope("type", "paint"), "ss_granul", "product_page", {"shown": None}, done.version)
    assert key not in plans.draft(work.session).settings


def test_the_weave_tells_states_by_scope(work: Work) -> None:
    def cell(scope: str, field: str, surface: str) -> weave.WeaveCell:
        rows = [row for group in weave.weave(work, read_scope(scope)).groups for row in group.rows]
        return next(c for row in rows if row.field.key == field for c in row.cells if c.surface == surface)

    assert cell("type:paint", "ss_lightfast", "listing_card").state == "here"
    assert cell("type:watercolour", "ss_lightfast", "listing_card").state == "inherited"
    assert cell("type:watercolour", "ss_lightfast", "listing_card").settings["shown"].origin == "type:paint"
    assert cell("type:oil", "ss_granul", "product_page").state == "hidden"
    assert cell("type:watercolour", "ss_opacity", "listing_card").state == "off"
    assert cell("shop", "ss_maker", "listing_card").state == "here"
    definitions.display(work, Scope("shop"), "ss_hue", "product_page", {"shown": True}, None)
    assert cell("type:watercolour", "ss_hue", "product_page").state == "impossible"
    assert "other systems" in cell("shop", "ss_hue", "product_page").reason
    for text in ("planet:x", "type:", "product:x"):
        with refused("scope"):
            read_scope(text)


def test_fields_know_where_they_are_used_and_how_well_they_are_filled(work: Work) -> None:
    rows = {row.thing.key: row for row in fields.overview(work)}
    granul = rows["ss_granul"]
    assert (len(granul.types), granul.products, granul.filled) == (4, 29, 28)
    assert rows["ss_old_note"].types == ()
    assert rows["ss_pigment"].sets == ("paint_basics",)
    assert rows["ss_hue"].surfaces == ("structured_data", "feed")
    fen = product_like(work, "Fen Etching 300")
    before = rows["ss_sizing"].filled
    products.fill(work, fen.product.id, fen.version, {"ss_sizing": "Both"})
    assert {row.thing.key: row for row in fields.overview(work)}["ss_sizing"].filled == before + 1
    assert recount.recount(work.session) == [], "counting anew agrees"


def test_trying_a_value_tells_what_it_becomes(work: Work) -> None:
    tried = fields.try_texts(work, "ss_paper_weight", {}, ["0.3 kg/m²", "140 lb"])
    good, bad = tried.texts
    assert tried.example
    assert fields.try_texts(work, "ss_old_note", {"kind": "measure", "options": {"unit": "mm"}}, []).example == "300 mm"
    assert good.shown == "300\u00a0g/m²"
    assert bad.wrong is not None
    assert bad.wrong.message == "lb is a mass, this field needs mass per area"


def test_checks_find_what_was_left_in(work: Work) -> None:
    found = {(check.code, check.link): check for check in checks.checks(work)}
    assert found["required", ("lacking", "ss_sizing")].count == 3
    assert found["wrong", ("wrong", "ss_pressure")].count == 1
    assert ("unused", ("field", "ss_old_note")) in found
    assert ("unseen", ("weave", "ss_maker_since")) in found


def test_find_goes_to_any_thing(work: Work) -> None:
    nouns = {hit.noun for hit in find.find(work, "paper")}
    assert {"field", "field_set", "product_type", "value_list"} <= nouns
    assert find.find(work, "FE-300")[0].noun == "product"
    assert find.find(work, "nothing like it") == []
