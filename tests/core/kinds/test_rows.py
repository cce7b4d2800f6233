"""Rows: cells of kinds under columns, read, judged, shown and kept."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.helpers import defs_of, show_value, spec_with
from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds import KINDS, StoredFile
from young_fabric.core.kinds.rows import MOST_COLUMNS
from young_fabric.core.kinds.shown import Nothing, Table, Text, from_json, to_json
from young_fabric.core.nouns.fields import fields
from young_fabric.core.nouns.fields.fields import Field, check_field, spec_of
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.subjects.values import MOST_FAULTS, FieldRules

ROWS = KINDS["rows"]
WATER = ValueList("water", "Water", (ListValue("much", "A lot"), ListValue("some", "A little")))
COLUMNS = (
    {"key": "step", "label": "Step", "kind": "text", "required": True, "limits": {"max_length": 20}},
    {"key": "time", "label": "Time", "kind": "measure", "options": {"unit": "min"}},
    {"key": "water", "label": "Water", "kind": "one_of", "options": {"list": "water"}},
    {"key": "look", "label": "Look", "kind": "picture"},
)
PICTURE = {"file": "ab" * 32, "alt": "A wash", "width": 8, "height": 6}


def field(columns: Any = COLUMNS, **more: Any) -> Field:
    return Field("steps", "Steps", "Steps", "rows", options={"columns": columns}, **more)


DEFS = defs_of(lists={"water": WATER}, fields={"steps": field()})


def rules(definition: Field | None = None) -> FieldRules:
    found = definition or field()
    return FieldRules(found, spec_of(found, DEFS))


def test_cells_are_read_by_their_columns() -> None:
    read = rules().read([{"step": " Wet the paper ", "time": "1 h", "water": "a lot"}, {"step": "Dry", "time": ""}])
    assert read.wrong is None
    assert read.value == [
        {"step": "Wet the paper", "time": {"amount": "60", "unit": "min"}, "water": "much"},
        {"step": "Dry"},
    ]
    assert rules().typed(read.value) == [{"step": "Wet the paper", "time": "60 min", "water": "much"}, {"step": "Dry"}]


def test_every_cell_that_is_wrong_is_told_at_its_place() -> None:
    typed = [{"step": "Wet", "time": "soon"}, {"time": "2"}, {"step": "x" * 21, "time": "3 m"}, {"step": "Dry"}]
    told = [(wrong.where, wrong.code) for wrong in rules().faults(typed)]
    assert told == [
        ((0, "time"), "number"),
        ((1, "step"), "required"),
        ((2, "step"), "long"),
        ((2, "time"), "dimension"),
    ]
    assert rules().read(typed).wrong.where == told[0][0]  # type: ignore[union-attr]
    assert rules().faults([{"step": "Wet"}]) == []
    few = field(limits={"min_count": 2})
    assert [wrong.code for wrong in rules(few).faults([{"step": "Wet"}])] == ["few"]
    assert [wrong.code for wrong in rules().faults({"step": "Wet"})] == ["shape"]
    assert len(rules().faults([{"time": "soon"}] * 300)) == MOST_FAULTS


def test_a_pasted_table_goes_by_the_order_of_columns() -> None:
    read = rules().read("Wet\t2\tA little\n\nDry\t\tsome\n")
    assert read.value == [
        {"step": "Wet", "time": {"amount": "2", "unit": "min"}, "water": "some"},
        {"step": "Dry", "water": "some"},
    ]
    assert rules().read("a\tb\tc\td\te").wrong.code == "shape"  # type: ignore[union-attr]


def test_what_one_cell_makes_of_the_rest_is_kept_as_typed_with_its_place() -> None:
    typed = [{"step": "Wet"}, {"step": "Dry", "time": "soon"}]
    read = rules().read(typed)
    assert (read.value, read.kept) == (None, typed)
    assert read.wrong is not None
    assert (read.wrong.code, read.wrong.where) == ("number", (1, "time"))
    assert "row 2, Time" in read.wrong.message


@pytest.mark.parametrize(
    ("value", "code", "where"),
    [
        ([{"step": "x" * 20}], None, ()),
        ([{"step": "x" * 21}], "long", (0, "step")),
        ([{"time": {"amount": "1", "unit": "min"}}], "required", (0, "step")),
        ([{"step": "a"}, {"step": "b", "water": "none"}], "choice", (1, "water")),
        ([{"step": 3}], "shape", (0, "step")),
        ([{}], "shape", (0,)),
        ([], "shape", ()),
        ({"step": "a"}, "shape", ()),
        ([{"step": "a", "gone": {"any": [1]}}], None, ()),
    ],
)
def test_every_cell_is_judged_at_its_place(value: Any, code: str | None, where: tuple[Any, ...]) -> None:
    wrong = rules().judge(value)
    assert (wrong.code if wrong else None, wrong.where if wrong else ()) == (code, where)


def test_fewest_and_most_rows() -> None:
    judge = rules(field(limits={"min_count": 2, "max_count": 3})).judge
    codes = [wrong.code if (wrong := judge([{"step": "a"}] * count)) else None for count in (1, 2, 3, 4)]
    assert codes == ["few", None, None, "many"]
    assert rules().read([{"step": "a"}] * 200).wrong is None
    assert rules().read([{"step": "a"}] * 201).wrong.code == "many"  # type: ignore[union-attr]


def test_they_show_as_a_table_without_columns_of_nothing() -> None:
    node = rules().shower({})([{"step": "Wet", "time": {"amount": "2", "unit": "min"}}, {"step": "Dry"}])
    empty = Nothing("")
    assert node == Table(("Step", "Time"), ((Text("Wet"), Text("2\u00a0min")), (Text("Dry"), empty)))
    assert node.plain == "Wet, 2\u00a0min\nDry"
    assert from_json(to_json(node)) == node
    with_picture = rules().shower({})([{"step": "Wet", "look": PICTURE}])
    assert from_json(to_json(with_picture)) == with_picture
    assert show_value(field(), [{"step": "a", "time": None}], spec_of(field(), DEFS)) == "a"


def test_a_column_that_went_is_kept_and_comes_back() -> None:
    fewer = field(COLUMNS[:1])
    stored = [{"step": "Wet", "water": "much"}]
    bound = rules(fewer)
    assert bound.judge(stored) is None
    assert bound.text(stored) == "Wet"
    assert bound.read(bound.typed(stored)).value == stored
    assert rules().text(stored) == "Wet, A lot"
    refused = bound.read([{"step": "a", "Not a key": 1}]).wrong
    assert refused is not None
    assert (refused.code, refused.where) == ("columns", (0, "Not a key"))
    assert bound.read([{"step": "a", "gone": "x" * 19_998}]).wrong is None
    assert bound.read([{"step": "a", "gone": "x" * 19_999}]).wrong is not None


def test_files_of_cells_are_found_and_put_right() -> None:
    value = [{"step": "Wet", "look": PICTURE}, {"step": "Dry", "look": "no picture"}]
    assert rules().files(value) == (PICTURE["file"],)
    stored = {PICTURE["file"]: StoredFile("webp", 9, 80, 60)}
    assert rules().with_files(value[:1], stored)[0]["look"] == {**PICTURE, "width": 80, "height": 60}
    with pytest.raises(Refusal) as caught:
        rules().with_files(value[:1], {})
    assert caught.value.code == "picture_gone"


def test_files_have_them_as_a_list_by_column() -> None:
    value = [{"step": "Wet, a lot", "time": {"amount": "2", "unit": "min"}, "water": "much"}]
    spec = spec_of(field(), DEFS)
    text = ROWS.to_text(value, spec)
    assert text == '[{"step": "Wet, a lot", "time": "2 min", "water": "A lot"}]'
    assert ROWS.from_text(text, spec) == value
    for bad in ("", "[", "{}", "[1]", "[" * 100_000):
        with pytest.raises(Refusal):
            ROWS.from_text(bad, spec)


def test_what_columns_name_is_referred_to() -> None:
    assert [reference[:3] for reference in fields.NOUN.referring.refers(field())] == [
        ("value_list", "water", "options.columns.2.list")
    ]
    check_field(field(), DEFS)
    with pytest.raises(Refusal) as caught:
        check_field(field(), defs_of())
    assert (caught.value.code, caught.value.where) == ("list", ("options", "columns", 2, "list"))


def column(**more: Any) -> dict[str, Any]:
    return {"key": "a", "label": "A", "kind": "text", **more}


@pytest.mark.parametrize(
    "columns",
    [
        None,
        [],
        "step",
        [{"key": "a", "label": "A"}],
        [column(kind="rows")],
        [column(kind="contents")],
        [column(kind=[])],
        [column(key="A b")],
        [column(), column()],
        [column(label=" ")],
        [column(label="x" * 81)],
        [column(more=1)],
        [column(limits={"max": "3"})],
        [column(limits={"min_length": 3, "max_length": 2})],
        [column(kind="measure")],
        [column(kind="measure", options={"unit": "cubit"})],
        [column(options={"unit": "mm"})],
        [column(options=[])],
        [column(required=1)],
        [column(key=f"c{number}") for number in range(MOST_COLUMNS + 1)],
    ],
)
def test_unsound_columns_are_refused(columns: Any) -> None:
    with pytest.raises(Refusal) as caught:
        check_field(field(columns), defs_of())
    assert caught.value.code == "columns"
    assert caught.value.help


def test_columns_without_keys_get_them_from_their_labels() -> None:
    given = [{"label": "Step no.", "kind": "text"}, {"label": "Step no", "kind": "text"}, column(key="step_no_3")]
    kept = ROWS.options[0].read(given)
    assert [named["key"] for named in kept] == ["step_no", "step_no_2", "step_no_3"]
    assert ROWS.options[0].read("junk") == "junk"
    check_field(field([column(key=f"c{number}") for number in range(MOST_COLUMNS)]), defs_of())


def test_no_value_of_any_kind_is_taken_for_rows() -> None:
    for junk in (1, True, {"a": 1}, [1], ["a"], [[]]):
        read = rules().read(junk)
        assert read.wrong is not None
        assert rules().judge(junk) is not None
    assert spec_with().parts == ()
