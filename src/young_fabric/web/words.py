"""The shop's fixed words, one catalogue a language, chosen by the shop's locale."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib.resources import files

LANGUAGES = ("en", "de")


@cache
def catalogue(language: str) -> Mapping[str, str]:
    """The words of a language by key."""
    text = (files("young_fabric.web") / "shop" / "words" / f"{language}.toml").read_text("utf-8")
    return tomllib.loads(text)


def say(locale: str, key: str, count: int | None = None, **values: object) -> str:
    """Words in the language of a locale, English where there are none; `KEY_one` stands for a count of 1."""
    language = locale.replace("_", "-").split("-")[0]
    words = catalogue(language if language in LANGUAGES else LANGUAGES[0])
    found = words[f"{key}_one"] if count == 1 and f"{key}_one" in words else words[key]
    return found.format(count=count, **values)
