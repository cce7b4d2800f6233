"""Presenting from an empty layout on: pictures with pins, words made a field, and from why something is missing to its showing."""

from __future__ import annotations

from pathlib import Path

import pytest
from PIL import Image
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import Select

from tests.browser.people import working
from tests.browser.studio import Studio
from tests.browser.test_layouts import add, in_page, opened, order, saw
from tests.browser.test_making import Steps
from young_fabric.core.display.cascade import read_scope
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.pages import layouts
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.store.repos import definitions as stored

pytestmark = pytest.mark.browser
PIN = ".board .pin"
MOST_PRESSES = 40


def number_of(work: Work, words: str) -> int:
    return products.search(work, products.Filters(words=words), None).rows[0].product.id


def press_on(studio: Studio, element: WebElement, across: float, down: float) -> None:
    """Press at a part of the way across an element, and down it."""
    box = element.rect
    ActionChains(studio.driver).move_to_element_with_offset(
        element, round((across - 0.5) * box["width"]), round((down - 0.5) * box["height"])
    ).click().perform()


def pins(studio: Studio) -> list[list[int]]:
    """Where pins stand on the page that is arranged, in percent of its picture, as they are written."""
    styles = "return [...page.querySelectorAll('.board .pin')].map(pin => [parseFloat(pin.style.left), parseFloat(pin.style.top)])"
    return [[round(side) for side in place] for place in in_page(studio, styles)]


def near(studio: Studio, *places: tuple[int, int]) -> bool:
    """Whether pins stand about there."""
    found = pins(studio)
    return len(found) == len(places) and all(
        abs(side - wanted) <= 2
        for place, there in zip(found, places, strict=True)
        for side, wanted in zip(place, there, strict=True)
    )


def choose(work: Work, scope: str, layout: str) -> None:
    found = stored.get(work.session, "display_setting", f"{scope}/*/product_page")
    version = found.version if found else None
    definitions.display(work, read_scope(scope), "*", "product_page", {"layout": layout}, version)


def test_an_empty_layout_becomes_a_page_with_a_picture_and_pins(studio: Studio, tmp_path: Path) -> None:
    picture = tmp_path / "bench.png"
    Image.new("RGB", (800, 400), "#c9b38c").save(picture)
    studio.sign_in()
    studio.open("/studio/present/layouts")
    studio.press("New layout")
    studio.type("Name of the layout", "Parts of things", "")
    Select(studio.css("[data-floating] select")).select_by_visible_text("nothing, an empty product page")
    studio.press("Make it")
    studio.text("Nothing stands here yet")
    studio.press("Add a block")
    add(studio, "title")
    opened(studio, "parts_of_things")
    studio.press("Add a block")
    add(studio, "picture with pins")
    studio.text("Choose the picture first")
    studio.driver.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(picture))
    studio.type("Words for the picture", "A bench, seen from above")
    board = studio.css("fieldset .cursor-crosshair img, .cursor-crosshair img")
    # Placed by a press, dragged, moved by keys, and by a button alone.
    press_on(studio, board, 0.25, 0.5)
    studio.type("Words of pin 1", "The vice")
    saw(studio, lambda: near(studio, (25, 50)), "a pin where the press was")
    first = studio.css("[aria-label^='Pin 1']")
    width = board.rect["width"]
    ActionChains(studio.driver).drag_and_drop_by_offset(first, round(width / 4), 0).perform()
    saw(studio, lambda: near(studio, (50, 50)), "dragged to the middle")
    studio.driver.execute_script("arguments[0].focus()", studio.css("[aria-label^='Pin 1']"))
    [[across, down]] = pins(studio)
    for key in (Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, Keys.ARROW_UP):
        studio.keys(key)
    saw(studio, lambda: pins(studio) == [[across + 2, down - 1]], "moved by keys")
    studio.press("Add a pin")
    studio.type("Words of pin 2", "Care of the bench")
    studio.type("Link of pin 2", "javascript:alert(1)")
    studio.text("is not an address that can be linked to")
    studio.type("Link of pin 2", "/shop/c/easels")
    saw(studio, lambda: pins(studio) == [[across + 2, down - 1], [50, 50]], "two pins")
    assert studio.axe() == []
    studio.press("Use")
    studio.choose("Choose it for", "Sketchbooks")
    studio.press("Choose it")
    studio.text("pages will differ")
    studio.press("Change it")
    studio.text("Sketchbooks", "a")
    with working(studio) as work:
        release.release(work, "pins")
    studio.open("/shop/c/sketchbooks")
    studio.css(".card h2 a, .card a[href*='/shop/p/']").click()
    studio.css(PIN)
    assert [item.text for item in studio.driver.find_elements(By.CSS_SELECTOR, "ol.pins li")] == [
        "The vice",
        "Care of the bench",
    ]
    assert studio.css("ol.pins a").get_attribute("href").endswith("/shop/c/easels")
    ActionChains(studio.driver).move_to_element(studio.css(f"{PIN}[data-pin='2']")).perform()
    assert studio.css("ol.pins li.lit").text == "Care of the bench"
    assert studio.axe() == []


