"""Every question the studio asks at 100,000 products, against its time at 1,000."""

from __future__ import annotations

import statistics
import tempfile
from collections.abc import Callable
from pathlib import Path

from flask.testing import FlaskClient
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from base import RUNS, database, timed, work_on
from young_fabric.config import Settings
from young_fabric.demo.load import PEOPLE
from young_fabric.demo.seed import seed
from young_fabric.service.defining import definitions
from young_fabric.service.long_work import job_runs
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.store.repos import jobs as rows
from young_fabric.web.app import create_app
from young_fabric.web.auth import CSRF_HEADER

SMALL, LARGE, MOST = 1_000, 100_000, 3


def client_of(engine: Engine, files: Path) -> tuple[FlaskClient, str]:
    """A client signed in as the first person, and its CSRF token."""
    settings = Settings(DATABASE_URL="postgresql://unused", secret="x" * 40, files=files)
    client = create_app(settings, engine, lambda _job: None).test_client()
    token = client.get("/api/session").get_json()["csrf"]
    email, _, password, _ = PEOPLE[0]
    body = {"email": email, "password": password}
    return client, client.post("/api/session", json=body, headers={CSRF_HEADER: token}).get_json()["csrf"]


def questions(client: FlaskClient, token: str, session: Session) -> dict[str, Callable[[], object]]:
    """Name → asking it."""
    middle = session.execute(text("SELECT id, title, sku FROM product ORDER BY id OFFSET 500 LIMIT 1")).one()
    gtin = (
        session.scalar(text("SELECT fields ->> 'gtin' FROM product WHERE fields ? 'gtin' LIMIT 1")) or "4006381333931"
    )
    weight = client.get("/api/fields/ss_paper_weight").get_json()
    narrower = {"changes": {"limits": {"max": "500"}}}

    def get(path: str) -> Callable[[], object]:
        def ask() -> object:
            response = client.get(path)
            assert response.status_code == 200, (path, response.status_code)
            return response.data

        return ask

    def consequences() -> object:
        response = client.post(
            f"/api/fields/{weight['thing']['key']}/consequences", json=narrower, headers={CSRF_HEADER: token}
        )
        assert response.status_code == 200, response.data
        return response.data

    def condition() -> object:
        wanted = {"condition": {"all": [{"field": "price", "op": "lt", "value": "100"}]}, "collection": "half"}
        response = client.post("/api/conditions/matches", json=wanted, headers={CSRF_HEADER: token})
        assert response.status_code == 200, response.data
        return response.data

    return {
        "products": get("/api/products"),
        "products of a type": get("/api/products?type=paper"),
        "products with gaps": get("/api/products?gaps=true"),
        "products lacking": get("/api/products?lacking=ss_fibre"),
        "products wrong": get("/api/products?wrong=ss_paper_weight"),
        "found by part of a title": get(f"/api/products?q={middle.title[3:12].replace(' ', '%20')}"),
        "found by SKU": get(f"/api/products?q={middle.sku}"),
        "found by GTIN": get(f"/api/products?q={gtin}"),
        "found by nothing there is": get("/api/products?q=zzqqxx"),
        "find or do": get("/api/find?q=heron"),
        "one product": get(f"/api/products/{middle.id}"),
        "counts": get("/api/counts"),
        "weave": get("/api/weave?scope=shop"),
        "fields": get("/api/fields"),
        "product types": get("/api/product_types"),
        "what will change": get("/api/pending"),
        "checks": get("/api/checks"),
        "history": get("/api/changes"),
        "jobs": get("/api/jobs"),
        "collections": get("/api/collections"),
        "members of a collection": get("/api/collections/half/members"),
        "what a collection does": get("/api/collections/half/effect"),
        "a slice of a condition": condition,
        "consequences of a limit": consequences,
    }


def with_collection(sessions: Callable[[], Session]) -> None:
    """A collection of about half of the products, gathered."""
    types = {"field": "type", "op": "any_of", "value": ["paint", "paper", "brushes"]}
    with sessions() as session:
        definitions.create(work_on(session), "collection", "Half", {"condition": types, "slug": "half"})
        session.commit()
    with sessions() as session:
        waiting = [job.id for job in rows.open_of(session, "memberships")]
    for number in waiting:
        assert job_runs.run(sessions, number) == "done"


def measured(count: int) -> dict[str, float]:
    """Seconds of each question with a number of products, a few of them changed since the release."""
    with database() as (engine, sessions), tempfile.TemporaryDirectory() as files:
        seed(engine, count)
        with_collection(sessions)
        with sessions() as session:
            release.release(work_on(session), "all")
            session.commit()
        with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
            connection.execute(text("VACUUM ANALYZE"))
        with sessions() as session:
            for number in session.scalars(text("SELECT id FROM product ORDER BY id LIMIT 20")).all():
                products.fill(work_on(session), number, None, {"price": "7.77"})
            session.commit()
        client, token = client_of(engine, Path(files))
        with sessions() as session:
            asked = questions(client, token, session)
        for ask in asked.values():
            ask()
        return {name: statistics.median(timed(ask) for _ in range(RUNS)) for name, ask in asked.items()}


def run() -> bool:
    """Measure, print, and say whether the ratios are held."""
    small, large = measured(SMALL), measured(LARGE)
    print(f"studio: {LARGE:,} products against {SMALL:,} (at most {MOST} ×)")
    missed = 0
    for name, seconds in large.items():
        ratio = seconds / small[name]
        missed += ratio > MOST
        print(
            f"  {name:28} {small[name] * 1000:8.1f} ms {seconds * 1000:8.1f} ms   {ratio:5.2f} ×{'  missed' if ratio > MOST else ''}"
        )
    return missed == 0
