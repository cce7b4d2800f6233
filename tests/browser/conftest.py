"""A server on a database of its own, and headless Chromium."""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path
from typing import Any

import pytest
from flask import Flask
from selenium import webdriver
from selenium.common.exceptions import WebDriverException
from selenium.webdriver.chrome.service import Service
from sqlalchemy import Engine, inspect, text
from werkzeug.serving import make_server
from werkzeug.wsgi import ClosingIterator

from tests.browser.studio import Studio
from tests.browser.worker import working
from tests.conftest import administer, copy_of_template, database_url
from young_fabric.config import Settings
from young_fabric.service.planning import plans
from young_fabric.store.base import make_engine
from young_fabric.web.app import create_app, wire

FLAGS = (
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--window-size=1280,800",
    "--lang=en",
)


class Whole:
    """An application whose answers are read before they are sent, with what is under way and what broke.

    The server leaves an answer unclosed when the browser goes elsewhere while a file is being sent.
    """

    def __init__(self, app: Flask) -> None:
        self._app, self._under_way, self._done = app, 0, threading.Condition()
        self.faults: list[Exception] = []
        handlers = app.error_handler_spec[None][None]
        answer_fault = handlers[Exception]

        def on_fault(error: Exception) -> Any:
            self.faults.append(error)
            return answer_fault(error)

        handlers[Exception] = on_fault

    def __call__(self, environ: dict[str, Any], start_response: Callable[..., Any]) -> Iterable[bytes]:
        with self._done:
            self._under_way += 1
        try:
            with contextlib.closing(ClosingIterator(self._app(environ, start_response))) as parts:
                return [b"".join(parts)]
        finally:
            with self._done:
                self._under_way -= 1
                self._done.notify_all()

    def begin(self, settings: Settings, engine: Engine) -> None:
        """Serve another database, with nothing known of the one before."""
        wire(self._app, settings, engine, None)
        self.faults.clear()

    def finish(self) -> None:
        """Wait for requests that were under way when the browser left; they use connections of the database's."""
        with self._done:
            assert self._done.wait_for(lambda: not self._under_way, 300), "a request does not end"


@contextlib.contextmanager
def serving(whole: Whole, name: str, files: Path) -> Iterator[tuple[str, Engine]]:
    """A server with a worker on a database, which is dropped in the end; gives its address and an engine.

    What broke in the server meanwhile is raised when it ends.
    """
    address = database_url(name).replace("postgresql+psycopg://", "postgresql://")
    engine = make_engine(database_url(name), 6)
    plans.set_back()
    whole.begin(settings_of(address, files), engine)
    running = make_server("127.0.0.1", 0, whole, threaded=True)
    thread = threading.Thread(target=running.serve_forever, daemon=True)
    thread.start()
    try:
        with working(address, files):
            yield f"http://127.0.0.1:{running.server_port}", engine
    finally:
        running.shutdown()
        thread.join()
        running.server_close()
        whole.finish()
        engine.dispose()
        administer(f"DROP DATABASE {name} WITH (FORCE)")
    if whole.faults:
        raise whole.faults[0]


def settings_of(address: str, files: Path) -> Settings:
    secret = "a-secret-for-tests-that-is-long-enough"
    return Settings(DATABASE_URL=address, secret=secret, files=files, sign_ins_per_minute=5000)  # type: ignore[arg-type]


@pytest.fixture(scope="session")
def whole(tmp_path_factory: pytest.TempPathFactory) -> Whole:
    """The worker's application."""
    return Whole(create_app(settings_of("postgresql://unused", tmp_path_factory.mktemp("whole"))))


class Browser:
    """One Chromium for all tests of a worker, as good as new for each: a test's server has an address of its own, and what is
    kept whatever the port is cleared."""

    def __init__(self, profiles: Path) -> None:
        self._profiles = profiles
        self._started = 0
        self._driver: webdriver.Chrome | None = None

    def _start(self) -> webdriver.Chrome:
        self._started += 1
        options = webdriver.ChromeOptions()
        for flag in (*FLAGS, f"--user-data-dir={self._profiles / str(self._started)}"):
            options.add_argument(flag)
        options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
        return webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))

    @contextlib.contextmanager
    def at(self, address: str) -> Iterator[Studio]:
        """The browser on an address, with nothing in it from before."""
        driver = self._driver = self._driver or self._start()
        driver.set_window_size(1280, 900)
        try:
            yield Studio(driver, address)
        finally:
            self._clear(driver)

    def _clear(self, driver: webdriver.Chrome) -> None:
        """Leave the page, so that nothing is asked any more, and forget all; one that can't is done with."""
        try:
            first, *others = driver.window_handles
            for handle in others:
                driver.switch_to.window(handle)
                driver.close()
            driver.switch_to.window(first)
            # A page that asks before it is left is put away with its tab.
            driver.switch_to.new_window("tab")
            fresh = driver.current_window_handle
            driver.switch_to.window(first)
            driver.execute_cdp_cmd("Page.close", {})
            driver.switch_to.window(fresh)
            for command in ("Network.clearBrowserCookies", "Network.clearBrowserCache"):
                driver.execute_cdp_cmd(command, {})
            driver.get_log("browser")  # type: ignore[no-untyped-call]
        except WebDriverException:
            self.quit()

    def quit(self) -> None:
        """Close it."""
        if self._driver is not None:
            with contextlib.suppress(WebDriverException):
                self._driver.quit()
            self._driver = None


@pytest.fixture(scope="session")
def browser(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Browser]:
    """The worker's browser."""
    made = Browser(tmp_path_factory.mktemp("chromium"))
    yield made
    made.quit()


@pytest.fixture
def studio(tmp_path: Path, browser: Browser, whole: Whole) -> Iterator[Studio]:
    """A browser on a studio with the demo, not signed in."""
    with serving(whole, copy_of_template("browser"), tmp_path) as (address, engine), browser.at(address) as at:
        at.engine = engine
        yield at


@pytest.fixture
def bare(tmp_path: Path, browser: Browser, whole: Whole) -> Iterator[Studio]:
    """The same on a shop with people and nothing else."""
    name = copy_of_template("bare")
    with serving(whole, name, tmp_path) as (address, engine):
        empty(engine)
        with browser.at(address) as at:
            yield at


def empty(engine: Engine) -> None:
    """Take away all but the shop and its people."""
    keep = {"shop", "person", "alembic_version"}
    with engine.begin() as connection:
        tables = [name for name in inspect(connection).get_table_names() if name not in keep and "procrast" not in name]
        connection.execute(text(f"TRUNCATE {', '.join(tables)} CASCADE"))
        connection.execute(text("UPDATE shop SET stamp = nextval('definitions_stamp')"))
    plans.set_back()
