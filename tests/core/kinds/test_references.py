"""References: stored as keys and numbers, shown by names that are put in, and nothing stored makes a reader raise."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.helpers import defs_of
from young_fabric.core.base.conditions import COMPARISONS, holds
from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds import KINDS, Spec
from young_fabric.core.kinds.references import is_named, named
from young_fabric.core.nouns.content.record_types import RecordType
from young_fabric.core.nouns.content.records import Record
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.named_choices import NamedChoices
from young_fabric.core.subjects.product_labels import Names, ProductLabel, is_there, numbers_of
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import FieldRules

MAKER = Field("maker", "Maker", "Maker", "record", options={"record_type": "maker"})
PAIRS = Field("pairs", "Goes with", "Goes with", "product", many=True)
STEPS = Field(
    "steps",
    "Steps",
    "Steps",
    "rows",
    options={"columns": [{"key": "by", "label": "By", "kind": "record", "options": {"record_type": "maker"}}]},
)
JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats(allow_nan=False) | st.text(max_size=8),
    lambda inner: (
        st.lists(inner, max_size=3) | st.dictionaries(st.sampled_from(["item", "name", "address", "by"]), inner)
    ),
    max_leaves=6,
)


@pytest.fixture(scope="module")
def defs() -> Definitions:
    things: Any = {
        "record_type": {"maker": RecordType("maker", "Maker", (), True), "guide": RecordType("guide", "Guide")},
        "record": {
            "fen": Record("fen", "Fen Mill", "maker", "fen-mill"),
            "wash": Record("wash", "A first wash", "guide", "a-first-wash"),
        },
        "field": {field.key: field for field in (MAKER, PAIRS, STEPS)},
    }
    return Definitions(defs_of().shop, things)


def names(defs: Definitions) -> Names:
    return Names(defs, {7: ProductLabel("Seven", "seven"), 8: ProductLabel("Eight", "")})


def test_a_value_is_found_by_key_first_then_by_name(defs: Definitions) -> None:
    rules = FieldRules(MAKER, defs.spec(MAKER))
    assert rules.read(" fen mill ").value == "fen"
    assert rules.read("fen").value == "fen"
    wrong = rules.read("wash").wrong
    assert wrong is not None, "a guide is no maker"
    assert (wrong.code, wrong.help) == ("gone", "Choose one, such as Fen Mill")
    assert FieldRules(PAIRS, defs.spec(PAIRS)).read("7\n8").value == [7, 8]
    for text in ("0", "2147483648", "seven", "-1"):
        assert FieldRules(PAIRS, defs.spec(PAIRS)).read(text).wrong is not None
    assert FieldRules(PAIRS, defs.spec(PAIRS)).read("2147483647").value == [2147483647]


def test_names_and_addresses_are_put_in_wherever_values_name_things(defs: Definitions) -> None:
    product = Product(
        1, "x", {"title": "One", "maker": "fen", "pairs": [7, 8], "steps": [{"by": "fen"}, {"by": "gone"}]}
    )
    assert numbers_of(defs, [product]) == {7, 8}
    shown = names(defs).of_product(product).values
    assert shown["maker"] == named("fen", "Fen Mill", "fen-mill")
    assert shown["pairs"] == [named(7, "Seven", "seven"), named(8, "Eight", "")]
    assert shown["steps"] == [{"by": named("fen", "Fen Mill", "fen-mill")}, {"by": named("gone", "", "")}]
    pairs = FieldRules(PAIRS, defs.spec(PAIRS))
    assert pairs.text(shown["pairs"]) == "Seven, Eight"
    wrong = FieldRules(STEPS, defs.spec(STEPS)).judge(shown["steps"])
    assert wrong is not None
    assert (wrong.code, wrong.where) == ("gone", (1, "by"))
    plain = Product(1, "x", {"title": "One"})
    assert names(defs).of_product(plain) is plain


def test_a_value_sent_with_a_name_is_kept_without_it(defs: Definitions) -> None:
    rules = FieldRules(MAKER, defs.spec(MAKER))
    assert rules.read(named("fen", "Anything", "elsewhere")).value == "fen"
    assert rules.read(named("gone", "Fen Mill", "")).wrong is not None


def test_what_is_there_is_told(defs: Definitions) -> None:
    assert is_there(defs, frozenset({7}), ("product", ""), 7)
    assert not is_there(defs, frozenset({7}), ("product", ""), 8)
    assert is_there(defs, frozenset(), ("record_type", "maker"), "fen")
    assert not is_there(defs, frozenset(), ("record_type", "maker"), "wash")
    assert not is_there(defs, frozenset(), ("record_type", "nothing"), "fen")


def test_conditions_ask_for_keys_whether_or_not_names_are_in(defs: Definitions) -> None:
    known = {"maker": "reference", "pairs": "reference"}
    assert set(COMPARISONS) >= set(known.values())
    for value in ("fen", named("fen", "Fen Mill", "")):
        assert holds({"field": "maker", "op": "is", "value": "fen"}, {"maker": value}, known)
        assert not holds({"field": "maker", "op": "is", "value": "mill"}, {"maker": value}, known)
    for value in ([7, 8], [named(7, "", ""), named(8, "", "")]):
        assert holds({"field": "pairs", "op": "all_of", "value": [8, 7]}, {"pairs": value}, known)
        assert not holds({"field": "pairs", "op": "any_of", "value": [9]}, {"pairs": value}, known)


@given(JSON, st.sampled_from([MAKER, PAIRS, STEPS]))
def test_no_stored_value_makes_a_reader_raise(value: Any, field: Any) -> None:
    defs = Definitions(
        defs_of().shop, {"field": {field.key: field}, "record_type": {"maker": RecordType("maker", "M")}}
    )
    rules, told = FieldRules(field, defs.spec(field)), Names(defs, {})
    list(field.items(value))
    shown = told.put_in(field, value)
    if rules.judge(shown) is None:
        rules.text(shown)
    rules.typed(value)
    if rules.judge(value) is None:
        field.rules.words(value)
        assert all(item is not None for _, item in field.items(value))


def test_only_values_that_names_were_put_into_are_named() -> None:
    assert is_named(named(1, "One", ""))
    for value in ({"item": 1, "name": "One"}, {"item": 1, "name": None, "address": ""}, "one", None):
        assert not is_named(value)


def test_choices_are_told_by_the_first_few(defs: Definitions) -> None:
    choices = NamedChoices("record", {str(number): Record(str(number), f"R{number}") for number in range(20)})
    assert len(choices.offered()) == 8
    assert choices.label("gone") == "gone"
    with pytest.raises(Refusal):
        KINDS["record"].read("nobody", Spec(choices=choices))
    assert defs.choices(("product", "")) is None
