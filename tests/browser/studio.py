"""Doing things in the studio as a person does: by what is written on the screen, or by keys alone."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

from selenium.common.exceptions import TimeoutException, WebDriverException
from selenium.webdriver.chrome.webdriver import WebDriver
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait
from sqlalchemy import Engine

from young_fabric.demo.load import PEOPLE

AXE = Path(__file__).parents[2] / "frontend/node_modules/axe-core/axe.min.js"
Found = TypeVar("Found")
SHOWN = """
function sized(e) {
  return [...e.getClientRects()].some((r) => r.width > 0 && r.height > 0) || [...e.children].some(sized);
}
function shown(e) {
  if (e instanceof HTMLOptionElement || e instanceof HTMLOptGroupElement) return shown(e.closest("select, datalist"));
  return e.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && sized(e);
}
function byPath(path) {
  const found = document.evaluate(path, document, null, XPathResult.ORDERED_NODE_SNAPSHOT_TYPE, null);
  return Array.from({ length: found.snapshotLength }, (_, index) => found.snapshotItem(index));
}
"""
"""What a person can see, looked for in the page itself: one question instead of one for each element."""
WATCH = """
const what = arguments[0], done = arguments[1];
const find = () => { %s };
let found = find(), asked = false;
if (found) done(found);
else {
  const end = (answer) => { watcher.disconnect(); clearInterval(clock); clearTimeout(last); done(answer); };
  const look = () => { asked = false; found = find(); if (found) end(found); };
  const watcher = new MutationObserver(() => { if (!asked) { asked = true; requestAnimationFrame(look); } });
  watcher.observe(document, { subtree: true, childList: true, attributes: true, characterData: true });
  const clock = setInterval(look, 100), last = setTimeout(() => end(null), 2000);
}
"""
"""Looks until it is there, at each change of the page and now and then: what fades in changes nothing. Gives up, to be asked again."""


CELL = """
const [column, row] = what.split("|");
for (const grid of document.querySelectorAll("[role=grid]")) {
  const named = (role, name) => [...grid.querySelectorAll(`[role=${role}]`)].find(({ innerText }) => innerText.trim().startsWith(name));
  const line = named("rowheader", row)?.parentElement;
  const head = named("columnheader", column);
  if (line && head) return line.querySelector(`[aria-colindex="${head.getAttribute("aria-colindex")}"]`);
  if (line) grid.scrollLeft = grid.scrollLeft + grid.clientWidth < grid.scrollWidth ? grid.scrollLeft + 150 : 0;
}
return null;
"""
"""A cell of a grid; columns that are not drawn are scrolled to."""


class Studio:
    """A browser and the address of a server."""

    engine: Engine

    def __init__(self, driver: WebDriver, base: str) -> None:
        self.driver = driver
        self.base = base

    def until(self, what: Callable[[WebDriver], Found], why: str = "") -> Found:
        waiting = WebDriverWait(self.driver, 60, 0.1, (StopIteration, WebDriverException))
        try:
            return waiting.until(what, why)
        except TimeoutException:
            if "FAILED_SHOTS" in os.environ:
                self.driver.save_screenshot(f"{os.environ['FAILED_SHOTS']}/{why[:30].replace('/', '_')}.png")
            raise

    def open(self, path: str) -> None:
        self.driver.get(self.base + path)

    def sign_in(self, place: int = 0) -> None:
        self.open("/studio/")
        email, _, password, _ = PEOPLE[place]
        self.css("input[name=email]").send_keys(email)
        self.css("input[name=password]").send_keys(password, Keys.ENTER)
        self.css("header nav[aria-label=Stages]")

    def css(self, selector: str) -> WebElement:
        find = "return [...document.querySelectorAll(what)].find(shown) ?? null"
        return self._look(find, selector, selector)

    def _look(self, script: str, what: str, why: str) -> WebElement:
        found: WebElement = self.until(lambda d: d.execute_async_script(SHOWN + WATCH % script, what), why)
        return found

    def text(self, words: str, tag: str = "*") -> WebElement:
        """The innermost thing shown that says these words."""
        quoted = f'"{words}"'
        path = f"//{tag}[contains(normalize-space(.), {quoted}) and not(.//*[contains(normalize-space(.), {quoted})])]"
        return self._look("return byPath(what).find(shown) ?? null", path, words)

    def gone(self, selector: str) -> None:
        self.until(lambda d: not d.find_elements(By.CSS_SELECTOR, selector), f"{selector} is still there")

    def button(self, words: str) -> WebElement:
        quoted = f'"{words}"'
        path = (
            f"//*[self::button or @role='tab' or @role='menuitem'][normalize-space(.)={quoted} or @aria-label={quoted}]"
        )
        find = "return byPath(what).find((e) => shown(e) && !e.matches(':disabled')) ?? null"
        return self._look(find, path, words)

    def press(self, words: str) -> None:
        self.until(lambda _: self.button(words).click() is None, words)

    def field(self, label: str) -> WebElement:
        """The control with a label."""
        quoted = f'"{label}"'
        path = (
            f"//*[@id=(//label[starts-with(normalize-space(.), {quoted})]/@for)] | //*[@aria-label={quoted}]"
            f" | //label[starts-with(normalize-space(.), {quoted})]//*[self::input or self::select or self::textarea]"
        )

        find = """
            const found = byPath(what).filter(shown);
            return found.find((e) => e.parentElement?.closest("[data-floating]")) ?? found[0] ?? null;
        """
        return self._look(find, path, label)

    def type(self, label: str, words: str, end: str = Keys.TAB) -> None:
        box = self.field(label)
        box.click()
        box.send_keys(Keys.CONTROL, "a")
        box.send_keys(words + end)

    def cell(self, column: str, row: str) -> WebElement:
        """The cell of a grid under a column and in a row, both by what is written there; it is scrolled to."""
        names = f"{column}|{row}"
        return self._look(CELL, names, f"a cell {column} of {row}")

    def shown_in(self, column: str, row: str, words: str) -> None:
        self.until(lambda _: self.cell(column, row).text == words, f"{column} of {row} is {words}")

    def type_over(self, column: str, row: str, words: str, end: str = Keys.TAB) -> None:
        """Types over a cell of a grid."""
        self.driver.execute_script("arguments[0].focus()", self.cell(column, row))
        self.keys(words, end)

    def paste(self, text: str) -> None:
        """Pastes where the focus is, as a spreadsheet would have it."""
        self.driver.execute_script(
            "const held = new DataTransfer(); held.setData('text/plain', arguments[0]); document.activeElement.dispatchEvent("
            "new ClipboardEvent('paste', { clipboardData: held, bubbles: true, cancelable: true }))",
            text,
        )

    def choose(self, label: str, words: str) -> None:
        def pick(_: WebDriver) -> bool:
            box = self.field(label)
            box.find_element(By.XPATH, f'.//option[normalize-space(.)="{words}"]').click()
            return True

        self.until(pick, f"{label}: {words}")

    def saved(self) -> None:
        self.until(
            lambda d: any(
                "saved" in e.text and "not saved" not in e.text
                for e in d.find_elements(By.CSS_SELECTOR, "[role=status]")
            ),
            "saved",
        )

    def keys(self, *keys: str) -> None:
        ActionChains(self.driver).send_keys(*keys).perform()

    def chord(self, modifier: str, key: str) -> None:
        ActionChains(self.driver).key_down(modifier).send_keys(key).key_up(modifier).perform()

    def focused(self) -> str:
        """What has the focus, in words."""
        return str(
            self.driver.execute_script(
                "const e = document.activeElement; return e === document.body || e.tagName === 'MAIN' ? '' : (e.getAttribute('aria-label') || e.innerText || e.name || e.placeholder || '').trim()"
            )
        )

    def tab_to(self, words: str, most: int = 90, back: bool = False) -> None:
        """Press Tab until something with these words has the focus."""
        for _ in range(most):
            if words in self.focused():
                return
            if back:
                self.chord(Keys.SHIFT, Keys.TAB)
            else:
                self.keys(Keys.TAB)
        raise AssertionError(f"Tab never came to {words!r}")

    def proof(self, read: Callable[[], Found]) -> Found:
        """Look into the proof."""

        def look(driver: WebDriver) -> Found:
            frame = next(
                e for e in driver.find_elements(By.CSS_SELECTOR, "iframe[title^='The page as']") if e.is_displayed()
            )
            driver.switch_to.frame(frame)
            try:
                return read()
            finally:
                driver.switch_to.default_content()

        return self.until(look, "the proof")

    def proof_says(self, words: str) -> None:
        self.proof(lambda: words in self.driver.find_element(By.TAG_NAME, "main").text or None)

    def axe(self) -> list[str]:
        """Findings of axe on the page as it is, once nothing fades in or out of it any more; what begins to meanwhile is there at once."""
        moving = "return document.getAnimations().some(a => a.playState === 'running' && a.effect.getComputedTiming().iterations !== Infinity)"
        self.until(lambda d: not d.execute_script(moving), "nothing moves")
        if not self.driver.execute_script("return 'axe' in window"):
            self.driver.execute_script(AXE.read_text())
        found: list[dict[str, Any]] = self.driver.execute_async_script(
            "const done = arguments[0]; const still = new CSSStyleSheet(); const before = document.adoptedStyleSheets;"
            "still.replaceSync('*, ::before, ::after { transition: none !important; animation: none !important }');"
            "document.adoptedStyleSheets = [...before, still];"
            "axe.run(document, {iframes: false, resultTypes: ['violations']})"
            ".then(r => { document.adoptedStyleSheets = [...before]; done(r.violations); })"
        )
        return [
            f"{finding['id']}: {finding['nodes'][0]['html'][:160]} {finding['nodes'][0].get('failureSummary', '')[:160]}"
            for finding in found
        ]

    def complaints(self) -> list[str]:
        """What the browser's console complained of, but for refusals that were meant."""
        logged = self.driver.get_log("browser")  # type: ignore[no-untyped-call]
        return [
            entry["message"]
            for entry in logged
            if entry["level"] == "SEVERE" and "Failed to load resource" not in entry["message"]
        ]