def test_typed_words_are_made_a_field_that_a_product_can_say_otherwise(studio: Studio) -> None:
    with working(studio) as work:
        definitions.create(work, "layout", "Spoken", {"key": "spoken", "base": "page"})
        block = {"kind": "words", "id": "said", "heading": "From the bench", "words": "Checked by two of us."}
        layouts.edit(work, "spoken", [{"op": "add", "block": block, "region": "main", "after": "details"}])
        choose(work, "type:easels", "spoken")
        easel = number_of(work, "Estuary Easel")
    studio.sign_in()
    studio.open(f"/studio/present/layouts/spoken?block=said&product={easel}")
    opened(studio, "spoken")
    studio.text("The words typed here are the same on 4 pages")
    studio.text("It shows on this page")
    studio.press("Make this a field")
    saw(studio, lambda: "said" not in order(studio, "main"), "the words are no block any more")
    saw(
        studio,
        lambda: "Checked by two of us." in in_page(studio, "return page.body.innerText"),
        "the page says the same",
    )
    studio.open(f"/studio/fill/products/{easel}?field=ss_from_the_bench")
    studio.type("From the bench", "Checked by Marsh alone.")
    studio.saved()
    studio.proof_says("Checked by Marsh alone.")
    studio.open(f"/studio/present/layouts/spoken?product={easel}")
    opened(studio, "spoken")
    saw(studio, lambda: "Checked by Marsh alone." in in_page(studio, "return page.body.innerText"), "its own words")
    assert studio.complaints() == []


def test_from_why_a_field_is_missing_to_where_it_is_mended_and_to_its_showing(studio: Studio) -> None:
    with working(studio) as work:
        definitions.create(work, "layout", "Short", {"key": "short", "base": "page"})
        layouts.edit(work, "short", [{"op": "remove", "id": "details"}])
        choose(work, "type:easels", "short")
        easel = number_of(work, "Estuary Easel")
    studio.sign_in()
    studio.open(f"/studio/fill/products/{easel}?pane=proof")
    studio.text("Wood", "button").click()
    studio.text("The layout Short, which Easels has, has no slot that takes it")
    studio.text("What else decides about this?", "summary").click()
    studio.text("chosen by Easels")
    studio.text("Give it a place there", "a").click()
    opened(studio, "short")
    studio.press("Add a block")
    add(studio, "single field")
    studio.press("Add a field")
    add(studio, "wood")
    saw(studio, lambda: "Oiled beech" in in_page(studio, "return page.body.innerText"), "it has a place")
    studio.open(f"/studio/fill/products/{easel}?pane=proof&why=ss_wood")
    studio.text("Why “Wood” shows on the product page")
    studio.proof_says("Oiled beech")
    assert studio.axe() == []
    assert studio.complaints() == []


