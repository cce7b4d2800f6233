"""Two people on one thing: what only one changed is kept, what both changed is told to the second, with who it was and in words."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from tests.conftest import NOW, person
from young_fabric.core.display.cascade import Scope
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.service.acting.actors import Clash, Right, Work
from young_fabric.service.defining import definitions, holders
from young_fabric.service.pages import layouts
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.writing import writes

MADE = {"record": {"type": "maker"}, "layout": {"base": "page"}}
Put = Callable[[Work, str], Any]
"""Puts words at one place of a thing, from the version that both people read."""


def named(work: Work, noun: str) -> tuple[Put, Put]:
    """How to change the name of a new thing of a noun, and how to read it."""
    made = definitions.create(work, noun, "Driftwood", MADE.get(noun, {}))
    key = NOUNS[noun].calling.key_of(made.thing)
    return (
        lambda who, words: definitions.change(who, noun, key, made.version, {"name": words}),
        lambda who, _: writes.need_current(who, noun, key).thing.name,
    )


def of_settings(work: Work, _: str) -> tuple[Put, Put]:
    scope = Scope("shop")
    version = definitions.display(work, scope, "title", "product_page", {"label_text": "Driftwood"}, None).version
    key = f"{scope}/title/product_page"
    return (
        lambda who, words: definitions.display(who, scope, "title", "product_page", {"label_text": words}, version),
        lambda who, _: writes.need_current(who, "display_setting", key).thing.set["label_text"],
    )


WAYS = {"display_setting": of_settings}


@pytest.fixture
def other(work: Work) -> Work:
    """Work for somebody else who may edit."""
    actor = person(work.session, 1)
    assert Right.EDIT in actor.rights
    assert actor.id != work.actor.id
    return Work(work.session, actor, NOW)


@pytest.mark.parametrize("noun", sorted(NOUNS))
def test_the_second_of_two_is_told_who_wrote_what_and_overwrites_nothing(work: Work, other: Work, noun: str) -> None:
    put, read = WAYS.get(noun, named)(work, noun)
    put(work, "Of the first")
    with pytest.raises(Clash) as caught:
        put(other, "Of the second")
    assert read(work, "") == "Of the first"
    assert f"was changed by {work.actor.name} in the meantime" in caught.value.message
    assert any("Of the second" in line for line in caught.value.your_lines)
    assert any("Of the first" in line for line in caught.value.their_lines)
    with pytest.raises(Clash) as caught:
        put(work, "Of the first, again")
    assert "by yourself, elsewhere, in the meantime" in caught.value.message


def test_products_and_what_holds_values_tell_the_same(work: Work, other: Work) -> None:
    product = products.search(work, products.Filters(words="Barley Ochre"), None).rows[0].product
    record = products.search(work, products.Filters(words="Barley Ochre"), None).rows[0]
    version = record.version
    products.fill(work, product.id, version, {"title": "Of the first"})
    products.fill(other, product.id, version, {"ss_made_in": "Fenwick"})
    with pytest.raises(Clash) as caught:
        products.fill(other, product.id, version, {"title": "Of the second"})
    assert any("Of the second" in line for line in caught.value.your_lines)
    assert any("Of the first" in line for line in caught.value.their_lines)
    key = next(key for key, thing in plans.draft(work.session).things["record"].items() if thing.type == "maker")
    version = writes.need_current(work, "record", key).version
    holders.fill(work, "record", key, version, {"ss_maker_founded": "1901"})
    with pytest.raises(Clash) as caught:
        holders.fill(other, "record", key, version, {"ss_maker_founded": "1902"})
    assert any("1902" in line for line in caught.value.your_lines)
    assert any("1901" in line for line in caught.value.their_lines)


def words_block(block_id: str | None, words: str) -> dict[str, Any]:
    return {"kind": "words", "words": words, **({"id": block_id} if block_id else {})}


def add(block: dict[str, Any], after: str | None = None) -> dict[str, Any]:
    return {"op": "add", "block": block, "region": "main", "after": after}


def blocks_of(work: Work, key: str) -> dict[str, dict[str, Any]]:
    view = layouts.layout_view(work, key)
    return {placed.block["id"]: placed.block for _, region in view.regions for placed in region}


@pytest.fixture(params=["page", ""], ids=["built on another", "of its own"])
def layout(request: pytest.FixtureRequest, work: Work) -> tuple[str, int]:
    """A layout with two blocks of words, and its version."""
    regions = [{"id": "main", "blocks": []}]
    given = {"base": "page"} if request.param else {"surface": "product_page", "base": "", "regions": regions}
    definitions.create(work, "layout", "Mine", {"key": "mine", **given})
    done = layouts.edit(work, "mine", [add(words_block("note", "Dry")), add(words_block("care", "Wet"), "note")])
    return "mine", done.version


def test_edits_of_other_blocks_and_members_come_together(work: Work, other: Work, layout: tuple[str, int]) -> None:
    key, version = layout
    layouts.edit(work, key, [{"op": "set", "id": "note", "props": {"words": "Drier"}}], version)
    layouts.edit(other, key, [{"op": "set", "id": "note", "props": {"heading": "Note"}}], version)
    layouts.edit(work, key, [{"op": "set", "id": "care", "props": {"words": "Wetter"}}], version)
    found = blocks_of(work, key)
    assert (found["note"]["words"], found["note"]["heading"], found["care"]["words"]) == ("Drier", "Note", "Wetter")


@pytest.mark.parametrize(
    ("first", "second"),
    [
        (
            {"op": "set", "id": "note", "props": {"words": "Drier"}},
            {"op": "set", "id": "note", "props": {"words": "Damp"}},
        ),
        ({"op": "set", "id": "note", "props": {"words": "Drier"}}, {"op": "remove", "id": "note"}),
        (
            {"op": "set", "id": "note", "props": {"words": "Drier"}},
            {"op": "set", "id": "note", "props": {"words": None}},
        ),
    ],
)
def test_words_of_a_block_are_not_overwritten_nor_removed_unseen(
    work: Work, other: Work, layout: tuple[str, int], first: dict[str, Any], second: dict[str, Any]
) -> None:
    key, version = layout
    layouts.edit(work, key, [first], version)
    with pytest.raises(Clash) as caught:
        layouts.edit(other, key, [second], version)
    assert work.actor.name in caught.value.message
    assert blocks_of(work, key)["note"]["words"] == "Drier"
    assert caught.value.version is not None
    layouts.edit(other, key, [second], caught.value.version)
    assert blocks_of(work, key).get("note", {}).get("words") != "Drier"


def test_two_add_a_block_of_one_kind_at_once_and_both_stand(work: Work, other: Work, layout: tuple[str, int]) -> None:
    key, version = layout
    layouts.edit(work, key, [add(words_block(None, "Of the first"), "care")], version)
    layouts.edit(other, key, [add(words_block(None, "Of the second"), "care")], version)
    said = [block.get("words") for block in blocks_of(work, key).values()]
    assert {"Of the first", "Of the second"} <= set(said)


def test_a_block_that_the_other_took_away_is_told(work: Work, other: Work, layout: tuple[str, int]) -> None:
    key, version = layout
    layouts.edit(work, key, [{"op": "remove", "id": "note"}], version)
    with pytest.raises(Clash):
        layouts.edit(other, key, [{"op": "set", "id": "note", "props": {"words": "Damp"}}], version)
    assert "note" not in blocks_of(work, key)


def move(block: str, after: str | None) -> dict[str, Any]:
    return {"op": "move", "id": block, "region": "main", "after": after}


def test_a_block_is_not_moved_from_under_another_and_others_moved_are_kept(
    work: Work, other: Work, layout: tuple[str, int]
) -> None:
    key, version = layout
    version = layouts.edit(work, key, [add(words_block("last", "Last"), "care")], version).version
    layouts.edit(work, key, [move("note", "last")], version)
    with pytest.raises(Clash):
        layouts.edit(other, key, [move("note", "care")], version)
    stands = [name for name in blocks_of(work, key) if name in ("note", "care", "last")]
    assert stands == ["care", "last", "note"]
    layouts.edit(other, key, [{"op": "set", "id": "note", "props": {"words": "Damp"}}], version)
    assert [name for name in blocks_of(work, key) if name in stands] == stands
