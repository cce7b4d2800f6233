"""Option sets: what all nouns have; trying them, copies, who is offered them, and stock of their values."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from decimal import Decimal
from typing import Any

from flask import Response, current_app

from young_fabric.core.base import locales
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.options.effects import amount_words, effect_words
from young_fabric.core.nouns.options.option_sets import NOUN, OptionSet
from young_fabric.core.options.chooser import OFFERED
from young_fabric.core.options.quote import Quote
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import option_sets, value_remarks
from young_fabric.service.planning import plans
from young_fabric.service.products import picture_colours
from young_fabric.service.sales import quotes
from young_fabric.web.api import answers, reply
from young_fabric.web.api.shared.hands import add_hands
from young_fabric.web.api.shared.nouns import NounApi, register_noun_api
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import option_sets as s
from young_fabric.web.schemas.common import KeyPath, NumberPath


def _rows(unit: Work, key: str | None) -> Sequence[dict[str, Any]]:
    shop = plans.draft(unit.session).shop
    found = option_sets.overview(unit, key)
    stocks = option_sets.stocks_of(unit, [row.thing.key for row in found])
    return [
        {
            **vars(row),
            "effect_words": _effect_words(row.thing, shop),
            "stocks": _by_option(stocks.get(row.thing.key, {})),
        }
        for row in found
    ]


def _by_option(stocks: Any) -> dict[str, dict[str, int]]:
    out: dict[str, dict[str, int]] = defaultdict(dict)
    for (option, code), amount in stocks.items():
        out[option][code] = amount
    return dict(out)


def _effect_words(options: OptionSet, shop: Shop) -> dict[str, dict[str, dict[str, str]]]:
    """What choices do, by option and code."""
    out: dict[str, dict[str, dict[str, str]]] = {}
    for option in options.options:
        effects = {"": option.effect, **option.effects}
        out[option.key] = {
            code: {
                figure: amount_words(amount, figure, shop.locale, shop.currency)
                for figure, amount in effect.amounts.items()
            }
            for code, effect in effects.items()
            if effect.amounts
        }
    return out


OPTION_SETS = NounApi(NOUN, s.OptionSetOut, _rows)
api = register_noun_api(OPTION_SETS)
add_hands(api, OPTION_SETS)


@api.post("/option_sets/<key>/paste", responses=answers(s.PastedOut))
@allow(Right.EDIT)
def paste(path: KeyPath, body: s.PasteIn) -> Response:
    """Read pasted values of an option, and write them when asked to."""
    with work() as unit:
        done = option_sets.paste_values(unit, path.key, body.option, body.text, body.version, body.apply)
        reading = done.reading
        skipped = [{"line": line, "text": text, "reason": reason} for line, text, reason in reading.skipped]
        labels = {name: [value.label for value in getattr(reading, name)] for name in ("added", "changed")}
        return reply(s.PastedOut, {**labels, "skipped": skipped, "version": done.version})


@api.post("/option_sets/<key>/try", responses=answers(s.TriedSetOut))
@allow(Right.LOOK)
def try_it(path: KeyPath, body: s.TrySetIn) -> Response:
    """Try an option set as it would be; nothing is written."""
    with work() as unit:
        tried = quotes.try_set(unit, path.key, body.changes, body.product, body.choices, body.quantity, body.base)
        defs = plans.draft(unit.session)
        return reply(s.TriedSetOut, _tried(tried, defs))


def _tried(tried: quotes.TriedSet, defs: Definitions) -> dict[str, Any]:
    wrong = None if tried.wrong is None else _problem("", tried.wrong)
    return {
        "product": tried.product.id if tried.product is not None else None,
        "title": tried.product.title if tried.product is not None else "",
        "options": _options(tried, defs.shop),
        "quote": quote_words(tried.quote, defs.shop),
        "formula": tried.formula,
        "count": tried.count,
        "cells": tried.cells,
        "clashes": [clash._asdict() for clash in tried.goods.offer.clashes],
        "wrong": wrong,
    }


def _options(tried: quotes.TriedSet, shop: Shop) -> list[dict[str, Any]]:
    out = []
    for key, offered in tried.goods.offer.by_key.items():
        option, given = offered.option, tried.quote.given.get(key)
        states = tried.states.get(key, {})
        values = [
            {
                "code": value.code,
                "label": value.label,
                "swatch": value.swatch,
                "state": states.get(value.code, OFFERED).state,
                "words": states.get(value.code, OFFERED).words,
                "effect": effect_words(value.effect, shop.locale, shop.currency),
            }
            for value in offered.values
        ]
        out.append(
            {
                **{name: getattr(option, name) for name in ("key", "name", "kind", "description")},
                "set": offered.set,
                "required": option.required or option.rules.makes_variants,
                "control": option.rules.control,
                "makes_variants": option.rules.makes_variants,
                "chooses": option.rules.chooses,
                "several": option.rules.several,
                "given": given.value if given is not None else None,
                "words": given.words if given is not None else "",
                "values": values,
            }
        )
    return out


def _problem(option: str, refusal: Refusal) -> dict[str, str]:
    return {"option": option, "code": refusal.code, "message": refusal.message, "help": refusal.help}


def quote_words(quote: Quote, shop: Shop) -> dict[str, Any]:
    """A quote in words of the locale."""

    def money(amount: str | None) -> str | None:
        return None if amount is None else locales.show_money(amount, shop.currency, shop.locale)

    price = quote.price
    lines = [
        {
            "option": line.option,
            "name": line.name,
            "chosen": line.chosen,
            "does": locales.show_number(str(line.effect.value), shop.locale) + "\u00a0%"
            if line.effect.mode == "percent"
            else "",
            "amount": money(line.amount) or "",
            "charge": line.effect.charge,
        }
        for line in quote.lines
        if line.effect.mode != "replace"
    ]
    based = [line for line in quote.lines if line.effect.mode == "replace"]
    unit = quote.unit_price
    margin = None if price is None or quote.cost is None else str(Decimal(price.total) - Decimal(quote.cost))
    return {
        "quantity": quote.quantity,
        "base": money(price.base) if price is not None else None,
        "based_on": f"{based[-1].name}: {based[-1].chosen}" if based else "",
        "lines": lines,
        "each": money(price.each) if price is not None else None,
        "once": money(price.once) if price is not None and Decimal(price.once) else None,
        "total": money(price.total) if price is not None else None,
        "unit_price": f"{money(unit[0])} {unit[1].label}" if unit is not None else None,
        "weight": f"{locales.show_number(quote.weight, shop.locale)}\u00a0g" if quote.weight is not None else None,
        "cost": money(quote.cost),
        "margin": money(margin),
        "sku": quote.sku,
        "available": quote.available,
        "problems": [_problem(problem.option, problem.refusal) for problem in quote.problems],
    }


@api.get("/option_sets/<key>/products", responses=answers(s.OfferedProductsOut))
@allow(Right.LOOK)
def offered(path: KeyPath, query: s.OfferedQuery) -> Response:
    """The products that are offered a set, each with how it got it."""
    with work() as unit:
        found = option_sets.offered(unit, path.key, query.after)
        types = plans.draft(unit.session).types
        rows = [
            {
                **{name: getattr(row, name) for name in ("how", "reason", "variants")},
                "id": row.product.id,
                "title": row.product.title,
                "sku": row.product.sku,
                "type_name": types[row.product.type].name,
                "picture": row.product.cover,
                "clashes": [clash._asdict() for clash in row.clashes],
            }
            for row in found.rows
        ]
        return reply(s.OfferedProductsOut, {"rows": rows, "total": found.total, "next": found.next})


@api.get("/option_sets/<key>/remarks", responses=answers(s.RemarksOut))
@allow(Right.LOOK)
def remarks(path: KeyPath) -> Response:
    """What there is to know of the swatches of a set's values."""
    with work() as unit:
        return reply(s.RemarksOut, {"remarks": value_remarks.of_option_set(unit, path.key)})


@api.get("/products/<id:number>/colours", responses=answers(s.ProductColoursOut))
@allow(Right.LOOK)
def colours(path: NumberPath) -> Response:
    """Colours proposed out of a product's pictures."""
    with work() as unit:
        found = picture_colours.of_product(unit, current_app.extensions["files"], path.number)
        return reply(s.ProductColoursOut, {"pictures": found})


@api.put("/option_sets/<key>/stock", responses=answers(s.OptionSetOut))
@allow(Right.EDIT)
def stock(path: KeyPath, body: s.ChoiceStockIn) -> Response:
    """Put the stock that a value has of its own; live at once."""
    with work() as unit:
        option_sets.put_stock(unit, path.key, body.option, body.code, body.expected, body.amount)
        return reply(s.OptionSetOut, _rows(unit, path.key)[0])
