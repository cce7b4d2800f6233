"""What each kind says of a value of its own, one answer after the other; and nodes as text, by their sort."""

from __future__ import annotations

from types import SimpleNamespace
from typing import Any

import pytest

from tests.core.helpers import spec_with
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.locales import LONGEST_NUMBER
from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds import KINDS, Spec
from young_fabric.core.kinds.leaves import (
    Copy,
    Downloads,
    Links,
    Nothing,
    Paragraphs,
    Pictures,
    Rated,
    Samples,
    Swatches,
    Text,
)
from young_fabric.core.kinds.shown import Cards, Framed, Items, Table, from_json, joined_text, paragraphs_of, to_json
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.subjects.values import FieldRules

HASH = "a" * 64
NINES = "9" * (LONGEST_NUMBER - 3)
PICTURE = {"file": HASH, "alt": "A marsh", "width": 9, "height": 8}
FILE = {"file": HASH, "words": "Care", "type": "pdf", "bytes": 5}
MEASURE = {"amount": "2.5", "unit": "mm"}
CONTENTS = {"count": 6, "amount": "15", "unit": "ml"}
RATING = {"value": "4", "out_of": "5", "count": None}


@pytest.mark.parametrize(
    ("code", "value", "words", "several", "typed", "text"),
    [
        ("measure", MEASURE, "2.5 mm", "2.5 mm, 2.5 mm", "2.5 mm", "2.5 mm"),
        ("money", "9.5", "9.5", "9.5, 9.5", "9.50", "9.50"),
        ("contents", CONTENTS, "6 × 15 ml", "6 × 15 ml, 6 × 15 ml", "6 × 15 ml", "6 × 15 ml"),
        ("picture", PICTURE, "a picture", "2 pictures", PICTURE, f"{HASH} A marsh"),
        ("file", FILE, "“Care”", "“Care”, “Care”", FILE, f"{HASH} pdf 5 Care"),
        ("rating", RATING, "4/5", "4/5, 4/5", "4/5", "4/5"),
        ("one_of", "ash", "“ash”", "“ash”, “ash”", "ash", "ash"),
        ("many_of", ["ash", "elm"], "“ash”, “elm”", "“ash”, “elm”, “ash”, “elm”", ["ash", "elm"], "ash, elm"),
        ("record", "m", "“m”", "“m”, “m”", "m", "m"),
        ("product", 5, "5", "5, 5", 5, "5"),
        ("yes_no", True, "yes", "yes, yes", True, "Yes"),
        ("date", "2026-02-03", "“2026-02-03”", "“2026-02-03”, “2026-02-03”", "2026-02-03", "2026-02-03"),
        ("colour", "#aabbcc", "“#aabbcc”", "“#aabbcc”, “#aabbcc”", "#aabbcc", "#aabbcc"),
        ("rich_text", "<p>a</p>", "“a”", "“a”, “a”", "<p>a</p>", "<p>a</p>"),
    ],
)
def test_a_value_in_words_as_typed_and_as_text(
    code: str, value: Any, words: str, several: str, typed: Any, text: str
) -> None:
    kind, spec = KINDS[code], spec_with()
    assert (kind.words(value), kind.words_of([value, value])) == (words, several)
    assert (kind.typed(value, spec), kind.to_text(value, spec)) == (typed, text)
    assert kind.words({"x": 1}) == '{"x": 1}', "what is no value of it is told as it is"
    assert kind.words_of([value]) == ("1 picture" if code == "picture" else words)


def test_many_values_are_told_up_to_a_dozen() -> None:
    numbers = KINDS["whole"]
    assert numbers.words_of(["1"] * 12) == ", ".join("1" * 12)
    assert numbers.words_of(["1"] * 13) == ", ".join("1" * 12) + "…"


