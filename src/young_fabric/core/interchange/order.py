"""Pretend orders as open JSON documents, described in docs/formats.md."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from decimal import Decimal
from typing import Any

from young_fabric.core.nouns.fields.built_in import COVER, TITLE
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.pricing import Price
from young_fabric.core.options.quote import Quote
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.subjects.products import Product

FORMAT, VERSION = "young-fabric-order", 1


def order_document(
    number: int, placed: datetime, currency: str, buyer: Mapping[str, str], lines: Sequence[Mapping[str, Any]]
) -> dict[str, Any]:
    """An order: `placed` with its offset (RFC 3339), `currency` by ISO 4217, amounts as decimal strings."""
    totals = [Decimal(line["price"]["total"]) for line in lines]
    weights = [Decimal(line["weight_grams"]) for line in lines if line["weight_grams"] is not None]
    return {
        "format": FORMAT,
        "version": VERSION,
        "number": number,
        "placed_at": placed.isoformat(),
        "currency": currency,
        "buyer": dict(buyer),
        "lines": list(lines),
        "total": str(sum(totals, Decimal(0))),
        "weight_grams": str(sum(weights, Decimal(0))) if weights else None,
    }


def order_line(
    product: Product, quote: Quote, price: Price, offer: Offer, facts: RenderDoc, files: Mapping[str, str]
) -> dict[str, Any]:
    """A line: the product, what was chosen and given by option, how its price comes about, and the facts its basket line shows.

    `files` names the private file of each request that is one.
    """
    return {
        "product": {"id": product.id, "title": product.title},
        "sku": quote.sku,
        "variant": quote.variant,
        "quantity": quote.quantity,
        "choices": [
            {
                "option": key,
                "name": offer.by_key[key].option.name,
                "value": given.value,
                "words": given.words,
                **({"file": files[key]} if key in files else {}),
            }
            for key, given in quote.given.items()
        ],
        "price": {
            "base": price.base,
            "effects": [
                {
                    "option": line.option,
                    "words": line.chosen,
                    "mode": line.effect.mode,
                    "charge": line.effect.charge,
                    "amount": line.amount,
                }
                for line in quote.lines
            ],
            "each": price.each,
            "once": price.once,
            "total": price.total,
        },
        "weight_grams": quote.weight,
        "facts": [
            {"field": entry.field, "label": entry.label, "text": entry.text}
            for entry in facts.entries()
            if entry.field not in (TITLE.key, COVER.key)
        ],
    }