def test_a_product_is_arranged_for_itself_and_a_block_hidden_by_one_press(studio: Studio) -> None:
    with working(studio) as work:
        easel = number_of(work, "Estuary Easel")
    studio.sign_in()
    studio.open(f"/studio/fill/products/{easel}?pane=proof")
    studio.text("Arrange", "a").click()
    # Opening it writes nothing: it begins with its first edit.
    studio.text("begins with the first change; would be in force on 1 page")
    with working(studio) as work:
        assert "product_page_of_estuary_easel" not in plans.draft(work.session).layouts
    studio.driver.execute_script("arguments[0].focus()", studio.css("[role=option][data-mark=asked]"))
    studio.keys(" ")
    opened(studio, "product_page_of_estuary_easel")
    studio.text("in force on 1 page")
    studio.text("hidden", "span")
    panels = "return [...page.querySelectorAll('.panel')].map(panel => panel.dataset.part)"
    saw(studio, lambda: in_page(studio, panels) == ["details"], "the panel is gone from this page")
    studio.chord(Keys.ALT, Keys.ARROW_UP)
    saw(studio, lambda: "moved" in studio.css("[role=option][data-mark=asked]").text, "moved up")
    studio.keys(" ")
    saw(studio, lambda: in_page(studio, panels) == ["asked", "details"], "shown again, before the other")
    studio.open(f"/studio/fill/products/{easel}?pane=proof")
    studio.text("Arrange", "a").click()
    opened(studio, "product_page_of_estuary_easel")
    assert studio.axe() == []
    assert studio.complaints() == []


TABS = "return [...page.querySelectorAll('[role=tab]')].map(tab => tab.innerText.trim())"


def empty_layout(studio: Studio, name: str) -> None:
    studio.sign_in()
    studio.open("/studio/present/layouts")
    studio.text("Choose a layout")
    studio.keys("n")
    studio.type("Name of the layout", name, "")
    Select(studio.css("[data-floating] select")).select_by_visible_text("nothing, an empty product page")
    studio.press("Make it")
    studio.text("Nothing stands here yet")


def picked(studio: Studio, mark: str) -> None:
    """Wait for a block to be the picked one, with its settings there."""
    studio.css(f"[role=option][data-mark={mark}][aria-selected=true]")
    saw(studio, lambda: f"block={mark}" in studio.driver.current_url, f"{mark} is picked")


def gone_on_with(studio: Studio) -> None:
    """Wait for what was just made to have the focus in its settings."""
    inside = "return document.activeElement.closest('fieldset, [role=option][aria-selected=true]') !== null"
    saw(studio, lambda: studio.driver.execute_script(inside), "what was made is gone on with")


def test_from_nothing_to_two_columns_with_tabs_by_mouse(studio: Studio) -> None:
    empty_layout(studio, "Out of nothing")

    def put(words: str, mark: str) -> None:
        studio.press("Add a block")
        add(studio, words)
        picked(studio, mark)

    put("columns", "columns")
    put("title", "title")
    studio.choose("Stands in", "columns, part 1")
    opened(studio, "out_of_nothing")
    saw(studio, lambda: order(studio, "columns_1") == ["title"], "the title in the first column")
    put("fields", "fields")
    studio.choose("Stands in", "columns, part 2")
    saw(studio, lambda: order(studio, "columns_2") == ["fields"], "the fields in the second column")
    studio.press("Put into panels")
    saw(studio, lambda: order(studio, "columns_2") == ["panels"], "panels in the second column")
    studio.css("[role=option][data-mark=fields]").click()
    picked(studio, "fields")
    put("values of fields", "words")
    studio.type("Words", "Looked over twice.")
    studio.type("Heading", "Our word")
    saw(studio, lambda: in_page(studio, TABS) == ["Details", "Our word"], "two tabs")
    assert order(studio, "main") == ["columns"]
    assert studio.axe() == []
    assert studio.complaints() == []


