"""Variants made, matched and stored against as many bare rows; and a quote of five effects against reading its own request."""

from __future__ import annotations

import json
import statistics
from datetime import date
from decimal import Decimal
from typing import Any

from sqlalchemy import text
from sqlalchemy.orm import Session

from base import RUNS, database, timed, work_on
from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.options.effects import Amount, Effect
from young_fabric.core.nouns.options.option_sets import OptionSet
from young_fabric.core.nouns.options.options import Option, OptionValue
from young_fabric.core.options.goods import Goods, VariantFacts
from young_fabric.core.options.offers import offer_of
from young_fabric.core.options.quote import quote
from young_fabric.demo import seed as seeding
from young_fabric.service.defining import definitions
from young_fabric.service.products import products
from young_fabric.service.values import variants

MOST_MATCH, MOST_QUOTE = 4, 10
QUOTES, PAIRS = 2_000, 15
TODAY = date(2026, 5, 4)
REQUEST = {
    "product": 1,
    "quantity": 2,
    "choices": {"colour": "v3", "size": "v1", "finish": "v2", "name": "For Odile", "wrap": "yes"},
}


def make_set(session: Session) -> int:
    """A product whose set makes 2,000 variants once it is offered; gives its id."""
    work = work_on(session)
    values = [{"code": f"v{number}", "label": f"V {number}", "effect": {"sku": f"V{number}"}} for number in range(50)]
    options = [
        {"key": "colour", "name": "Colour", "values": values},
        {"key": "size", "name": "Size", "values": values[:40]},
    ]
    definitions.create(work, "option_set", "Bench", {"key": "bench", "options": options})
    definitions.create(work, "product_type", "Bench", {"key": "bench", "option_sets": ["bench"]})
    number = products.create(work, "easels", "Bench").product.id
    products.fill(work, number, None, {"sku": "BENCH"})
    session.commit()
    return number


def match(session: Session, number: int) -> float:
    """Seconds to make, match and store all variants of the product, taken back afterwards."""
    work = work_on(session)
    products.fill(work, number, None, {}, "easels")
    session.execute(text("DELETE FROM variant"))
    session.execute(text("UPDATE product SET type_key = 'bench' WHERE id = :id"), {"id": number})
    took = timed(variants.put, work, [number])
    assert session.execute(text("SELECT count(*) FROM variant")).scalar_one() == variants.MOST_AT_ONCE
    session.rollback()
    return took


def bare(session: Session) -> float:
    """Seconds to insert as many bare rows."""
    session.execute(
        text("CREATE TEMP TABLE bare (id int GENERATED ALWAYS AS IDENTITY PRIMARY KEY, choices jsonb, sku text)")
    )
    rows = [{"choices": json.dumps({"colour": f"v{n}", "size": f"v{n}"}), "sku": f"B-{n}"} for n in range(2_000)]
    took = timed(session.execute, text("INSERT INTO bare (choices, sku) VALUES (CAST(:choices AS jsonb), :sku)"), rows)
    session.rollback()
    return took


def goods() -> Goods:
    """What is quoted: five options, each with an effect on the price."""

    def option(key: str, kind: str, effect: Effect) -> Option:
        values = tuple(OptionValue(f"v{number}", f"V {number}", effect=effect) for number in range(5))
        if kind == "variant":
            return Option(key, key.title(), kind, values=values)
        return Option(key, key.title(), kind, required=False, effect=effect)

    options = (
        option("colour", "variant", Effect(Amount("percent", "8"), sku="A")),
        option("size", "variant", Effect(Amount("amount", "4.1"), sku="B")),
        option("finish", "variant", Effect(Amount("amount", "1.2"), sku="C")),
        option("name", "text", Effect(Amount("amount", "3", "once"))),
        option("wrap", "tick", Effect(Amount("amount", "2", "once"))),
    )
    defs = Definitions(Shop())
    offer = offer_of([OptionSet("bench", "Bench", options)], defs)
    return Goods(offer, "EUR", own=VariantFacts(1, "SAW", Decimal("9.80")), tried=True)


def reckon(made: Goods, given: dict[str, Any]) -> None:
    """Quote many times."""
    for _ in range(QUOTES):
        quote(made, given["choices"], given["quantity"], TODAY)


def decode(written: str) -> None:
    """Read the request as often."""
    for _ in range(QUOTES):
        json.loads(written)


def run() -> bool:
    """Print the figures; whether both ratios are met."""
    with database() as (engine, sessions):
        seeding.seed(engine, 1)
        with sessions() as session:
            number = make_set(session)
        with sessions() as session:
            bared = statistics.median(bare(session) for _ in range(RUNS))
            matched = statistics.median(match(session, number) for _ in range(RUNS))
    made, written = goods(), json.dumps(REQUEST)
    pairs = [(timed(decode, written), timed(reckon, made, REQUEST)) for _ in range(PAIRS)]
    decoded, reckoned = (statistics.median(side) for side in zip(*pairs, strict=True))
    ratio, quoted = matched / bared, statistics.median(quotes / reads for reads, quotes in pairs)
    print(
        f"options: 2,000 variants made, matched and stored {matched * 1000:.0f} ms, bare rows {bared * 1000:.0f} ms: {ratio:.2f} x (<= {MOST_MATCH})"
    )
    print(
        f"options: a quote of five effects {reckoned / QUOTES * 1e6:.0f} µs, its request {decoded / QUOTES * 1e6:.1f} µs: {quoted:.1f} x (<= {MOST_QUOTE})"
    )
    return ratio <= MOST_MATCH and quoted <= MOST_QUOTE
