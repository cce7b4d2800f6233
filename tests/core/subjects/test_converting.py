"""A field read otherwise: what becomes of values, and that nothing is lost on the way there and back."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.helpers import defs_of
from tests.core.helpers import field as make_field
from young_fabric.core.kinds import KINDS
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.subjects.converting import CHANGED, LOST, SAME, WRONG, convert, fitted, reading_of, taken_back
from young_fabric.core.subjects.values import FieldRules

FRUIT = ValueList("fruit", "Fruit", (ListValue("a", "Apple"), ListValue("q", "Quince, raw"), ListValue("p", "Pear")))
SHELF = ValueList("shelf", "Shelf", (ListValue("one", "Apple"), ListValue("two", "Plum")))
DEFS = defs_of(lists={"fruit": FRUIT, "shelf": SHELF})
COLUMNS = ({"key": "step", "label": "Step", "kind": "text"}, {"key": "long", "label": "Takes", "kind": "text"})
TIMED = (COLUMNS[0], {**COLUMNS[1], "kind": "measure", "options": {"unit": "min"}})


def field(kind: str, **more: Any) -> Field:
    return make_field("f", "F", "F", kind, **more)


def steps(columns: Any) -> Field:
    return Field("f", "F", "F", "rows", options={"columns": columns})


def rules(definition: Field) -> FieldRules:
    return FieldRules(definition, DEFS.spec(definition))


@pytest.mark.parametrize(
    ("old", "new", "value", "how", "becomes"),
    [
        (field("text"), field("whole"), "12", SAME, "12"),
        (field("text"), field("whole"), "twelve", LOST, "twelve"),
        (field("text"), field("whole", limits={"max": "9"}), "12", WRONG, "12"),
        (field("decimal"), field("whole"), "1.5", LOST, "1.5"),
        (field("whole"), field("text"), "1200", SAME, "1,200"),
        (field("text"), field("long_text"), "a", SAME, "a"),
        (field("measure", unit="ml"), field("measure", unit="l"), {"amount": "15", "unit": "ml"}, CHANGED, None),
        (field("measure", unit="ml"), field("text"), {"amount": "15", "unit": "ml"}, CHANGED, "15 ml"),
        (field("one_of", list="fruit"), field("text"), "a", SAME, "Apple"),
        (field("one_of", list="fruit"), field("one_of", list="shelf"), "a", SAME, "one"),
        (field("one_of", list="fruit"), field("one_of", list="shelf"), "p", LOST, "Pear"),
        (field("one_of", list="fruit"), field("many_of", list="fruit"), "a", SAME, ["a"]),
        (field("one_of", list="fruit"), field("many_of", list="fruit"), "q", SAME, ["q"]),
        (field("many_of", list="fruit"), field("one_of", list="fruit"), ["a"], SAME, "a"),
        (field("many_of", list="fruit"), field("one_of", list="fruit"), ["a", "p"], LOST, "Apple, Pear"),
        (field("text"), field("text", many=True), "a", SAME, ["a"]),
        (field("long_text"), field("text", many=True), "a\nb", CHANGED, ["a", "b"]),
        (field("text", many=True), field("text"), ["a"], SAME, "a"),
        (field("text", many=True), field("text"), ["a", "b"], SAME, "a, b"),
        (field("text", many=True), field("many_of", list="fruit"), ["apple", "PEAR"], CHANGED, ["a", "p"]),
        (field("whole", many=True), field("whole"), ["1", "2"], LOST, "1, 2"),
        (field("yes_no"), field("text"), True, SAME, "Yes"),
        (field("text"), field("yes_no"), "yes", CHANGED, True),
        (field("text"), field("rich_text"), "a < b", SAME, "<p>a &lt; b</p>"),
        (steps(COLUMNS), steps(TIMED), [{"step": "Dry", "long": "1 h"}], CHANGED, None),
        (steps(COLUMNS), steps(TIMED), [{"step": "Dry", "long": "soon"}], LOST, [{"step": "Dry", "long": "soon"}]),
        (
            steps(COLUMNS),
            steps(COLUMNS[:1]),
            [{"step": "Dry", "long": "1 h"}],
            CHANGED,
            [{"step": "Dry", "long": "1 h"}],
        ),
    ],
)
def test_a_value_is_taken_as_if_it_were_typed_anew(old: Field, new: Field, value: Any, how: str, becomes: Any) -> None:
    done = convert(rules(old), rules(new), value)
    assert (done.how, done.before != "") == (how, True), done
    if becomes is not None:
        assert (done.reading.kept if how == LOST else done.reading.value) == becomes
    if how in (LOST, WRONG):
        assert done.after == (done.reading.wrong.message if done.reading.wrong else None)


KINDS_ALONE = [
    field("text"), field("long_text"), field("whole"), field("decimal"), field("measure", unit="mm"), field("yes_no"),
    field("one_of", list="fruit"), field("many_of", list="fruit"), field("date"), field("colour"), field("web_link"),
    field("video"), field("rating"), field("gtin"), field("money"), field("rich_text"), field("picture"), field("file"),
    steps(COLUMNS), field("text", many=True), field("measure", unit="cm", many=True), field("web_link", many=True),
]  # fmt: skip
JUNK = st.recursive(
    st.one_of(
        st.none(), st.booleans(), st.integers(), st.text(max_size=8), st.sampled_from(["a", "#ff0000", "2026-01-02"])
    ),
    lambda inner: st.one_of(
        st.lists(inner, max_size=3),
        st.dictionaries(st.sampled_from(["step", "amount", "unit", "file"]), inner, max_size=3),
    ),
    max_leaves=6,
)


@given(st.sampled_from(KINDS_ALONE), st.sampled_from(KINDS_ALONE), JUNK)
def test_whatever_is_stored_is_converted_or_kept_and_nothing_raises(old: Field, new: Field, value: Any) -> None:
    done = convert(rules(old), rules(new), value)
    if done.reading.value is None:
        assert done.how == LOST
        assert done.reading.wrong is not None
    else:
        wrong = rules(new).judge(done.reading.value)
        assert wrong is None or wrong.code != "shape"


TYPED = {
    "text": "A wash", "long_text": "Wet\nthe paper", "whole": "1,871", "decimal": "2.5", "measure": "12 cm", "yes_no": "yes",
    "one_of": "Apple", "many_of": "Apple, Pear", "date": "2026-02-28", "colour": "#1f3c88", "rating": "4.5/5 (12)",
    "web_link": "Care <https://a.example/b>", "gtin": "4006381333931", "money": "12.50", "rich_text": "<p>a</p>",
    "video": "https://a.example/w/7",
}  # fmt: skip


@pytest.mark.parametrize("old", KINDS_ALONE, ids=lambda field: f"{field.kind}{'s' if field.many else ''}")
@pytest.mark.parametrize("new", KINDS_ALONE, ids=lambda field: f"{field.kind}{'s' if field.many else ''}")
def test_what_is_kept_aside_comes_back_as_it_was(old: Field, new: Field) -> None:
    if old.kind not in TYPED:
        return
    before, after = rules(old), rules(new)
    value = before.read(TYPED[old.kind]).value
    assert value is not None
    done = convert(before, after, value)
    if done.how == LOST:
        assert taken_back(before, done.reading.kept).value == value
    elif done.how == SAME and old.kind == new.kind:
        assert convert(after, before, done.reading.value).reading.value == value


def test_what_decides_how_values_are_read() -> None:
    assert reading_of(field("text")) == reading_of(field("text", limits={"max_length": 3}))
    assert reading_of(field("text")) != reading_of(field("text", many=True))
    year = Field("f", "F", "F", "whole", options={"writing": "plain"})
    assert reading_of(year) == reading_of(field("whole"))
    assert set(TYPED) < set(KINDS)


def test_texts_of_several_fit_one_as_a_list_in_words() -> None:
    assert fitted(["a"], False) == "a"
    assert fitted(["a", "b"], False) == "a, b"
    assert fitted([{"amount": "1"}, "b"], False) == [{"amount": "1"}, "b"]
    assert fitted("a\nb", True) == "a\nb"
    assert fitted(True, True) == [True]
