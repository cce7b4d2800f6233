"""What stands above a listing: the picture, the words and the own fields that shoppers may read and that are good."""

from __future__ import annotations

from tests.core.saltmarsh import SALTMARSH, having, state
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds.shown import Pictures
from young_fabric.core.pages.headings import heading_of
from young_fabric.core.subjects.product_labels import Names

PICTURE = {"file": "a" * 64, "alt": "The quay", "width": 900, "height": 600}


def heading(
    defs: Definitions, noun: str = "collection", key: str = "outdoors"
) -> tuple[bool, list[tuple[str, str, str]]]:
    found = heading_of(Names(defs, {}), noun, key)
    return found.banner is not None, [(entry.field, entry.label_at, entry.text) for entry in found.block.entries]


def test_good_values_for_shoppers_stand_there() -> None:
    words = "Small tubes, books with a band, and what folds flat.\n\nAll of it goes into one bag."
    assert heading(SALTMARSH) == (False, [("words", "hidden", words), ("ss_season", "beside", "April to October")])
    assert heading(SALTMARSH, key="small_change") == (False, [])


def test_what_is_wrong_not_understood_or_of_the_staff_does_not() -> None:
    filled = {"words": ["typed", "odd"], "ss_season": ["value", 3]}
    assert heading(having(("collection", state("collection", "outdoors", ("filled", filled))))) == (False, [])
    staff = having(("field", state("field", "ss_season", ("audience", "staff"))))
    assert [key for key, _, _ in heading(staff)[1]] == ["words"]


def test_its_picture_stands_above() -> None:
    filled = {"picture": ["value", PICTURE]}
    defs = having(("collection", state("collection", "outdoors", ("filled", filled))))
    found = heading_of(Names(defs, {}), "collection", "outdoors")
    assert isinstance(found.banner, Pictures)
    assert found.block.entries == ()


def test_a_record_names_what_it_refers_to() -> None:
    found = {key: text for key, _, text in heading(SALTMARSH, "record", "driftline_bindery")[1]}
    assert found["ss_maker_place"] == "Port Callan"
    assert found["ss_maker_uses"] == "Fen Mill, Gosling & Plover"
