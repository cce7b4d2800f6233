"""Variants of a product: the grid, written many at a time."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from flask import Response

from young_fabric.core.base import locales
from young_fabric.core.nouns.fields.built_in import CODE
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.sales import variant_values
from young_fabric.service.sales.variant_values import VariantStock
from young_fabric.service.values import variant_writer
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import variants as s
from young_fabric.web.schemas.common import NumberPath

api = blueprint("variants")


@api.get("/products/<id:number>/variants", responses=answers(s.VariantGridOut))
@allow(Right.LOOK)
def variants_grid(path: NumberPath) -> Response:
    """The variants of a product."""
    with work() as unit:
        return reply(s.VariantGridOut, _grid(unit, path.number))


@api.patch("/products/<id:number>/variants", responses=answers(s.VariantGridOut))
@allow(Right.EDIT)
def variants_put(path: NumberPath, body: s.VariantsIn) -> Response:
    """Write what variants have of their own, and their stock, which is live at once."""
    with work() as unit:
        group = uuid4().hex
        named = [*(edit.id for edit in body.edits), *(stock.id for stock in body.stocks)]
        variant_values.need_of(unit, path.number, named)
        if body.edits:
            edits = [ValueEdit(edit.id, edit.version, edit.values) for edit in body.edits]
            variant_writer.put_many(unit, edits, group)
        if body.stocks:
            variant_values.put_stocks(unit, [VariantStock(**vars(stock)) for stock in body.stocks], group)
        return reply(s.VariantGridOut, _grid(unit, path.number))


def _grid(unit: Work, number: int) -> dict[str, Any]:
    found = variant_values.grid(unit, number)
    shop = plans.draft(unit.session).shop
    rows = [
        {**vars(row), "price": None if row.price is None else locales.show_money(row.price, shop.currency, shop.locale)}
        for row in found.rows
    ]
    return {
        "product": found.product.id,
        "options": [{"key": key, "name": name} for key, name in found.options],
        "fields": [{"field": field, "own": field.own, "made": field.key == CODE.key} for field in found.fields],
        "rows": rows,
        "formula": found.formula,
    }
