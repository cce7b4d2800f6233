"""The worker or the web killed by force while they work: what was acknowledged stands, nothing waits for ever."""

from __future__ import annotations

import contextlib
import http.client
import http.cookiejar
import json
import os
import signal
import socket
import subprocess
import sys
import threading
import time
import urllib.request
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from young_fabric.core.pages.document import from_json
from young_fabric.demo.load import PEOPLE
from young_fabric.jobs.queue import asker
from young_fabric.service.acting.actors import Actor
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.long_work import job_runs, jobs
from young_fabric.service.products import products
from young_fabric.store.repos import releases
from young_fabric.web.auth import CSRF_HEADER

Sessions = Callable[[], Session]
LONGEST = 120
"""Seconds after which what never comes is given up; nothing is measured by it."""


def until(found: Callable[[], Any], why: str) -> Any:
    """What is found sooner or later."""
    end = time.monotonic() + LONGEST
    while time.monotonic() < end:
        value = found()
        if value:
            return value
        time.sleep(0.05)
    raise AssertionError(why)


def address_of(engine: Engine) -> str:
    return engine.url.render_as_string(hide_password=False).replace("postgresql+psycopg://", "postgresql://")


@contextlib.contextmanager
def process(engine: Engine, files: Path, *args: str) -> Iterator[subprocess.Popen[bytes]]:
    """A process of ours on a database, in a group of its own."""
    env = {**os.environ, "DATABASE_URL": address_of(engine), "FABRIC_FILES": str(files)}
    env |= {"FABRIC_SECRET": "a-secret-for-tests-that-is-long-enough", "FABRIC_SIGN_INS_PER_MINUTE": "500"}
    command = [sys.executable, "-m", "young_fabric.cli", *args]
    running = subprocess.Popen(
        command, env=env, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, start_new_session=True
    )
    try:
        yield running
    finally:
        kill(running)


def kill(running: subprocess.Popen[bytes]) -> None:
    with contextlib.suppress(ProcessLookupError):
        os.killpg(running.pid, signal.SIGKILL)
    running.wait(LONGEST)


def look_a_minute_later(shop: Sessions) -> None:
    """What the watch of another worker does a minute on, with what it hands over."""
    handed: list[int] = []
    jobs.keep_watch(shop, handed.append, lambda: datetime.now(UTC) + timedelta(minutes=1))
    for job_id in handed:
        job_runs.run(shop, job_id)


def state_of(shop: Sessions, rosa: Actor, job_id: int) -> jobs.Job:
    with unit_of_work(shop, rosa) as work:
        return jobs.get(work, job_id)


@pytest.mark.parametrize(
    ("held", "where"),
    [("job", "as it is taken"), ("live_document", "while it renders"), ("release", "before it switches")],
)
def test_a_worker_killed_leaves_a_release_that_is_made_or_can_be(
    own_engine: Engine, shop: Sessions, rosa: Actor, tmp_path: Path, held: str, where: str
) -> None:
    with unit_of_work(shop, rosa) as work:
        groyne = products.search(work, products.Filters(words="Groyne Studio"), None).rows[0].product
        products.fill(work, groyne.id, None, {"price": "77.70"})
    with unit_of_work(shop, rosa) as work:
        number = jobs.ask_for(work, "release", {"note": where}).id
    with (
        own_engine.connect() as holding,
        own_engine.connect() as looking,
        process(own_engine, tmp_path, "work") as worker,
    ):
        holding.execute(text(f"LOCK TABLE {held} IN SHARE MODE"))
        asker(address_of(own_engine))(number)
        waits = text(
            "SELECT count(*) FROM pg_locks WHERE relation = CAST(:held AS regclass) AND NOT granted"
            " AND database = (SELECT oid FROM pg_database WHERE datname = current_database())"
        )
        looking = looking.execution_options(isolation_level="AUTOCOMMIT")
        until(lambda: looking.scalar(waits, {"held": held}), f"the worker never came to {held}")
        kill(worker)
        holding.rollback()
        until(lambda: not others_at_work(looking), "what was killed went on")
    look_a_minute_later(shop)
    ended = state_of(shop, rosa, number)
    assert ended.state in ("done", "failed"), ended
    if ended.state == "failed":
        assert ended.result["code"] == "lost"
        with unit_of_work(shop, rosa) as work:
            again = jobs.ask_for(work, "release", {"note": "again"}).id
        assert job_runs.run(shop, again) == "done"
    with shop() as session:
        rows = {row.surface: row for row in releases.documents_of(session, "product", groyne.id)}
        entries = from_json(rows["product_page"].document).entries()
        assert next(entry.text for entry in entries if entry.field == "price") == "€77.70"


def others_at_work(looking: Any) -> int:
    """Backends of the database, but for the one that asks, that are in a transaction."""
    rows = "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND state <> 'idle' AND pid <> pg_backend_pid()"
    return int(looking.scalar(text(rows)))


class Browser:
    """A session over HTTP."""

    def __init__(self, base: str) -> None:
        jar = http.cookiejar.CookieJar()
        self.base, self.opener = base, urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))
        self.csrf = self.send("GET", "/api/session")["csrf"]
        email, _, password, _ = PEOPLE[0]
        self.csrf = self.send("POST", "/api/session", {"email": email, "password": password})["csrf"]

    def send(self, method: str, path: str, body: Any = None) -> Any:
        headers = {"Content-Type": "application/json", CSRF_HEADER: getattr(self, "csrf", "")}
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(self.base + path, data, headers, method=method)
        with self.opener.open(request, timeout=LONGEST) as response:
            return json.loads(response.read())


def free_port() -> int:
    with socket.socket() as listening:
        listening.bind(("127.0.0.1", 0))
        return int(listening.getsockname()[1])


def test_the_web_killed_loses_nothing_that_it_acknowledged(
    own_engine: Engine, shop: Sessions, rosa: Actor, tmp_path: Path
) -> None:
    port = free_port()
    base = f"http://127.0.0.1:{port}"
    with unit_of_work(shop, rosa) as work:
        chosen = [row.product.id for row in products.search(work, products.Filters(), None).rows[:4]]
    acknowledged: dict[int, int] = {}

    def write(product_id: int) -> None:
        with contextlib.suppress(OSError, ValueError, http.client.HTTPException):
            browser = Browser(base)
            version = browser.send("GET", f"/api/products/{product_id}")["version"]
            for step in range(1, 10_000):
                body = {"version": version, "values": {"price": f"{step}.50"}}
                version = browser.send("PATCH", f"/api/products/{product_id}", body)["version"]
                acknowledged[product_id] = step

    with process(own_engine, tmp_path, "run", "--port", str(port)) as web:
        until(lambda: answers(base), "the web never answered")
        asked = Browser(base).send("POST", "/api/releases", {"note": "while it dies"})
        writers = [threading.Thread(target=write, args=(product_id,)) for product_id in chosen]
        for writer in writers:
            writer.start()
        until(lambda: len(acknowledged) == 4 and min(acknowledged.values()) >= 5, "nothing was acknowledged")
        kill(web)
        for writer in writers:
            writer.join(LONGEST)
    with unit_of_work(shop, rosa) as work:
        for product_id, step in acknowledged.items():
            price = products.get(work, product_id).product.values["price"]
            assert price in (f"{step}.5", f"{step + 1}.5"), (product_id, step, price)
    look_a_minute_later(shop)
    assert state_of(shop, rosa, asked["id"]).state == "done"


def answers(base: str) -> bool:
    try:
        with urllib.request.urlopen(f"{base}/healthz", timeout=LONGEST) as response:
            return bool(response.status == 200)
    except OSError:
        return False
