"""Pages that one process made serve every other as long as the shop is in the state they were made of."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

import psycopg
import pytest
from flask import Flask
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from tests.conftest import person
from tests.web.conftest import SECRET
from young_fabric.config import Settings
from young_fabric.core.display import surfaces
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.store.repos import kept_pages
from young_fabric.web.app import create_app
from young_fabric.web.shop import kept, pages
from young_fabric.web.shop.surface_pages import PAGES

PAGE, LISTING = "/shop/p/barley-ochre-artist-watercolour", "/shop/c/paint"


@pytest.fixture
def process(own_engine: Engine, tmp_path: Path) -> Callable[..., Flask]:
    """Starts a process that serves the shop, which knows nothing yet."""

    def start(**given: Any) -> Flask:
        settings = Settings(DATABASE_URL="postgresql://unused", secret=SECRET, files=tmp_path, **given)  # type: ignore[arg-type]
        return create_app(settings, own_engine, lambda _job: None)

    return start


@pytest.fixture
def made(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """The titles of product pages and listings that are made, in order."""
    found: list[str] = []

    def noting(original: Any, title: Callable[..., str]) -> Any:
        def note(*given: Any, **named: Any) -> Any:
            found.append(title(*given))
            return original(*given, **named)

        return note

    page = PAGES[surfaces.PAGE]
    of_product = noting(page.make, lambda _ways, _surface, shown, _watched: shown.item.title)
    monkeypatch.setitem(PAGES, surfaces.PAGE, replace(page, make=of_product))
    monkeypatch.setattr(pages, "listing_page", noting(pages.listing_page, lambda *_given: "listing"))
    return found


def body(app: Flask, path: str) -> str:
    response = app.test_client().get(path)
    assert response.status_code == 200
    return response.get_data(as_text=True)


def test_a_page_is_made_once_for_all_processes(process: Callable[..., Flask], made: list[str]) -> None:
    first, second = process(), process()
    for path in (PAGE, LISTING, f"{LISTING}?page=2"):
        made.clear()
        shown = body(first, path)
        assert len(made) == 1
        assert body(second, path) == body(first, path) == shown
        assert len(made) == 1, "the second was given what the first made"
        here, there = (app.test_client().get(path).headers["ETag"] for app in (first, second))
        assert here == there


def test_what_was_made_of_another_state_is_made_anew(
    process: Callable[..., Flask], shop: Callable[[], Session], made: list[str]
) -> None:
    body(process(), PAGE)
    with shop() as session:
        rosa = person(session, 0)
    with unit_of_work(shop, rosa) as work:
        found = products.search(work, products.Filters(words="Barley Ochre"), None).rows[0].product
        products.set_stock(work, found.id, found.stock, 0)
    assert "Sold out" in body(process(), PAGE), "stock is live at once"
    with unit_of_work(shop, rosa) as work:
        products.set_stock(work, found.id, 0, 50)
        products.fill(work, found.id, None, {"price": "1.23"})
    assert "€1.23" not in body(process(), PAGE)
    with unit_of_work(shop, rosa) as work:
        release.release(work, "dearer")
    assert "€1.23" in body(process(), PAGE)
    with shop() as session:
        session.execute(text("UPDATE shop SET name = 'Marsh & Sons'"))
        session.commit()
    assert "Marsh &amp; Sons" in body(process(), PAGE)
    assert len(made) == 5


@pytest.mark.parametrize("what", ["code", "address", "day"])
def test_what_other_code_made_or_another_day_is_made_anew(
    process: Callable[..., Flask], made: list[str], monkeypatch: pytest.MonkeyPatch, what: str
) -> None:
    body(process(), PAGE)
    given = {"shop_address": "https://elsewhere.example"} if what == "address" else {}
    if what == "code":
        monkeypatch.setattr(kept, "code_mark", lambda: "other code")
    if what == "day":
        original = kept.At
        monkeypatch.setattr(
            "young_fabric.web.shop.live.At", lambda path, day, query: original(path, "2031-01-01", query)
        )
    shown = body(process(**given), PAGE)
    assert len(made) == 2
    assert ("https://elsewhere.example" in shown) == (what == "address")


@pytest.mark.parametrize("path", [f"{PAGE}?.quantity=3", f"{PAGE}?utm=a", "/shop/p/nowhere", f"{LISTING}?page=90"])
def test_what_anybody_can_ask_for_without_end_is_kept_for_nobody_else(
    process: Callable[..., Flask], shop: Callable[[], Session], path: str
) -> None:
    process().test_client().get(path)
    with shop() as session:
        assert session.scalars(text("SELECT address FROM kept_page")).all() == []


def test_where_nothing_can_be_glanced_at_pages_are_made_all_the_same(
    process: Callable[..., Flask], made: list[str]
) -> None:
    app = process()
    before = body(app, PAGE)

    def broken() -> None:
        raise psycopg.OperationalError("no connection")

    app.extensions["glance"] = broken
    assert body(app, PAGE) == before
    assert len(made) == 2


def test_those_made_longest_ago_go_first(work: Work, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(kept_pages, "MOST", 3)
    put = text(
        "INSERT INTO kept_page (address, mark, state, ids, sets, etag, body, made_at) "
        "VALUES (:at, '', '', '{}', '{}', '', '', now() - make_interval(mins => :age))"
    )

    def left() -> list[str]:
        kept_pages.sweep(work.session)
        return list(work.session.scalars(text("SELECT address FROM kept_page ORDER BY address")))

    for age, address in enumerate("cba"):
        work.session.execute(put, {"at": address, "age": age})
    assert left() == ["a", "b", "c"]
    work.session.execute(put, {"at": "d", "age": 9})
    assert left() == ["a", "b", "c"]
    work.session.execute(put, {"at": "e", "age": 0})
    assert left() == ["b", "c", "e"]


def test_pages_are_not_written_ahead(work: Work) -> None:
    """They can be made again: what a breakdown takes of them is no loss."""
    assert work.session.scalar(text("SELECT relpersistence FROM pg_class WHERE relname = 'kept_page'")) == "u"
