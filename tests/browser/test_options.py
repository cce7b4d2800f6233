"""What shoppers choose, from nothing: options and their values, who is offered them, what follows, and the grid of variants."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.keys import Keys

from tests.browser.studio import Studio

pytestmark = pytest.mark.browser


def total(studio: Studio) -> str:
    return studio.css("[aria-label='What it costs'] p").text.replace("\n", " ")


def tried(studio: Studio, words: str) -> None:
    studio.until(lambda _: words in studio.css("[aria-label='Try it']").text or None, words)


def test_an_option_set_from_nothing_to_variants_and_what_follows_from_a_change(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/compose/options")
    studio.text("Brush numbers", "h2")
    studio.press("New option set")
    studio.type("Name of the option set", "Book choices", "")
    studio.type("Its options, one a line", "Cover: Slate, Rust\nLeaves: 40, 80\nName inside", "")
    studio.press("Make it")
    studio.text("Book choices", "h2")
    tried(studio, "2 × 2 = 4")
    # What choices do is typed as one would say it, and tried at once.
    studio.type("price of Rust", "8 %")
    studio.press("Leaves")
    studio.type("price of 80", "4.50")
    studio.type("SKU part of 80", "80")
    studio.type("Price to try it at", "20")
    studio.css(".choice[aria-label='Rust']").click()
    studio.css(".choice[aria-label='80']").click()
    tried(studio, "€26.10")
    # It is offered through a type, after its products are told.
    studio.press("Offered to")
    studio.press("Offer it through a type")
    studio.keys(*"Sketch", Keys.ENTER)
    studio.until(lambda _: "24 new" in studio.css("[role=dialog]").text or None, "what follows")
    studio.press("Change it")
    studio.text("6 products", "p")
    studio.text("of Sketchbooks")
    assert studio.axe() == []
    # A pair is left out by keys on the grid, after what that retires is told.
    studio.driver.execute_script("document.querySelector('.left-out button').focus()")
    studio.keys(Keys.ARROW_DOWN, Keys.ARROW_RIGHT)
    assert studio.focused() == "Rust, 80: made"
    studio.keys(Keys.SPACE)
    studio.until(lambda _: "6 retired" in studio.css("[role=dialog]").text or None, "what is retired")
    studio.press("Change it")
    studio.press("Try it")
    tried(studio, "2 × 2 − 1 = 3")
    studio.css(".choice[aria-label='Rust']").click()
    studio.css(".choice.left_out[aria-label='80: 80 is not made in Rust']")
    # All of it is taken back by one undo.
    studio.chord(Keys.CONTROL, "z")
    tried(studio, "2 × 2 = 4")
    assert studio.complaints() == []


def test_variants_are_pasted_filled_down_and_set_together(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/fill/products?q=Estuary+Easel")
    studio.press("Variants 3")
    studio.shown_in("SKU", "Beech", "EST-EAS-BEE")
    studio.cell("SKU", "Beech").click()
    studio.paste("A-1\t4006381333931\t150\nA-2\t\t160\n")
    studio.shown_in("Price", "Oak", "€160.00")
    studio.saved()
    studio.shown_in("Sells at", "Oak", "€188.80")
    studio.type_over("Price", "Beech", "155", Keys.ENTER)
    studio.keys(Keys.ARROW_UP)
    studio.chord(Keys.SHIFT, Keys.ARROW_DOWN)
    studio.chord(Keys.SHIFT, Keys.ARROW_DOWN)
    studio.chord(Keys.CONTROL, "d")
    studio.shown_in("Price", "Walnut", "€155.00")
    studio.type_over("Stock", "Walnut", "many")
    studio.text("is no stock")
    assert studio.cell("Stock", "Walnut").text == "many"
    studio.press("Set all…")
    studio.choose("Set", "Stock")
    studio.type("To", "12", Keys.ENTER)
    studio.shown_in("Stock", "Oak", "12")
    # What floats gives the focus back as it goes.
    studio.gone("[data-floating]")
    studio.driver.execute_script("arguments[0].focus()", studio.cell("Stock", "Walnut"))
    studio.keys(Keys.ESCAPE)
    studio.shown_in("Stock", "Walnut", "12")
    assert studio.axe() == []
    # A SKU that somebody has is refused at once, in plain words, and stays to be mended.
    studio.type_over("SKU", "Walnut", "JTY-TAB")
    studio.text("has the SKU JTY-TAB already")
    studio.driver.execute_script("arguments[0].focus()", studio.cell("SKU", "Walnut"))
    studio.keys(Keys.ESCAPE)
    studio.driver.execute_script("document.activeElement.blur()")
    studio.chord(Keys.CONTROL, "z")
    studio.until(lambda _: studio.cell("Stock", "Beech").text != "12", "stock as it was")
    assert studio.complaints() == []
