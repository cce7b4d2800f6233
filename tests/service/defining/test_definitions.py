"""Definitions: made from a name, changed member by member, refused at their place, removed when nothing uses them."""

from __future__ import annotations

from typing import Any

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.service import history
from young_fabric.service.acting.actors import Clash, Work
from young_fabric.service.defining import definitions
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.releasing import pending
from young_fabric.service.values import recount
from young_fabric.service.writing import writes
from young_fabric.store.repos import fills


def version_of(work: Work, noun: str, key: str) -> int:
    return writes.need_current(work, noun, key)[1]


@pytest.mark.parametrize(
    ("noun", "name", "key"),
    [
        ("field", "Drying time", "ss_drying_time"),
        ("value_list", "Drying time", "drying_time"),
        ("field_set", "Drying time", "drying_time"),
        ("product_type", "Drying time", "drying_time"),
        ("product_type", "Paint", "paint_2"),
        ("field_set", "Ölfarbe & Co.", "olfarbe_co"),
        ("field", "漆", "ss_unnamed"),
    ],
)
def test_a_thing_is_made_from_its_name(work: Work, noun: str, name: str, key: str) -> None:
    made = definitions.create(work, noun, f" {name} ", {})
    assert (made.thing.key, made.thing.name, made.version) == (key, name, 1)
    assert writes.need_current(work, noun, key) == (made.thing, 1)


def test_what_is_made_has_good_defaults(work: Work) -> None:
    field = definitions.create(work, "field", "Nap", {}).thing
    assert (field.kind, field.label, field.need, field.audience) == ("text", "Nap", "optional", "shoppers")
    assert [section.name for section in definitions.create(work, "field_set", "Nap", {}).thing.sections] == ["General"]
    kind = definitions.create(work, "product_type", "Nap", {"parent": "paint"}).thing
    assert (kind.parent, kind.slug) == ("paint", "nap")
    assert definitions.create(work, "product_type", "Nap", {}).thing.slug == "nap-2"


@pytest.mark.parametrize(
    ("noun", "name", "given", "code", "where"),
    [
        ("field", "", {}, "required", "name"),
        ("field", "x" * 81, {}, "long", "name"),
        ("field", "Nap", {"kind": "nothing"}, "kind", "kind"),
        ("field", "Nap", {"kind": "measure"}, "unit", "unit"),
        ("field", "Nap", {"kind": "one_of", "options": {"list": "nothing"}}, "list", "list"),
        ("field", "Nap", {"kind": "whole", "default": "many"}, "number", "default"),
        ("field", "Nap", {"limits": {"pattern": "("}}, "pattern_syntax", "pattern"),
        ("field", "Nap", {"limits": {"nothing": 1}}, "limit", "nothing"),
        ("field", "Nap", {"key": "nap"}, "key", "key"),
        ("value_list", "Nap", {"key": "wood"}, "taken", "key"),
        ("value_list", "Nap", {"values": [{"code": "A b", "label": "x"}]}, "code", "code"),
        ("field_set", "Nap", {"sections": [{"key": "a", "name": "A", "fields": ["nothing"]}]}, "unknown_field", 0),
        ("product_type", "Nap", {"parent": "nothing"}, "unknown_product_type", "parent"),
        ("product_type", "Nap", {"sets": ["nothing"]}, "unknown_field_set", 0),
        ("product_type", "Nap", {"slug": "Not so"}, "pattern", "slug"),
        ("product_type", "Nap", {"slug": "paint"}, "taken", "slug"),
        ("product_type", "Nap", {"needs": {"nothing": "required"}}, "unknown_field", "nothing"),
    ],
)
def test_what_is_not_sound_is_refused_at_its_place(
    work: Work, noun: str, name: str, given: dict[str, Any], code: str, where: object
) -> None:
    with pytest.raises(Refusal) as caught:
        definitions.create(work, noun, name, given)
    assert caught.value.code == code
    assert caught.value.where[-1] == where
    assert caught.value.help


def test_an_address_that_is_taken_is_told_with_who_has_it(work: Work) -> None:
    with pytest.raises(Refusal) as caught:
        definitions.create(work, "collection", "Colours", {"slug": "paint"})
    assert (caught.value.code, caught.value.message) == ("taken", "Paint has this address already")
    own = definitions.create(work, "collection", "Colours", {"slug": "all-colours"})
    definitions.change(work, "collection", own.thing.key, own.version, {"slug": "all-colours", "name": "All colours"})


def test_only_named_members_change(work: Work) -> None:
    before, version = writes.need_current(work, "field", "ss_hair")
    changed = definitions.change(work, "field", "ss_hair", version, {"help": "Ask the maker"}).thing
    assert changed.help == "Ask the maker"
    assert (changed.name, changed.options, changed.kind) == (before.name, before.options, before.kind)


