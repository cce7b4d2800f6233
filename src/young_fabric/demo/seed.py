"""Catalogues of any size out of the demo's sorts of goods, written by COPY; the same for the same seed."""

from __future__ import annotations

import json
import random
from collections.abc import Callable, Iterator
from typing import Any

from sqlalchemy import func, select, text
from sqlalchemy.engine import Engine
from sqlalchemy.orm import Session

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds.limits import UNIQUE
from young_fabric.core.nouns.fields.built_in import COLUMNS, DERIVED
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.values import FieldRules
from young_fabric.demo.catalogue import goods
from young_fabric.demo.load import define, lay_ground
from young_fabric.service.acting import people
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.planning import plans
from young_fabric.service.values import recount
from young_fabric.store.base import make_sessions
from young_fabric.store.repos import shop
from young_fabric.store.tables import PersonRow, PictureRow, ProductRow

WORDS = [
    "tideline",
    "estuary",
    "saltpan",
    "heron",
    "curlew",
    "samphire",
    "shingle",
    "groyne",
    "plover",
    "gannet",
    "driftline",
    "marram",
    "fenland",
    "barley",
    "harbour",
    "limpet",
    "kelp",
    "sandbar",
    "jetty",
    "spinnaker",
    "dinghy",
    "smack",
    "cordage",
    "oyster",
    "lantern",
]
_COLUMNS = "id, type_key, title, slug, sku, fields, unread, wrong, offered, hash, version"


def seed(engine: Engine, count: int, number: int = 1) -> str:
    """Add `count` products; the demo's definitions are laid first where there is no shop. Says what was done."""
    sessions = make_sessions(engine)
    with sessions() as session:
        if not shop.is_there(session):
            lay_ground(session)
            session.commit()
            person = session.scalars(select(PersonRow).order_by(PersonRow.id)).first()
            if person is None:
                raise RuntimeError("nobody was added")
            with unit_of_work(sessions, people.actor_of(person)) as work:
                define(work)
    with sessions() as session:
        _copy(session, count, number)
        session.commit()
    with sessions() as session:
        recount.recount(session)
        session.commit()
        total = session.scalar(select(func.count()).select_from(ProductRow))
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        connection.execute(text("ANALYZE"))
    return f"{count:,} products added, {total:,} in all."


def _copy(session: Session, count: int, number: int) -> None:
    defs = plans.draft(session)
    first = (session.scalar(select(func.max(ProductRow.id))) or 0) + 1
    shown = [
        {"file": row.file, "alt": "As sold", "width": row.width, "height": row.height}
        for row in session.scalars(select(PictureRow).order_by(PictureRow.file).limit(200))
    ]
    connection = session.connection().connection.driver_connection
    with connection.cursor() as cursor, cursor.copy(f"COPY product ({_COLUMNS}) FROM STDIN") as copy:  # type: ignore[union-attr]
        for row in _rows(defs, first, count, number, shown):
            copy.write_row(row)
    session.execute(text("SELECT setval(pg_get_serial_sequence('product', 'id'), (SELECT max(id) FROM product))"))
    session.execute(
        text(
            "INSERT INTO unreleased (noun, key, hash) SELECT 'product', id::text, hash FROM product WHERE id >= :first ON CONFLICT DO NOTHING"
        ),
        {"first": first},
    )


