"""Whole journeys by the real interface."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.people import working
from tests.browser.studio import Studio
from young_fabric.service.products import products

pytestmark = pytest.mark.browser


def test_from_a_field_to_the_shop(studio: Studio) -> None:
    studio.sign_in()
    # Define
    studio.press("New field")
    studio.type("Name of the field", "Drying time", "")
    studio.choose("Kind", "measure")
    studio.choose("Unit", "min")
    studio.press("Make it")
    studio.text("ss_drying_time", "span")
    studio.type("You type", "2 kg", "")
    studio.text("kg is a mass, this field needs time")
    studio.type("You type", "0.5 h", "")
    studio.text("30\u00a0min", "b")
    studio.type("Smallest", "600", "")
    # Compose
    studio.open("/studio/compose/sets")
    studio.press("New field set")
    studio.type("Name of the field set", "Studio notes", Keys.ENTER)
    studio.text("0 fields, on 0 products of 0 types")
    studio.press("Add field")
    studio.css("[cmdk-input]").send_keys("drying", Keys.ENTER)
    studio.text("1 field, on 0 products of 0 types")
    studio.open("/studio/compose/types/gouache")
    studio.press("Add set")
    studio.css("[cmdk-input]").send_keys("studio notes", Keys.ENTER)
    # No product has a value of it: nothing differs, and nothing is asked.
    studio.text("Drying time")
    studio.choose("Need of Drying time", "required")
    studio.text("set here")
    studio.saved()
    # Fill
    studio.open("/studio/fill/products?q=Ebb+Gouache+Brick")
    studio.text("next:")
    studio.press("Drying time")
    inside = "return document.activeElement.closest('[data-mark=ss_drying_time]') !== null"
    studio.until(lambda d: d.execute_script(inside), "the next field has the focus")
    studio.type("Drying time", "2 kg")
    studio.text("kg is a mass, this field needs time")
    studio.type("Drying time", "0.5 h")
    studio.proof_says("30 min")
    studio.saved()
    # Why it is not on the card
    studio.css("button[aria-label^='Drying time on the card']").click()
    studio.text("Why is “Drying time” missing from the listing card?")
    failed = studio.css("li[data-step=shown][data-ok=false]")
    failed.find_element(By.XPATH, ".//button[.='Show it there']").click()
    # Present: told before it is done, and done from here
    studio.text("1 card will differ")
    studio.press("Change it")
    studio.text("Why “Drying time” shows on the listing card")
    # Release
    studio.open("/shop/p/ebb-gouache-brick")
    assert "Drying time" not in studio.driver.page_source, "a draft is not seen"
    studio.open("/studio/release/changes")
    studio.text("Drying time")
    studio.press("Release now")
    studio.type("What it is about", "Drying times", "")
    studio.press("Release")
    studio.text("All is live")
    studio.open("/shop/p/ebb-gouache-brick")
    assert "30 min" in studio.css(".facts [data-field=ss_drying_time]").text
    studio.open("/shop/c/gouache")
    assert "30 min" in studio.css(".cards").text
    assert studio.complaints() == []


def test_by_keyboard_alone(studio: Studio) -> None:
    studio.open("/studio/")
    studio.css("input[name=email]")
    studio.keys(Keys.TAB, "rosa@saltmarsh.example", Keys.TAB, "tide-and-teasel", Keys.ENTER)
    studio.css("table[aria-label=Fields]")
    # a field, by N
    studio.keys("n")
    studio.css("[data-floating] input")
    studio.keys("Washable", Keys.TAB, "yes")
    studio.chord(Keys.CONTROL, Keys.ENTER)
    studio.text("ss_washable", "span")
    # into a set
    studio.keys(Keys.ESCAPE)
    studio.driver.execute_script("document.activeElement.blur()")
    studio.chord(Keys.CONTROL, "k")
    studio.css("[cmdk-input]")
    studio.keys("safety")
    studio.text("Safety and care")
    while "Safety and care" not in studio.css("[cmdk-item][data-selected=true]").text:
        studio.keys(Keys.ARROW_DOWN)
    studio.keys(Keys.ENTER)
    studio.text("on 29 products of 4 types")
    studio.tab_to("Add field")
    studio.keys(Keys.ENTER)
    studio.css("[cmdk-input]")
    studio.keys("washable", Keys.ENTER)
    studio.text("4 fields, on 29 products of 4 types")
    # The list stays open for the next one.
    studio.keys(Keys.ESCAPE)
    # up one place, by Alt and an arrow on its grip
    studio.tab_to("Move Washable")
    studio.chord(Keys.ALT, Keys.ARROW_UP)
    studio.saved()
    # filled on a product
    studio.driver.execute_script("document.activeElement.blur()")
    studio.keys("3")
    studio.css("nav[aria-label=Products] a")
    studio.keys("/")
    studio.keys("moss", Keys.ESCAPE)
    studio.until(
        lambda d: len(d.find_elements(By.CSS_SELECTOR, "nav[aria-label=Products] a[data-item]")) == 2, "two products"
    )
    studio.tab_to("Driftline Sketchbook Moss")
    studio.keys(Keys.ARROW_DOWN, Keys.ENTER)
    studio.text("EBG-MOS-30", "span")
    studio.until(lambda d: d.find_elements(By.CSS_SELECTOR, "[data-mark=ss_washable]"), "the field is there")
    for _ in range(120):
        studio.keys(Keys.TAB)
        if studio.driver.execute_script("return document.activeElement.closest('[data-mark=ss_washable]') !== null"):
            break
    studio.keys(Keys.SPACE)
    studio.proof_says("Washable")
    # hidden again in the weave, and undone
    studio.driver.execute_script("document.activeElement.blur()")
    studio.keys("4")
    studio.css("[role=grid][aria-label=Weave]")
    studio.tab_to("on the product page", 400)
    for _ in range(120):
        if "Washable on the product page" in studio.focused():
            break
        studio.keys(Keys.ARROW_DOWN)
    studio.keys(Keys.SPACE)
    studio.until(
        lambda d: d.find_elements(By.CSS_SELECTOR, "[role=grid] [data-mark=ss_washable] [data-state=hidden]"), "hidden"
    )
    studio.chord(Keys.CONTROL, "z")
    studio.until(
        lambda d: d.find_elements(By.CSS_SELECTOR, "[role=grid] [data-mark=ss_washable] [data-state=inherited]"),
        "inherited",
    )
    # released
    studio.driver.execute_script("document.activeElement.blur()")
    studio.keys("5")
    studio.text("Before you release")
    studio.tab_to("Release now")
    studio.keys(Keys.ENTER)
    studio.css("[data-floating] input")
    studio.keys("Washing", Keys.ENTER)
    studio.text("All is live")
    studio.open("/shop/p/ebb-gouache-moss")
    assert "Washable" in studio.css(".facts [data-field=ss_washable]").text


DEAF = "Object.defineProperty(document, 'visibilityState', { get: () => 'hidden', configurable: true })"
"""The window takes itself for one that nobody sees, which does not listen for what others write."""


def test_a_second_editor_is_seen_and_an_ended_session_loses_nothing(studio: Studio) -> None:
    studio.sign_in()
    studio.open("/studio/fill/products?q=Fen+Etching+300")
    fibre = "[data-mark=ss_fibre] input"
    studio.css(fibre)
    number = int(studio.driver.current_url.split("?")[0].rsplit("/", 1)[1])

    def of_edwin(words: str) -> None:
        with working(studio, 1) as edwin:
            version = products.get(edwin, number).version
            products.fill(edwin, number, version, {"ss_fibre": words})

    # what another writes is seen, and who it was
    of_edwin("Hemp")
    studio.until(lambda d: d.find_element(By.CSS_SELECTOR, fibre).get_attribute("value") == "Hemp", "Hemp")
    studio.text("Edwin Fenn changed this")
    # what neither could see is told, and both can be looked at
    studio.driver.execute_script(DEAF)
    of_edwin("Jute")
    studio.type("Fibre", "Linen")
    studio.text("was changed by Edwin Fenn in the meantime", "h2")
    studio.text("“Hemp” → “Jute”", "li")
    studio.text("“Hemp” → “Linen”", "li")
    studio.press("Write yours over it")
    studio.gone("[role=dialog]")
    studio.proof_says("Linen")
    # the session ends while a text is typed
    studio.driver.delete_all_cookies()
    studio.type("Fibre", "Nettle")
    studio.text("Your session has ended. What you typed is kept")
    studio.css("[role=dialog] input[name=email]").send_keys("rosa@saltmarsh.example")
    studio.css("[role=dialog] input[name=password]").send_keys("tide-and-teasel", Keys.ENTER)
    studio.gone("[role=dialog]")
    studio.proof_says("Nettle")
    # a SKU another product has
    studio.type("SKU", "FE-250B")
    studio.text("Fen Etching 250 Buff has the SKU FE-250B already")
    assert studio.field("SKU").get_attribute("value") == "FE-250B"
    assert "FE-300" in studio.driver.find_element(By.CSS_SELECTOR, "h2 + span").text


VIEWS = [
    "/studio/define/fields/ss_pigment",
    "/studio/define/fields/ss_hair?pane=history",
    "/studio/define/lists/surface",
    "/studio/compose/types/watercolour",
    "/studio/compose/sets/paint_basics?pane=proof",
    "/studio/compose/options/watercolour_choices",
    "/studio/compose/options/easel_woods?pane=offered",
    "/studio/fill/products?q=Fen+Etching+300",
    "/studio/present/weave?scope=type:watercolour",
    "/studio/present/weave?scope=type:watercolour&field=ss_granul&cell=product_page",
    "/studio/release/changes",
    "/studio/release/checks?why=title",
    "/studio/release/history",
    "/studio/release/jobs",
    "/studio/release/systems",
    "/studio/compose/collections/outdoors",
    "/studio/compose/collections/outdoors?pane=words",
    "/studio/present/weave?scope=collection:outdoors",
    "/studio/present/listings",
    "/studio/present/listings?scope=collection:outdoors&live=1",
    "/shop/",
    "/shop/c/for-the-field",
    "/shop/c/paint",
    "/shop/p/fen-etching-300",
    "/shop/p/nothing",
    "/proof/product/1",
]


def fits(studio: Studio, view: str, width: int) -> None:
    """Nothing on a view is wider than its window."""
    screen = {"width": width, "height": 800, "deviceScaleFactor": 1, "mobile": False}
    studio.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", screen)
    wide = studio.driver.execute_script("return [document.documentElement.scrollWidth, window.innerWidth]")
    assert wide[0] <= wide[1], (view, wide)


def test_axe_finds_nothing_serious_on_any_view_and_none_scrolls_sideways(studio: Studio) -> None:
    studio.open("/studio/")
    studio.css("input[name=email]")
    found = {"sign in": studio.axe()}
    studio.sign_in()
    for view in VIEWS:
        studio.open(view)
        studio.css("h1, h2")
        studio.until(lambda d: d.execute_script("return document.readyState") == "complete")
        studio.driver.implicitly_wait(0)
        found[view] = studio.axe()
        heads = studio.driver.find_elements(By.TAG_NAME, "h1")
        assert len(heads) == 1 or view.startswith("/proof"), (view, [head.text for head in heads])
        if view.startswith("/studio"):
            fits(studio, view, 1280)
            fits(studio, view, 1024)
            studio.driver.execute_cdp_cmd("Emulation.clearDeviceMetricsOverride", {})
    assert {view: rows for view, rows in found.items() if rows} == {}
    assert studio.complaints() == []


OPEN = """
const shown = (e) => e.checkVisibility({ visibilityProperty: true }) && e.getClientRects().length > 0;
const boxes = [...document.querySelectorAll("input, textarea, select, [contenteditable=true]")].filter(
  (e) => shown(e) && !e.disabled && !e.readOnly && !(e.type === "search" || e.closest("[data-looks]")),
);
const makers = [...document.querySelectorAll("button.primary, button.danger")].filter((e) => shown(e) && !e.disabled);
return [...boxes, ...makers].map((e) => e.getAttribute("aria-label") || (e.labels?.[0] ?? e).textContent.trim() || e.outerHTML.slice(0, 80));
"""
LOOKING = {
    "Kind",
    "Used by",
    "Type",
    "What is proved",
    "Whom the weave is for",
    "Which listing",
    "How many",
    "Name on the tube",
    "Surface",
    "only what it sets itself",
}
"""What is chosen to look: filters, what is proved, and what is tried."""
"""What could be typed in, chosen or pressed on a view to change something, by name."""


def test_who_may_only_look_sees_values_and_no_boxes(studio: Studio) -> None:
    studio.sign_in(2)
    studio.text("You may look, not change")
    found = {}
    for view in VIEWS:
        if not view.startswith("/studio"):
            continue
        studio.open(view)
        studio.css("h1, h2")
        studio.gone("[aria-busy=true]")
        found[view] = studio.driver.execute_script(OPEN)
    assert {name for names in found.values() for name in names} <= LOOKING
    studio.open("/studio/release/changes")
    assert not studio.text("Release now", "button").is_enabled()
    studio.open("/studio/define/fields/ss_hair")
    label = studio.css("input.plain")
    assert label.get_attribute("readonly") is not None
