"""A type's JSON Schema is sound, and accepts exactly what the core accepts."""

from __future__ import annotations

import re
from decimal import Decimal
from typing import Any

import jsonschema
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from jsonschema import Draft202012Validator, FormatChecker

from tests.core.helpers import defs_of
from young_fabric.core.base import decimal_patterns as patterns
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.interchange.type_schema import FORMATS, schema_of_type
from young_fabric.core.kinds.rich_text import plain
from young_fabric.core.nouns.content.record_types import RecordType
from young_fabric.core.nouns.content.shared_copies import SharedCopy
from young_fabric.core.nouns.fields.built_in import DERIVED
from young_fabric.core.nouns.fields.fields import Field, judge_of
from young_fabric.core.nouns.fields.tightening import Tightening
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.types.product_types import ProductType

FRUIT = ValueList("fruit", "Fruit", (ListValue("a", "Apple"), ListValue("q", "Quince", retired=True)))
COLUMNS = [
    {"key": "step", "label": "Step", "kind": "text", "required": True, "limits": {"max_length": 5}},
    {"key": "took", "label": "Took", "kind": "measure", "options": {"unit": "min"}, "limits": {"max": "60"}},
    {"key": "by", "label": "By", "kind": "record", "options": {"record_type": "maker"}},
]
MEMBERS: list[dict[str, Any]] = [
    {"kind": "text", "limits": {"min_length": 2, "max_length": 4}},
    {"kind": "text", "limits": {"pattern": r"[A-Z]\d+"}},
    {"kind": "text", "many": True, "limits": {"min_count": 2, "max_count": 3}},
    {"kind": "text", "many": True},
    {"kind": "long_text"},
    {"kind": "rich_text", "limits": {"min_length": 2, "max_length": 6}},
    {"kind": "shared_words", "options": {"copy": "care"}},
    {"kind": "whole", "limits": {"min": "-3", "max": "120"}},
    {"kind": "decimal", "limits": {"min": "0.25", "max": "10.5", "decimals": 2}},
    {"kind": "decimal", "limits": {"max": "-1.5"}},
    {"kind": "measure", "options": {"unit": "mm"}, "limits": {"min": "1", "max": "99.95", "decimals": 1}},
    {"kind": "money", "limits": {"max": "99.99"}},
    {"kind": "yes_no"},
    {"kind": "one_of", "options": {"list": "fruit"}},
    {"kind": "many_of", "options": {"list": "fruit"}, "limits": {"min_count": 1, "max_count": 2}},
    {"kind": "picture", "limits": {"min_width": 100}},
    {"kind": "file", "limits": {"types": ["pdf"], "max_megabytes": "2.5"}},
    {"kind": "date"},
    {"kind": "colour"},
    {"kind": "web_link"},
    {"kind": "video"},
    {"kind": "rating"},
    {"kind": "gtin"},
    {"kind": "record", "options": {"record_type": "maker"}},
    {"kind": "product", "many": True},
    {"kind": "collection"},
    {"kind": "rows", "options": {"columns": COLUMNS}, "limits": {"min_count": 1, "max_count": 2}},
]
FIELDS = [Field(f"f{number}", f"F{number}", f"F{number}", **members) for number, members in enumerate(MEMBERS)]
NUMBERS = st.decimals(-130, 130, places=3).map(lambda number: f"{number.normalize():f}") | st.sampled_from(
    [
        "0",
        "-0",
        "00",
        "1.50",
        "-3",
        "-4",
        "120",
        "121",
        "0.25",
        "0.249",
        "10.5",
        "10.51",
        "-1.5",
        "-1.49",
        "9" * 31,
        "1e3",
    ]
)
FILE = "0" * 64
TEXTS = st.sampled_from(
    [
        "ab", "a", "abcd", "abcde", "A1", "A12", "a1", "A٣", "x" * 1000, "x" * 1001, "", "2026-02-28", "2026-02-30", "20260228",
        "#27476e", "#27476E", "#fff", "4006381333931", "4006381333932", "fruit", "q",
    ]
)  # fmt: skip
HTML = st.sampled_from(
    ["<p>ab</p>", "<p>a</p>", "<p>abcdef</p>", "<p>abcdefg</p>", "<b>x", "<p onclick='x'>ab</p>", "ab"]
)
LINKS = st.fixed_dictionaries(
    {
        "words": st.sampled_from(["Care", " Care", ""]),
        "address": st.sampled_from(["https://a.example/b", "http://a.example", "ftp://a.example", "a"]),
    }
)
OTHERS = st.sampled_from([True, False, 0, 1, 1.0, 2**31, 2**31 - 1, None, {}, []])
MEASURES = st.fixed_dictionaries({"amount": NUMBERS, "unit": st.sampled_from(["mm", "mm", "cm", "min", "furlong"])})
PICTURES = st.fixed_dictionaries(
    {
        "file": st.sampled_from([FILE, FILE, "x"]),
        "alt": st.sampled_from(["", "x" * 300, "x" * 301]),
        "width": st.sampled_from([99, 100, 100_000, 100_001, True]),
        "height": st.sampled_from([1, 0]),
    }
)
FILES = st.fixed_dictionaries(
    {
        "file": st.sampled_from([FILE, FILE, "x"]),
        "words": st.sampled_from(["Sheet", "Sheet", " ", "a\nb", ""]),
        "type": st.sampled_from(["pdf", "pdf", "csv", "exe"]),
        "bytes": st.sampled_from([0, 2_500_000, 2_500_001, -1]),
    }
)
RATINGS = st.fixed_dictionaries(
    {"value": NUMBERS, "out_of": st.sampled_from(["5", "120", "0", "x"]), "count": st.none() | st.integers(-1, 1)}
)
ROWS = st.lists(
    st.fixed_dictionaries(
        {},
        optional={
            "step": st.sampled_from(["Wet", "Dry it", "", None]),
            "took": st.sampled_from([None, {"amount": "60", "unit": "min"}, {"amount": "61", "unit": "min"}]),
            "by": st.sampled_from(["fen", "", 3, None]),
            "gone": st.just("x"),
        },
    ),
    max_size=3,
)
LISTS = st.lists(st.sampled_from(["a", "q", "x", 1]), max_size=4)
LIKELY: dict[str, st.SearchStrategy[Any]] = {
    "rich_text": HTML, "shared_words": HTML, "whole": NUMBERS, "decimal": NUMBERS, "money": NUMBERS, "measure": MEASURES,
    "many_of": LISTS, "picture": PICTURES, "file": FILES, "web_link": LINKS, "video": LINKS, "rating": RATINGS, "rows": ROWS,
    "product": st.lists(OTHERS, max_size=4),
}  # fmt: skip
ANYTHING = st.one_of(TEXTS, HTML, NUMBERS, MEASURES, PICTURES, FILES, LINKS, RATINGS, ROWS, LISTS, OTHERS)


