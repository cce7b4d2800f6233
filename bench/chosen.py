"""Requests a second of a product page with a hundred variants, against one without any, under gunicorn."""

from __future__ import annotations

import contextlib
import io
import statistics
import tempfile
import time
from pathlib import Path

from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from base import database, work_on
from shop import ROUNDS, ask, rate, served
from young_fabric.config import Settings
from young_fabric.demo.seed import seed
from young_fabric.service.defining import definitions
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.web.app import create_app
from young_fabric.web.shop.kept import KeptPages

COUNT, LEAST = 1_000, 0.6
COLOURS, SIZES = 20, 5


def two_products(session: Session) -> tuple[str, str]:
    """A live product that comes in a hundred variants, and one like it that comes as it is; gives their addresses."""
    work = work_on(session)
    values = [{"code": f"v{number}", "label": f"V {number}"} for number in range(COLOURS)]
    options = [
        {"key": "colour", "name": "Colour", "values": values},
        {"key": "size", "name": "Size", "values": values[:SIZES]},
    ]
    definitions.create(work, "option_set", "Bench", {"key": "bench", "options": options})
    definitions.create(
        work, "product_type", "Bench chosen", {"key": "chosen", "parent": "easels", "option_sets": ["bench"]}
    )
    for number, key in enumerate(("chosen", "easels")):
        product = products.create(work, key, f"Bench {number}").product
        products.fill(work, product.id, None, {"sku": f"BENCH-{number}", "price": "40"})
    session.commit()
    release.release(work, "all")
    session.commit()
    asked = text("SELECT slug FROM product WHERE sku LIKE 'BENCH-_' ORDER BY id")
    chosen, plain = session.scalars(asked)
    return chosen, plain


def run() -> bool:
    """Measure in turn, print, and say whether the ratio is held."""
    with (
        database() as (engine, sessions),
        tempfile.TemporaryDirectory() as files,
        tempfile.TemporaryDirectory() as bodies,
    ):
        seed(engine, COUNT)
        with sessions() as session:
            chosen, plain = two_products(session)
        url = engine.url.render_as_string(hide_password=False).replace("postgresql+psycopg://", "postgresql://")
        every = [
            f"/shop/p/{chosen}?colour=v{colour}&size=v{size}" for colour in range(COLOURS) for size in range(SIZES)
        ]
        held = [made_anew(engine, Path(files), every, f"/shop/p/{plain}")]
        with served(url, Path(bodies), Path(files), anew=False) as port:
            for path in every * 4:
                ask(port, path)
            held.append(measure(port, "nothing chosen", [f"/shop/p/{chosen}"], f"/shop/p/{plain}"))
            held.append(measure(port, "its hundred choices in turn", every, f"/shop/p/{plain}"))
        return all(held)


def made_anew(engine: Engine, files: Path, paths: list[str], plain: str) -> bool:
    """Pages that no one has asked for yet, each beside the one without variants, made anew as well."""
    settings = Settings(DATABASE_URL="postgresql://unused", secret="x" * 40, files=files)
    app = create_app(settings, engine, lambda _job: None)
    client = app.test_client()

    def fresh(path: str) -> float:
        app.extensions["kept_pages"] = KeptPages()
        with engine.begin() as connection:
            connection.execute(text("DELETE FROM kept_page"))
        begun = time.process_time()
        assert client.get(path).status_code == 200, path
        return time.process_time() - begun

    with contextlib.redirect_stdout(io.StringIO()):
        fresh(paths[0]), fresh(plain)
        pairs = [(fresh(path), fresh(plain)) for path in paths]
    page, other = (statistics.median(side) for side in zip(*pairs, strict=True))
    return report("each choice made anew", 1 / page, 1 / other, other / page)


def measure(port: int, name: str, paths: list[str], plain: str) -> bool:
    """The pages with variants against the one without, in turn, so that a slow moment is one for both."""
    pairs = [(rate(port, paths), rate(port, [plain])) for _ in range(ROUNDS)]
    page, other = (statistics.median(side) for side in zip(*pairs, strict=True))
    sizes = [len(ask(port, path)) // 1024 for path in (paths[0], plain)]
    return report(
        f"{name}, {sizes[0]} and {sizes[1]} kB",
        page,
        other,
        statistics.median(with_variants / without for with_variants, without in pairs),
    )


def report(name: str, page: float, other: float, ratio: float) -> bool:
    """Print what was measured in requests a second; whether it is enough."""
    word = "" if ratio >= LEAST else "  missed"
    print(
        f"chosen: a page with {COLOURS * SIZES} variants, {name}: {page:.0f} of {other:.0f} requests a second without any: {ratio:.0%} (>= {LEAST:.0%}){word}"
    )
    return ratio >= LEAST
