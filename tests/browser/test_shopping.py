"""Shoppers choose, send a picture, fill a basket and order: with scripts and by keys, and without scripts at all."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from PIL import Image
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from sqlalchemy import text

from tests.browser.studio import Studio
from tests.conftest import person
from tests.service.values.test_variants import give
from young_fabric.core.subjects.stock import VARIANT_STOCK
from young_fabric.service.acting.actors import Actor
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.releasing import release
from young_fabric.store.base import make_sessions
from young_fabric.store.repos import stocks, variants

pytestmark = pytest.mark.browser
TUBES = "/shop/p/saltmarsh-artist-watercolour-by-the-tube"
OPTIONS = "Cover: Slate, Rust\nName inside\nPicture on the cover"


def rosa(studio: Studio) -> Actor:
    with make_sessions(studio.engine)() as session:
        return person(session, 0)


def offered(studio: Studio, type_key: str, key: str) -> None:
    """A set given to a type, and all put live."""
    sessions = make_sessions(studio.engine)
    with unit_of_work(sessions, rosa(studio)) as work:
        give(work, type_key, key)
    with unit_of_work(sessions, rosa(studio)) as work:
        release.release(work, "")


def says(studio: Studio, css: str, words: str) -> None:
    studio.until(lambda d: any(words in e.text for e in d.find_elements(By.CSS_SELECTOR, css)) or None, words)


@contextmanager
def without_scripts(studio: Studio) -> Iterator[None]:
    studio.driver.execute_cdp_cmd("Emulation.setScriptExecutionDisabled", {"value": True})
    try:
        yield
    finally:
        studio.driver.execute_cdp_cmd("Emulation.setScriptExecutionDisabled", {"value": False})


COUNTED = """
const box = document.querySelector(".into input[name='.quantity']");
box.value = arguments[0];
box.dispatchEvent(new Event("input", { bubbles: true }));
"""
"""How many, typed in one go: the price comes anew with each letter, and the box with it once it is left."""


def test_an_option_set_from_nothing_to_an_order_with_a_name_and_a_picture(studio: Studio, tmp_path: Path) -> None:
    wrong, right = tmp_path / "notes.png", tmp_path / "our dog.png"
    wrong.write_text("no picture at all")
    Image.new("RGB", (400, 300), "#446688").save(right)
    studio.sign_in()
    studio.open("/studio/compose/options")
    studio.press("New option set")
    studio.type("Name of the option set", "Book choices", "")
    studio.type("Its options, one a line", OPTIONS, "")
    studio.press("Make it")
    studio.text("Book choices", "h2")
    studio.type("price of Rust", "8 %")
    studio.press("Name inside")
    studio.type("price of Name inside", "3 once")
    studio.press("Settings of Picture on the cover")
    studio.choose("Kind", "request: file")
    studio.saved()
    offered(studio, "sketchbooks", "book_choices")
    studio.open("/shop/c/sketchbooks")
    studio.css(".card h3 a").click()
    # What is chosen is asked of the shop at once, and the address holds it.
    studio.css(".option[data-option=cover] .choice:nth-of-type(2)").click()
    studio.until(lambda d: "cover=rust" in d.current_url or None, "the address")
    says(studio, ".sums", "Cover: Rust")
    studio.field("Name inside").send_keys("Anna")
    says(studio, ".sums", "Name inside: Anna once")
    assert studio.driver.switch_to.active_element.get_attribute("value") == "Anna", "typing goes on"
    assert studio.axe() == []
    # What is sent is checked, shown and priced at once; what is too long is told, not cut.
    studio.css("input[type=file]").send_keys(str(wrong))
    says(studio, ".option .wrong", "is not a JPEG, PNG or WebP picture")
    assert studio.field("Name inside").get_attribute("value") == "Anna", "nothing is lost"
    studio.css("input[type=file]").send_keys(str(right))
    says(studio, ".option .sent", "our dog.png")
    loaded = "const seen = document.querySelector('.option .sent img'); return seen?.complete && seen.naturalWidth > 0"
    studio.until(lambda d: d.execute_script(loaded), "the small picture")
    studio.gone(".option .wrong")
    studio.css("[data-unsend]").click()
    studio.gone(".option .sent")
    studio.css("input[type=file]").send_keys(str(right))
    says(studio, ".option .sent", "our dog.png")
    studio.driver.execute_script(COUNTED, "3")
    says(studio, ".sums .sum", "3 ×")
    studio.driver.execute_script(COUNTED, "1")
    one = "return !document.querySelector('.sums .sum').innerText.includes('×')"
    studio.until(lambda d: d.execute_script(one), "one")
    assert studio.axe() == []
    studio.button("Add to basket").click()
    says(studio, ".basket", "our dog.png")
    says(studio, ".basket", "Anna")
    says(studio, ".basketway", "1")
    assert studio.axe() == []
    studio.type("How many", "2")
    studio.press("Update")
    says(studio, ".each", "2 ×")
    total = studio.css(".grand b").text
    studio.text("Checkout", "a").click()
    studio.css("#buyer-email").send_keys("no address")
    studio.css("#buyer-name").send_keys("Wren Aldous", Keys.ENTER)
    studio.driver.execute_script(
        "document.querySelector('#buyer-email').value = 'wren@example'; document.querySelector('form.buyer').noValidate = true"
    )
    studio.button("Place the pretend order").click()
    says(studio, "[role=alert]", "no e-mail address")
    assert studio.css("#buyer-name").get_attribute("value") == "Wren Aldous"
    assert studio.axe() == []
    studio.css("#buyer-email").clear()
    studio.button("Place the pretend order").click()
    says(studio, "h1", "Order 1001")
    assert studio.css(".grand b").text == total
    studio.open("/shop/basket")
    studio.text("Nothing is in the basket yet")


def test_choosing_by_keys_and_a_shared_address_opens_the_same_choice(studio: Studio) -> None:
    studio.open(TUBES)
    studio.driver.execute_script("document.querySelector('input[value=lemon-light]').focus()")
    studio.keys(Keys.SPACE)
    studio.until(lambda d: "colour=lemon-light" in d.current_url or None, "chosen by space")
    studio.keys(Keys.ARROW_RIGHT)
    studio.until(lambda d: "colour=weld-yellow" in d.current_url or None, "the next by an arrow")
    says(studio, ".option legend", "Weld Yellow")
    assert studio.driver.switch_to.active_element.get_attribute("value") == "weld-yellow", "focus stays"
    studio.keys(Keys.TAB, Keys.SPACE)
    studio.until(lambda d: "tube_size=" in d.current_url or None, "a size")
    address, price = studio.driver.current_url, studio.css(".price .price").text
    studio.driver.get(address)
    assert studio.css(".price .price").text == price
    assert studio.css("input[value=weld-yellow]:checked + .sw") is not None
    says(studio, ".price", "per 100 ml")
    # What is not made says so, to the eye and to who listens.
    studio.open(f"{TUBES}?tube_size=t37")
    kelp = studio.css(".choice.left_out:has(input[value=kelp])")
    assert "37 ml is not made in Kelp" in (kelp.get_attribute("textContent") or "")
    assert studio.axe() == []
    for width in (390, 820):
        studio.driver.set_window_size(width, 900)
        wide = studio.driver.execute_script("return [document.documentElement.scrollWidth, window.innerWidth]")
        assert wide[0] <= wide[1], width


def test_without_scripts_a_form_chooses_fills_the_basket_and_orders(studio: Studio) -> None:
    with without_scripts(studio):
        studio.open(TUBES)
        studio.css(".choice:has(input[value=fen-green])").click()
        studio.css(".choice:has(input[value=t15])").click()
        studio.button("Show this choice").click()
        studio.until(lambda d: "colour=fen-green" in d.current_url or None, "the address")
        assert "€9.80" in studio.css(".price .price").text
        studio.css(".into button.main").click()
        says(studio, ".basket", "Fen Green")
        studio.text("Checkout", "a").click()
        studio.css("#buyer-name").send_keys("Wren", Keys.ENTER)
        says(studio, "h1", "Order")


def test_cards_show_swatches_that_lead_to_the_variant(studio: Studio) -> None:
    studio.open("/shop/c/paint?page=1")
    card = studio.css(".card:has(.range)")
    studio.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", card)
    assert "from €4.90" in card.text.replace("\n", " ")
    assert "+ 18" in card.text
    card.find_element(By.CSS_SELECTOR, ".range a").click()
    studio.until(lambda d: "colour=lemon-light" in d.current_url or None, "the variant's page")
    says(studio, ".option legend", "Lemon Light")


def last_piece(studio: Studio, **choices: str) -> None:
    """Of a variant of the tubes one is left."""
    with make_sessions(studio.engine)() as session:
        slug = TUBES.rsplit("/", 1)[1]
        product = session.scalar(text("SELECT id FROM product WHERE slug = :slug"), {"slug": slug})
        [found] = [v for v in variants.of_products(session, [product])[product] if v.choices == choices]
        stocks.hold(session, VARIANT_STOCK, [(found.id,)])
        stocks.put(session, VARIANT_STOCK, {(found.id,): 1})
        session.commit()


def test_two_shoppers_after_the_last_piece(studio: Studio) -> None:
    last_piece(studio, colour="fen-green", tube_size="t15")
    address = f"{TUBES}?colour=fen-green&tube_size=t15"

    def put_in_and_go_on() -> None:
        studio.open(address)
        studio.button("Add to basket").click()
        says(studio, ".basket", "Fen Green")
        studio.text("Checkout", "a").click()
        studio.css("#buyer-name").send_keys("Wren")

    put_in_and_go_on()
    first = studio.driver.get_cookies()
    studio.driver.delete_all_cookies()
    put_in_and_go_on()
    studio.button("Place the pretend order").click()
    says(studio, "h1", "Order")
    studio.driver.delete_all_cookies()
    for cookie in first:
        studio.driver.add_cookie(cookie)
    studio.open("/shop/checkout")
    says(studio, ".basket", "Sold out")
    assert "Fen Green" in studio.css(".basket").text, "the line stays, with why it can't be ordered"
    assert not studio.driver.find_elements(By.CSS_SELECTOR, "form.buyer button.main")
    studio.open(address)
    says(studio, ".into", "Sold out")
    assert studio.complaints() == []


def test_a_set_used_by_forty_products_is_changed(studio: Studio) -> None:
    sessions = make_sessions(studio.engine)
    with unit_of_work(sessions, rosa(studio)) as work:
        release.release(work, "what others left")
    plain = text(
        "SELECT sku, slug FROM product p WHERE fields ? 'price' AND sku <> '' AND option_sets = '{}' "
        "AND NOT EXISTS (SELECT FROM variant v WHERE v.product_id = p.id) ORDER BY id LIMIT 40"
    )
    with sessions() as session:
        forty = session.execute(plain).all()
    studio.sign_in()
    studio.open("/studio/compose/options")
    studio.press("New option set")
    studio.type("Name of the option set", "Paper around it", "")
    studio.type("Its options, one a line", "Paper: Plain, Marbled", "")
    studio.press("Make it")
    studio.text("Paper around it", "h2")
    studio.type("price of Marbled", "1.50")
    studio.saved()
    # It is offered to a list of SKUs, with what was not found and what was there twice.
    studio.press("Offered to")
    codes = ", ".join([*(row.sku for row in forty), "NONE-1", forty[0].sku])
    studio.type("Title or SKU, or a pasted column of SKUs", codes, "")
    studio.press("Put in")
    studio.text("Variants on 40 products: 80 new")
    studio.press("Change it")
    for words in ("40 products put in", "left in the box: NONE-1", f"there twice: {forty[0].sku}"):
        studio.text(words, "p")
    studio.text("40 products", "p")
    studio.text("put in by hand")
    with unit_of_work(sessions, rosa(studio)) as work:
        assert release.release(work, "").counts["product_page"] == 40
    # What follows from another price is told before it is done, and only then is it done.
    studio.press("Try it")
    studio.type("price of Marbled", "2.50")
    dialog = studio.css("[role=dialog]")
    studio.until(lambda _: "on 40 products: 80 kept" in dialog.text or None, "what follows")
    assert "40 prices will change" in dialog.text
    assert "and 37 more" in dialog.text or "and 35 more" in dialog.text, "some of them by name"
    studio.press("Leave it")
    studio.gone("[role=dialog]")
    assert studio.field("price of Marbled").get_attribute("value") == "2.50", "what was typed stays"
    studio.text("Not changed: Enter asks again")
    studio.type("price of Marbled", "2.50")
    studio.press("Change it")
    studio.saved()
    studio.open("/studio/release/changes")
    studio.text("Paper around it")
    with unit_of_work(sessions, rosa(studio)) as work:
        assert release.release(work, "").counts["product_page"] == 40
    for row in (forty[0], forty[39]):
        studio.open(f"/shop/p/{row.slug}?paper=marbled")
        says(studio, ".sums", "€2.50")
    assert studio.complaints() == []
