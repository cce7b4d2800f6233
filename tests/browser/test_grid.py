"""The same keys in every grid: variants, rows of a field, the weave, and who has what."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.keys import Keys

from tests.browser.studio import Studio

pytestmark = pytest.mark.browser

GRIDS = {
    "variants": ("/studio/fill/products?q=Estuary+Easel&part=variants", "[role=grid][aria-label=Variants]", "sku"),
    "rows": ("/studio/fill/products?q=Weld", "[data-mark=ss_wash_steps] [role=grid]", "step"),
    "the weave": ("/studio/present/weave?scope=type:watercolour", "[role=grid][aria-label=Weave]", "product_page"),
    "who has what": ("/studio/compose/sheet", "[role=grid][aria-label='Fields by type']", "sketchbooks"),
}
AT = """
const cell = document.activeElement.closest("[data-line]");
return cell && [Number(cell.dataset.line), Number(cell.dataset.column), cell.getAttribute("aria-colindex")];
"""


def at(studio: Studio) -> list[int]:
    found = studio.driver.execute_script(AT)
    assert found is not None, studio.driver.execute_script("return document.activeElement.outerHTML")
    assert int(found[2]) == found[1] + 1, "where a cell is told to be is where it is"
    return [found[0], found[1]]


def chosen(studio: Studio, grid: str) -> int:
    return len(studio.driver.find_elements("css selector", f"{grid} [aria-selected=true]"))


def opens_by_enter_and_comes_back_by_esc(studio: Studio, grid: str, cell: str) -> None:
    first = studio.css(f"{grid} [role=rowheader]").get_attribute("data-line")
    here = studio.css(f"{grid} [data-line='{first}'][data-key={cell}]")
    studio.driver.execute_script("arguments[0].focus()", here)
    place = at(studio)
    studio.keys(Keys.ENTER)
    opened = ".cell-box, [data-floating]"
    studio.css(opened)
    assert studio.axe() == []
    studio.keys(Keys.ESCAPE)
    studio.gone(opened)
    studio.until(lambda _: studio.driver.execute_script(AT) is not None and at(studio) == place, "back in its cell")


@pytest.mark.parametrize("name", GRIDS)
def test_keys_do_the_same_in_each(studio: Studio, name: str) -> None:
    view, grid, cell = GRIDS[name]
    studio.sign_in()
    studio.open(view)
    studio.css(f"{grid} [role=rowheader]")
    stops = studio.driver.find_elements("css selector", f"{grid} [tabindex='0']")
    assert len(stops) == 1, "one stop for Tab"
    studio.driver.execute_script("arguments[0].focus()", stops[0])
    line, column = at(studio)
    studio.keys(Keys.ARROW_DOWN)
    down = at(studio)
    assert down[0] > line
    studio.keys(Keys.ARROW_UP)
    assert at(studio) == [line, column]
    studio.keys(Keys.HOME)
    assert at(studio) == [line, 0]
    studio.keys(Keys.END)
    last = at(studio)[1]
    assert last > column
    studio.keys(Keys.ARROW_RIGHT)
    assert at(studio) == [line, last], "it stops at the edge"
    studio.chord(Keys.CONTROL, Keys.END)
    end = at(studio)
    assert (end[0] > line, end[1]) == (True, last)
    studio.chord(Keys.CONTROL, Keys.HOME)
    assert at(studio) == [line, 0]
    studio.keys(*[Keys.ARROW_RIGHT] * column)
    # A block grows from where it began, and is let go by Esc.
    studio.chord(Keys.SHIFT, Keys.ARROW_DOWN)
    studio.chord(Keys.SHIFT, Keys.ARROW_RIGHT)
    assert at(studio) == [down[0], column + 1]
    assert chosen(studio, grid) >= 4
    assert studio.axe() == []
    studio.keys(Keys.ESCAPE)
    assert chosen(studio, grid) == 0
    assert at(studio) == [down[0], column + 1]
    studio.keys(Keys.HOME)
    opens_by_enter_and_comes_back_by_esc(studio, grid, cell)
    # Columns are made wider by keys, and stay so.
    wide = "return document.activeElement.offsetWidth"
    before = studio.driver.execute_script(wide)
    studio.driver.execute_script(
        "document.activeElement.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', altKey: true, shiftKey: true, bubbles: true }))"
    )
    studio.until(lambda d: d.execute_script(wide) > before, "it is wider")
    studio.keys(Keys.TAB)
    inside = "return Boolean(document.activeElement.closest(arguments[0]))"
    assert not studio.driver.execute_script(inside, grid), "Tab leaves it"
    assert studio.complaints() == []
