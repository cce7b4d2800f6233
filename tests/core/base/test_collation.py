"""Texts in the order of a language."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.helpers import defs_of
from tests.core.helpers import field as make_field
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shop import Shop
from young_fabric.core.base.wording.collation import order_of
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.fields.fields import check_field
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.subjects.values import FieldRules


@pytest.mark.parametrize(
    ("locale", "words"),
    [
        ("en", ["cafe", "café", "caff", "Zebra", "zoo"]),
        ("de", ["apfel", "äpfel", "Birne", "zoo"]),
        ("sv", ["apa", "zoo", "åska", "ängel", "Öland"]),
        ("sv_FI", ["apa", "zoo", "åska"]),
        ("da", ["abe", "zoo", "æble", "øre", "ål"]),
        ("fr", ["cote", "côte", "coter"]),
        ("ja", ["あお", "きいろ", "みどり"]),
    ],
)
def test_words_stand_as_the_language_has_them(locale: str, words: list[str]) -> None:
    assert sorted(sorted(words, reverse=True), key=order_of(locale)) == words


@given(st.lists(st.text(max_size=6), max_size=6), st.sampled_from(["en", "sv", "ar", "ja"]))
def test_any_texts_can_be_ordered(words: list[str], locale: str) -> None:
    assert sorted(sorted(words, key=order_of(locale))) == sorted(words)


HUES = ValueList("hues", "Hues", (ListValue("z", "Zinc"), ListValue("b", "Blue"), ListValue("a", "Äpfel")))


def shown(order: str, kind: str, value: list[str], **more: object) -> str:
    definition = make_field("f", "F", "F", kind, order=order, **more)
    defs: Definitions = defs_of(Shop(locale="de"), lists={"hues": HUES}, fields={"f": definition})
    check_field(definition, defs)
    return FieldRules(definition, defs.spec(definition)).text(value)


def test_several_values_stand_by_hand_or_by_alphabet_as_the_field_says() -> None:
    assert shown("by_hand", "many_of", ["z", "a", "b"], list="hues") == "Zinc, Äpfel, Blue"
    assert shown("alphabetical", "many_of", ["z", "a", "b"], list="hues") == "Äpfel, Blue, Zinc"
    assert shown("by_hand", "text", ["zoo", "äpfel", "Birne"], many=True) == "zoo, äpfel, Birne"
    assert shown("alphabetical", "text", ["zoo", "äpfel", "Birne"], many=True) == "äpfel, Birne, zoo"
    assert shown("alphabetical", "whole", ["10"], many=True) == "10"
    with pytest.raises(Refusal) as caught:
        shown("by_size", "text", ["a"], many=True)
    assert caught.value.where == ("order",)
