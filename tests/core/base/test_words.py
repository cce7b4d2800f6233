"""The shop's fixed words in every language."""

from __future__ import annotations

import re

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.locales import YES_NO, locale_of
from young_fabric.core.base.wording import words as words_module
from young_fabric.core.base.wording.words import LANGUAGES, catalogue, say, tell, unit_word
from young_fabric.core.kinds import KINDS, Spec


@pytest.mark.parametrize("language", LANGUAGES)
def test_every_language_has_every_word_with_the_same_things_put_in(language: str) -> None:
    english, words = catalogue("en"), catalogue(language)
    counted = {key.removesuffix("_one") for key in english if key.endswith("_one")}
    forms = {f"_{form}" for form in locale_of(language).plural_form.tags}
    assert words.keys() == {key for key in english if not key.endswith("_one")} | {
        k + f for k in counted for f in forms
    }
    for key, text in words.items():
        plain = key if key in english else key.rpartition("_")[0]
        assert sorted(re.findall(r"{\w+}", text)) == sorted(re.findall(r"{\w+}", english[plain])), key


def test_every_language_says_yes_and_no_in_its_own_words() -> None:
    assert YES_NO.keys() >= set(LANGUAGES)


def test_counts_are_said_in_the_forms_the_language_has(monkeypatch: pytest.MonkeyPatch) -> None:
    polish = {"products": "{count} produktów", "products_one": "{count} produkt", "products_few": "{count} produkty"}
    monkeypatch.setattr(words_module, "LANGUAGES", (*LANGUAGES, "pl"))
    monkeypatch.setattr(words_module, "catalogue", {**{code: catalogue(code) for code in LANGUAGES}, "pl": polish}.get)
    said = [say("pl-PL", "products", count) for count in (1, 3, 5, 22)]
    assert said == ["1 produkt", "3 produkty", "5 produktów", "22 produkty"]


def test_words_go_by_the_locale_and_are_english_where_there_are_none() -> None:
    assert say("de-AT", "per", reference="100 ml") == "je 100 ml"
    assert say("xx", "per", reference="100 ml") == "per 100 ml"
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


REFUSED = {key.removesuffix("_help") for key in catalogue("en") if key.startswith("refused_")}


def test_a_refusal_is_told_in_the_shops_language_and_in_its_own_words_where_there_are_none() -> None:
    few = Refusal("sold_out", "Only 3 left", ("quantity",), "Take 3 or fewer", {"case": "some", "left": 3})
    assert tell("en", few) == "Only 3 left. Take 3 or fewer"
    assert tell("de-AT", few.at("lines")) == "Nur noch 3 vorrätig. Nehmen Sie höchstens 3"
    assert tell("de", few, helped=False) == "Nur noch 3 vorrätig"
    assert tell("de", Refusal("strange", "Unheard of", (), "Ask")) == "Unheard of. Ask"
    assert tell("de", Refusal("long", "Too long", (), "Shorten it")) == "Too long. Shorten it", "without its facts"
    assert tell("en", Refusal("no_price", "There is no price yet", (), "Give the product a price")) == (
        "This can't be ordered at the moment"
    ), "shoppers have no say in prices"


@pytest.mark.parametrize("code", ["required", "sold_out", "left_out", "no_price", "file_kind", "file_size", "gone"])
def test_what_hinders_shoppers_has_words(code: str) -> None:
    assert any(key.startswith(f"refused_{code}") for key in REFUSED)
