"""What open studios take from the shop: pages a second while 200 of them ask what is new, against none of them, gunicorn with two
workers."""

from __future__ import annotations

import http.client
import json
import statistics
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from threading import Event, Thread
from urllib.parse import quote

from flask import Flask
from flask.sessions import SecureCookieSessionInterface
from sqlalchemy import select, text
from sqlalchemy.orm import Session

from base import database, work_on
from shop import ROUNDS, rate, served
from young_fabric.demo.seed import seed
from young_fabric.service.acting import people
from young_fabric.service.releasing import release
from young_fabric.store.tables import PersonRow

PRODUCTS, STUDIOS, EVERY, LEAST = 500, 200, 1.5, 0.85
ASKERS = 4


def signed_in(session: Session) -> dict[str, str]:
    """The headers of a browser in which somebody is signed in."""
    person = session.scalars(select(PersonRow).order_by(PersonRow.id).limit(1)).one()
    token = people.begin_session(session, person, "bench", datetime.now(UTC))
    session.commit()
    app = Flask("signs")
    app.secret_key = "x" * 40
    signs = SecureCookieSessionInterface().get_signing_serializer(app)
    assert signs is not None
    cookie = signs.dumps({"_user_id": token, "_fresh": True, "csrf": "bench"})
    return {"Cookie": f"young_fabric={cookie}", "X-CSRF-Token": "bench", "Content-Type": "application/json"}


@contextmanager
def studios(port: int, headers: dict[str, str]) -> Iterator[list[float]]:
    """So many studios that ask every EVERY seconds, each with a thing open; gives how long each answer took, in seconds."""
    stop, took = Event(), list[float]()

    def ask(asker: int) -> None:
        connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
        marks: dict[int, int | None] = {}
        at = time.perf_counter()
        while not stop.is_set():
            for studio in range(asker, STUDIOS, ASKERS):
                window = f"{studio:08x}"
                body = {"window": window, "noun": "product", "key": str(studio % 50 + 1), "since": marks.get(studio)}
                begun = time.perf_counter()
                connection.request("POST", "/api/news", json.dumps(body), headers)
                answer = connection.getresponse()
                found = json.loads(answer.read())
                assert answer.status == 200, found
                took.append(time.perf_counter() - begun)
                marks[studio] = found["mark"]
                at += EVERY / STUDIOS * ASKERS
                if stop.wait(max(0.0, at - time.perf_counter())):
                    break
        connection.close()

    threads = [Thread(target=ask, args=(asker,)) for asker in range(ASKERS)]
    for thread in threads:
        thread.start()
    try:
        yield took
    finally:
        stop.set()
        for thread in threads:
            thread.join()


def run() -> bool:
    """Measure, print, and say whether the ratio is held."""
    with (
        database() as (engine, sessions),
        tempfile.TemporaryDirectory() as files,
        tempfile.TemporaryDirectory() as bodies,
    ):
        seed(engine, PRODUCTS)
        with sessions() as session:
            release.release(work_on(session), "all")
            session.commit()
            slugs = [quote(slug) for slug in session.scalars(text("SELECT slug FROM product ORDER BY id"))]
            headers = signed_in(session)
        url = engine.url.render_as_string(hide_password=False).replace("postgresql+psycopg://", "postgresql://")
        paths = [f"/shop/p/{slug}" for slug in slugs]
        with served(url, Path(bodies), Path(files), anew=False) as port:
            rate(port, paths)
            pairs, answers = [], list[float]()
            for _ in range(ROUNDS):
                alone = rate(port, paths)
                with studios(port, headers) as took:
                    pairs.append((rate(port, paths), alone))
                answers += took
        beside, alone = (statistics.median(side) for side in zip(*pairs, strict=True))
        ratio = statistics.median(one / other for one, other in pairs)
        word = f"(at least {LEAST:.0%})" if ratio >= LEAST else f"missed: at least {LEAST:.0%}"
        print(f"news: {STUDIOS} open studios, each asking every {EVERY} s, beside product pages")
        print(f"  pages a second {beside:7.0f} of {alone:7.0f}   {ratio:5.0%}   {word}")
        print(f"  {len(answers):,} answers, half of them within {statistics.median(answers) * 1000:.1f} ms")
        return ratio >= LEAST
