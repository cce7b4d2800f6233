"""Products, their stock, and pictures."""

from __future__ import annotations

from typing import Any

from flask import Response, current_app, send_file

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.service.acting.actors import Right
from young_fabric.service.files import pictures
from young_fabric.service.foreseeing import field_moves
from young_fabric.service.planning import plans
from young_fabric.service.products import editor, products
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.api.shared.uploads import UploadForm, content_of, plain_name
from young_fabric.web.auth import PUBLIC, allow, work
from young_fabric.web.schemas import products as s
from young_fabric.web.schemas.common import Done, NumberPath, VersionQuery

api = blueprint("products")


@api.get("/products", responses=answers(s.ProductsOut))
@allow(Right.LOOK)
def products_list(query: s.ProductQuery) -> Response:
    """A page of products."""
    with work() as unit:
        filters = products.Filters(**{**query.model_dump(exclude={"q", "cursor"}), "words": query.q})
        found = products.search(unit, filters, query.cursor)
        defs = plans.draft(unit.session)
        return reply(
            s.ProductsOut,
            {
                "rows": [_row(defs, row) for row in found.rows],
                "total": found.total,
                "cursor": found.cursor,
                "gaps": products.count_gaps(unit),
            },
        )


def _row(defs: Definitions, row: products.AssessedProduct) -> dict[str, Any]:
    product = row.product
    return {
        "id": product.id,
        "title": product.title,
        "sku": product.sku,
        "type": product.type,
        "type_name": defs.types[product.type].name,
        "picture": product.cover,
        "missing": len(row.completeness.required_missing),
        "offered": product.offered,
        "wrong": sum(1 for outcome in row.outcomes.values() if outcome.state == "wrong"),
    }


@api.post("/products", responses=answers(s.ProductOut))
@allow(Right.EDIT)
def products_new(body: s.ProductNew) -> Response:
    """Make a product."""
    with work() as unit:
        return reply(s.ProductOut, editor.editor_of(unit, products.create(unit, body.type, body.title)))


@api.get("/products/<id:number>", responses=answers(s.ProductOut))
@allow(Right.LOOK)
def products_get(path: NumberPath) -> Response:
    """A product as the editor shows it."""
    with work() as unit:
        return reply(s.ProductOut, editor.editor_of(unit, products.get(unit, path.number)))


@api.get("/products/<id:number>/as", responses=answers(s.TypeChangeOut))
@allow(Right.LOOK)
def products_as(path: NumberPath, query: s.TypeQuery) -> Response:
    """What would become of a product's values, were it of another type; nothing is written."""
    with work() as unit:
        return reply(s.TypeChangeOut, field_moves.type_change(unit, path.number, query.type))


@api.patch("/products/<id:number>", responses=answers(s.ProductOut))
@allow(Right.EDIT)
def products_fill(path: NumberPath, body: s.ProductPatch) -> Response:
    """Fill fields of a product."""
    with work() as unit:
        done = products.fill(unit, path.number, body.version, body.values, body.type, body.offered)
        return reply(s.ProductOut, editor.editor_of(unit, done))


@api.delete("/products/<id:number>", responses=answers(Done))
@allow(Right.EDIT)
def products_remove(path: NumberPath, query: VersionQuery) -> Response:
    """Remove a product; undo brings it back."""
    with work() as unit:
        products.remove(unit, path.number, query.version)
        return reply(Done, Done())


@api.put("/products/<id:number>/stock", responses=answers(s.StockOut))
@allow(Right.EDIT)
def products_stock(path: NumberPath, body: s.StockIn) -> Response:
    """Put the counted stock; live at once."""
    with work() as unit:
        return reply(s.StockOut, {"amount": products.set_stock(unit, path.number, body.expected, body.amount)})


@api.post("/pictures", responses=answers(s.PictureOut))
@allow(Right.EDIT)
def pictures_upload(form: UploadForm) -> Response:
    """Check, re-encode and keep a picture."""
    name, content = plain_name(form.file.filename, "picture"), content_of(form, pictures.MOST_BYTES)
    with work() as unit:
        kept = pictures.upload(unit, current_app.extensions["files"], name, content)
        return reply(s.PictureOut, kept)


@allow(PUBLIC)
def serve_picture(name: str) -> Response:
    """A kept picture or a rendition of it; its name never means anything else, so it may be cached for good."""
    path = current_app.extensions["files"].path(name)
    if path is None:
        raise Refusal("not_found", "There is no such picture")
    response = send_file(path.resolve(), mimetype="image/webp", conditional=True, etag=name)
    response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
    return response