def test_a_default_is_read_as_typed_and_fills_gaps(work: Work) -> None:
    count = products.count_gaps(work)
    version = version_of(work, "field", "ss_sizing")
    made = definitions.change(work, "field", "ss_sizing", version, {"default": "surface"})
    assert made.thing.default == "surface"
    assert products.count_gaps(work) < count, "a default fills what was missing"
    definitions.change(work, "field", "ss_sizing", made.version, {"default": None})
    assert products.count_gaps(work) == count


def test_gaps_follow_every_kind_of_definition(work: Work) -> None:
    count = products.count_gaps(work)
    books = fills.counts_by_type(work.session)["sketchbooks"]
    made = definitions.create(work, "field", "Ribbon", {"need": "required"})
    assert products.count_gaps(work) == count, "a field nobody has makes no gaps"
    version = version_of(work, "product_type", "sketchbooks")
    given = definitions.change(work, "product_type", "sketchbooks", version, {"fields": [made.thing.key]})
    assert products.count_gaps(work) == count + books - 1, "one of them had a gap already"
    eased = definitions.change(work, "field", made.thing.key, made.version, {"need": "optional"})
    assert products.count_gaps(work) == count
    definitions.change(work, "product_type", "sketchbooks", given.version, {"needs": {made.thing.key: "required"}})
    assert products.count_gaps(work) == count + books - 1
    last = products.search(work, products.Filters(type="sketchbooks", gaps=True), None).rows[-1]
    products.fill(work, last.product.id, last.version, {made.thing.key: "Red"})
    assert products.count_gaps(work) == count + books - 2
    assert eased.version == 2
    recount.recount(work.session)
    assert products.count_gaps(work) == count + books - 2, "counting anew agrees"


def test_a_removed_field_takes_its_settings_along(work: Work) -> None:
    definitions.display(work, Scope("type", "oil"), "ss_old_note", "product_page", {"shown": False}, None)
    definitions.remove(work, "field", "ss_old_note", version_of(work, "field", "ss_old_note"))
    defs = plans.draft(work.session)
    assert "ss_old_note" not in defs.fields
    assert not [rule for rule in defs.settings.values() if rule.field == "ss_old_note"]
    with pytest.raises(Refusal) as caught:
        definitions.remove(work, "field", "ss_old_note", 1)
    assert caught.value.code in ("not_found", "clash", "version")


def test_a_removed_field_leaves_no_need_behind_and_undo_brings_it_back(work: Work) -> None:
    made = definitions.create(work, "field", "Ribbon", {})
    key = made.thing.key
    given = definitions.change(
        work,
        "product_type",
        "sketchbooks",
        version_of(work, "product_type", "sketchbooks"),
        {"fields": [key], "needs": {key: "wanted"}},
    )
    definitions.change(work, "product_type", "sketchbooks", given.version, {"fields": []})
    definitions.remove(work, "field", key, made.version)
    kind, version = writes.need_current(work, "product_type", "sketchbooks")
    assert key not in kind.needs
    definitions.change(work, "product_type", "sketchbooks", version, {"name": "Books"})
    history.undo_last(work)
    history.undo_last(work)
    assert writes.need_current(work, "field", key)[0].name == "Ribbon"
    assert writes.need_current(work, "product_type", "sketchbooks")[0].needs == {key: "wanted"}


def test_a_removed_type_takes_its_settings_along(work: Work) -> None:
    made = definitions.create(work, "product_type", "Inks", {})
    definitions.display(work, Scope("type", "inks"), "title", "listing_card", {"shown": False}, None)
    definitions.remove(work, "product_type", "inks", made.version)
    assert not [key for key in plans.draft(work.session).settings if key.startswith("type:inks/")]
    definitions.create(work, "product_type", "Inks", {})
    assert not [key for key in plans.draft(work.session).settings if key.startswith("type:inks/")], (
        "nothing is inherited"
    )


@pytest.mark.parametrize(
    ("noun", "key", "words"),
    [
        ("field", "ss_hair", "the field set Brush basics"),
        ("field", "ss_batch", "the product type Paint"),
        ("value_list", "wood", "the field Wood"),
        ("field_set", "origin", "the product type Paint"),
        ("product_type", "paint", "the product type Watercolour"),
        ("product_type", "gouache", "8 products"),
    ],
)
def test_what_is_used_names_its_users(work: Work, noun: str, key: str, words: str) -> None:
    with pytest.raises(Refusal) as caught:
        definitions.remove(work, noun, key, version_of(work, noun, key))
    assert caught.value.code == "in_use"
    assert words in caught.value.message
    assert caught.value.help == "Take it off there first"


