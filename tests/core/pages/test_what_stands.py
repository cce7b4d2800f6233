"""What stays of a column's blocks, what a document holds of one, and conditions that are met or not."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.block_members import ICONS, _check_icon, _check_switch, check_key, check_regions, chosen
from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.cascade import DisplaySetting, Scope
from young_fabric.core.display.choices import EVERY_DEVICE, Choice, among, words_of
from young_fabric.core.kinds.leaves import Text
from young_fabric.core.nouns.layouts.display_settings import setting_key
from young_fabric.core.pages.bare_texts import BareTexts
from young_fabric.core.pages.blocks import settled
from young_fabric.core.pages.document import Entry, ShownBlock, ShownRegion, _block_json
from young_fabric.core.pages.plans import Plans
from young_fabric.core.pages.why import of_product, why
from young_fabric.core.subjects.products import Product

TITLES = {"H": {}, "h": {"level": "small"}}


def block(sort: str, name: str) -> ShownBlock:
    """A block by a letter: H and h a large and a small heading, D a divider, W words."""
    kind = {"H": "heading", "h": "heading", "D": "divider", "W": "words"}[sort]
    content = Text(name) if sort == "W" else None
    return ShownBlock(name, kind, content=content, look=TITLES.get(sort, {}))


@pytest.mark.parametrize(
    ("before", "after"),
    [
        ("W", "W"),
        ("HW", "HW"),
        ("H", ""),
        ("WH", "W"),
        ("HHW", "HW"),
        ("HhW", "HhW"),
        ("HhHW", "HW"),
        ("hHW", "HW"),
        ("WD", "W"),
        ("DW", "W"),
        ("DDW", "W"),
        ("WDDW", "WDW"),
        ("WDHW", "WDHW"),
        ("WDH", "W"),
        ("WHDW", "WHDW"),
        ("WhWhDW", "WhWhDW"),
        ("DHD", ""),
        ("", ""),
    ],
)
def test_no_title_is_left_over_nothing_and_nothing_between_nothing(before: str, after: str) -> None:
    blocks = [block(sort, f"{sort}{number}") for number, sort in enumerate(before)]
    left = settled(blocks)
    assert "".join(found.id[0] for found in left) == after
    assert [found for found in blocks if found in left] == left, "in their order"


def test_letters_stand_for_blocks_there_are() -> None:
    assert {"heading", "divider", "words"} <= set(BLOCK_KINDS)


def test_a_block_in_a_document_says_only_what_it_has() -> None:
    bare = ShownBlock("a", "words")
    assert _block_json(bare) == {"id": "a", "kind": "words"}
    entry = Entry("title", "Title", "beside", Text("Peat"), "Peat", EVERY_DEVICE)
    made = bare._replace(
        heading="Said",
        entries=(entry,),
        regions=(ShownRegion("r", (bare,)),),
        content=Text("x"),
        devices=("phone",),
        look={"level": "small"},
    )
    held = _block_json(made)
    assert list(held) == ["id", "kind", "heading", "entries", "regions", "content", "devices", "look"]
    assert (held["heading"], held["devices"], held["look"]) == ("Said", ["phone"], {"level": "small"})
    assert (held["content"], len(held["entries"])) == (["text", "x"], 1)
    assert held["regions"] == [{"id": "r", "blocks": [{"id": "a", "kind": "words"}]}]
    assert (made.title, bare.title) == ("Said", "")


def bare(least: int = 0, most: int = 5) -> BareTexts:
    fields = ("a", "b", "c")
    return BareTexts(fields, ("A", "B", "C"), ("beside",) * 3, (EVERY_DEVICE,) * 3, least, most)


@pytest.mark.parametrize(
    ("values", "least", "wanted"),
    [
        ({"a": "one", "c": "three"}, 0, ["one", "three"]),
        ({}, 0, []),
        ({"a": "12345"}, 0, ["12345"]),
        ({"a": "123456"}, 0, None),
        ({"a": "1\n2"}, 0, None),
        ({"a": 5}, 0, None),
        ({"a": ""}, 0, None),
        ({"a": "12"}, 2, ["12"]),
        ({"a": "1"}, 2, None),
        ({"a": "1"}, 1, ["1"]),
        ({}, 2, []),
    ],
)
def test_bare_texts_are_made_together_only_where_each_is_good(
    values: dict[str, Any], least: int, wanted: list[str] | None
) -> None:
    made = bare(least).entries(values.get)
    assert (None if made is None else [entry.text for entry in made]) == wanted
    if made:
        assert [entry.field for entry in made] == [key for key in "abc" if values.get(key)]
        assert [entry.label for entry in made] == [key.upper() for key in "abc" if values.get(key)]


def with_condition(tree: dict[str, Any]) -> Definitions:
    said = DisplaySetting(Scope("type", "easels"), "ss_wood", "product_page", {"condition": tree})
    return SALTMARSH.having("display_setting", str(setting_key(said)), said)


@pytest.mark.parametrize(
    ("title", "ok", "words"),
    [
        ("Heron", True, "It shows only when Title is Heron, by Easels"),
        ("Crane", False, "It shows only when Title is Heron, by Easels: Title is Crane"),
    ],
)
def test_a_condition_of_a_field_is_told_met_or_not(title: str, ok: bool, words: str) -> None:
    defs = with_condition({"field": "title", "op": "is", "value": "Heron"})
    product = Product(5, "easels", {"title": title, "ss_wood": "ash"})
    plan = Plans(defs).of_product(product, "product_page")
    [step] = [step for step in why(defs, plan, of_product(product), "ss_wood") if step.name == "condition"]
    assert (step.ok, step.text) == (ok, words)
    assert (step.mend is None) is ok
    if step.mend is not None:
        assert (step.mend.text, step.mend.key) == ("Change the condition", "type:easels/ss_wood/product_page")


@pytest.mark.parametrize(
    ("check", "good", "bad"),
    [
        (check_regions, [["a"], ["a", "b"]], [[], ["a", "a"], [""], "ab", [1], [f"r{number}" for number in range(99)]]),
        (check_key, ["title", ""], [None, 5, ["title"]]),
        (_check_icon, ["", *ICONS], ["no such icon", None, 5]),
        (_check_switch, [True, False], [None, 1, "yes"]),
        (among((Choice(True, "on"), Choice(1, "one"))), [True, 1], [False, "1", 2, None]),
    ],
)
def test_what_a_member_of_a_block_can_be(check: Any, good: list[Any], bad: list[Any]) -> None:
    assert [check(value) for value in good] == [None] * len(good)
    assert all(check(value) is not None for value in bad)


def test_choices_are_called_by_their_words_or_labels() -> None:
    words = words_of((Choice("a", "first", "the first"), Choice("b", "second")))
    assert [words("a"), words("b"), words("c")] == ["the first", "second", "c"]
    member = chosen("how", "How", (Choice("a", "first"), Choice("b", "second")))
    assert (member.code, member.default, member.styled) == ("how", "a", True)
