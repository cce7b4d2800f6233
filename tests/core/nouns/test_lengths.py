"""How long what is typed of a thing may be: so many signs are taken, and one more is refused where it stands."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, STATES, state
from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.store.states import thing_of

LENGTHS: list[tuple[str, str, int]] = [
    *(
        (noun, "name", 80)
        for noun in (
            "product_type",
            "field_set",
            "option_set",
            "layout",
            "record",
            "record_type",
            "collection",
            "value_list",
        )
    ),
    *((noun, "slug", 120) for noun in ("product_type", "record", "collection")),
    ("field_set", "sections/0/name", 80),
    ("field_set", "sections/0/key", 60),
    ("value_list", "values/0/label", 200),
]


def refused(noun: str, path: str, text: str) -> Refusal | None:
    """Why a thing can't have a text, None where it can."""
    key = next(iter(STATES[noun]))
    try:
        NOUNS[noun].check(thing_of(noun, state(noun, key, (path, text))), SALTMARSH)
    except Refusal as refusal:
        return refusal
    return None


@pytest.mark.parametrize(("noun", "path", "most"), LENGTHS)
def test_so_many_signs_and_no_more(noun: str, path: str, most: int) -> None:
    at, beyond = refused(noun, path, "a" * most), refused(noun, path, "a" * (most + 1))
    assert at is None, at
    assert beyond is not None


def things_named() -> list[tuple[str, Any]]:
    return [(noun, key) for noun, things in STATES.items() for key in list(things)[:3] if "name" in things[key]]


@pytest.mark.parametrize(("noun", "key"), things_named())
def test_a_thing_without_a_name_is_refused(noun: str, key: str) -> None:
    with pytest.raises(Refusal) as found:
        NOUNS[noun].check(thing_of(noun, state(noun, key, ("name", " "))), SALTMARSH)
    assert found.value.where[:1] in (("name",), ())
