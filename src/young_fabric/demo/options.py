"""The demo's option sets: made after the products, whose SKUs they name."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from young_fabric.core.nouns.fields.built_in import COVER
from young_fabric.core.subjects.products import Product
from young_fabric.demo.catalogue import read
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions, value_lists
from young_fabric.service.products import products
from young_fabric.service.sales.variant_values import VariantStock, put_stocks
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.service.values.variant_writer import put_many
from young_fabric.service.writing import by_hand, writes
from young_fabric.store.repos import variants

FIGURES = ("price", "weight", "cost")
STOCKS = (14, 6, 0, 22, 9)
"""How many there are of the variants of a product, in turn."""
Draw = Callable[[str, str], str]
"""Draws a picture of a sort in a colour; gives the stored file, "" for none."""


def offer(work: Work, draw: Draw) -> None:
    """Make the option sets, offer them to types and products, and count some stock."""
    data = read("option_sets.toml")
    colours = data["colours"]
    made = definitions.create(work, "value_list", colours["name"], {"key": colours["key"]})
    value_lists.paste_values(work, colours["key"], "\n".join(colours["values"]), made.version, apply=True)
    for row in data["sets"]:
        given = {"key": row["key"], "left_out": row.get("left_out", [])}
        definitions.create(
            work, "option_set", row["name"], {**given, "options": [_option(of, draw) for of in row["options"]]}
        )
        for of in row.get("types", ()):
            current = writes.need_current(work, "product_type", of)
            sets = [*current.thing.option_sets, row["key"]]
            definitions.change(work, "product_type", of, current.version, {"option_sets": sets})
        if "skus" in row:
            by_hand.paste(work, "option_set", row["key"], "\n".join(row["skus"]), "picked")
    give_own(work, data)


def give_own(work: Work, data: Mapping[str, Any]) -> None:
    """Give variants what they have of their own: contents by one value, and the pictures of products that are named alike."""
    for row in data["own"]:
        product = _called(work, row["product"])
        edits = []
        for variant in variants.of_products(work.session, [product.id], retired=False)[product.id]:
            values: dict[str, Any] = dict(row["values"].get(variant.choices[row["by"]], {}))
            alike = row["pictures"].get(variant.choices[row["pictured"]])
            found = _called(work, alike).values.get(COVER.key) if alike else None
            edits.append(ValueEdit(variant.id, variant.version, {**values, **({COVER.key: found} if found else {})}))
        put_many(work, edits)


def _called(work: Work, words: str) -> Product:
    return products.search(work, products.Filters(words=words), None, 1).rows[0].product


def count_stock(work: Work, ids: list[int]) -> None:
    """Count the stock of the variants of some products, sold-out ones among them."""
    counted = []
    for number, found in sorted(variants.of_products(work.session, ids, retired=False).items()):
        for index, variant in enumerate(found):
            counted.append(VariantStock(variant.id, variant.stock, STOCKS[(index + number) % len(STOCKS)]))
    put_stocks(work, counted)


def _option(row: Mapping[str, Any], draw: Draw) -> dict[str, Any]:
    values = [_value(value, draw) for value in row.get("values", ())]
    return {**row, "values": values, "effect": _effect(row.get("effect", {}))}


def _value(row: Mapping[str, Any], draw: Draw) -> dict[str, Any]:
    value = {name: row[name] for name in ("code", "label") if name in row}
    picture = draw(*row["picture"]) if "picture" in row else ""
    swatch = {"swatch": {"picture": picture}} if picture else {}
    return {**value, **swatch, "effect": _effect(row)}


def _effect(row: Mapping[str, Any]) -> dict[str, Any]:
    amounts = {name: {"mode": "typed", "value": row[name]} for name in FIGURES if name in row}
    return {**amounts, "sku": row.get("sku", "")}