def test_settings_clash_and_go_back_to_inherited(work: Work) -> None:
    scope = Scope("type", "easels")
    done = definitions.display(work, scope, "ss_wood", "listing_card", {"shown": True, "label": "above"}, None)
    assert done.version == 1
    with pytest.raises(Clash) as caught:
        definitions.display(work, scope, "ss_wood", "listing_card", {"shown": False}, None)
    assert caught.value.version == 1
    assert caught.value.theirs["set"] == {"shown": True, "label": "above"}  # type: ignore[index]
    assert caught.value.clashes == [["set", "shown"]]
    joined = definitions.display(work, scope, "ss_wood", "listing_card", {"empty": "dash"}, None)
    assert joined.thing.set == {"shown": True, "label": "above", "empty": "dash"}, "what others set is kept"
    definitions.display(work, scope, "ss_wood", "listing_card", {"empty": None}, 2)
    less = definitions.display(work, scope, "ss_wood", "listing_card", {"label": None}, 3)
    assert less.thing.set == {"shown": True}
    gone = definitions.display(work, scope, "ss_wood", "listing_card", {"shown": None}, 4)
    assert gone.thing is None
    assert definitions.display(work, scope, "ss_wood", "listing_card", {"shown": None}, None).change is None


@pytest.mark.parametrize("scope", [Scope("type", "nothing"), Scope("product", "999999")])
def test_a_setting_needs_somebody_to_be_for(work: Work, scope: Scope) -> None:
    with pytest.raises(Refusal) as caught:
        definitions.display(work, scope, "title", "product_page", {"shown": True}, None)
    assert caught.value.code == "not_found"


def counts(work: Work, noun: str, key: str, given: dict[str, Any]) -> tuple[int, int, int, int]:
    thing = definitions.changed_thing(work, noun, key, given)
    found = definitions.consequences(work, noun, key, thing)
    return found.types, found.products, found.surfaces["product_page"], found.surfaces["listing_card"]


def test_consequences_count_what_differs_and_write_nothing(work: Work) -> None:
    waiting = pending.pending_count(work)
    assert counts(work, "field", "ss_wood", {"help": "For staff"}) == (1, 4, 0, 0), "shoppers see no help"
    assert counts(work, "field", "ss_wood", {"label": "Timber"}) == (1, 4, 4, 0)
    assert counts(work, "field", "ss_lightfast", {"label": "Fastness"}) == (4, 29, 29, 29)
    assert counts(work, "field_set", "furniture", {"name": "Furniture"}) == (1, 4, 0, 0)
    narrowed = definitions.changed_thing(work, "field", "ss_paper_weight", {"limits": {"max": "200", "decimals": 0}})
    effects = definitions.consequences(work, "field", "ss_paper_weight", narrowed).effects
    assert effects is not None
    assert 0 < len(effects.examples) == effects.wrong <= effects.values
    assert pending.pending_count(work) == waiting


def test_a_setting_touches_only_those_with_a_value(work: Work) -> None:
    def touched(field: str, surface: str, **given: object) -> tuple[int, int]:
        edit = definitions.SettingEdit(field, surface, given, None)
        [(key, thing)] = definitions.changed_settings(work, Scope("type", "easels"), [edit])
        found = definitions.consequences(work, "display_setting", key, thing)
        return found.surfaces["product_page"], found.surfaces["listing_card"]

    assert touched("ss_wood", "listing_card", shown=True) == (0, 4)
    assert touched("ss_weighs", "listing_card", shown=True) == (0, 3), "one has no weight"
    assert touched("ss_weighs", "listing_card", shown=True, empty="dash") == (0, 4), "the dash stands for it"
    assert touched("ss_wood", "product_page", shown=True) == (0, 0), "it is shown already"


def test_pages_that_stay_as_they_are_are_not_counted(work: Work) -> None:
    columns = [{"key": "step", "label": "Step", "kind": "text"}]
    rows = definitions.create(work, "field", "Steps", {"kind": "rows", "options": {"columns": columns}}).thing.key
    easels = writes.need_current(work, "product_type", "easels")
    definitions.change(work, "product_type", "easels", easels.version, {"fields": [*easels.thing.fields, rows]})
    easel = products.search(work, products.Filters(type="easels"), None).rows[0]
    products.fill(work, easel.product.id, easel.version, {rows: [{"step": "Unfold"}]})
    more = [*columns, {"key": "care", "label": "Care", "kind": "text"}]
    assert counts(work, "field", rows, {"options": {"columns": more}}) == (1, 4, 0, 0), "nothing is in it yet"
    other = [{**columns[0], "label": "What to do"}]
    assert counts(work, "field", rows, {"options": {"columns": other}}) == (1, 4, 1, 0)
    assert counts(work, "field", "ss_paper_weight", {"limits": {"max": "1000"}})[2] == 1, "one comes to be shown"
