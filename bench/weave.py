"""How long a frame takes while 200 fields by all surfaces scroll in the weave, against one in which nothing moves."""

from __future__ import annotations

import statistics
import sys
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
from young_fabric.store.repos import definitions as stored
from young_fabric.web.app import create_app

FIELDS, MOST = 200, 2.1
SIGN_IN = """
const [email, password, done] = arguments;
fetch("/api/session").then(r => r.json()).then(({ csrf }) => fetch("/api/session", { method: "POST",
  headers: { "Content-Type": "application/json", "X-CSRF-Token": csrf }, body: JSON.stringify({ email, password }) })).then(r => done(r.status));
"""
FRAMES = """
const [scrolls, done] = arguments, box = document.querySelector("table.weave").parentElement, times = [];
let last = performance.now(), left = 90;
function frame(now) {
  times.push(now - last);
  last = now;
  if (scrolls) box.scrollTop += 60;
  if (left-- > 0) requestAnimationFrame(frame);
  else done(times.slice(5).sort((a, b) => a - b)[Math.floor((times.length - 5) / 2)]);
}
box.scrollTop = 0;
requestAnimationFrame(frame);
"""


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


def crowd(engine: Engine, sessions: object) -> None:
    """Two hundred fields on the type easels."""
    seed(engine, 50)
    with sessions() as session:  # type: ignore[operator]
        work = work_on(session)
        keys = [definitions.create(work, "field", f"Measure {number:03}", {}).thing.key for number in range(FIELDS)]
        section = {"key": "a", "name": "All", "fields": keys}
        made = definitions.create(work, "field_set", "A crowd", {"sections": [section]})
        row = stored.get(session, "product_type", "easels")
        assert row is not None
        definitions.change(work, "product_type", "easels", row.version, {"sets": [made.thing.key]})
        session.commit()


def run() -> bool:
    """Whether the weave scrolls without dropped frames."""
    with database() as (engine, sessions):
        crowd(engine, sessions)
        with served(engine) as address, chromium() as driver:
            driver.get(f"{address}/shop/")
            email, _, password, _ = PEOPLE[0]
            assert driver.execute_async_script(SIGN_IN, email, password) == 200
            driver.get(f"{address}/studio/present/weave?scope=type:easels")
            driver.implicitly_wait(20)
            driver.find_elements("css selector", "tr[data-mark]:nth-child(200)")
            pairs = [[driver.execute_async_script(FRAMES, scrolls) for scrolls in (False, True)] for _ in range(RUNS)]
    ratio = statistics.median(moving / still for still, moving in pairs)
    print(f"scrolling the weave, {FIELDS} fields: a frame takes {ratio:.2f} × one at rest (≤ {MOST})", file=sys.stdout)
    return bool(ratio <= MOST)
