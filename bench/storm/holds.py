"""What must hold when the storm is over."""

from __future__ import annotations

import hashlib
import re
from collections import Counter, defaultdict
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path
from typing import Any

from book import Book
from sqlalchemy import text

from shop import actor
from young_fabric.core.display.surfaces import listed_surface
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.planning import plans
from young_fabric.service.releasing import differing
from young_fabric.service.releasing.holding import HoldingBack
from young_fabric.service.values import recount
from young_fabric.store.base import make_engine, make_sessions
from young_fabric.store.repos import listings, products

BATCH = 200
Findings = Iterator[str]


def acknowledged(work: Work, book: Book) -> Findings:
    """Every write that was answered is recorded."""
    there = {(row[0], row[1], row[2]) for row in work.session.execute(text("SELECT noun, key, version FROM change"))}
    for (noun, key, version), what in book.writes.items():
        if (noun, key, version) not in there:
            yield f"lost write: {noun} {key} version {version} ({what})"


def ordered(work: Work, book: Book, files: Path) -> Findings:
    """Every order that was answered is there, and every order's document is a file."""

    rows = {row[0]: row[1] for row in work.session.execute(text("SELECT token, number FROM shop_order"))}
    for address in book.orders:
        token = address.rsplit("/", 1)[1]
        if hashlib.sha256(token.encode()).hexdigest() not in rows:
            yield f"lost order: {address}"
    written = {path.stem for path in (files / "orders").rglob("*.json")}
    for number in rows.values():
        if str(number) not in written:
            yield f"order {number} has no document"
    for name in sorted(written - {str(number) for number in rows.values()}):
        yield f"the document of order {name} is of none"


def stocks(work: Work) -> Findings:
    """What is left is what came in less what was sold, of all that was counted throughout."""
    sold: Counter[tuple[str, str]] = Counter()
    for document in work.session.scalars(text("SELECT document FROM shop_order")):
        for line in document["lines"]:
            product, variant = str(line["product"]["id"]), line.get("variant")
            key = ("variant_stock", f"{product}/{variant}") if variant else ("stock", product)
            sold[key] += line["quantity"]
    amounts: dict[tuple[str, str], list[tuple[Any, Any]]] = defaultdict(list)
    rows = work.session.execute(
        text(
            "SELECT noun, key, patch, at < coalesce((SELECT min(placed_at) FROM shop_order), now()) FROM change "
            "WHERE noun IN ('stock', 'variant_stock') ORDER BY id"
        )
    )
    for noun, key, patch, before_all in rows:
        amount = patch["in"].get("amount", {})
        # What began to be counted in between was sold uncounted before.
        if before_all or (noun, key) in amounts:
            amounts[noun, key].append((amount.get("was"), amount.get("is")))
    now = {("stock", str(row[0])): row[1] for row in work.session.execute(text("SELECT product_id, amount FROM stock"))}
    of_variants = text(
        "SELECT v.former_product, v.id, s.amount FROM variant_stock AS s JOIN variant AS v ON v.id = s.variant_id"
    )
    now |= {("variant_stock", f"{row[0]}/{row[1]}"): row[2] for row in work.session.execute(of_variants)}
    for key, steps in amounts.items():
        if key not in now or any(None in step for step in steps[1:]) or steps[0][1] is None or now[key] is None:
            continue
        gone = sum(before[1] - after[0] for before, after in pairwise(steps)) + steps[-1][1] - now[key]
        if gone != sold[key]:
            yield f"{key}: {gone} pieces went, {sold[key]} were sold"
        if now[key] < 0:
            yield f"{key}: {now[key]} are left"


def counts(work: Work) -> Findings:
    """What is kept beside products is what it deserves to be."""
    yield from recount.recount(work.session)
    work.session.rollback()


def told(work: Work) -> Findings:
    """Every job has ended, and a release job is done exactly if its release is there."""
    made = {row[0] for row in work.session.execute(text("SELECT job_id FROM release WHERE job_id IS NOT NULL"))}
    for row in work.session.execute(text("SELECT id, kind, state, result FROM job ORDER BY id")):
        if row[2] in ("waiting", "running"):
            yield f"job {row[0]} ({row[1]}) is {row[2]} for ever"
        if row[1] == "release" and (row[0] in made) != (row[2] == "done"):
            yield f"release job {row[0]} is told {row[2]}, its release is {'there' if row[0] in made else 'not there'}"
        if row[2] == "failed" and row[3].get("code") == "fault":
            yield f"job {row[0]} ({row[1]}) broke: {row[3]}"


def rendered(work: Work) -> Findings:
    """What is live is what the draft renders, product by product, once all is released; but for what is held back."""
    draft = plans.draft_of(work.session)
    holding = HoldingBack(work.session, draft.assessor, draft.showing.offers)
    last = 0
    while ids := products.ids_after(work.session, last, BATCH):
        found = [record.product for record in products.get(work.session, ids).values()]
        held = holding.reasons([product for product in found if product.offered])
        differ = differing.surfaces_of(work, draft.plans, ids, found)
        for number, surfaces in differ.items():
            if surfaces and number not in held:
                yield f"product {number} is live otherwise than it renders on {', '.join(surfaces)}"
        last = ids[-1]
    gone = work.session.scalars(
        text(
            "SELECT DISTINCT subject_id FROM live_document WHERE until IS NULL AND subject = 'product' "
            "AND subject_id::int NOT IN (SELECT id FROM product)"
        )
    )
    for number in gone:
        yield f"product {number} is removed and live"
    for listing, number, card in listings.without_documents(work.session, listed_surface().code):
        yield f"card {card!r} of product {number} stands on {listing}, and there is none"


PATHS = (
    "/shop/",
    "/shop/c/sketchbooks",
    "/shop/c/paint",
    "/api/products",
    "/api/counts",
    "/api/fields",
    "/api/option_sets",
)


def alike(clients: list[Any], work: Work) -> Findings:
    """Both web processes say the same."""
    slugs = work.session.scalars(
        text(
            "SELECT address FROM live_document WHERE until IS NULL AND surface = 'product_page' ORDER BY id DESC LIMIT 20"
        )
    )
    for path in [*PATHS, *(f"/shop/p/{slug}" for slug in slugs)]:
        first, second = (re.sub(r"[0-9a-f]{12}", "", client.send("GET", path).text) for client in clients)
        if first != second:
            yield f"two web processes differ at {path}"


def check(url: str, book: Book, files: Path, clients: list[Any]) -> None:
    """Hold all of it, and note what does not."""
    engine = make_engine(url.replace("postgresql://", "postgresql+psycopg://"), 4)
    sessions = make_sessions(engine)
    plans.forget()
    with sessions() as session:
        rosa = actor(session)
    for name, held in (
        ("acknowledged", lambda work: acknowledged(work, book)),
        ("orders", lambda work: ordered(work, book, files)),
        ("stock", stocks),
        ("counts", counts),
        ("jobs", told),
        ("live", rendered),
        ("both", lambda work: alike(clients, work)),
    ):
        with unit_of_work(sessions, rosa) as work:
            found = list(held(work))
        print(f"  {name:14} {'holds' if not found else f'{len(found)} findings'}", flush=True)
        for words in found[:15]:
            book.find(words)
    engine.dispose()
