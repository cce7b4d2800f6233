"""Values of a list: how they look, what is told of them, and reading them from lines and tables."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.helpers import defs_of
from tests.core.helpers import field as make_field
from young_fabric.core.base.errors import Refusal
from young_fabric.core.interchange.tables import csv_text, harmless, read_csv
from young_fabric.core.kinds.shown import Samples, Text
from young_fabric.core.nouns.lists.list_reading import COLUMNS, paste, read_table, table_of
from young_fabric.core.nouns.lists.list_values import ListValue, Swatch, check_values
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.subjects.values import FieldRules

BLUE = ListValue("pb29", "Ultramarine", ("PB 29",), False, Swatch(("#1f3c88",)), "Granulates", "https://a.example/pb29")
LIST = ValueList("pigments", "Pigments", (BLUE, ListValue("py3", "Lemon"), ListValue("old", "Old rose", (), True)))


def value(**changes: Any) -> ListValue:
    swatch = Swatch(**{name: changes.pop(name) for name in ("colours", "picture", "short") if name in changes})
    return ListValue(**{"code": "a", "label": "A", "swatch": swatch, **changes})


@pytest.mark.parametrize(
    ("changes", "code", "where"),
    [
        ({"colours": ("#000000",) * 4}, None, ()),
        ({"colours": ("#000000",) * 5}, "many", ("swatch", "colours")),
        ({"colours": ("#ABCDEF",)}, "colour", ("swatch", "colours")),
        ({"picture": "ab" * 32}, None, ()),
        ({"picture": "../x"}, "picture", ("swatch", "picture")),
        ({"short": "123456"}, None, ()),
        ({"short": "1234567"}, "long", ("swatch", "short")),
        ({"short": "a\nb"}, "long", ("swatch", "short")),
        ({"note": "x" * 400}, None, ()),
        ({"note": "x" * 401}, "long", ("note",)),
        ({"link": "https://a.example/b"}, None, ()),
        ({"link": "javascript:alert(1)"}, "link", ("link",)),
        ({"label": "x" * 200}, None, ()),
        ({"label": "x" * 201}, "long", ("label",)),
        ({"label": " "}, "required", ("label",)),
        ({"code": "A b"}, "code", ("code",)),
    ],
)
def test_a_value_is_sound_or_refused_at_its_place(changes: dict[str, Any], code: str | None, where: Any) -> None:
    try:
        check_values((value(**changes),))
    except Refusal as refusal:
        assert (refusal.code, refusal.where) == (code, ("values", 0, *where))
        assert refusal.help
    else:
        assert code is None


def shown(values: ValueList, kind: str, stored: Any) -> Any:
    definition = make_field("f", "F", "F", kind, list=values.key)
    defs = defs_of(lists={values.key: values}, fields={"f": definition})
    return FieldRules(definition, defs.spec(definition)).shower({})(stored)


def test_values_show_how_they_look_where_any_of_the_list_does() -> None:
    plain = ValueList("plain", "Plain", (ListValue("a", "Apple"),))
    assert shown(plain, "one_of", "a") == Text("Apple")
    sample = (("#1f3c88",), "", "", "Ultramarine", "Granulates", "https://a.example/pb29")
    assert shown(LIST, "one_of", "pb29") == Samples((sample,))
    both = shown(LIST, "many_of", ["py3", "pb29"])
    assert both == Samples((((), "", "", "Lemon", "", ""), sample))
    assert both.plain == "Lemon, Ultramarine"


def test_names_are_pasted_with_their_colours() -> None:
    done = paste(
        LIST, "Viridian #40826d\nIndigo\tpb60\tinfantry #123 #456789\nLemon #ffee00\nUltramarine\nRose – #F0A;rose"
    )
    viridian, indigo, rose = done.added
    assert (viridian.label, viridian.code, viridian.swatch.colours) == ("Viridian", "viridian", ("#40826d",))
    assert (indigo.code, indigo.synonyms, indigo.swatch.colours) == ("pb60", ("infantry",), ("#112233", "#456789"))
    assert (rose.label, rose.code, rose.swatch.colours) == ("Rose", "rose", ("#ff00aa",))
    assert [(changed.code, changed.swatch.colours) for changed in done.changed] == [("py3", ("#ffee00",))]
    assert done.skipped == ((4, "Ultramarine", "already in the list"),)
    assert paste(LIST, "No. #12 paper").added[0].label == "No. #12 paper", "three or six digits are a colour"


def test_a_table_read_again_changes_nothing() -> None:
    rows = read_csv(csv_text(table_of(LIST)))
    done = read_table(LIST, rows)
    assert (done.result, done.added, done.changed) == (LIST, (), ())
    assert len(done.skipped) == 3
    empty = read_table(ValueList("p", "P"), rows)
    assert empty.result.values == LIST.values
    assert not empty.skipped


def test_a_table_changes_what_it_has_columns_for() -> None:
    done = read_table(
        LIST,
        [["Label", "code", "note"], ["Ultramarine, deep", "pb29", "Strong"], ["old rose", "", "x"], ["New", "", ""]],
    )
    deep = done.result.by_code["pb29"]
    assert (deep.label, deep.note, deep.swatch, deep.link) == ("Ultramarine, deep", "Strong", BLUE.swatch, BLUE.link)
    assert done.result.by_code["old"].retired
    assert [added.code for added in done.added] == ["new"]


@pytest.mark.parametrize(
    ("row", "reason"),
    [
        (["x", "Ultramarine", "", ""], "already in the list"),
        (["pb29", "Lemon", "", ""], "“Lemon” stands in the list twice"),
        (["x y", "New", "", ""], "“x y” can't be a code"),
        (["x", "New", "blue", ""], "“blue” is not a colour"),
        (["x", "New", "#123456", "file:///x"], "Not an address that can be opened"),
        (["", "", "", ""], "A value needs a label"),
    ],
)
def test_rows_that_can_not_stand_are_told_and_the_rest_is_read(row: list[str], reason: str) -> None:
    bare = ValueList("p", "P", (ListValue("pb29", "Ultramarine"), ListValue("py3", "Lemon")))
    done = read_table(bare, [["code", "label", "colours", "link"], row, ["ok", "Fine", "#abc", ""]])
    [(_, _, words)] = done.skipped
    assert words.startswith(reason)
    assert done.added[-1].swatch.colours == ("#aabbcc",)


@pytest.mark.parametrize("rows", [[], [["colour"]], [["note", "link"]], [["label", "weight"]]])
def test_tables_that_are_none_are_refused(rows: list[list[str]]) -> None:
    with pytest.raises(Refusal) as caught:
        read_table(LIST, rows)
    assert caught.value.code == "table"


CELLS = st.text(st.characters(exclude_characters="\r\x00", exclude_categories=("Cs",)), max_size=12)


@given(st.lists(st.lists(CELLS, min_size=2, max_size=4), min_size=1, max_size=4))
def test_what_is_written_as_csv_is_read_back(rows: list[list[str]]) -> None:
    kept = [["one", "two"], *[row for row in rows if any(cell.strip() for cell in row)]]
    written = [[cell if not cell.startswith("'") else "x" for cell in row] for row in kept]
    assert read_csv(csv_text(written)) == written


def test_no_cell_is_taken_for_a_formula() -> None:
    assert [harmless(text) for text in ("=1+1", "-5", "-5,5", "@a", "+x", "a=b")] == [
        "'=1+1",
        "-5",
        "-5,5",
        "'@a",
        "'+x",
        "a=b",
    ]
    assert read_csv("a;b\n'=1;'c\n") == [["a", "b"], ["=1", "'c"]]
    with pytest.raises(Refusal):
        read_csv('a,b\n"' + "x" * 200_000)
    assert set(COLUMNS) == {"code", "label", "also", "retired", "colours", "picture", "short", "note", "link"}


def test_capitals_in_codes_tell_nothing_apart() -> None:
    pasted = paste(ValueList("inks", "Inks"), "Coal\tINK-01\nSoot\tink-02")
    assert [value.code for value in pasted.result.values] == ["ink-01", "ink-02"]
    table = read_table(pasted.result, [["code", "label"], ["INK-01", "Coal black"]])
    assert next((value.code, value.label) for value in table.result.values) == ("ink-01", "Coal black")
    refused = paste(ValueList("inks", "Inks"), "Coal\tink 01")
    assert "small letters, digits, hyphen and underscore" in refused.skipped[0][2]