@pytest.mark.parametrize(
    ("code", "value", "wanted"),
    [
        ("measure", MEASURE, {"value": "2.5", "unitCode": "MMT", "unitText": "mm"}),
        ("contents", CONTENTS, {"value": "90", "unitCode": "MLT", "unitText": "ml"}),
        ("contents", {"count": 3, "amount": "0.5", "unit": "l"}, {"value": "1.5", "unitCode": "LTR", "unitText": "l"}),
        ("picture", PICTURE, {"value": f"https://s.example/files/{HASH}-1600.webp"}),
        ("file", FILE, {"value": f"https://s.example/downloads/{HASH}", "name": "Care"}),
        ("rating", RATING, {"value": "4", "maxValue": "5"}),
        ("record", {"item": "m", "name": "Maker"}, {"value": "Maker"}),
        ("record", "m", {"value": "m"}),
        ("product", 5, {"value": "5"}),
        ("money", "9.5", {"value": "9.5", "unitText": "EUR"}),
        ("rich_text", "<p>a</p>", {"value": "a"}),
    ],
)
def test_a_value_as_structured_data(code: str, value: Any, wanted: dict[str, Any]) -> None:
    assert KINDS[code].property_value(value, spec_with(), "https://s.example") == wanted


@pytest.mark.parametrize(
    ("code", "options", "wanted"),
    [
        ("measure", {"unit": "mm"}, "300 mm"),
        ("measure", {}, "300 g/m²"),
        ("product", {}, "12"),
        ("record", {}, ""),
        ("one_of", {}, ""),
        ("picture", {}, ""),
        ("contents", {}, "6 × 15 ml"),
    ],
)
def test_what_stands_as_an_example(code: str, options: dict[str, Any], wanted: str) -> None:
    assert KINDS[code].example_for(Spec(options=options)) == wanted


def test_an_example_of_things_is_the_first_that_is_offered() -> None:
    choices: Any = SimpleNamespace(offered=lambda: ("elm", "ash"), label=lambda code: code.upper())
    spec = Spec(choices=choices)
    assert [KINDS[code].example_for(spec) for code in ("one_of", "record")] == ["elm", "elm"]
    record = KINDS["record"]
    assert (record.retyped("elm", spec), record.typed("elm", spec)) == ("ELM", "elm")
    assert record.retyped({"item": "elm", "name": "An elm"}, spec) == "An elm"
    assert record.typed({"item": "elm", "name": "An elm"}, spec) == "elm"
    assert record.shower(spec, {})("elm").plain == "ELM"
    assert record.property_value("elm", spec, "") == {"value": "elm"}


def test_a_measure_kept_in_another_unit_is_wrong_and_is_shown_in_a_wished_one() -> None:
    measure = KINDS["measure"]
    wrong = measure.judge(Spec(options={"unit": "cm"}))(MEASURE)
    assert wrong is not None
    assert (wrong.code, wrong.message) == ("unit", "kept in mm, this field uses cm")
    assert measure.judge(Spec(options={"unit": "mm"}))(MEASURE) is None
    shown = {
        unit: measure.shower(Spec(options={"unit": "mm"}), {"unit": unit})(MEASURE).plain for unit in ("cm", "g", "")
    }
    assert shown == {"cm": "0.25\u00a0cm", "g": "2.5\u00a0mm", "": "2.5\u00a0mm"}


@pytest.mark.parametrize(
    ("code", "typed", "options", "refused"),
    [
        ("measure", "5 mm", {}, ("unit", "this field has no unit yet")),
        ("measure", "5 mm", {"unit": "g"}, ("dimension", "mm is a length, this field needs mass")),
        ("measure", f"{NINES} km", {"unit": "mm"}, ("number", f"“{f'{NINES} km'[:40]}” is too long a number")),
        ("unit_price", "5", {}, ("derived", "a unit price is computed")),
        ("one_of", "ash", {}, ("choice", "“ash” is not in the list")),
        ("record", "ash", {}, ("gone", "There is no record “ash”")),
    ],
)
def test_what_can_not_be_read_says_why(
    code: str, typed: str, options: dict[str, Any], refused: tuple[str, str]
) -> None:
    with pytest.raises(Refusal) as found:
        KINDS[code].read(typed, Spec(options=options))
    assert (found.value.code, found.value.message) == refused


@pytest.mark.parametrize(("side", "least"), [("width", 10), ("height", 9)])
def test_a_picture_is_at_least_so_large(side: str, least: int) -> None:
    picture = KINDS["picture"]
    limit = {"min_width" if side == "width" else "min_height": least}
    found = [known.code for known in picture.limits]
    assert set(limit) <= set(found), found
    wrong = picture.judge(Spec(limits=limit))(PICTURE)
    assert wrong is not None
    assert wrong.message == f"{PICTURE[side]} px, the {side} must be at least {least} px"
    assert picture.judge(Spec(limits=limit))({**PICTURE, side: least}) is None


