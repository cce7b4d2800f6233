"""Requests a second of live pages under gunicorn at 100,000 products, each against a route that gives the same bytes from memory."""

from __future__ import annotations

import http.client
import os
import socket
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from itertools import cycle
from pathlib import Path
from threading import Thread
from urllib.parse import quote

from sqlalchemy import text

from base import database, work_on
from studio import with_collection
from young_fabric.demo.seed import seed
from young_fabric.service.releasing import release

LARGE, LEAST, LEAST_OF_LISTINGS = 100_000, 0.4, 0.3
CLIENTS, SECONDS, ROUNDS = 4, 2.0, 5
PAGES, LISTING_PAGES = 3_000, 200
"""So many product pages, and pages of listings, are asked for in turn; no process has any of them in its memory."""


def free_port() -> int:
    """A port nobody listens at."""
    with socket.socket() as found:
        found.bind(("127.0.0.1", 0))
        return int(found.getsockname()[1])


@contextmanager
def served(url: str, bodies: Path, files: Path, *, anew: bool) -> Iterator[int]:
    """The application under gunicorn with two workers, and beside its pages the same bytes from memory; with `anew` no process keeps
    a page."""
    port = free_port()
    environment = {
        **os.environ,
        "DATABASE_URL": url,
        "FABRIC_SECRET": "x" * 40,
        "FABRIC_FILES": str(files),
        "BENCH_BODIES": str(bodies),
        **({"BENCH_ANEW": "1"} if anew else {}),
    }
    command = [sys.executable, "-m", "gunicorn", "--workers", "2", "--threads", "4", "--bind", f"127.0.0.1:{port}"]
    command += ["--worker-class", "gthread", "--keep-alive", "30", "--log-level", "error", "shop_app:app"]
    place = Path(__file__).parent
    server = subprocess.Popen(command, cwd=place, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    try:
        for _ in range(200):
            try:
                ask(port, "/healthz")
                break
            except OSError:
                time.sleep(0.1)
        yield port
    finally:
        server.terminate()
        server.wait(20)


def ask(port: int, path: str) -> bytes:
    """One answer."""
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
    connection.request("GET", path)
    response = connection.getresponse()
    body = response.read()
    assert response.status == 200, (path, response.status)
    connection.close()
    return body


def rate(port: int, paths: list[str]) -> float:
    """Requests a second over some seconds, by several clients that each keep a connection."""
    done = [0] * CLIENTS
    stop = time.perf_counter() + SECONDS

    def run(client: int) -> None:
        connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
        for path in cycle(paths[client::CLIENTS] or paths):
            if time.perf_counter() > stop:
                break
            connection.request("GET", path)
            connection.getresponse().read()
            done[client] += 1
        connection.close()

    threads = [Thread(target=run, args=(client,)) for client in range(CLIENTS)]
    begun = time.perf_counter()
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return sum(done) / (time.perf_counter() - begun)


def run() -> bool:
    """Measure, print, and say whether the ratios are held."""
    with (
        database() as (engine, sessions),
        tempfile.TemporaryDirectory() as files,
        tempfile.TemporaryDirectory() as bodies,
    ):
        seed(engine, LARGE)
        with_collection(sessions)
        with sessions() as session:
            release.release(work_on(session), "all")
            session.commit()
            query = text("SELECT slug FROM product ORDER BY id LIMIT :most")
            slugs = [quote(slug) for slug in session.scalars(query, {"most": PAGES})]
        url = engine.url.render_as_string(hide_password=False).replace("postgresql+psycopg://", "postgresql://")
        asked = {
            "home page": (LEAST, ["/shop/"]),
            "a collection's first page": (LEAST, ["/shop/c/half"]),
            "its page 100": (LEAST, ["/shop/c/half?page=100"]),
            "one product page": (LEAST, [f"/shop/p/{slugs[0]}"]),
        }
        pages = [f"/shop/c/half?page={number}" for number in range(1, LISTING_PAGES + 1)]
        anew = {
            f"{PAGES:,} product pages in turn": (LEAST, [f"/shop/p/{slug}" for slug in slugs]),
            f"{LISTING_PAGES} listing pages in turn": (LEAST_OF_LISTINGS, pages),
        }
        print(f"shop: {LARGE:,} live products, gunicorn with 2 workers, requests a second")
        held = []
        for kept, rows in ((True, asked), (False, anew)):
            with served(url, Path(bodies), Path(files), anew=not kept) as port:
                held.append(measure(port, rows, Path(bodies)))
        return all(held)


def measure(port: int, asked: dict[str, tuple[float, list[str]]], bodies: Path) -> bool:
    """Each page against its own bytes, in turn, so that a slow moment is one for both."""
    held = True
    for name, (least, paths) in asked.items():
        first = in_turn(port, paths)
        body = ask(port, paths[0])
        (bodies / "body").write_bytes(body)
        pairs = []
        for _ in range(ROUNDS):
            page = rate(port, paths)
            pairs.append((page, rate(port, ["/bytes"])))
        page, still = (statistics.median(side) for side in zip(*pairs, strict=True))
        ratio = statistics.median(one / other for one, other in pairs)
        held = held and ratio >= least
        word = f"  (at least {least:.0%})" if ratio >= least else f"  missed: at least {least:.0%}"
        size = f"{len(body) // 1024:3} kB, the first time {first:5.0f} a second"
        print(f"  {name:32} {page:7.0f} of {still:7.0f}   {ratio:5.0%}   {size}{word}")
    return held


def in_turn(port: int, paths: list[str]) -> float:
    """Requests a second until each of some pages was asked for once, when nobody has made it yet."""

    def run(client: int) -> None:
        connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
        for path in paths[client::CLIENTS]:
            connection.request("GET", path)
            connection.getresponse().read()
        connection.close()

    threads = [Thread(target=run, args=(client,)) for client in range(CLIENTS)]
    begun = time.perf_counter()
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return len(paths) / (time.perf_counter() - begun)
