"""The shop's fixed words, one catalogue a language, chosen by the shop's locale."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib.resources import files

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.locales import locale_of, show_number

LANGUAGES = ("en", "de")


@cache
def catalogue(language: str) -> Mapping[str, str]:
    """The words of a language by key."""
    text = (files("young_fabric.core.base") / "languages" / f"{language}.toml").read_text("utf-8")
    return tomllib.loads(text)


def say(locale: str, key: str, count: int | None = None, **values: object) -> str:
    """Words in the language of a locale, English where there are none. `KEY_one`, `KEY_few` … stand for counts that the language has a form of its own
    for (Unicode's plural rules), `KEY` for all others."""
    language, words = _language(locale), _words(locale)
    found = words[key] if count is None else words.get(f"{key}_{locale_of(language).plural_form(count)}", words[key])
    return found.format(count=None if count is None else show_number(str(count), locale), **values)


def tell(locale: str, refusal: Refusal, *, helped: bool = True) -> str:
    """What shoppers read of a refusal, and when `helped` how to mend it: in the shop's language where that has words for it."""
    words, case = _words(locale), refusal.facts.get("case", "")
    key = f"refused_{refusal.code}_{case}" if case else f"refused_{refusal.code}"
    facts = {name: _put(fact, locale) for name, fact in refusal.facts.items()}
    try:
        sentences = [words[name].format(**facts) for name in (key, f"{key}_help") if name in words or name == key]
    except KeyError:
        sentences = [refusal.message, *([refusal.help] if refusal.help and refusal.help != refusal.message else [])]
    return ". ".join(sentences if helped else sentences[:1])


def _put(fact: object, locale: str) -> object:
    return show_number(str(fact), locale) if isinstance(fact, int) else fact


def unit_word(locale: str, symbol: str, count: int | None = None) -> str:
    """What shoppers read for a unit: its symbol, or a word of their language where it has one."""
    return say(locale, f"unit_{symbol}", count) if f"unit_{symbol}" in _words(locale) else symbol


def _words(locale: str) -> Mapping[str, str]:
    return catalogue(_language(locale))


def _language(locale: str) -> str:
    """The language that words are said in."""
    language = locale.replace("_", "-").split("-")[0]
    return language if language in LANGUAGES else LANGUAGES[0]
