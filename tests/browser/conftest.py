"""A server on a database of its own, and headless Chromium."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest
from selenium import webdriver
from selenium.webdriver.chrome.service import Service
from werkzeug.serving import make_server

from tests.browser.studio import Studio
from tests.conftest import administer, copy_of_template, database_url
from young_fabric.config import Settings
from young_fabric.service import plans
from young_fabric.store.base import make_engine
from young_fabric.web.app import create_app
from young_fabric.web.limits import limiter

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


@pytest.fixture
def server(tmp_path: Path) -> Iterator[str]:
    """The address of a server whose database is dropped after the test."""
    name = copy_of_template("browser")
    engine = make_engine(database_url(name), 6)
    plans.forget()
    address = database_url(name).replace("postgresql+psycopg://", "postgresql://")
    worker = subprocess.Popen(
        [sys.executable, "-m", "young_fabric.cli", "work"],
        env={**os.environ, "DATABASE_URL": address},
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    settings = Settings(
        DATABASE_URL=address, secret="a-secret-for-tests-that-is-long-enough", files=tmp_path, sign_ins_per_minute=50
    )  # type: ignore[arg-type]
    app = create_app(settings, engine)
    limiter.reset()
    running = make_server("127.0.0.1", 0, app, threaded=True)
    thread = threading.Thread(target=running.serve_forever, daemon=True)
    thread.start()
    yield f"http://127.0.0.1:{running.server_port}"
    worker.terminate()
    running.shutdown()
    thread.join()
    running.server_close()
    engine.dispose()
    worker.wait(20)
    administer(f"DROP DATABASE {name} WITH (FORCE)")


@pytest.fixture
def studio(server: str, tmp_path: Path) -> Iterator[Studio]:
    """A browser on the studio, not signed in."""
    options = webdriver.ChromeOptions()
    for flag in (*FLAGS, f"--user-data-dir={tmp_path / 'chrome'}"):
        options.add_argument(flag)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    driver.set_window_size(1280, 900)
    yield Studio(driver, server)
    driver.quit()