def test_from_nothing_to_two_columns_with_tabs_by_keys(studio: Studio) -> None:
    empty_layout(studio, "Without a mouse")

    def put(words: str, mark: str) -> None:
        studio.driver.execute_script("document.activeElement.blur()")
        studio.keys("a")
        add(studio, words)
        picked(studio, mark)
        gone_on_with(studio)

    def stand_in(words: str) -> None:
        studio.driver.execute_script("arguments[0].focus()", studio.field("Stands in"))
        studio.keys(words, Keys.ENTER)

    put("columns", "columns")
    put("title", "title")
    stand_in("columns, part 1")
    opened(studio, "without_a_mouse")
    saw(studio, lambda: order(studio, "columns_1") == ["title"], "the title in the first column")
    put("fields", "fields")
    saw(studio, lambda: order(studio, "columns_1") == ["title", "fields"], "the fields behind it")
    studio.driver.execute_script("arguments[0].focus()", studio.css("[role=option][data-mark=fields]"))
    studio.chord(Keys.ALT, Keys.ARROW_DOWN)
    saw(studio, lambda: order(studio, "columns_2") == ["fields"], "on into the second column")
    studio.driver.execute_script("arguments[0].focus()", studio.button("Put into panels"))
    studio.keys(Keys.ENTER)
    saw(studio, lambda: order(studio, "columns_2") == ["panels"], "in panels")
    gone_on_with(studio)
    studio.driver.execute_script("arguments[0].focus()", studio.css("[role=option][data-mark=fields]"))
    picked(studio, "fields")
    put("values of fields", "words")
    studio.field("Words").send_keys("Looked over twice.", Keys.TAB)
    studio.type("Heading", "Our word")
    saw(studio, lambda: in_page(studio, TABS) == ["Details", "Our word"], "two tabs")
    assert studio.axe() == []
    assert studio.complaints() == []


def test_a_whole_page_from_nothing_takes_forty_presses(studio: Studio, tmp_path: Path) -> None:
    """Two columns, panels, a picture with pins, a video, related products, sharing and saving, a condition and a width."""
    photo = tmp_path / "bench.png"
    Image.new("RGB", (600, 400), "#c9d4c0").save(photo)
    studio.sign_in()
    studio.open("/studio/present/layouts")
    studio.text("Choose a layout")
    step = Steps()
    step(lambda: studio.keys("n"))
    step(lambda: studio.type("Name of the layout", "All of it", ""))
    step(lambda: Select(studio.css("[data-floating] select")).select_by_visible_text("nothing, an empty product page"))
    step(lambda: studio.press("Make it"))
    studio.text("Nothing stands here yet")

    def take(words: str, mark: str) -> None:
        """Adds a block by a press on it; with Shift, so that the list stays for the next."""
        block = studio.css(f"[cmdk-item][data-value='{words}']")
        studio.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", block)
        step(lambda: ActionChains(studio.driver).key_down(Keys.SHIFT).click(block).key_up(Keys.SHIFT).perform())
        picked(studio, mark)

    step(lambda: studio.keys("a"))
    for words, mark in (("columns", "columns"), ("picture with pins", "pins"), ("video", "video")):
        take(words, mark)
    for words, mark in (("save for later", "save"), ("share links", "share"), ("related products", "related")):
        take(words, mark)
    step(lambda: studio.css("[data-part=columns_2]").click())
    step(lambda: studio.press("Add a block"))
    for mark in ("title", "price", "add to basket", "panels", "fields", "words"):
        take(mark, mark.replace("add to basket", "to_basket"))
    second = ["title", "price", "to_basket", "panels"]
    saw(studio, lambda: order(studio, "columns_2") == second, "all in the second column")
    step(lambda: studio.keys(Keys.ESCAPE))
    step(lambda: studio.type("Words", "Looked over twice."))
    step(lambda: studio.type("Heading", "Our word"))
    step(lambda: studio.field("phone").click())
    step(lambda: studio.css("[aria-label^='Only when']").click())
    step(lambda: studio.press("Choose what to ask"))
    step(lambda: studio.keys("Price", Keys.ENTER))
    step(lambda: studio.keys("12"))
    step(lambda: studio.press("Use it"))
    step(lambda: studio.css("[role=option][data-mark=pins]").click())
    studio.text("Choose the picture first")
    step(lambda: studio.driver.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(photo)))
    board = studio.css("fieldset .cursor-crosshair img, .cursor-crosshair img")
    step(lambda: press_on(studio, board, 0.3, 0.3))
    step(lambda: studio.type("Words of pin 1", "The bench"))
    saw(studio, lambda: near(studio, (30, 30)), "a pin where the press was")
    assert step.count <= MOST_PRESSES
    assert {"pins", "save", "share", "related"} <= set(order(studio, "columns_1")), "the example has no film"
    assert studio.axe() == []
    assert studio.complaints() == []
