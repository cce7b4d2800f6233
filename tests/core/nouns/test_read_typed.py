"""What is typed in effects, conditions and layouts is read, and refused where it can't be."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, STATES, state
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.choices import check_devices, short_text, whole_number
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.content.shared_copies import read_words
from young_fabric.core.nouns.layouts.layout_edits import MOST_EDITS, changed_layout
from young_fabric.core.nouns.options.option_sets import read_typed
from young_fabric.store.states import thing_of

FIRST = "options/0/values/0/effect"


def amount(text: str) -> dict[str, str]:
    return {"mode": "typed", "value": text, "charge": "each"}


def typed(*puts: tuple[str, Any]) -> Any:
    return thing_of("option_set", state("option_set", "easel_woods", *puts))


@pytest.mark.parametrize(
    ("price", "wanted"),
    [
        ("+ 3.50", ("amount", "3.5", "each")),
        ("- 12 %", ("percent", "-12", "each")),
        ("4 once", ("amount", "4", "once")),
        ("= 9.90", ("replace", "9.9", "each")),
        ("0", None),
        ("", None),
    ],
)
def test_an_effect_is_read_as_it_is_typed(price: str, wanted: tuple[str, str, str] | None) -> None:
    made = read_typed(typed((f"{FIRST}/price", amount(price)), ("options/1/effect/price", amount(price))), SALTMARSH)
    for effect in (made.options[0].values[0].effect, made.options[1].effect):
        found = effect.price
        assert (None if found is None else (found.mode, found.value, found.charge)) == wanted
    assert made.options[0].values[1:] == typed().options[0].values[1:]


def test_what_can_not_be_read_is_refused_at_its_place() -> None:
    for path, where in (
        (f"{FIRST}/price", ("options", 0, "values", 0, "effect", "price")),
        ("options/0/values/2/effect/weight", ("options", 0, "values", 2, "effect", "weight")),
        ("options/1/effect/cost", ("options", 1, "effect", "cost")),
    ):
        with pytest.raises(Refusal) as refused:
            read_typed(typed((path, amount("much"))), SALTMARSH)
        assert tuple(refused.value.where) == where


def test_a_condition_is_read_and_left_out_rules_are_kept() -> None:
    made = read_typed(typed(("condition", {"field": "ss_folds", "op": "is", "typed": "yes"})), SALTMARSH)
    assert made.condition == {"field": "ss_folds", "op": "is", "value": True}
    with pytest.raises(Refusal) as refused:
        read_typed(typed(("condition", {"field": "nothing", "op": "is", "typed": "yes"})), SALTMARSH)
    assert refused.value.where[0] == "condition"
    colours = SALTMARSH.option_sets["watercolour_choices"]
    assert read_typed(colours, SALTMARSH) == colours


HIDE = {"op": "hide", "id": "pictures"}


def test_a_layout_after_edits_is_its_own_steps_and_what_can_not_be_is_refused() -> None:
    made = changed_layout(SALTMARSH, "oils", [{"op": "set", "id": "pictures", "props": {"as": "strip"}}])
    steps = [(step["op"], step["id"]) for step in state_of(made)["steps"]]
    assert steps[0] == ("add", "safety")
    assert ("set", "pictures") in steps
    assert made != SALTMARSH.things["layout"]["oils"]
    for key, edits, code in (
        ("nothing", [HIDE], "not_found"),
        ("page", [HIDE], "not_found"),
        ("oils", [], "too_many"),
        ("oils", [HIDE] * (MOST_EDITS + 1), "too_many"),
    ):
        with pytest.raises(Refusal) as refused:
            changed_layout(SALTMARSH, key, edits)
        assert refused.value.code == code
    assert STATES["layout"]["oils"]["base"] == "in_panels"


def test_a_text_on_one_line_and_a_whole_number_are_checked() -> None:
    def wrong(check: Any, value: Any) -> tuple[str, str] | None:
        found = check(value)
        return None if found is None else (found.code, found.message)

    line, lines, number = short_text(3), short_text(3, lines=True), whole_number(-2, 2)
    assert [wrong(line, value) for value in ("abc", "", "a\nb")] == [None, None, ("text", "Not a text on one line")]
    assert [wrong(lines, value) for value in ("a\nb", 3)] == [None, ("text", "Not a text")]
    assert wrong(line, "abcd") == ("long", "4 characters, at most 3 fit")
    assert [number(value) is None for value in (-2, 2, 0, -3, 3, True, 1.0, "1")] == [True] * 3 + [False] * 5
    assert [check_devices(value) is None for value in (["phone"], ("phone", "desktop"), [], ["tv"], "phone")] == [
        True,
        True,
        False,
        False,
        False,
    ]


def test_what_is_typed_as_shared_words_is_cleaned_and_none_stays_none() -> None:
    copy = SALTMARSH.things["shared_copy"]["colour_care"]
    assert read_words(copy) == copy
    typed_so = replace(copy, words="Cap it & go", own={"outdoors": "<p onclick='x'>Cap it</p>", "lightfast": " "})
    read = read_words(typed_so)
    assert (read.words, read.own) == ("<p>Cap it &amp; go</p>", {"outdoors": "<p>Cap it</p>", "lightfast": ""})
    assert read_words(replace(copy, words="")).words == ""
