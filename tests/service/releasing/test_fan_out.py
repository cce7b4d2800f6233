"""Products with several cards: which stand on which listing, what they show, what a change of it is told to make differ, and going back."""

from __future__ import annotations

from typing import Any

import pytest

from tests.service.values.test_variants import (
    BLUE,
    LARGE,
    RED,
    SMALL,
    give,
    make_product,
    make_set,
    of,
    option,
    put_set,
)
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope, read_scope
from young_fabric.core.display.surfaces import listed_surface, product_surfaces
from young_fabric.core.nouns.fields.built_in import TITLE
from young_fabric.core.pages.document import from_json
from young_fabric.core.pages.listed import of_collection, of_type
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.foreseeing import counted
from young_fabric.service.releasing import comparing, pending, release
from young_fabric.service.values import variant_writer
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.store.repos import listings, releases
from young_fabric.store.repos import shop as shops

CARD = listed_surface().code
SHOP = Scope("shop")


@pytest.fixture
def book(work: Work) -> int:
    """A product of two colours in two sizes, live."""
    give(work, "sketchbooks", make_set(work, "Woods", option("colour", RED, BLUE), option("size", SMALL, LARGE)))
    number = make_product(work, "SB-1")
    release.release(work, "A book")
    return number


def say(work: Work, scope: str = "shop", **members: Any) -> definitions.Consequences:
    """Say something of cards; gives what was told of it beforehand."""
    edit = definitions.SettingEdit("*", CARD, members, None)
    [(key, thing)] = definitions.changed_settings(work, read_scope(scope), [edit])
    told = definitions.consequences(work, "display_setting", key, thing)
    version = getattr(definitions.definitions.get(work.session, "display_setting", key), "version", None)
    definitions.display(work, read_scope(scope), "*", CARD, members, version)
    return told


def titles(work: Work, listing: Any, number: int) -> list[str]:
    """What the live cards of a product on a listing are called, in order."""
    collation = shops.shop_of(work.session)[0].collation
    parts = listings.parts(work.session, str(listing))
    rows = listings.cards(work.session, CARD, str(listing), parts, 0, 500, collation)
    found = [row for row in rows if row.subject_id == str(number)]
    for row in found:
        shown = next(
            entry.shown.plain
            for block in from_json(row.document, row.format).blocks()
            for entry in block.entries
            if entry.field == TITLE.key
        )
        assert shown == row.title
    return [row.title for row in found]


def test_a_card_for_each_value_of_an_option(work: Work, book: int) -> None:
    told = say(work, mode="by", options=["colour"], title="{product}[, {colour}][, {size}]")
    done = release.release(work, "By colour")
    assert titles(work, of_type("sketchbooks"), book) == ["Marsh book, Red", "Marsh book, Blue"]
    assert told.lines[:2] == (
        "a card for every value of some options on the listing card, by the shop",
        "cards by colour on the listing card, by the shop",
    )
    assert told.exact
    assert told.surfaces[CARD] == done.counts[CARD]
    keys = {
        (row.card, row.title) for row in releases.documents_of(work.session, "product", book) if row.surface == CARD
    }
    assert {card.partition("~")[0] for card, _ in keys} == {"colour:red", "colour:blue"}
    compared = comparing.between(work, done.number - 1, done.number)
    assert compared.surfaces[CARD] == done.counts[CARD]
    back = release.go_back(work, done.number - 1)
    assert back.counts[CARD] == done.counts[CARD]
    assert titles(work, of_type("sketchbooks"), book) == ["Marsh book"]


def test_collections_and_products_say_otherwise(work: Work, book: int) -> None:
    key = definitions.create(work, "collection", "Winter", {"picked": [book]}).thing.key
    say(work, mode="variant", title="{product}, {colour}, {size}")
    say(work, f"collection:{key}", mode="all_but", options=["colour"])
    release.release(work, "Two rules")
    assert titles(work, of_type("sketchbooks"), book) == [
        f"Marsh book, {colour}, {size}" for colour in ("Red", "Blue") for size in ("Small", "Large")
    ]
    assert titles(work, of_collection(key), book) == ["Marsh book, , Small", "Marsh book, , Large"]
    told = say(work, f"product:{book}", mode="product", title="{product}")
    waiting = pending.pending(work)
    done = release.release(work, "One card again")
    assert told.surfaces[CARD] == waiting.surfaces[CARD] == done.counts[CARD] == 7
    assert titles(work, of_type("sketchbooks"), book) == titles(work, of_collection(key), book) == ["Marsh book"]