def _rows(
    defs: Definitions, first: int, count: int, number: int, shown: list[dict[str, Any]]
) -> Iterator[tuple[Any, ...]]:
    rng = random.Random(number)
    types = [product.type for product in goods()]
    for product_id in range(first, first + count):
        type_key = rng.choice(types)
        title = f"{rng.choice(WORDS).title()} {rng.choice(WORDS)} {defs.types[type_key].name.lower()} {product_id}"
        values = {"price": f"{rng.randrange(90, 30000) / 100:.2f}".rstrip("0").rstrip("."), "contents": _contents(rng)}
        for effective in defs.effective(type_key):
            key = effective.field.key
            if key not in {*COLUMNS, *values, *DERIVED} and rng.random() < 0.9:
                value = _value(effective.field, defs, rng, shown)
                if value is not None:
                    values[key] = value
        slug, sku = f"{title.lower().replace(' ', '-')}", f"S{number}-{product_id}"
        product = Product(product_id, type_key, {**values, "title": title, "slug": slug, "sku": sku})
        digest = content_hash(PRODUCT.state_of(product))
        yield product_id, type_key, title, slug, sku, json.dumps(values), "{}", "{}", True, digest, 1


def _contents(rng: random.Random) -> dict[str, Any]:
    return {"count": 1, "amount": str(rng.choice((5, 15, 30, 37, 60, 250))), "unit": "ml"}


def _value(field: Field, defs: Definitions, rng: random.Random, shown: list[dict[str, Any]]) -> Any:
    made: Maker = MAKERS.get(field.kind, _example)
    value = made(field, defs, rng, shown)
    if value is None:
        return None
    return [value] if field.many and not isinstance(value, list) else value


Maker = Callable[[Field, Definitions, random.Random, list[dict[str, Any]]], Any]


def _example(field: Field, defs: Definitions, _rng: random.Random, _shown: Any) -> Any:
    """The value a kind gives as its example, where it stands by itself: it names nothing of the shop, and two may have it."""
    rules = FieldRules(field, defs.spec(field))
    if field.targets or field.limits.get(UNIQUE.code):
        return None
    read = rules.read(field.rules.example_for(rules.spec))
    return None if read.wrong else read.value


def _codes(field: Field, defs: Definitions) -> list[str]:
    return [value.code for value in defs.lists[field.options["list"]].values]


def _some_codes(field: Field, defs: Definitions, rng: random.Random, _shown: Any) -> Any:
    codes = _codes(field, defs)
    return rng.sample(codes, min(len(codes), field.limits.get("max_count") or 3, rng.randrange(1, 4)))


def _amount(field: Field, _defs: Definitions, rng: random.Random, _shown: Any) -> str:
    low, high = float(field.limits.get("min") or 0), float(field.limits.get("max") or 500)
    return str(rng.randrange(int(low) + 1, max(int(min(high, low + 400)), int(low) + 2)))


def _text(field: Field, _defs: Definitions, rng: random.Random, _shown: Any) -> str:
    if field.limits.get("pattern"):
        return f"P{rng.choice('BRYGV')}{rng.randrange(1, 300)}"
    return f"{rng.choice(WORDS).title()} {rng.choice(WORDS)}"


MAKERS: dict[str, Maker] = {
    "one_of": lambda field, defs, rng, _: rng.choice(_codes(field, defs)),
    "many_of": _some_codes,
    "whole": _amount,
    "decimal": _amount,
    "measure": lambda field, defs, rng, shown: {
        "amount": _amount(field, defs, rng, shown),
        "unit": field.options["unit"],
    },
    "yes_no": lambda _field, _defs, rng, _shown: rng.random() < 0.5,
    "picture": lambda _field, _defs, rng, shown: rng.sample(shown, min(len(shown), 2)) or None,
    "date": lambda _field, _defs, rng, _shown: f"2026-{rng.randrange(1, 13):02}-{rng.randrange(1, 29):02}",
    "colour": lambda _field, _defs, rng, _shown: f"#{rng.randrange(0x1000000):06x}",
    "text": _text,
    "web_link": lambda _field, _defs, rng, _shown: {
        "words": f"All of {(word := rng.choice(WORDS))}",
        "address": f"https://guides.saltmarsh.example/{word}",
    },
    "long_text": lambda _field, _defs, rng, _shown: f"{' '.join(rng.choice(WORDS) for _ in range(14)).capitalize()}.",
}
"""How a value of a kind is made up; those of other kinds are their example."""
