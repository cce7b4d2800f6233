"""Rich text written in the studio: by keyboard and tools, cleaned, shown, and taken back."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.studio import Studio

pytestmark = pytest.mark.browser
BOX = "[data-mark=ss_assembly] [role=textbox]"


def test_rich_text_is_written_shown_and_undone(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/fill/products?q=Groyne+Studio")
    box = studio.css(BOX)
    assert box.text.startswith("No tools are needed")
    box.click()
    studio.chord(Keys.CONTROL, "a")
    studio.keys(Keys.DELETE, "Unfold the legs. ")
    studio.chord(Keys.CONTROL, "b")
    studio.keys("No tools.")
    assert studio.button("Bold").get_attribute("aria-pressed") == "true"
    studio.keys(Keys.ENTER)
    studio.press("Points")
    studio.keys("Knobs", Keys.ENTER, "Clamp", Keys.TAB)
    studio.saved()
    shown = "<p>Unfold the legs.<strong> No tools.</strong></p><ul><li><p>Knobs</p></li><li><p>Clamp</p></li></ul>"
    rich = (By.CSS_SELECTOR, ".rich")
    studio.proof(lambda: studio.driver.find_element(*rich).get_attribute("innerHTML") == shown or None)
    assert studio.axe() == []
    studio.driver.execute_script("document.activeElement.blur()")
    studio.chord(Keys.CONTROL, "z")
    studio.until(lambda _: studio.css(BOX).text.startswith("No tools are needed"), "the text is taken back")


def test_a_link_is_made_of_the_words_that_are_chosen(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/fill/products?q=Groyne+Studio")
    studio.css(BOX).click()
    studio.chord(Keys.CONTROL, "a")
    studio.keys(Keys.DELETE, "Guide")
    studio.chord(Keys.CONTROL, "a")
    studio.press("Link")
    studio.type("Address of the link", "https://guides.saltmarsh.example/a", Keys.ENTER)
    studio.driver.execute_script("document.activeElement.blur()")
    studio.saved()
    link, wanted = (By.CSS_SELECTOR, ".rich a"), "https://guides.saltmarsh.example/a"
    studio.proof(lambda: studio.driver.find_element(*link).get_attribute("href") == wanted or None)
