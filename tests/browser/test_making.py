"""From nothing to a filled field of a list that shows: how many steps it takes, by mouse and by keyboard."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.people import working
from tests.browser.studio import Studio
from young_fabric.service.defining import definitions

pytestmark = pytest.mark.browser
MOST_STEPS = 8
MOST_STEPS_TO_LIVE = 12


class Steps:
    """Counts what a person does: each call is one choice, one text typed, or one press."""

    def __init__(self) -> None:
        self.count = 0

    def __call__(self, act: Callable[[], object]) -> None:
        act()
        self.count += 1


def test_a_field_of_a_list_from_nothing_to_the_page(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/fields")
    studio.text("Fields", "h2")
    step = Steps()
    step(lambda: studio.press("New field"))
    step(lambda: studio.type("Name of the field", "Stands by", ""))
    step(lambda: studio.choose("Kind", "one of a list"))
    step(lambda: studio.type("Values of the new list", "Its own weight\nA wall plate\nThree bolts", ""))
    step(lambda: studio.choose("Goes to", "Easel basics"))
    step(lambda: studio.field("listing card").click())
    step(lambda: studio.press("Make it"))
    step(lambda: studio.text("Fill it: 4 products", "a").click())
    step(lambda: studio.choose("Stands by", "A wall plate"))
    studio.saved()
    studio.proof_says("A wall plate")
    assert step.count <= MOST_STEPS + 1, "one more for the card"
    step(lambda: studio.text("unreleased").click())
    step(lambda: studio.press("Release now"))
    step(lambda: studio.press("Release"))
    studio.text("0 unreleased")
    assert step.count <= MOST_STEPS_TO_LIVE
    studio.open("/shop/c/easels")
    assert "A wall plate" in studio.css("main").text
    assert studio.complaints() == []


def test_a_new_field_is_in_sight_in_its_list(studio: Studio) -> None:
    with working(studio) as work:
        definitions.create(work, "field", "Stands by", {})
    studio.sign_in()
    # It is in view in the list.
    studio.open("/studio/define/fields/ss_stands_by")
    row = studio.css("tr.here")
    assert "Stands by" in row.text
    assert studio.driver.execute_script(
        "const box = arguments[0].getBoundingClientRect(); return box.top > 0 && box.bottom < innerHeight", row
    )


def test_the_same_by_keyboard_alone(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/fields")
    studio.text("Fields", "h2")
    step = Steps()
    step(lambda: studio.keys("n"))
    studio.css("form input")
    step(lambda: studio.keys(*"Stands by", Keys.TAB))
    step(lambda: studio.keys(*"one of", Keys.TAB, Keys.TAB))
    studio.tab_to("Values of the new list")
    step(lambda: studio.keys(*"Its own weight", Keys.ENTER, *"A wall plate", Keys.TAB))
    step(lambda: studio.keys(*"Easel"))
    step(lambda: studio.chord(Keys.CONTROL, Keys.ENTER))
    studio.text("Fill it: 4 products", "a")
    studio.until(lambda _: "Fill it" in studio.focused(), "what comes next has the focus")
    step(lambda: studio.keys(Keys.ENTER))
    studio.until(
        lambda d: d.execute_script("return document.activeElement.closest('[data-mark=ss_stands_by]') !== null"),
        "the new field has the focus",
    )
    step(lambda: studio.keys(*"A wall", Keys.ENTER))
    studio.saved()
    studio.proof_says("A wall plate")
    assert step.count <= MOST_STEPS


def test_faults_stand_at_their_place_and_nothing_typed_is_lost(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/fields?new=1")
    studio.type("Name of the field", "Stands by", "")
    studio.choose("Kind", "one of a list")
    studio.press("Make it")
    studio.text("A new list needs values. Type one a line, or choose a list there is")
    studio.type("Values of the new list", "Oak\nAsh\noak", "")
    studio.press("Make it")
    studio.text("Line 3, “oak”: already in the list. Mend that line, or take it out")
    assert studio.field("Values of the new list").get_attribute("value") == "Oak\nAsh\noak"
    assert studio.field("Name of the field").get_attribute("value") == "Stands by"
    assert studio.axe() == []
    assert not studio.driver.find_elements(By.LINK_TEXT, "Stands by")
    studio.choose("Value list", "Wood")
    studio.press("Make it")
    studio.text("ss_stands_by", "span")
    studio.text("Made. No product has it yet: put it in a set or give it to a type below.")


def test_a_set_is_copied_with_its_fields_and_is_gone_on_with(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/compose/sets/furniture")
    studio.press("Make a copy")
    studio.text("5 fields, on 0 products of 0 types")
    assert studio.driver.current_url.endswith("/compose/sets/easel_basics_copy")
    assert studio.field("Name").get_attribute("value") == "Easel basics, copy"
    studio.text("Wood")
    assert studio.axe() == []


def test_how_a_year_is_written_is_told_before_it_is_changed(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/fields/ss_maker_since")
    studio.press("1,871")
    studio.press("Change it")
    studio.saved()
    studio.text("whole number", "td")
    studio.open("/studio/fill/products?q=Tideline+Cold")
    studio.until(lambda _: studio.field("Maker since").get_attribute("value") == "1,871", "the year has a group sign")


def test_a_record_type_with_five_fields_without_leaving_it(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/records")
    studio.css("nav[aria-label='All record types']")
    step = Steps()
    step(lambda: studio.keys("n"))
    studio.css("[data-floating] input")
    step(lambda: studio.keys(*"Guild"))
    step(lambda: studio.keys(Keys.ENTER))
    studio.until(lambda _: studio.focused() == "Add field", "what comes next has the focus")
    step(lambda: studio.keys(Keys.ENTER))
    names = ["Motto", "Street address", "Members", "Hall", "Patron"]
    for name in names:
        studio.css("[cmdk-input]")
        step(lambda name=name: studio.keys(*name))  # type: ignore[misc]
        studio.text(f"Make the field “{name}”")
        step(lambda: studio.keys(Keys.ENTER))
        studio.text(name, "a")
    studio.keys(Keys.ESCAPE)
    assert [
        link.text for link in studio.driver.find_elements(By.CSS_SELECTOR, "main a[href*='/define/fields/ss_']")
    ] == names
    assert step.count <= 15
    assert studio.complaints() == []


def test_twenty_fields_in_a_row_are_named_as_typed(studio: Studio) -> None:
    """By keyboard alone, none waited for: what is typed before a field is made goes to the next one."""
    studio.sign_in()
    studio.open("/studio/define/fields")
    studio.css("table[aria-label=Fields]")
    names = [f"Nan {chr(ord('a') + at)}" for at in range(20)]
    studio.keys("n")
    studio.css("[data-floating] input")
    first, *rest = names
    studio.keys(first, Keys.ENTER)
    for name in rest:
        studio.keys("n", name, Keys.ENTER)
    studio.text("ss_nan_t", "span")
    studio.open("/studio/define/fields?q=Nan")
    studio.css("tr[data-mark=ss_nan_t]")
    rows = studio.driver.find_elements(By.CSS_SELECTOR, "table[aria-label=Fields] tbody tr td:first-child")
    assert [row.text for row in rows] == names
