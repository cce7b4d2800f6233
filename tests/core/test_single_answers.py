"""Single answers that are asked for far away: each by itself, word by word."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, STATES, having, state
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.memory import Memory
from young_fabric.core.base.patches import backward, diff, forward
from young_fabric.core.kinds import KINDS, Spec
from young_fabric.core.kinds.base import StoredFile
from young_fabric.core.kinds.leaves import Swatches
from young_fabric.core.kinds.limits import _pattern
from young_fabric.core.kinds.shown import Cards, Text, gathered
from young_fabric.core.listing.why_listed import why_listed
from young_fabric.core.nouns.fields.conditions import read_condition
from young_fabric.core.nouns.fields.fields import Field, allowed_limits
from young_fabric.core.nouns.lists.list_values import NEAREST, Swatch, check_swatch
from young_fabric.core.nouns.registry import NOUNS, describe
from young_fabric.core.nouns.types.product_types import DEEPEST
from young_fabric.core.options.offers import offer_of
from young_fabric.core.options.swatches import alike_pairs
from young_fabric.core.pages.listed import of_record, read_listing
from young_fabric.core.pages.plans import Plans, changed_record_types
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.core.subjects.memberships import Memberships, Narrowing
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import FieldRules
from young_fabric.core.subjects.variants import offered_of_state
from young_fabric.store.states import thing_of

WOODS = {
    "kind": "rows",
    "columns": [{"key": "maker", "label": "Maker", "kind": "record", "options": {"record_type": "maker"}}],
}


def test_a_combination_is_told_in_the_order_of_its_options_by_labels() -> None:
    offer = offer_of([SALTMARSH.option_sets["easel_woods"]], SALTMARSH)
    key, code = next((option.option.key, option.values[0].code) for option in offer.options if option.values)
    label = offer.by_key[key].label(code)
    assert label != code
    assert offer.words_of({"gone": "x", key: code}) == f"{label} · x"
    assert offer.words_of({}) == ""


def test_swatches_that_look_alike_are_paired_whatever_their_order() -> None:
    swatches = [["#102030"], [], ["#ffffff"], ["#102031"], ["#102030", "#ffffff"], ["#112131", "#fefefe"]]
    found = {(pair.first, pair.second) for pair in alike_pairs(swatches)}
    assert found == {(0, 3), (4, 5)}
    assert list(alike_pairs([["#000000"], ["#ffffff"]])) == []
    assert [pair.difference for pair in alike_pairs([["#000000"], ["#000000"]])] == ["0.00"]


def test_what_rows_name_is_found_in_each_row() -> None:
    options = {"columns": WOODS["columns"]}
    kind = KINDS["rows"]
    assert kind.targets(options) == (("record_type", "maker"),)
    value = [{"maker": "fen_mill"}, {}, {"maker": "ebb_daughter"}, {"maker": 7}]
    assert [item for _, item in kind.items(value, options)] == ["fen_mill", "ebb_daughter"]
    assert [kind.words([{}] * count) for count in (1, 2)] == ["1 row", "2 rows"]


@pytest.mark.parametrize(
    ("value", "words"),
    [({"count": 1, "amount": "15", "unit": "ml"}, "15 ml"), ({"count": 12, "amount": "5", "unit": "ml"}, "12 × 5 ml")],
)
def test_contents_in_words(value: Any, words: str) -> None:
    assert KINDS["contents"].words(value) == words


def test_a_value_stands_once_where_two_come_to_the_same() -> None:
    kind, options = KINDS["many_of"], {"list": "wood"}
    target = ("value_list", "wood")
    assert kind.with_items(["ash", "elm", "pine"], options, target, {"elm": "ash"}) == ["ash", "pine"]
    assert kind.with_items(["ash"], options, ("value_list", "other"), {"ash": "elm"}) == ["ash"]
    assert kind.containing(options, target, "elm") == (["elm"],)


def test_what_is_kept_is_set_as_a_whole_and_let_go() -> None:
    memory: Memory[str, int] = Memory(4)
    memory.put("a", 1)
    memory.set_to({"b": 2, "c": 3})
    assert memory.items() == {"b": 2, "c": 3}
    assert (memory.get("a"), memory.of("c", lambda: 9), memory.of("d", lambda: 4)) == (None, 3, 4)
    memory.clear()
    assert memory.items() == {}


def test_what_a_release_froze_of_an_offer_is_read_again() -> None:
    row = {"id": 3, "position": 1, "choices": {"a": "b"}, "values": {"price": "5"}, "unread": {"x": "?"}, "sku": "S"}
    sets, (variant,) = offered_of_state(9, {"sets": ["one"], "variants": [row]})
    assert sets == ("one",)
    assert (variant.id, variant.product, variant.position, variant.sku) == (3, 9, 1, "S")
    assert (variant.choices, variant.values, variant.unread, variant.retired) == (
        {"a": "b"},
        {"price": "5"},
        {"x": "?"},
        False,
    )


def test_how_full_a_product_is_and_what_comes_next() -> None:
    assessor = Assessor(SALTMARSH)
    easel = Product(5, "easels", {"title": "Heron easel", "ss_wood": "ash"})
    found = assessor.completeness(easel, assessor.outcomes(easel))
    fuller = replace(easel, values={**easel.values, "sku": "HE-1", "price": "90", "slug": "heron"})
    more = assessor.completeness(fuller, assessor.outcomes(fuller))
    assert found != more
    assert more.percent > found.percent


def test_where_to_look_for_what_meets_a_condition() -> None:
    asked = Memberships(SALTMARSH)
    wood = {"field": "ss_wood", "op": "is", "value": "ash"}
    empty = {"field": "ss_wood", "op": "empty"}
    easels = {"field": "type", "op": "is", "value": "easels"}
    assert asked.narrowing(None) == Narrowing(any=())
    assert asked.narrowing(wood) == Narrowing(field="ss_wood")
    assert asked.narrowing(empty) == Narrowing(every=True)
    assert asked.narrowing(easels).types == frozenset({"easels"})
    assert asked.narrowing({"all": [wood, empty]}) == Narrowing(all=(Narrowing(field="ss_wood"),))
    assert asked.narrowing({"all": [empty]}) == Narrowing(every=True)
    assert asked.narrowing({"any": [wood, empty]}) == Narrowing(every=True)
    assert asked.narrowing({"any": [wood]}) == Narrowing(any=(Narrowing(field="ss_wood"),))
    assert asked.narrowing({"none": [wood]}) == Narrowing(every=True)


def test_a_listing_is_read_as_it_is_written() -> None:
    listing = of_record("fen_mill")
    assert read_listing(str(listing)) == listing
    assert (read_listing("collection:a:b").noun, read_listing("collection:a:b").key) == ("collection", "a:b")


def test_pages_of_records_that_are_laid_out_otherwise_are_told() -> None:
    other = having(("field", state("field", "ss_maker_words", ("label", "About them"))))
    assert changed_record_types(Plans(SALTMARSH), Plans(other)) == {"maker"}
    assert changed_record_types(Plans(SALTMARSH), Plans(SALTMARSH)) == frozenset()


def test_cards_are_json_and_back_and_text() -> None:
    cards = Cards("cards", ((Text("One"), (("Wood", Text("Ash")), ("Note", Text("x")))), (Text("Two"), ())))
    assert Cards.of_members(*cards.members()) == cards
    assert cards.plain == "One, Ash, x\nTwo"


@pytest.mark.parametrize(
    ("pattern", "code"),
    [("[A-Z]+", None), (7, "pattern_syntax"), ("x" * 300, None), ("x" * 301, "long"), ("[", "pattern_syntax")],
)
def test_a_pattern_as_a_limit(pattern: Any, code: str | None) -> None:
    found = _pattern(pattern)
    assert (found and found.code) == code


@pytest.mark.parametrize(
    ("value", "good"),
    [("2026-02-28", True), ("2026-02-29", False), ("20260228", False), ("2026-W09-6", False), (7, False)],
)
def test_a_date_is_a_day_there_is(value: Any, good: bool) -> None:
    assert KINDS["date"].well_formed(value) is good


def test_what_is_stored_is_asked_for_only_in_its_shape() -> None:
    with pytest.raises(Refusal) as caught:
        read_condition({"field": "ss_folds", "op": "is", "value": "perhaps"}, SALTMARSH)
    assert (caught.value.code, caught.value.message) == ("shape", "Not a value of kind yes / no")
    read = read_condition({"field": "ss_folds", "op": "is", "value": True}, SALTMARSH)
    assert read == {"field": "ss_folds", "op": "is", "value": True}


def test_why_a_product_stands_with_a_record() -> None:
    product = Product(5, "easels", {"title": "x", "ss_maker": "fen_mill"})
    asked = Memberships(SALTMARSH)
    found = {step.name: step for step in why_listed(asked, product, of_record("fen_mill"))}
    assert (found["belongs"].ok, found["belongs"].text) == (True, "Its Maker is Fen Mill")
    other = {step.name: step for step in why_listed(asked, product, of_record("marsh_reed"))}
    assert other["belongs"].ok is False
    assert other["belongs"].mend is not None
    assert other["belongs"].mend.key == "5/ss_maker"


def test_many_values_are_judged_one_by_one() -> None:
    field = SALTMARSH.fields["ss_suits"]
    rules = FieldRules(field, SALTMARSH.spec(field))
    code = next(iter(SALTMARSH.lists["suits"].by_code))
    assert rules.judge([code]) is None
    assert [(wrong.code if wrong else None) for wrong in map(rules.judge, ([], code, ["gone"]))] == [
        "shape",
        "shape",
        "choice",
    ]
    many = Field("x", "X", "X", "text", True, {}, {})
    wrong = FieldRules(many, SALTMARSH.spec(many)).judge(["a", 7])
    assert wrong is not None
    assert (wrong.code, tuple(wrong.where)) == ("shape", (1,))


def test_files_of_values_are_taken_as_they_are_stored() -> None:
    field = SALTMARSH.all_fields["pictures"]
    rules = FieldRules(field, SALTMARSH.spec(field))
    picture = {"file": "a" * 64, "alt": "A", "width": 1, "height": 1}
    stored = {"a" * 64: StoredFile("image/png", 10, 640, 480)}
    assert rules.with_files([picture], stored) == [{**picture, "width": 640, "height": 480}]
    assert rules.with_files([], stored) == []
    with pytest.raises(Refusal):
        rules.with_files([picture], {})


def test_a_tree_of_types_is_so_deep() -> None:
    def chain(count: int) -> Any:
        defs = SALTMARSH
        for number in range(count):
            parent = f"level_{number - 1}" if number else None
            made = {
                **state("product_type", "easels"),
                "key": f"level_{number}",
                "slug": f"level-{number}",
                "parent": parent,
            }
            defs = defs.having("product_type", made["key"], thing_of("product_type", made))
        return defs

    def check(count: int) -> None:
        defs = chain(count)
        NOUNS["product_type"].check(defs.types[f"level_{count - 1}"], defs)

    check(DEEPEST)
    with pytest.raises(Refusal) as caught:
        check(DEEPEST + 1)
    assert caught.value.code == "deep"


@pytest.mark.parametrize(
    ("puts", "lines"),
    [
        ([("grows", False)], ["no longer added to while filling"]),
        ([("name", "Timber")], ["name “Wood” → “Timber”"]),
        ([("values", STATES["value_list"]["wood"]["values"][::-1])], ["order changed"]),
        ([], ["no difference"]),
    ],
)
def test_a_change_of_a_list_in_words(puts: list[tuple[str, Any]], lines: list[str]) -> None:
    before, after = state("value_list", "wood"), state("value_list", "wood", *puts)
    assert describe(NOUNS["value_list"], before, after, SALTMARSH) == lines


def test_items_come_back_where_they_stood() -> None:
    keyed = {"": "key"}
    was = [{"key": key, "n": 1} for key in "abcd"]
    for now in (
        [was[0], was[3]],
        [{"key": "x"}, *was],
        [was[0], {"key": "x"}, *was[1:]],
        [*was, {"key": "x"}],
        [was[0], {"key": "b", "n": 2}, was[2], was[3]],
        [was[3], was[1], was[0], was[2]],
        [],
    ):
        patch = diff({"items": was}, {"items": now}, {"items": "key"})
        assert forward({"items": was}, patch) == {"items": now}, keyed
        assert backward({"items": now}, patch) == {"items": was}
    added = diff({"items": was}, {"items": [*was, {"key": "x"}]}, {"items": "key"})
    meanwhile = {"items": [{"key": "y"}, *was, {"key": "x"}, {"key": "z"}]}
    assert backward(meanwhile, added) == {"items": [{"key": "y"}, *was, {"key": "z"}]}
    assert backward({"items": "what is no list"}, added) == {"items": []}


def test_text_that_is_read_for_no_kind_of_field_is_refused() -> None:
    with pytest.raises(Refusal) as caught:
        KINDS["text"].take({"no": "text"}, Spec())
    assert caught.value.code == "shape"


def test_what_decides_how_a_field_renders_is_in_its_mark_and_nothing_else() -> None:
    wood = SALTMARSH.fields["ss_wood"]
    mark = SALTMARSH.render_mark(wood)
    assert SALTMARSH.render_mark(wood) == mark
    assert SALTMARSH.render_mark(replace(wood)) == mark, "of what is said, not of which object says it"
    assert SALTMARSH.render_mark(replace(wood, label="Timber")) == mark, "its label is put in elsewhere"
    assert SALTMARSH.render_mark(replace(wood, kind="text", options={})) != mark
    assert SALTMARSH.render_mark(SALTMARSH.fields["ss_maker"]) != mark
    values = [{**value, "label": f"{value['label']}wood"} for value in STATES["value_list"]["wood"]["values"]]
    other = having(("value_list", state("value_list", "wood", ("values", values))))
    assert other.render_mark(other.fields["ss_wood"]) != mark, "labels of its list are what it shows"


def test_the_limits_a_field_can_have_are_of_its_kind_and_of_what_it_holds() -> None:
    def codes(kind: str, *, many: bool = False, subject: str = "product") -> set[str]:
        made = Field("f", "F", "F", kind, many=many, subject=subject)
        return {limit.code for limit in allowed_limits(made)}

    assert "unique" in codes("text")
    assert "unique" not in codes("text", many=True) | codes("text", subject="record")
    assert {"min_count", "max_count"} <= codes("text", many=True)
    assert not {"min_count", "max_count"} & codes("text")
    assert {"min", "max"} <= codes("whole") & codes("whole", subject="record")


def test_several_nodes_of_a_sort_show_as_the_first_does() -> None:
    first = Swatches((("#aabbcc", "Peat"),), "alone")
    assert gathered([first, Swatches((("#ffffff", "Fog"),), "both")]) == Swatches(
        (("#aabbcc", "Peat"), ("#ffffff", "Fog")), "alone"
    )


def test_the_part_of_a_picture_is_three_numbers_within_it() -> None:
    picture = "a" * 64

    def wrong(*focus: int) -> str | None:
        try:
            check_swatch(Swatch(picture=picture, focus=focus))
        except Refusal as refusal:
            return refusal.code
        return None

    assert [wrong(0, 0, 100), wrong(1000, 1000, NEAREST), wrong(500, 500, 200)] == [None, None, None]
    for focus in (
        (0, 0),
        (0, 0, 100, 1),
        (-1, 0, 100),
        (0, -1, 100),
        (1001, 0, 100),
        (0, 1001, 100),
        (0, 0, 99),
        (0, 0, NEAREST + 1),
    ):
        assert wrong(*focus) == "focus", focus


def test_a_cell_of_a_column_that_went_is_kept_where_it_can_be_and_told_cut_where_not() -> None:
    rows = KINDS["rows"]
    spec = Spec(options={"columns": [{"key": "step", "label": "Step", "kind": "text"}]})
    with pytest.raises(Refusal) as refused:
        rows.take([{"Q" * 99: "x"}], spec)
    assert refused.value.message == f"There is no column {'Q' * 60}"
