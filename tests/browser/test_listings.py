"""How many cards a product gets, by the real interface: from one card to one for each colour, live in the shop."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.studio import Studio

pytestmark = pytest.mark.browser
TUBE = "Saltmarsh Artist Watercolour, by the tube"
VIEW = "/studio/present/listings?listing=product_type/paint"


def titles(studio: Studio) -> list[str]:
    return [row.text for row in studio.driver.find_elements(By.CSS_SELECTOR, ".cards h3")]


def release(studio: Studio) -> None:
    studio.open("/studio/release/changes")
    studio.press("Release now")
    studio.press("Release")
    studio.text("All is live")


def test_a_card_for_each_colour_from_the_view_to_the_shop(studio: Studio) -> None:
    studio.sign_in()
    studio.open(VIEW)
    studio.text("29 products → 29 cards")
    studio.choose("Cards", "by options")
    studio.saved()
    studio.field("Colour").click()
    studio.text("25 cards will differ")
    studio.press("Change it")
    studio.text("29 products → 52 cards, 29 live")
    studio.text("1 product has several cards of one title")
    studio.press("Call them {product}[, {colour}]")
    studio.press("Change it")
    studio.gone("[data-floating]")
    studio.until(lambda d: "several cards of one title" not in d.find_element(By.TAG_NAME, "main").text, "mended")
    studio.until(lambda _: studio.focused() == "Which listing", "the focus is on what comes next")
    studio.proof(lambda: f"{TUBE}, Lemon Light" in titles(studio) or None)
    assert studio.axe() == []
    # Otherwise in a collection, where nothing is split
    studio.choose("Otherwise in a collection", "Up to ten euros")
    studio.text("Collection: Up to ten euros")
    studio.choose("Cards", "one a product")
    studio.press("Change it")
    studio.saved()
    release(studio)
    studio.open("/shop/c/paint?page=2")
    assert f"{TUBE}, Flare Orange" in titles(studio)
    studio.text(f"{TUBE}, Flare Orange", "a").click()
    studio.until(lambda d: "colour=" in d.current_url, "the page with that choice made")
    assert studio.axe() == []
    studio.open("/shop/c/small-change")
    assert not [title for title in titles(studio) if title.startswith(f"{TUBE}, ")]
    assert studio.complaints() == []


def test_the_same_by_keyboard_alone_and_taken_back(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/fields")
    studio.text("Acid free")
    studio.chord(Keys.CONTROL, "k")
    studio.css("[cmdk-input]").send_keys("present: listings")
    studio.text("Go to Present: Listings")
    studio.until(lambda _: "Listings" in studio.css("[cmdk-item][data-selected=true]").text, "it is chosen")
    studio.keys(Keys.ENTER)
    studio.text("The whole shop")
    box = studio.field("Cards")
    studio.driver.execute_script("arguments[0].focus()", box)
    studio.keys("one a v", Keys.ENTER)
    studio.text("cards will differ")
    studio.tab_to("Change it")
    studio.keys(Keys.ENTER)
    studio.gone("[data-floating]")
    studio.saved()
    studio.until(lambda _: studio.field("Cards").get_attribute("value") == "variant", "one a variant")
    studio.chord(Keys.CONTROL, "z")
    studio.text("Undone")
    studio.until(lambda _: studio.field("Cards").get_attribute("value") == "product", "as it was")
