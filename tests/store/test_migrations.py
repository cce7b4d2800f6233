"""Migrations: the database is what the tables say, and one of the first release comes over whole."""

from __future__ import annotations

import gzip
import json
import re
from collections.abc import Iterator
from pathlib import Path
from uuid import uuid4

import psycopg
import pytest
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import Engine, text

from tests.conftest import NOW, administer, database_url, person
from tests.web.conftest import Api
from young_fabric.config import Settings
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.releasing import pending, release
from young_fabric.service.values import recount
from young_fabric.store.base import Base, make_engine, make_sessions
from young_fabric.store.migrate import alembic_config, migrate
from young_fabric.web.app import create_app

FIRST = Path(__file__).parent / "first_release"


def ours(name: str | None, kind: str) -> bool:
    return not (kind == "table" and (name or "").startswith(("procrastinate", "alembic")))


def test_the_database_is_what_the_tables_say(own_engine: Engine) -> None:
    with own_engine.connect() as connection:
        options = {"include_name": lambda name, kind, _parents: ours(name, kind), "compare_server_default": True}
        context = MigrationContext.configure(connection, opts=options)
        found = compare_metadata(context, Base.metadata)
    assert [row for row in found if "_title_" not in str(row)] == []


def test_migrating_twice_does_nothing(own_engine: Engine) -> None:
    migrate(own_engine)
    migrate(own_engine)
    with own_engine.connect() as connection:
        assert connection.execute(text("SELECT version_num FROM alembic_version")).scalar_one() == "0021"


def test_a_step_that_can_not_be_taken_back_says_so(own_engine: Engine) -> None:
    config = alembic_config()
    with own_engine.connect() as connection:
        config.attributes["connection"] = connection
        with pytest.raises(RuntimeError, match="restore the copy"):
            command.downgrade(config, "0002")
        connection.rollback()


@pytest.fixture
def first_release() -> Iterator[Engine]:
    """The database that the first release left, brought up to date."""
    name = f"yf_first_{uuid4().hex[:8]}"
    administer(f"CREATE DATABASE {name}")
    with psycopg.connect(database_url(name).replace("+psycopg", ""), autocommit=True) as connection:
        connection.execute(gzip.decompress((FIRST / "database.sql.gz").read_bytes()))  # type: ignore[arg-type]
    engine = make_engine(database_url(name), 4)
    migrate(engine)
    plans.set_back()
    yield engine
    engine.dispose()
    administer(f"DROP DATABASE {name} WITH (FORCE)")


PRICELESS = "/proof/product/11"


def plain(html: str) -> str:
    """What a page says, shows and leads to: its text, pictures and links, without what it is marked up with, and without
    structured data, which say since what values are instead of how they look."""
    html = re.sub(r"<(script|svg|style)\b.*?</\1>", "", html, flags=re.DOTALL)
    html = re.sub(r'<p class="closer">.*?</p>', "", html, flags=re.DOTALL)
    html = re.sub(r'<(?:a|img)\b[^>]*?(?:href|src)="([^"]*)"[^>]*>', r" [\1] ", html)
    return " ".join(re.sub(r"<[^>]*>", " ", html).split())


def test_every_page_of_the_first_release_is_as_it_was(first_release: Engine, tmp_path: Path) -> None:
    kept = json.loads(gzip.decompress((FIRST / "pages.json.gz").read_bytes()))
    settings = Settings(  # type: ignore[call-arg]
        DATABASE_URL="postgresql://unused", secret="a" * 40, files=tmp_path, shop_address="http://localhost"
    )
    app = create_app(settings, first_release, lambda _job: None)
    rosa = Api(app.test_client()).sign_in(0)
    for path, html in kept["pages"].items():
        response = rosa.client.get(path)
        assert response.status_code == 200, path
        # Every page leads to the basket and to what was saved since then, products can be put into it, and what is listed
        # stands under a heading that is for the ear.
        html_now = re.sub(r'<h2 class="visually-hidden">[^<]*</h2>', "", response.get_data(as_text=True))
        made = plain(html_now)
        made = re.sub(
            r"\[/shop/saved\] Saved |\[/shop/basket\] Basket |((Sold out\. Choose another|This can&#39;t be ordered at the moment) )?How many (Sold out|Add to basket) ",
            "",
            made,
        )
        # Stock stood with the price then, so that a product without one told none.
        assert (made.replace("In stock ", "") if path == PRICELESS else made) == plain(html), path
    history = rosa.get("/api/changes")["changes"]
    names = ("id", "key", "name", "lines", "undone", "is_undo", "person")
    for row in history:
        row["lines"] = [line.removeprefix("Stock ") for line in row["lines"]]
    assert [[row[name] for name in names] for row in history] == [
        [row[name] for name in names] for row in kept["history"]["changes"]
    ]


def test_drafts_history_and_undo_of_the_first_release_come_over(first_release: Engine) -> None:
    with make_sessions(first_release)() as session:
        work = Work(session, person(session, 0), NOW)
        assert recount.recount(session) == []
        waiting = pending.pending(work)
        assert {(thing.noun, thing.key) for thing in waiting.things} == {
            ("display_setting", "type:watercolour/ss_tint/listing_card"),
            ("field", "ss_hair"),
            ("product", "15"),
        }
        assert history.history(work, "product", "15", None)[0].lines[0].startswith("Price")
        for noun, key in (("product", "15"), ("field", "ss_hair")):
            newest = next(row for row in history.history(work, noun, key, None) if not row.is_undo and not row.undone)
            history.undo(work, newest.id)
        hair = plans.draft(session).fields["ss_hair"]
        assert (hair.label, hair.help) == ("Tuft", "Feel it")
        made = release.release(work, "After the upgrade")
        assert made.counts.get("product_page", 0) == 63, "documents of an older format are made anew"
        first = products.search(work, products.Filters(), None).rows[0]
        products.fill(work, first.product.id, first.version, {"description": "As new"})
        made = release.release(work, "Once more")
        assert made.counts.get("product_page", 0) == 1, "and then only what differs"
        assert release.go_back(work, 2).back_to == 2