def is_texts(validator: Any, wanted: dict[str, int], value: Any, _schema: Any) -> Any:
    """The one keyword of our own: how long rich text is, read as text."""
    if isinstance(value, str):
        length = len(plain(value))
        if not wanted.get("min_length", 0) <= length <= wanted.get("max_length", length):
            yield jsonschema.ValidationError("length")


CHECKER = FormatChecker(formats=())
for _code, _tells in FORMATS.items():
    CHECKER.checks(_code)(_tells)
Ours = jsonschema.validators.extend(Draft202012Validator, {"x-text": is_texts})


def made() -> Definitions:
    """A type with a field of every kind, and one below it that says more of one."""
    things: Any = {
        "value_list": {"fruit": FRUIT},
        "record_type": {"maker": RecordType("maker", "Maker")},
        "shared_copy": {"care": SharedCopy("care", "Care", "Care", "", "<p>Words</p>")},
        "field": {field.key: field for field in FIELDS},
        "product_type": {
            "top": ProductType("top", "Top", None, "top", (), tuple(field.key for field in FIELDS)),
            "below": ProductType(
                "below",
                "Below",
                "top",
                "below",
                needs={"f0": "required"},
                own={"f7": Tightening({"max": "50"}, "7", "How many")},
            ),
        },
    }
    return Definitions(defs_of().shop, things)


DEFS = made()


def test_schemas_are_sound_and_say_what_types_say() -> None:
    for key in ("top", "below"):
        schema = schema_of_type(DEFS, key)
        Draft202012Validator.check_schema(schema)
        assert not DERIVED & schema["properties"].keys()
    assert schema["title"] == "Top › Below"
    assert schema["properties"]["f7"]["description"] == "How many"
    assert "f0" in schema["required"]
    assert "f0" not in schema_of_type(DEFS, "top")["required"]


VALIDATORS = {
    (key, field.key): Ours(
        {"$ref": f"#/$defs/of/properties/{field.key}", "$defs": {"of": schema_of_type(DEFS, key)}},
        format_checker=CHECKER,
    )
    for key in ("top", "below")
    for field in FIELDS
}


@pytest.mark.parametrize("field", FIELDS, ids=lambda field: f"{field.kind}-{field.key}")
@settings(max_examples=120)
@given(data=st.data())
def test_a_value_is_accepted_by_the_schema_when_the_core_accepts_it(field: Field, data: st.DataObject) -> None:
    likely = LIKELY.get(field.kind, TEXTS)
    several = st.lists(likely, min_size=1, max_size=4) if field.many else likely
    value = data.draw(st.one_of(several, several, ANYTHING))
    for key in ("top", "below"):
        effective = next(row.field for row in DEFS.applicable(Group(key)) if row.field.key == field.key)
        accepts = judge_of(effective, DEFS.spec(effective))(value) is None
        assert VALIDATORS[key, field.key].is_valid(value) == accepts, value


def test_a_product_lacks_nothing_required_and_has_nothing_else() -> None:
    validator = Ours(schema_of_type(DEFS, "below"), format_checker=CHECKER)
    whole = {"title": "T", "slug": "t", "sku": "T-1", "price": "1.00", "f0": "ab"}
    assert validator.is_valid({**whole, "price": "1"})
    for key in whole:
        assert not validator.is_valid({name: value for name, value in {**whole, "price": "1"}.items() if name != key})
    assert not validator.is_valid({**whole, "price": "1", "elsewhere": "x"})


BOUNDS = st.decimals(-200, 200, places=3) | st.integers(-20, 20).map(Decimal)


@given(BOUNDS, BOUNDS)
def test_bounds_are_patterns(bound: Decimal, number: Decimal) -> None:
    text = f"{number.normalize():f}"
    assert bool(re.search(patterns.at_most(bound), text)) == (number <= bound)
    assert bool(re.search(patterns.at_least(bound), text)) == (number >= bound)
