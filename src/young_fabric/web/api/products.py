"""Products, their stock, and pictures."""

from __future__ import annotations

from typing import Any

from flask import Response, current_app, send_file
from flask_openapi3 import FileStorage
from pydantic import BaseModel, ConfigDict

from young_fabric.core.definitions import Definitions, Product
from young_fabric.core.display import SURFACES
from young_fabric.core.entries import Outcome
from young_fabric.core.errors import Refusal
from young_fabric.core.plans import Plans
from young_fabric.core.product_types import type_path
from young_fabric.core.resolve import EntryPlan
from young_fabric.core.values import read_field, typed_value
from young_fabric.service import gaps, pictures, plans, products
from young_fabric.service.actors import Right, Work
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import PUBLIC, allow, work
from young_fabric.web.schemas import products as s
from young_fabric.web.schemas.common import Done, NumberPath, VersionQuery

api = blueprint("products")


@api.get("/products", responses=answers(s.ProductsOut))
@allow(Right.LOOK)
def products_list(query: s.ProductQuery) -> Response:
    """A page of products."""
    with work() as unit:
        filters = products.Filters(query.q, query.type, query.gaps, query.lacking, query.wrong)
        found = products.search(unit, filters, query.cursor)
        defs = plans.draft(unit.session)
        return reply(
            s.ProductsOut,
            {
                "rows": [_row(defs, one) for one in found.rows],
                "total": found.total,
                "cursor": found.cursor,
                "gaps": gaps.count(unit),
            },
        )


def _row(defs: Definitions, one: products.Opened) -> dict[str, Any]:
    this = one.product
    shown = this.values.get("pictures") or [None]
    return {
        "id": this.id,
        "title": this.title,
        "sku": this.values.get("sku", ""),
        "type": this.type,
        "type_name": defs.types[this.type].name,
        "picture": shown[0]["file"] if shown[0] else None,
        "missing": len(one.completeness.required_missing),
        "offered": this.offered,
        "wrong": sum(1 for found in one.outcomes.values() if found.state == "wrong"),
    }


@api.post("/products", responses=answers(s.ProductOut))
@allow(Right.EDIT)
def products_new(body: s.ProductNew) -> Response:
    """Make a product."""
    with work() as unit:
        return reply(s.ProductOut, _editor(unit, products.create(unit, body.type, body.title)))


@api.get("/products/<int:number>", responses=answers(s.ProductOut))
@allow(Right.LOOK)
def products_get(path: NumberPath) -> Response:
    """A product as the editor shows it."""
    with work() as unit:
        return reply(s.ProductOut, _editor(unit, products.get(unit, path.number)))


@api.patch("/products/<int:number>", responses=answers(s.ProductOut))
@allow(Right.EDIT)
def products_fill(path: NumberPath, body: s.ProductPatch) -> Response:
    """Fill fields of a product."""
    with work() as unit:
        done = products.fill(unit, path.number, body.version, body.values, body.type, body.offered)
        return reply(s.ProductOut, _editor(unit, done))


@api.delete("/products/<int:number>", responses=answers(Done))
@allow(Right.EDIT)
def products_remove(path: NumberPath, query: VersionQuery) -> Response:
    """Remove a product; undo brings it back."""
    with work() as unit:
        products.remove(unit, path.number, query.version)
        return reply(Done, Done())


@api.put("/products/<int:number>/stock", responses=answers(s.StockOut))
@allow(Right.EDIT)
def products_stock(path: NumberPath, body: s.StockIn) -> Response:
    """Put the counted stock; live at once."""
    with work() as unit:
        return reply(s.StockOut, {"amount": products.set_stock(unit, path.number, body.expected, body.amount)})


def _editor(unit: Work, opened: products.Opened) -> dict[str, Any]:
    all_plans = plans.draft_plans(unit.session)
    defs, this = all_plans.defs, opened.product
    plan = all_plans.of_type(this.type, "product_page")
    sections: dict[tuple[str | None, str | None, str | None], list[Any]] = {}
    for key, entry in plan.entries.items():
        if key in opened.outcomes:
            one = entry.effective
            place = (one.type if one.set is None else None, one.set, one.section)
            sections.setdefault(place, []).append(_edit_field(all_plans, this, entry, opened.outcomes[key]))
    told = plan.entries["unit_price"].outcome(this)
    return {
        "id": this.id,
        "version": opened.version,
        "title": this.title,
        "type": this.type,
        "offered": this.offered,
        "type_path": type_path(this.type, defs.types),
        "stock": this.stock,
        "unit_price": told.text,
        "sections": [_section(defs, place, rows) for place, rows in sections.items()],
        "completeness": opened.completeness,
        "wrong": [key for key, found in opened.outcomes.items() if found.state == "wrong"],
    }


def _section(defs: Definitions, place: tuple[str | None, str | None, str | None], rows: list[Any]) -> dict[str, Any]:
    of_type, of_set, section_key = place
    if of_set is not None:
        this = defs.sets[of_set]
        section = next(one for one in this.sections if one.key == section_key)
        alone = len(this.sections) == 1
        title, note = (this.name, "field set") if alone else (section.name, f"of the field set {this.name}")
    elif of_type is not None:
        title, note = "Single fields", f"of {defs.types[of_type].name}"
    else:
        title, note = "Basics", "every product"
    return {"title": title, "note": note, "set": of_set, "fields": rows}


def _edit_field(all_plans: Plans, this: Product, entry: EntryPlan, found: Outcome) -> dict[str, Any]:
    key = entry.field.key
    surfaces = [code for code in SURFACES if all_plans.of_type(this.type, code).entries[key].placed]
    return {
        "field": entry.field,
        "need": entry.effective.need,
        "surfaces": surfaces,
        "value": value_out(all_plans, this, entry, found),
    }


def value_out(all_plans: Plans, this: Product, entry: EntryPlan, found: Outcome) -> dict[str, Any]:
    """A value as the editor has it: what was typed when it was not understood, else as one would type it."""
    key = entry.field.key
    value = this.values.get(key)
    if key in this.unread:
        typed = this.unread[key]
    elif value is None:
        typed = None
    else:
        typed = typed_value(entry.field, value, all_plans.defs.spec(entry.field))
    wrong = _reason(all_plans, entry, this) if key in this.unread else found.wrong
    return {
        "state": "empty" if found.source == "default" else found.state,
        "value": value,
        "typed": typed,
        "shown": found.text,
        "code": wrong.code if wrong else None,
        "message": wrong.message if wrong else None,
        "help": wrong.help if wrong else None,
    }


def _reason(all_plans: Plans, entry: EntryPlan, this: Product) -> Refusal | None:
    return read_field(entry.field, this.unread[entry.field.key], all_plans.defs.spec(entry.field)).wrong


class UploadForm(BaseModel):
    """One picture as multipart form data."""

    model_config = ConfigDict(arbitrary_types_allowed=True)
    file: FileStorage


@api.post("/pictures", responses=answers(s.PictureOut))
@allow(Right.EDIT)
def pictures_upload(form: UploadForm) -> Response:
    """Check, re-encode and keep a picture."""
    name = (form.file.filename or "picture").replace("\\", "/").rsplit("/", 1)[-1][:120]
    with work() as unit:
        kept = pictures.upload(
            unit, current_app.extensions["files"], name, form.file.stream.read(pictures.MOST_BYTES + 1)
        )
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
