"""What was typed, or named, is repeated in a refusal up to so many signs and no more."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, having, state
from young_fabric.core.base import locales
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.text import check_key, make_code, make_key
from young_fabric.core.display.cascade import read_scope
from young_fabric.core.display.layouts import resolve_layout
from young_fabric.core.kinds import KINDS, Spec
from young_fabric.core.kinds.base import in_words
from young_fabric.core.nouns.fields.conditions import read_condition
from young_fabric.core.nouns.layouts.layout_edits import changed_layout
from young_fabric.core.nouns.registry import NOUNS

LONG = "q" * 300


def read(code: str, text: str = LONG, **options: Any) -> Callable[[], Any]:
    return lambda: KINDS[code].read(text, Spec(options=options))


def wrong(code: str, value: Any, **limits: Any) -> Callable[[], Any]:
    def judge() -> None:
        found = KINDS[code].judge(Spec(limits=limits))(value)
        assert found is not None
        raise found

    return judge


def checked(noun: str, key: str, *puts: tuple[str, Any]) -> Callable[[], Any]:
    """Whether a thing of the shop is sound with some of it another."""
    made = having((noun, state(noun, key, *puts)))
    return lambda: NOUNS[noun].check(made.things[noun][key], made)


@pytest.mark.parametrize(
    ("refused", "most"),
    [
        (read("yes_no"), 40),
        (read("one_of"), 40),
        (read("measure", f"5 {LONG}", unit="mm"), 40),
        (read("contents", f"5 {LONG}"), 40),
        (read("record"), 60),
        (read("product"), 40),
        (read("colour"), 40),
        (read("rating"), 40),
        (read("whole"), 40),
        (read("decimal"), 40),
        (read("date"), 40),
        (read("gtin"), 40),
        (lambda: KINDS["picture"].from_text(LONG, Spec()), 40),
        (lambda: KINDS["file"].from_text(LONG, Spec()), 40),
        (wrong("one_of", LONG), 60),
        (wrong("text", LONG, pattern="[a-c]*"), 40),
        (wrong("text", "q" * 30, pattern="[a-c]*"), 30),
        (lambda: locales.read_number(LONG, "en"), 40),
        (lambda: check_key(f"{LONG}!"), 60),
        (lambda: read_scope(LONG), 80),
        (lambda: resolve_layout({"a": {"base": LONG}}, "a"), 60),
        (lambda: changed_layout(SALTMARSH, LONG, []), 60),
        (lambda: changed_layout(SALTMARSH, "easels", [{"op": LONG}]), 40),
        (lambda: changed_layout(SALTMARSH, "easels", [{"op": "add", "region": "main", "block": {"kind": LONG}}]), 40),
        (checked("layout", "easels", ("surface", LONG)), 60),
        (checked("layout", "in_panels", ("base", LONG)), 60),
        (checked("product_type", "easels", ("sets", [LONG])), 60),
        (checked("product_type", "easels", ("fields", [LONG])), 60),
        (checked("product_type", "easels", ("needs", {LONG: "required"})), 60),
        (checked("field_set", "books", ("collections", [LONG])), 60),
    ],
)
def test_it_is_cut(refused: Callable[[], Any], most: int) -> None:
    with pytest.raises(Refusal) as found:
        refused()
    assert found.value.message.count("q") == most, found.value.message


def test_codes_and_keys_are_made_no_longer() -> None:
    assert (len(make_code("a" * 99, ())), len(make_key("a" * 99, "", ()))) == (50, 40)
    assert (make_code("!", ()), make_key("!", "", ())) == ("value", "unnamed")


def test_values_in_words_are_cut() -> None:
    assert in_words("a" * 60) == f"“{'a' * 60}”"
    assert in_words("a" * 61) == f"“{'a' * 60}…”"
    assert in_words(["a"] * 13) == ", ".join(["“a”"] * 12) + "…"
    assert in_words(["a"] * 12) == ", ".join(["“a”"] * 12)
    assert len(in_words({"a": "b" * 99})) == 60


def test_a_product_type_a_condition_asks_for_is_told_cut() -> None:
    tree = {"field": "type", "op": "in", "value": [LONG]}
    with pytest.raises(Refusal) as found:
        read_condition(tree, SALTMARSH)
    assert found.value.message.count("q") in (60, 0), found.value.message


def test_a_number_of_ratings_is_cut() -> None:
    with pytest.raises(Refusal) as found:
        KINDS["rating"].read(f"4/5 ({'9' * 25})", Spec())
    assert found.value.message == f"{'9' * 25} can't be a number of ratings"
