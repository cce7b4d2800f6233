"""Manners of the studio and the shop: pictures, pasted lists, going back, little room, much to show, and nothing to show."""

from __future__ import annotations

import io
from collections.abc import Callable
from pathlib import Path
from typing import Any
from urllib.request import urlopen

import pytest
from PIL import Image
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.studio import Studio
from tests.conftest import person
from young_fabric.core.base.merge import ABSENT
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import definitions
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit, StoredThing, ThingEdit
from young_fabric.store.base import make_sessions

pytestmark = pytest.mark.browser


def picture(at: Path, width: int, height: int) -> str:
    Image.new("RGB", (width, height), (32, 48, 154)).save(at)
    return str(at)


def test_pictures_are_checked_one_by_one_and_shown_at_once(studio: Studio, tmp_path: Path) -> None:
    studio.sign_in()
    studio.open("/studio/fill/products?q=Groyne+Studio")
    studio.css("[data-mark=pictures] button")
    chooser = studio.driver.find_element(By.CSS_SELECTOR, "[data-mark=pictures] input[type=file]")
    (tmp_path / "plan.png").write_bytes(b"<svg/>")
    chooser.send_keys(str(tmp_path / "plan.png"))
    studio.text("plan.png is not a JPEG, PNG or WebP picture. Save it as one of these")
    chooser.send_keys(picture(tmp_path / "wide.png", 20_000, 3))
    studio.text("20,000 × 3 pixels")
    chooser.send_keys(picture(tmp_path / "front.png", 600, 800) + "\n" + picture(tmp_path / "side.png", 800, 600))
    studio.type("Words for picture 2", "The easel from its side", Keys.TAB)
    studio.saved()
    studio.css("[aria-label='Put picture 2 earlier']").click()
    studio.until(
        lambda d: (
            d.find_element(By.CSS_SELECTOR, "[aria-label='Words for picture 1']").get_attribute("value")
            == "The easel from its side"
        ),
        "the order turned",
    )
    studio.proof(
        lambda: (
            studio.driver.find_element(By.CSS_SELECTOR, "#picture img").get_attribute("alt")
            == "The easel from its side"
        )
    )
    shown = studio.proof(lambda: studio.driver.find_element(By.CSS_SELECTOR, "#picture img").get_attribute("src") or "")
    with urlopen(shown) as answer, Image.open(io.BytesIO(answer.read())) as image:
        assert image.format == "WEBP"
        assert image.width <= 1600