@pytest.mark.parametrize(
    ("node", "tag", "flows", "plain"),
    [
        (Text("a"), "text", False, "a"),
        (Paragraphs((("a", "b"), ("c",))), "paragraphs", True, "a\nb\n\nc"),
        (Pictures((PICTURE, {**PICTURE, "alt": ""}, {**PICTURE, "alt": "Mud"})), "pictures", False, "A marsh, Mud"),
        (Swatches((("#aabbcc", "Peat"), ("#ffffff", "Fog"))), "swatches", False, "Peat, Fog"),
        (Table(("A", "B"), ((Text("1"), Nothing()), (Text("2"), Text("3")))), "table", True, "1\n2, 3"),
        (Items("marks", (Text("a"), Text("b"))), "items", True, "a\nb"),
        (Cards("grid", ((Text("a"), (("B", Text("b")), ("C", Nothing()))),)), "cards", True, "a, b"),
        (Framed("from", Text("9"), "each"), "framed", False, "from 9 each"),
        (Framed("", Items("list", (Text("9"),)), ""), "framed", True, "9"),
        (Nothing(), "nothing", False, "–"),
    ],
)
def test_a_node_says_its_sort_whether_it_flows_and_its_text(node: Any, tag: str, flows: bool, plain: str) -> None:
    assert (node.tag, node.flows, node.plain) == (tag, flows, plain)
    assert from_json(to_json(node)) == node
    assert from_json(to_json(node)).plain == plain


def test_sorts_of_nodes_by_name() -> None:
    sorts = {Samples: "samples", Copy: "copy", Rated: "rated", Downloads: "downloads", Links: "links"}
    made = {sort: sort(*([()] * len(sort._fields))) for sort in sorts}
    assert {sort: made[sort].tag for sort in sorts} == sorts
    assert {sort.__name__: made[sort].flows for sort in sorts} == {
        "Samples": False,
        "Copy": True,
        "Rated": False,
        "Downloads": False,
        "Links": False,
    }


def test_text_is_joined_and_split() -> None:
    assert joined_text([Text("a"), Text(""), Text("b")]) == Text("a, b")
    assert joined_text([Text("a"), Text("b")], " · ") == Text("a · b")
    assert paragraphs_of("a") == Paragraphs((("a",),))
    assert paragraphs_of("a\nb\n\nc") == Paragraphs((("a", "b"), ("c",)))


@pytest.mark.parametrize(
    ("how", "wanted"), [("text", "Wet, 3 min; Dry"), ("list", "Wet, 3 min\nDry"), ("numbers", "Wet, 3 min\nDry")]
)
def test_rows_in_a_line_each(how: str, wanted: str) -> None:
    columns = [
        {"key": "step", "label": "Step", "kind": "text"},
        {"key": "takes", "label": "Takes", "kind": "measure", "options": {"unit": "min"}},
    ]
    rows = KINDS["rows"]
    value = [{"step": "Wet", "takes": {"amount": "3", "unit": "min"}}, {"step": "Dry"}, {}]
    spec = Field("steps", "Steps", "Steps", "rows", options={"columns": columns})
    shown = rows.shower(FieldRules(spec, Definitions(Shop()).spec(spec)).spec, {"rows_as": how})(value)
    assert shown.plain.replace("\u00a0", " ") == wanted


def test_a_kind_that_is_not_known_keeps_what_is_stored() -> None:
    unknown = KINDS["a_kind_of_tomorrow"]
    assert [unknown.well_formed(value) for value in (None, 0, "", {"x": 1})] == [False, True, True, True]
    assert unknown.judge(Spec())({"x": 1}) is None
    assert unknown.to_text({"x": 1}, Spec()) == ""
    with pytest.raises(Refusal) as found:
        unknown.read("x", Spec())
    assert found.value.message == "There is no kind “a_kind_of_tomorrow” here"


def test_whole_numbers_are_written_in_groups_or_not() -> None:
    [writing] = [option for option in KINDS["whole"].options if option.code == "writing"]
    assert [writing.check(value) for value in (None, "grouped", "plain")] == [None, None, None]
    assert writing.check("roman") is not None
