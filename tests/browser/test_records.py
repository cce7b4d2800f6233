"""Records from nothing to the shop, words shared by many, and a set that goes from one type to another."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.studio import Studio

pytestmark = pytest.mark.browser


def pick(studio: Studio, words: str, says: str) -> None:
    """Search in what is open, and take the first that says something."""
    studio.css("[cmdk-input]").send_keys(words)
    studio.until(
        lambda d: any(says in item.text for item in d.find_elements(By.CSS_SELECTOR, "[cmdk-item]")), f"offers {says}"
    )
    while says not in studio.css("[cmdk-item][data-selected=true]").text:
        studio.css("[cmdk-input]").send_keys(Keys.ARROW_DOWN)
    studio.css("[cmdk-input]").send_keys(Keys.ENTER)


def test_a_record_from_nothing_to_its_page_in_the_shop(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/records")
    studio.press("New record type")
    studio.type("Name of the record type", "Guild", Keys.ENTER)
    studio.text("No fields yet")
    studio.text("each has a page in the shop, listing what refers to it", "label").click()
    studio.saved()
    assert studio.axe() == []
    # A field of its records, then one of products that chooses of them: each is asked for with what it is for filled in.
    studio.open("/studio/define/fields?new=1&into=record_type/guild")
    studio.type("Name of the field", "Motto", "")
    studio.press("Make it")
    studio.text("ss_motto", "span")
    studio.open("/studio/define/fields?new=1&kind=record&of=guild")
    studio.type("Name of the field", "Guild", "")
    studio.choose("Goes to", "Easels")
    studio.press("Make it")
    studio.text("Fill it: 4 products", "a").click()
    # On a product, by keys: search, find nothing, make it on the spot.
    studio.until(lambda _: "choose a record" in studio.focused(), "the field asked for has the focus")
    studio.keys(Keys.ENTER)
    pick(studio, "Joiners of Callan", "Make “Joiners of Callan”")
    studio.saved()
    studio.proof_says("Joiners of Callan")
    assert studio.axe() == []
    # The record is filled in the same editor, and says what refers to it.
    studio.text("Joiners of Callan", "a").click()
    studio.text("What refers to it")
    studio.text("product", "span")
    studio.type("Motto", "Oak, and patience")
    studio.saved()
    assert studio.axe() == []
    studio.press("Remove this record")
    studio.text("is used by the product")
    # Live: the product leads to the record's page, which lists it.
    studio.open("/studio/release/changes")
    studio.text("Joiners of Callan")
    studio.press("Release now")
    studio.type("What it is about", "Guilds", "")
    studio.press("Release")
    studio.text("All is live")
    studio.driver.get(f"{studio.base}/shop/c/joiners-of-callan")
    studio.text("Joiners of Callan", "h1")
    studio.text("Oak, and patience")
    assert studio.axe() == []
    studio.css(".card a").click()
    studio.text("Joiners of Callan", "a").click()
    studio.text("Joiners of Callan", "h1")


def test_a_product_takes_words_of_its_own_by_a_tick(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/fill/products?q=Heron+Round+8&field=ss_brush_care")
    studio.text("From the shared copy Care of brushes.")
    studio.field("Care of brushes").click()
    studio.text("The same as the shared copy Care of brushes so far.")
    studio.css("[contenteditable=true]").send_keys(Keys.CONTROL, Keys.END, Keys.NULL, " It is a wash brush.")
    studio.driver.execute_script("document.activeElement.blur()")
    studio.text("What differs from the shared copy Care of brushes:")
    studio.text("It is a wash brush.", "ins")
    studio.proof_says("It is a wash brush.")
    assert studio.axe() == []
    # What keeps its own is told beside the shared words; unticked, it follows them again.
    studio.open("/studio/define/copies/brush_care")
    studio.text("2 products keep words of their own, and a change of these leaves those as they are")
    studio.text("Heron Round 8", "a").click()
    studio.field("Care of brushes").click()
    studio.text("From the shared copy Care of brushes.")
    studio.saved()
    assert studio.axe() == []


def test_a_set_goes_from_one_type_to_another_and_values_come_back(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/compose/types/easels")
    studio.press("Take off Easel basics")
    studio.text("Products lose")
    studio.text("kept aside")
    studio.press("Change it")
    studio.saved()
    studio.open("/studio/compose/types/canvas")
    studio.press("Add set")
    pick(studio, "easel basics", "Easel basics")
    studio.text("Wood", "a")
    studio.saved()
    # Who has what shows it, and a branch is moved by keys.
    studio.open("/studio/compose/sheet?types=canvas,easels&only=1")
    studio.text("Easel basics", "a")
    assert studio.axe() == []
    studio.open("/studio/compose/types/easels")
    grip = studio.until(
        lambda d: next(iter(d.find_elements(By.CSS_SELECTOR, "button[aria-label^='Move Easels']")), None), "a grip"
    )
    grip.send_keys(Keys.ALT + Keys.ARROW_RIGHT)
    studio.text("Move Easels under Canvas")
    studio.text("(4 values back from before)")
    studio.press("Change it")
    studio.saved()
    assert studio.axe() == []
    studio.open("/studio/fill/products?type=easels")
    studio.css("nav[aria-label=Products] a").click()
    studio.field("Wood")
    assert not studio.complaints()
