"""How long frames take while grids scroll, against those in which nothing moves: 500 fields in the weave, 2,000 variants by 14 columns."""

from __future__ import annotations

import statistics
import tempfile
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.chrome.service import Service
from sqlalchemy import Engine
from werkzeug.serving import make_server

from base import RUNS, database, work_on
from young_fabric.config import Settings
from young_fabric.demo.load import PEOPLE
from young_fabric.demo.seed import seed
from young_fabric.service.defining import definitions
from young_fabric.service.products import products
from young_fabric.store.repos import definitions as stored
from young_fabric.web.app import create_app

FIELDS, OWN_FIELDS, MOST, LONG = 500, 2, 2.1, 50
SIGN_IN = """
const [email, password, done] = arguments;
fetch("/api/session").then(r => r.json()).then(({ csrf }) => fetch("/api/session", { method: "POST",
  headers: { "Content-Type": "application/json", "X-CSRF-Token": csrf }, body: JSON.stringify({ email, password }) })).then(r => done(r.status));
"""
FRAMES = """
const [scrolls, done] = arguments, box = document.querySelector("[role=grid]"), times = [];
let last = performance.now(), left = 120, way = 60;
function frame(now) {
  times.push(now - last);
  last = now;
  if (scrolls) {
    if (box.scrollTop + box.clientHeight >= box.scrollHeight - 1) way = -60;
    box.scrollTop += way;
    box.scrollLeft += times.length % 40 < 20 ? 15 : -15;
  }
  if (left-- > 0) return requestAnimationFrame(frame);
  const sorted = times.slice(5).sort((a, b) => a - b);
  done([sorted[Math.floor(sorted.length / 2)], sorted.filter((time) => time > LONG).length]);
}
box.scrollTop = 0;
requestAnimationFrame(frame);
""".replace("LONG", str(LONG))
"""Gives the median of so many frames, in milliseconds, and how many of them were long."""


@contextmanager
def served(engine: Engine) -> Iterator[str]:
    """The application on a free port; gives its address."""
    with tempfile.TemporaryDirectory() as files:
        settings = Settings(DATABASE_URL="postgresql://unused", secret="x" * 40, files=Path(files))
        server = make_server("127.0.0.1", 0, create_app(settings, engine, lambda _job: None), threaded=True)
        threading.Thread(target=server.serve_forever, daemon=True).start()
        try:
            yield f"http://127.0.0.1:{server.port}"
        finally:
            server.shutdown()


@contextmanager
def chromium() -> Iterator[webdriver.Chrome]:
    """A headless browser of 1280 × 800."""
    options = webdriver.ChromeOptions()
    for flag in ("--headless=new", "--no-sandbox", "--disable-gpu", "--window-size=1280,800"):
        options.add_argument(flag)
    driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    try:
        yield driver
    finally:
        driver.quit()


def crowd(engine: Engine, sessions: object) -> int:
    """Five hundred fields on the type easels, and a product with 2,000 variants, whose id is given."""
    seed(engine, 50)
    with sessions() as session:  # type: ignore[operator]
        work = work_on(session)
        keys = [definitions.create(work, "field", f"Measure {number:03}", {}).thing.key for number in range(FIELDS)]
        halves = [
            definitions.create(
                work, "field_set", f"A crowd {part}", {"sections": [{"key": "a", "name": "All", "fields": held}]}
            )
            for part, held in enumerate((keys[: FIELDS // 2], keys[FIELDS // 2 :]))
        ]
        row = stored.get(session, "product_type", "easels")
        assert row is not None
        definitions.change(work, "product_type", "easels", row.version, {"sets": [made.thing.key for made in halves]})
        for name in range(OWN_FIELDS):
            definitions.create(work, "field", f"Own {name}", {"kind": "text", "subject": "variant"})
        values = [{"code": f"v{number}", "label": f"V {number}"} for number in range(50)]
        options = [
            {"key": "colour", "name": "Colour", "values": values},
            {"key": "size", "name": "Size", "values": values[:40]},
        ]
        definitions.create(work, "option_set", "Bench", {"key": "bench", "options": options})
        definitions.create(work, "product_type", "Bench", {"key": "bench", "option_sets": ["bench"]})
        number = int(products.create(work, "bench", "Many").product.id)
        session.commit()
    return number


def scrolled(driver: webdriver.Chrome, name: str) -> bool:
    """Whether a grid that is open scrolls without dropped frames."""
    driver.execute_async_script(FRAMES, True)
    pairs = [[driver.execute_async_script(FRAMES, scrolls) for scrolls in (False, True)] for _ in range(RUNS)]
    ratio = statistics.median(moving[0] / still[0] for still, moving in pairs)
    longs = [statistics.median(pair[moves][1] for pair in pairs) for moves in (False, True)]
    rows, columns = (
        driver.execute_script(f"return document.querySelector('[role=grid]').{f'aria{of}Count'}")
        for of in ("Row", "Col")
    )
    print(
        f"scrolling {name}, {rows} rows x {columns} columns: a frame takes {ratio:.2f} x one at rest (<= {MOST}); over {LONG} ms:"
        f" {longs[1]:.0f} of 115 frames, {longs[0]:.0f} at rest (medians of {RUNS})"
    )
    return bool(ratio <= MOST and longs[1] <= longs[0])


def run() -> bool:
    """Whether the grids scroll without dropped frames."""
    with database() as (engine, sessions):
        number = crowd(engine, sessions)
        with served(engine) as address, chromium() as driver:
            driver.set_script_timeout(120)
            driver.get(f"{address}/shop/")
            email, _, password, _ = PEOPLE[0]
            assert driver.execute_async_script(SIGN_IN, email, password) == 200
            driver.implicitly_wait(60)
            good = []
            for name, view, row in (
                ("the weave", "present/weave?scope=type:easels", "[role=grid] [data-mark]"),
                ("variants", f"fill/products/{number}?part=variants", "[role=grid] [data-mark]"),
            ):
                driver.get(f"{address}/studio/{view}")
                assert driver.find_elements("css selector", row)
                good.append(scrolled(driver, name))
    return all(good)
