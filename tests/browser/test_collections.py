"""Collections by the real interface: from nothing to the shop, a set that comes with one, and two that disagree."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.studio import Studio

pytestmark = pytest.mark.browser


def release(studio: Studio) -> None:
    studio.open("/studio/release/changes")
    studio.press("Release now")
    studio.press("Release")
    studio.text("All is live")


def titles(studio: Studio) -> list[str]:
    return [row.text for row in studio.driver.find_elements(By.CSS_SELECTOR, ".cards h3, .cards h2")]


def test_a_collection_by_condition_from_nothing_to_the_shop(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/compose/collections")
    studio.press("New collection")
    studio.type("Name of the collection", "For a wet bench", Keys.ENTER)
    studio.text("No product is in it yet")
    # The condition, by mouse
    studio.press("Choose what to ask")
    studio.css("[cmdk-input]").send_keys("opacity")
    studio.css("[cmdk-item][data-selected=true]").click()
    studio.press("Opacity: choose")
    studio.text("Semi-opaque", "span").click()
    studio.text("match", "b")
    before = int(studio.text("match", "b").text.split()[0])
    studio.press("but not…")
    studio.css("[cmdk-input]").send_keys("granul")
    studio.css("[cmdk-item][data-selected=true]").click()
    studio.choose("Granulating", "yes")
    studio.until(lambda d: int(studio.text("match", "b").text.split()[0]) < before, "fewer match")
    count = int(studio.text("match", "b").text.split()[0])
    studio.text("new with this")
    studio.press("Use it")
    studio.saved()
    studio.text(f"{count}, in the order shoppers see")
    # By hand: one more, put in first
    studio.type("Title or SKU, or a pasted column of SKUs", "Heron Round 12", "")
    studio.text("HRN-R12")
    studio.press("Put in Heron Round 12")
    studio.text("1st, by hand")
    studio.text(f"{count + 1}, in the order shoppers see")
    # Its words, and the proof
    studio.press("Words and picture")
    studio.type("Words", "Stand them in water and nothing comes off.")
    studio.saved()
    studio.press("Proof")
    studio.proof_says("nothing comes off")
    # Live only by a release
    studio.open("/shop/c/for-a-wet-bench")
    studio.text("There is nothing at this address")
    release(studio)
    studio.open("/shop/")
    studio.text("For a wet bench", "a").click()
    studio.text(f"{count + 1} products", "p")
    studio.text("nothing comes off", "p")
    assert titles(studio)[0] == "Heron Round 12"
    assert studio.axe() == []
    assert studio.complaints() == []


def test_the_same_by_keyboard_alone(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/compose/collections")
    studio.css("nav[aria-label='All collections'] a")
    studio.keys("n")
    studio.css("[data-floating] input")
    studio.keys("Small books", Keys.ENTER)
    studio.text("No product is in it yet")
    studio.tab_to("Choose what to ask")
    studio.keys(Keys.ENTER)
    studio.css("[cmdk-input]")
    studio.keys("leaves", Keys.ENTER)
    studio.until(lambda _: studio.focused() == "Leaves", "the value has the focus")
    studio.keys("60")
    studio.tab_to("Test of Leaves", back=True)
    studio.keys("at most")
    studio.text("match", "b")
    studio.chord(Keys.CONTROL, Keys.ENTER)
    studio.saved()
    studio.text("Leaves at most 60")
    # A place among the others, and an order among those put in, by Alt with the arrows
    studio.tab_to("Title or SKU")
    for words in ("Heron Round 4", "Heron Round 8"):
        studio.keys(words)
        studio.text("HRN-", "span")
        studio.keys(Keys.ENTER)
        studio.text(f"{words} put in")
    studio.tab_to("Move Heron Round 8")
    studio.chord(Keys.ALT, Keys.ARROW_UP)
    first = "section[aria-label='Products of the collection'] a"
    studio.until(lambda d: d.find_element(By.CSS_SELECTOR, first).text == "Heron Round 8", "the first of them")
    studio.tab_to("Move Small books", back=True)
    studio.chord(Keys.ALT, Keys.ARROW_UP)
    rows = "nav[aria-label='All collections'] a"
    studio.until(
        lambda d: (
            [row.get_attribute("title") for row in d.find_elements(By.CSS_SELECTOR, rows)].index("Small books") == 3
        ),
        "one place up",
    )
    release(studio)
    studio.open("/shop/c/small-books")
    assert titles(studio)[:2] == ["Heron Round 8", "Heron Round 4"]
    assert studio.complaints() == []


def test_a_set_comes_with_a_collection_and_why_says_so(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/compose/sets/safety")
    studio.press("Limit it to a collection")
    studio.css("[cmdk-input]").send_keys("first box", Keys.ENTER)
    studio.press("Change it")
    studio.text("It comes with its collections alone, whatever the type.")
    # One product is in it, the other is not
    for words, says in (
        ("Lemon Light", "comes with being in A first box"),
        ("Slate Grey", "to products in A first box"),
    ):
        studio.open(f"/studio/fill/products?q={words.replace(' ', '+')}&why=ss_warn")
        studio.text(says)
    studio.text("Put it in there", "a").click()
    studio.press("Put into a collection")
    studio.css("[cmdk-input]").send_keys("first box", Keys.ENTER)
    studio.text("1 page")
    studio.press("Change it")
    studio.text("put in by hand")
    studio.text("Storage", "label")
    studio.open("/studio/fill/products?q=Slate+Grey&why=ss_warn")
    studio.text("comes with being in A first box")
    assert studio.complaints() == []


def test_two_collections_that_disagree(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/compose/collections/outdoors")
    studio.text("4 follow A first box")
    studio.open("/studio/fill/products?q=Lemon+Light&why=contents&on=listing_card")
    studio.text("Not shown on the listing card by the setting on A first box")
    # The other is put before it
    studio.open("/studio/compose/collections/outdoors")
    studio.tab_to("Move For the field")
    studio.chord(Keys.ALT, Keys.ARROW_UP)
    studio.until(lambda d: "20 of 20 products" in d.page_source, "it decides for all of its products")
    studio.open("/studio/fill/products?q=Lemon+Light&why=contents&on=listing_card")
    studio.text("Shown on the listing card by the setting on For the field")
    studio.open("/studio/present/weave?scope=collection:outdoors&field=contents")
    studio.until(
        lambda d: d.find_elements(By.CSS_SELECTOR, "[data-mark=contents] [data-state=here]"), "set here in the weave"
    )
    release(studio)
    studio.open("/shop/c/a-first-box")
    lemon = next(card for card in studio.driver.find_elements(By.CSS_SELECTOR, ".card") if "Lemon Light" in card.text)
    assert "15 ml" in lemon.text
    assert studio.complaints() == []


@pytest.mark.parametrize("width", [390, 820, 1280])
def test_a_collection_s_listing_fits_every_width(studio: Studio, width: int) -> None:
    studio.driver.set_window_size(width, 800)
    for path in ("/shop/", "/shop/c/for-the-field"):
        studio.open(path)
        studio.css(".cards")
        wide = studio.driver.execute_script("return [document.documentElement.scrollWidth, window.innerWidth]")
        assert wide[0] <= wide[1], (path, wide)
        assert studio.axe() == []


def test_a_key_is_made_and_reads_the_feed(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/release/systems")
    studio.press("New key")
    studio.type("Name of the key", "The till", Keys.ENTER)
    key = studio.css("output[aria-label='The key']").text
    read = (
        "const done = arguments[1]; fetch('/delivery/v1/feed?limit=3', {headers: {Authorization: 'Bearer ' + arguments[0]}})"
        ".then(async r => done([r.status, (await r.text()).trim().split('\\n').length]))"
    )
    assert studio.driver.execute_async_script(read, key) == [200, 3]
    studio.press("It is in its place")
    studio.text("The till")
    studio.press("End it: the key of The till")
    studio.press("End it now")
    studio.text("ended")
    assert studio.driver.execute_async_script(read, key)[0] == 401
    assert studio.complaints() == []


def test_jobs_stand_in_one_list(studio: Studio) -> None:
    studio.sign_in()
    release(studio)
    studio.open("/studio/release/jobs")
    studio.text("is live,")
    studio.text("done", "span")
    assert studio.axe() == []
