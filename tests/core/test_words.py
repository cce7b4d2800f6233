"""The shop's fixed words in every language."""

from __future__ import annotations

import re

import pytest

from young_fabric.core.base.words import LANGUAGES, catalogue, say, unit_word
from young_fabric.core.kinds import KINDS, Spec


@pytest.mark.parametrize("language", LANGUAGES)
def test_every_language_has_every_word_with_the_same_things_put_in(language: str) -> None:
    english, words = catalogue("en"), catalogue(language)
    assert words.keys() == english.keys()
    for key, text in words.items():
        assert sorted(re.findall(r"{\w+}", text)) == sorted(re.findall(r"{\w+}", english[key])), key


def test_words_go_by_the_locale_and_are_english_where_there_are_none() -> None:
    assert say("de-AT", "per", reference="100 ml") == "je 100 ml"
    assert say("fr", "per", reference="100 ml") == "per 100 ml"
    assert (say("en", "products", 1), say("en", "products", 1200)) == ("1 product", "1,200 products")
    assert (unit_word("de", "piece", 3), unit_word("en", "piece", 1), unit_word("de", "ml")) == ("Stück", "piece", "ml")


@pytest.mark.parametrize(
    ("locale", "unit_price", "contents"),
    [("en", "€1,234.50 per 100 ml", "12 pieces"), ("de", "1.234,50\u00a0€ je 100 ml", "12 Stück")],
)
def test_prices_and_contents_speak_the_shops_language(locale: str, unit_price: str, contents: str) -> None:
    spec = Spec(locale=locale)
    price = {"amount": "1234.5", "reference": "100", "unit": "ml"}
    assert KINDS["unit_price"].shower(spec, {})(price).plain == unit_price
    pieces = {"count": 1, "amount": "12", "unit": "piece"}
    assert KINDS["contents"].shower(spec, {})(pieces).plain.replace("\u00a0", " ") == contents
    assert KINDS["contents"].read(KINDS["contents"].to_text(pieces, spec), spec) == pieces
    assert KINDS["contents"].read("12 Stück", spec) == pieces
