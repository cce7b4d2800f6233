"""Rows from nothing to the page, a limit narrowed, a kind changed under values, and two values of a list merged."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.studio import Studio

pytestmark = pytest.mark.browser


def add_column(studio: Studio, label: str) -> None:
    studio.type("New column", label, Keys.ENTER)
    studio.field(f"Label of column {label}")


def test_rows_from_nothing_to_the_page(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/fields")
    studio.text("Fields", "h2")
    studio.press("New field")
    studio.type("Name of the field", "Setting up", "")
    studio.choose("Kind", "rows")
    add_column(studio, "What to do")
    add_column(studio, "Takes")
    studio.choose("Kind of column Takes", "whole number")
    studio.choose("Goes to", "Easel basics")
    assert studio.axe() == []
    studio.press("Make it")
    studio.text("Fill it: 4 products", "a").click()
    studio.type_over("What to do", "1", "Unfold the legs")
    studio.type_over("Takes", "1", "soon")
    studio.text("row 1, Takes: “soon” is not a number")
    studio.type_over("Takes", "1", "2")
    studio.type_over("What to do", "2", "Hang the weight")
    studio.saved()
    studio.proof_says("Hang the weight")
    assert studio.axe() == []
    # Rows move by keys, from within a cell.
    studio.cell("What to do", "2").click()
    studio.chord(Keys.ALT, Keys.ARROW_UP)
    studio.shown_in("What to do", "1", "Hang the weight")
    studio.saved()
    studio.proof(
        lambda: (
            [row.text.split("\n")[0] for row in studio.driver.find_elements(By.CSS_SELECTOR, ".rows tbody tr")] or None
        )
    )
    # A column more, while rows are there: nothing of them is lost.
    studio.open("/studio/define/fields/ss_setting_up")
    studio.type("New column", "Careful", Keys.ENTER)
    studio.field("Label of column Careful")
    studio.saved()
    assert not studio.complaints()


def test_a_narrower_limit_tells_which_values_it_makes_wrong(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/fields/ss_paper_weight")
    studio.type("Largest", "250")
    studio.text("Of 20 values 5 would be wrong, and stay, marked, until someone mends them.")
    assert studio.axe() == []
    studio.press("Change it")
    studio.saved()
    studio.text("6 values wrong or kept aside as typed:")
    studio.text("see them", "a").click()
    studio.text("6 products")
    studio.keys(Keys.ESCAPE)
    studio.chord(Keys.CONTROL, "z")
    studio.text("1 product")


def test_a_kind_is_changed_under_its_values_and_undone(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/fields/ss_hair")
    studio.until(
        lambda d: any(
            "text: all values fit" in option.text for option in d.find_elements(By.CSS_SELECTOR, "select option")
        ),
        "which kinds fit",
    )
    studio.text("whole number: 0 of 8 values fit", "option").click()
    studio.text("can't be taken over: they are kept aside as typed, and come back by undoing")
    studio.press("Change it")
    studio.saved()
    studio.text("8 values wrong or kept aside as typed:")
    studio.keys(Keys.ESCAPE)
    studio.chord(Keys.CONTROL, "z")
    studio.text("one of a list", "option")
    studio.until(
        lambda d: "kept aside" not in d.find_element(By.TAG_NAME, "main").text, "nothing is kept aside any more"
    )


def test_two_values_are_merged_and_parted_again_by_keys_alone(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/lists/suits")
    studio.field("Label of Etching")
    studio.tab_to("More")
    while True:
        row = studio.driver.execute_script("return document.activeElement.parentElement.textContent")
        if "etching" in row and studio.focused() == "More":
            break
        studio.keys(Keys.TAB)
    studio.keys(Keys.ENTER)
    studio.tab_to("Merge into another…")
    studio.keys(Keys.ENTER)
    studio.text("Merge Etching into another value")
    studio.keys(*"ink", Keys.ENTER)
    studio.text("get Ink. Etching leaves the list.")
    assert studio.axe() == []
    studio.tab_to("Merge")
    while studio.focused() != "Merge":
        studio.keys(Keys.TAB)
    studio.keys(Keys.ENTER)
    studio.gone("[aria-label='Label of Etching']")
    studio.text("Etching is merged into Ink")
    studio.chord(Keys.CONTROL, "z")
    studio.field("Label of Etching")


def test_a_value_is_added_while_a_product_is_filled(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/fill/products?q=Groyne+Studio")
    studio.press("Add a value to Wood")
    studio.type("New value of Wood", "Larch", Keys.ENTER)
    studio.until(
        lambda _: studio.field("Wood").find_element(By.CSS_SELECTOR, "option:checked").text == "Larch", "it is chosen"
    )
    studio.saved()
    studio.proof_says("Larch")


def test_starter_fields_are_added_and_a_field_defined_twice_is_merged(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/define/fields")
    studio.press("Starter fields")
    studio.field("Colour").click()
    studio.field("Award").click()
    studio.choose("Goes to", "Easel basics")
    assert studio.axe() == []
    studio.press("Add 2")
    studio.text("Fill it: 4 products", "a")
    assert studio.driver.current_url.endswith("/define/fields/ss_colour_name")
    studio.text("Housekeeping", "a").click()
    studio.text("Of the same kind as Paper weight, with alike names")
    assert studio.axe() == []
    studio.press("Merge…")
    studio.text("0 values", "b")
    assert studio.axe() == []
    studio.press("Merge")
    studio.text("Weight of paper is merged into Paper weight")
    studio.gone("section[aria-label='Look alike']")
    assert not studio.complaints()


def test_definitions_go_out_as_a_file_and_in_again(studio: Studio, tmp_path: Path) -> None:
    studio.sign_in()
    studio.open("/studio/define/files")
    studio.text("Export them", "a")
    script = "return fetch('/api/definitions.json?type=easels').then(answer => answer.text())"
    bundle = json.loads(studio.driver.execute_script(script))
    wood = next(row for row in bundle["definitions"]["value_lists"]["things"] if row["key"] == "wood")
    wood["values"].append({"code": "yew", "label": "Yew"})
    wood["name"] = "Timber"
    file = tmp_path / "easels.json"
    file.write_text(json.dumps(bundle))
    studio.until(lambda d: d.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(file)) is None, "the file")
    studio.text("1 where the file says otherwise")
    studio.press("take the file's")
    studio.text("name “Wood” → “Timber”")
    assert studio.axe() == []
    studio.press("Import 1")
    studio.text("1 definition written.")
    studio.open("/studio/define/lists/wood")
    studio.field("Label of Yew")
    assert studio.field("Name").get_attribute("value") == "Timber"
    studio.chord(Keys.CONTROL, "z")
    studio.gone("[aria-label='Label of Yew']")
    assert not studio.complaints()