def test_a_card_shows_what_its_variant_has_of_its_own(work: Work, book: int) -> None:
    red = of(work, book)[0].id
    variant_writer.put_many(work, [ValueEdit(red, None, {"price": "55", "contents": "2 kg"})])
    say(work, mode="variant", title="{sku}")
    definitions.display(work, SHOP, "contents", CARD, {"shown": True}, None)
    release.release(work, "Dear red")
    rows = {row.title: row for row in releases.documents_of(work.session, "product", book) if row.surface == CARD}
    shown = {
        title: {
            entry.field: entry.shown.plain
            for block in from_json(row.document, row.format).blocks()
            for entry in block.entries
        }
        for title, row in rows.items()
    }
    assert "SB-1-RED" in shown, sorted(shown)
    assert shown["SB-1-RED"]["price"] == "€55.00"
    assert {found["price"] for title, found in shown.items() if title != "SB-1-RED"} == {"€40.00"}


def test_what_is_without_variants_keeps_its_card_or_goes(work: Work, book: int) -> None:
    other = make_product(work, "P-1", "paper")
    say(work, mode="variant")
    release.release(work, "Each")
    assert titles(work, of_type("paper"), other) == ["Marsh book"]
    told = say(work, no_variants="drop")
    done = release.release(work, "Dropped")
    assert titles(work, of_type("paper"), other) == []
    assert len(titles(work, of_type("sketchbooks"), book)) == 4
    assert told.surfaces[CARD] >= done.counts[CARD]


@pytest.mark.parametrize("most", [counted.MOST_RENDERED, 1])
def test_cards_are_told_as_they_are_released(work: Work, book: int, monkeypatch: pytest.MonkeyPatch, most: int) -> None:
    release.release(work, "All") if pending.pending_count(work) else None
    for module in (counted, pending):
        monkeypatch.setattr(module, "MOST_RENDERED", most)
    for members in ({"mode": "variant"}, {"title": "{product} {colour}"}, {"mode": "by", "options": ["size"]}):
        told = say(work, "shop", **members)
        waiting = pending.pending(work)
        done = release.release(work, str(members))
        for code in product_surfaces():
            really = done.counts.get(code, 0)
            for surfaces, exact in ((told.surfaces, told.exact), (waiting.surfaces, waiting.exact)):
                assert surfaces[code] == really if exact else surfaces[code] >= really, (members, code)
    assert book


@pytest.mark.parametrize(
    ("scope", "surface", "members", "code"),
    [
        ("shop", CARD, {"mode": "several"}, "unknown"),
        ("shop", CARD, {"options": ["nonesuch"]}, "unknown_option"),
        ("shop", CARD, {"title": "{product"}, "syntax"),
        ("shop", CARD, {"title": "{nonesuch}"}, "unknown_token"),
        ("shop", CARD, {"title": "x" * 201}, "long"),
        ("shop", CARD, {"listings": []}, "unknown"),
        ("shop", "product_page", {"mode": "variant"}, "no_meaning"),
        ("shop", "*", {"mode": "variant"}, "no_meaning"),
        ("type:sketchbooks", CARD, {"mode": "variant"}, "no_meaning"),
    ],
)
def test_what_can_t_be_said_is_refused_at_its_place(
    work: Work, book: int, scope: str, surface: str, members: dict[str, Any], code: str
) -> None:
    with pytest.raises(Refusal) as caught:
        definitions.display(work, read_scope(scope), "*", surface, members, None)
    assert caught.value.code == code
    assert caught.value.where[:2] == ("set", next(iter(members)))
    assert book


def test_as_many_cards_as_there_can_be_variants(work: Work) -> None:
    """At the limit of variants: all of them are cards, in order, by pages."""
    values = [{"code": f"v{number}", "label": f"V {number}"} for number in range(1_000)]
    key = make_set(work, "Very many", option("shade", *values), option("size", SMALL, LARGE))
    definitions.display(work, SHOP, "*", CARD, {"mode": "variant", "title": "{product}, {shade}, {size}"}, None)
    number = make_product(work, "SB-1")
    put_set(work, key, picked=[number])
    release.release(work, "Very many")
    listing = str(of_type("sketchbooks"))
    parts = listings.parts(work.session, listing)
    collation = shops.shop_of(work.session)[0].collation
    assert listings.totals(work.session)[listing] == sum(part.cards for part in parts)
    first = parts[-1].before + parts[-1].cards
    rows = [
        row
        for offset in range(0, first, 500)
        for row in listings.cards(work.session, CARD, listing, parts, offset, 500, collation)
        if row.subject_id == str(number)
    ]
    assert len(rows) == 2_000
    assert [row.title for row in rows[:3]] == [
        "Marsh book, V 0, Small",
        "Marsh book, V 0, Large",
        "Marsh book, V 1, Small",
    ]
    assert listings.first_products(work.session, listing, 50, collation).count(number) == 1