def test_a_list_is_pasted_undone_and_brought_back_from_its_history(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/lists/wood")
    studio.press("Paste a list")
    studio.field("Values, one a line").send_keys("Walnut;walnut;juglans\nAsh\n\nCherry")
    studio.text("2 values", "b")
    studio.text("Line 2, Ash: already in the list")
    studio.press("Add 2")
    studio.gone("[role=dialog]")
    studio.css("input[aria-label='Label of Walnut']")
    studio.driver.execute_script("document.activeElement.blur()")
    studio.chord(Keys.CONTROL, "z")
    studio.gone("input[aria-label='Label of Walnut']")
    studio.keys("h")
    studio.text("2 values added: Walnut, Cherry")
    studio.press("Redo")
    studio.css("input[aria-label='Label of Walnut']")
    studio.tab_to("Move Walnut", 140)
    studio.chord(Keys.ALT, Keys.ARROW_UP)
    studio.until(
        lambda d: (
            [e.get_attribute("aria-label") for e in d.find_elements(By.CSS_SELECTOR, "input[aria-label^='Label of']")][
                3
            ]
            == "Label of Walnut"
        ),
        "Walnut one up",
    )


def test_going_back_shows_the_shop_as_it_was(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/release/changes?release=1")
    studio.type("What it is about", "Estuary, cheaper", "")
    studio.press("Release")
    studio.text("All is live")
    studio.text("Release 2 is live")
    studio.open("/shop/p/estuary-easel")
    assert "€167.56" in studio.css(".price").text
    studio.open("/studio/release/history")
    studio.press("Go back to it")
    studio.press("Go back")
    studio.text("3. Back to release 1")
    studio.open("/shop/p/estuary-easel")
    assert "€174.64" in studio.css(".price").text
    studio.open("/studio/release/changes")
    studio.text("3 changes")


def test_with_little_room_the_pane_folds_away_and_comes_out_by_a_key(studio: Studio) -> None:
    studio.sign_in()
    studio.driver.set_window_size(1024, 800)
    studio.open("/studio/fill/products?q=Fen+Etching+300")
    studio.css("[data-mark=ss_fibre] input")
    assert not studio.driver.find_elements(By.TAG_NAME, "iframe")
    studio.driver.execute_script("document.activeElement.blur()")
    studio.keys("p")
    studio.proof_says("Fen Etching 300")
    wide = studio.driver.execute_script("return [document.documentElement.scrollWidth, window.innerWidth]")
    assert wide[0] <= wide[1]
    assert studio.axe() == []
    studio.keys(Keys.ESCAPE)
    studio.gone("iframe")
    studio.css("button[aria-label^='Fibre on the card']").click()
    studio.text("Why is “Fibre” missing from the listing card?")


def made(thing: Any) -> Callable[[StoredThing | None], Edit]:
    return lambda _stored: Edit(ABSENT, state_of(thing))


def crowd(studio: Studio) -> None:
    """Two hundred fields in a set that easels take, and a list of fifteen hundred values."""
    sessions = make_sessions(studio.engine)
    with sessions() as session:
        rosa = person(session, 0)
    with unit_of_work(sessions, rosa) as work:
        keys = [f"ss_measure_{number:03}" for number in range(200)]
        names = [f"Measure {key[-3:]} of a very long series of measures" for key in keys]
        fields = [Field(key, name, name, "text") for key, name in zip(keys, names, strict=True)]
        writes.apply_many(work, [ThingEdit("field", field.key, made(field)) for field in fields])
        sections = [{"key": "a", "name": "All", "fields": keys}]
        crowd = definitions.create(work, "field_set", "A crowd", {"sections": sections})
        easels = writes.need_current(work, "product_type", "easels")
        definitions.change(
            work, "product_type", "easels", easels.version, {"sets": ["furniture", "origin", crowd.thing.key]}
        )
        values = [{"code": f"value_{number:04}", "label": f"Value {number:04}"} for number in range(1500)]
        definitions.create(work, "value_list", "Long list", {"values": values})


SCROLLED = """
const done = arguments[0], box = document.querySelector("[role=grid]"), rows = () => box.querySelectorAll("[data-mark]").length;
let most = 0, left = 60;
function frame() {
  box.scrollTop += 90;
  most = Math.max(most, rows());
  if (left-- > 0) requestAnimationFrame(frame);
  else done([box.scrollTop, most, box.getAttribute("aria-rowcount")]);
}
requestAnimationFrame(frame);
"""


def draws_what_is_seen(studio: Studio) -> None:
    """However many rows there are, those near the window are drawn. (How long frames take is measured in bench/grids, as another's
    work on the machine takes its share of them.)"""
    way, most, count = studio.driver.execute_async_script(SCROLLED)
    assert way > 2000
    assert most < 60 < 200 < int(count)


def test_two_hundred_rows_and_long_names_stay_in_their_places(studio: Studio) -> None:
    crowd(studio)
    studio.sign_in()
    for view, row, count in (
        ("/studio/define/fields", "table[aria-label=Fields] tbody tr", 100),
        ("/studio/define/lists/long_list", "input[aria-label^='Label of']", 100),
        ("/studio/compose/sets/a_crowd", ".grip", 200),
        ("/studio/compose/types/easels", "select[aria-label^='Need of']", 200),
        ("/studio/present/weave?scope=type:easels", "[role=grid] [data-mark]", 15),
        ("/studio/fill/products?q=Jetty", "[data-mark]", 200),
    ):
        studio.open(view)
        studio.until(lambda d, row=row, count=count: len(d.find_elements(By.CSS_SELECTOR, row)) >= count, view)
        wide = studio.driver.execute_script("return [document.documentElement.scrollWidth, window.innerWidth]")
        assert wide[0] <= wide[1], view
        if "weave" in view:
            draws_what_is_seen(studio)
    studio.open("/studio/define/lists/long_list")
    studio.css("input[aria-label='Label of Value 0000']")
    studio.driver.execute_script("document.querySelector('[aria-label=\"New value\"]').scrollIntoView()")
    studio.until(lambda d: len(d.find_elements(By.CSS_SELECTOR, "input[aria-label^='Label of']")) >= 200, "it grows")
    assert studio.complaints() == []


BARE = {
    "/studio/define/fields": "New field",
    "/studio/define/lists": "No value list yet",
    "/studio/compose/types": "No product type yet",
    "/studio/compose/sets": "No field set yet",
    "/studio/fill/products": "No products yet",
    "/studio/present/weave": "No product to prove with",
    "/studio/release/changes": "All is live",
    "/studio/release/checks": "No product lacks a required value",
    "/studio/release/history": "Nothing was released yet",
    "/shop/": "The shelves are being filled",
}


def test_an_empty_shop_says_what_belongs_where_and_is_filled_from_there(bare: Studio) -> None:
    bare.sign_in()
    for view, words in BARE.items():
        bare.open(view)
        bare.text(words)
        assert bare.axe() == [], view
    bare.open("/studio/compose/types")
    bare.text("Make the first one with N")
    bare.driver.execute_script("document.activeElement.blur()")
    bare.keys("n")
    bare.type("Name of the product type", "Inks", Keys.ENTER)
    bare.text("Inks", "h2")
    bare.open("/studio/fill/products?new=1")
    bare.type("Name of the product", "Sepia", Keys.ENTER)
    bare.proof_says("Sepia")
    assert bare.complaints() == []


@pytest.mark.parametrize("width", [390, 820, 1280])
def test_the_shop_fits_every_width(studio: Studio, width: int) -> None:
    studio.driver.set_window_size(1280, 900)
    frame = f"<iframe id=f style='width:{width}px;height:800px;border:0'></iframe>"
    for page in ("/shop/", "/shop/c/paint", "/shop/p/fen-etching-300", "/shop/p/nowhere"):
        studio.open("/healthz")
        studio.driver.execute_script(
            "document.body.innerHTML = arguments[0]; document.getElementById('f').src = arguments[1]", frame, page
        )
        studio.driver.switch_to.frame(studio.css("#f"))
        studio.css("h1, h2")
        wide = studio.driver.execute_script("return [document.documentElement.scrollWidth, window.innerWidth]")
        assert wide[0] <= wide[1] == width, page
        small = studio.driver.execute_script(
            "return [...document.querySelectorAll('nav a, .cards h3 a')].filter(a => a.getBoundingClientRect().height < 20).length"
        )
        assert small == 0, page
        studio.driver.switch_to.default_content()


def test_the_shop_is_whole_without_javascript(studio: Studio) -> None:
    for page, words in (
        ("/shop/", ("Brushes", "all 29")),
        ("/shop/c/paint", ("Paint", "29 products", "€9.80", "More")),
        (
            "/shop/p/ultramarine-deep-artist-watercolour",
            ("€65.33 per 100 ml", "PB29", "In stock", "application/ld+json"),
        ),
    ):
        with urlopen(studio.base + page) as answer:
            html = answer.read().decode()
        for word in words:
            assert word in html, (page, word)
        assert "onclick" not in html
