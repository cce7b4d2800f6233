"""Layouts arranged on the page by mouse and by keys alone, a base changed under others, rows shown otherwise, and the shop's
quick looks and comparisons."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.people import working
from tests.browser.studio import Studio
from young_fabric.service.defining import definitions

pytestmark = pytest.mark.browser

POINT = """
const frame = document.querySelector("iframe[title^='A page with']"), box = frame.getBoundingClientRect();
const scale = box.width / frame.offsetWidth, part = frame.contentDocument.querySelector(arguments[0]);
if (!arguments[2]) part.scrollIntoView({ block: "center" });
const rect = part.getBoundingClientRect();
return [box.left + (rect.left + Math.min(rect.width / 2, 60)) * scale,
        box.top + (rect.top + (arguments[1] ? rect.height - 3 : Math.min(rect.height / 2, 16))) * scale];
"""


def in_page(studio: Studio, read: str) -> Any:
    """What a script finds in the page that is arranged; `page` is its document."""
    script = f"const page = document.querySelector(\"iframe[title^='A page with']\").contentDocument; {read}"
    return studio.driver.execute_script(script)


def opened(studio: Studio, key: str) -> None:
    """Wait for the page with a layout to be there, whole."""
    whole = f"return page.readyState === 'complete' && page.URL.includes('layout={key}&') && page.querySelector('[data-part]') !== null"
    saw(studio, lambda: in_page(studio, whole), f"the page with {key}")


def order(studio: Studio, region: str) -> list[str]:
    """The parts of a region on the page, in their order."""
    return list(
        in_page(
            studio,
            f"return [...page.querySelectorAll('[data-part]')].filter(part => part.parentElement.closest('[data-region]')?.dataset.region === '{region}').map(part => part.dataset.part)",
        )
    )


def at(studio: Studio, css: str, below: bool = False, as_it_is: bool = False) -> tuple[int, int]:
    """Where something on the page that is arranged is in the window, brought into sight unless `as_it_is`."""
    x, y = studio.until(lambda d: d.execute_script(POINT, css, below, as_it_is), css)
    return int(x), int(y)


def point(studio: Studio, *moves: tuple[int, int]) -> None:
    """Press at a place, and drag on to the others."""
    chain = ActionChains(studio.driver, duration=40)
    pointer = chain.w3c_actions.pointer_action
    pointer.move_to_location(*moves[0])
    pointer.pointer_down()
    for x, y in moves[1:]:
        pointer.move_to_location(x, y - 9)
        pointer.move_to_location(x, y)
    pointer.pointer_up()
    chain.perform()


def saw(studio: Studio, what: Callable[[], Any], why: str) -> None:
    studio.until(lambda _: what() or None, why)


def down_to(studio: Studio, block: str) -> None:
    """Down the parts of the page by an arrow, until one is picked."""
    for _ in range(30):
        before = studio.driver.current_url
        studio.keys(Keys.ARROW_DOWN)
        saw(studio, lambda before=before: studio.driver.current_url != before, "the next is picked")  # type: ignore[misc]
        if f"block={block}" in studio.driver.current_url:
            return
    raise AssertionError(f"the arrows never came to {block}")


def add(studio: Studio, words: str) -> None:
    studio.css("[cmdk-input]").send_keys(words)
    studio.until(
        lambda d: words in d.find_element(By.CSS_SELECTOR, "[cmdk-item][data-selected=true]").text.lower(), words
    )
    studio.css("[cmdk-input]").send_keys(Keys.ENTER)


def test_a_page_of_columns_and_tabs_is_made_by_mouse(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/present/layouts/page")
    studio.text("comes with the shop and stays as it is")
    studio.press("New layout")
    studio.type("Name of the layout", "Page of watercolours", "")
    studio.press("Make it")
    opened(studio, "page_of_watercolours")
    assert order(studio, "main") == ["top", "details", "numbers"]
    # Picked on the page, put into columns, and the other into the second one.
    point(studio, at(studio, "[data-part=numbers]"))
    saw(studio, lambda: "block=numbers" in studio.driver.current_url, "the part that was pressed is picked")
    studio.press("Put into columns")
    saw(studio, lambda: order(studio, "columns_1") == ["numbers"], "wrapped")
    studio.text("Details", "span").click()
    saw(studio, lambda: "block=details" in studio.driver.current_url, "the details are picked")
    studio.choose("Stands in", "columns (2), part 2")
    saw(studio, lambda: order(studio, "columns_2") == ["details"], "moved into the second column")
    # Dragged on the page: the numbers under the details.
    under = at(studio, "[data-part=details] .fact", below=True)
    point(studio, at(studio, "[data-part=numbers]", as_it_is=True), under)
    saw(
        studio,
        lambda: (
            order(studio, "columns_2") == ["details", "numbers"] or order(studio, "columns_2") == ["numbers", "details"]
        ),
        "dragged beside",
    )
    point(studio, at(studio, "[data-part=details]"))
    studio.press("Put into panels")
    saw(studio, lambda: order(studio, "panels_1") == ["details"], "a panel")
    studio.text("Details", "span").click()
    saw(studio, lambda: "block=details" in studio.driver.current_url, "the details are picked")
    studio.press("Add a block")
    add(studio, "values of fields")
    words = studio.field("Words")
    words.send_keys("Ground by hand[, with {ss_pigment}].", Keys.TAB)
    studio.type("Heading", "How it is made")
    saw(studio, lambda: "Ground by hand, with" in in_page(studio, "return page.body.innerText"), "the words")
    tabs = "return [...page.querySelectorAll('[role=tab]')].map(tab => tab.innerText.trim())"
    saw(studio, lambda: in_page(studio, tabs) == ["Details", "How it is made"], "two tabs")
    assert studio.axe() == []
    # Chosen for a type, seen in the proof of its products, and in force there.
    studio.press("Use")
    studio.choose("Choose it for", "Paint › Watercolour")
    studio.press("Choose it")
    studio.text("14 pages will differ")
    studio.press("Change it")
    studio.text("14 products", "b")
    studio.open("/studio/present/weave?scope=type:watercolour")
    studio.text("Page of watercolours", "span")
    studio.proof_says("How it is made")
    assert studio.complaints() == []


def test_the_same_is_done_by_keys_alone(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/present/layouts/page")
    studio.text("comes with the shop and stays as it is")
    studio.keys("n")
    studio.css("[data-floating] input")
    studio.keys("Keys only", Keys.ENTER)
    opened(studio, "keys_only")
    studio.tab_to("columns")
    down_to(studio, "details")
    studio.tab_to("Put into panels")
    studio.keys(Keys.ENTER)
    saw(studio, lambda: order(studio, "panels_1") == ["details"], "a panel")
    studio.keys(Keys.ESCAPE)
    option = studio.css("[role=option][data-mark=numbers]")
    studio.driver.execute_script("arguments[0].focus()", option)
    # On the way up it comes into the part that ends above, past what stands there, and out of it again.
    studio.chord(Keys.ALT, Keys.ARROW_UP)
    saw(studio, lambda: order(studio, "panels_1") == ["details", "numbers"], "into the part above")
    studio.chord(Keys.ALT, Keys.ARROW_UP)
    saw(studio, lambda: order(studio, "panels_1") == ["numbers", "details"], "past its neighbour")
    studio.chord(Keys.ALT, Keys.ARROW_UP)
    saw(studio, lambda: order(studio, "main") == ["top", "numbers", "panels"], "out of it again")
    studio.keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN)
    saw(studio, lambda: "block=details" in studio.driver.current_url, "the arrows pick")
    studio.keys("a")
    add(studio, "divider")
    saw(studio, lambda: "block=divider" in studio.driver.current_url, "what was added is picked")
    added = studio.css("[role=option][data-mark=divider]")
    studio.driver.execute_script("arguments[0].focus()", added)
    studio.keys(Keys.DELETE)
    studio.gone("[role=option][data-mark=divider]")
    studio.chord(Keys.CONTROL, "z")
    studio.css("[role=option][data-mark=divider]")
    assert studio.axe() == []


def test_a_base_is_changed_under_three_layouts_after_looking_at_what_follows(studio: Studio) -> None:
    with working(studio) as work:
        definitions.create(work, "layout", "Third", {"key": "third", "base": "in_panels"})
    studio.sign_in()
    studio.open("/studio/present/layouts/in_panels?block=asked")
    studio.text("3 layouts build on this one")
    studio.type("Heading", "Often asked")
    studio.text("1 change tried", "b")
    studio.text("3 layouts follow")
    saw(studio, lambda: "Often asked" in in_page(studio, "return page.body.innerText"), "it is tried on the page")
    # What is tried is there again after a reload.
    studio.open("/studio/present/layouts/in_panels?block=asked")
    studio.text("1 change tried", "b")
    studio.press("Make it so")
    studio.gone("section[aria-label='What follows']")
    for key in ("oils", "easels", "third"):
        studio.open(f"/studio/present/layouts/{key}")
        saw(studio, lambda: "Often asked" in in_page(studio, "return page.body.innerText"), key)
    # What one of them says of a block that goes is told before, kept, and fits again after an undo.
    studio.open("/studio/present/layouts/oils?block=pictures")
    studio.text("changed", "span")
    assert studio.complaints() == []


def test_rows_show_as_an_accordion_and_as_a_list_of_numbers(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/present/weave?scope=shop&field=ss_wash_steps&cell=product_page")
    studio.text("on the product page", "h3")
    studio.choose("Rows as", "an accordion")
    studio.saved()
    studio.keys(Keys.ESCAPE)
    studio.text("one that has it", "button").click()
    studio.proof(lambda: studio.driver.find_elements(By.CSS_SELECTOR, ".rowcards.as-accordion details") or None)
    studio.css("[data-row=ss_wash_steps][data-key=product_page]").click()
    studio.choose("Rows as", "a list with numbers")
    studio.proof(lambda: studio.driver.find_elements(By.CSS_SELECTOR, "ol.items.as-numbers > li") or None)
    studio.choose("Rows as", "a table")
    studio.proof(lambda: studio.driver.find_elements(By.CSS_SELECTOR, ".rows table") or None)


@pytest.mark.parametrize("width", [390, 820, 1280])
def test_quick_look_and_comparison_in_the_shop(studio: Studio, width: int) -> None:
    studio.driver.set_window_size(width, 900)
    studio.open("/shop/c/paint")
    for link in studio.driver.find_elements(By.CSS_SELECTOR, "a[data-compare]")[:2]:
        studio.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", link)
        link.click()
    assert studio.axe() == []
    studio.css(".tray a").click()
    studio.css("[data-comparison]")
    assert len(studio.driver.find_elements(By.CSS_SELECTOR, "[data-compared]")) == 2
    assert studio.axe() == []
    wide = studio.driver.execute_script("return [document.documentElement.scrollWidth, window.innerWidth]")
    assert wide[0] <= wide[1], "what is compared scrolls by itself"
    studio.text("Only what differs", "a").click()
    studio.gone("tr.same")
    studio.open("/shop/c/paint")
    link = studio.css("a[data-quick]")
    studio.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", link)
    link.click()
    studio.css("dialog[open] #quick h1")
    assert studio.axe() == []
    studio.keys(Keys.ESCAPE)
    studio.gone("dialog")
    studio.open("/shop/p/" + str(link_of(studio)))
    studio.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", studio.css(".save button"))
    studio.press("Save for later")
    studio.text("Saved", "button")
    assert studio.axe() == []
    studio.text("What you saved", "a").click()
    studio.css("[data-saved-list] .card")
    wide = studio.driver.execute_script("return [document.documentElement.scrollWidth, window.innerWidth]")
    assert wide[0] <= wide[1]
    assert studio.axe() == []
    assert studio.complaints() == []


def link_of(studio: Studio) -> str:
    """The address of a product whose layout has the button to save it."""
    studio.open("/shop/c/easels")
    return str(studio.css(".card h3 a").get_attribute("href")).rsplit("/", 1)[-1]
