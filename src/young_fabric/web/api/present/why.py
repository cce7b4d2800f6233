"""Why fields, blocks, options and products show or do not, and what is missing."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.core.display.surfaces import addressed_surface
from young_fabric.core.nouns.options.said_options import is_option_key
from young_fabric.core.pages.listed import Listing
from young_fabric.service.acting.actors import Right
from young_fabric.service.pages import explaining
from young_fabric.service.sales import explaining_options
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import present as s

api = blueprint("why")


@api.get("/why", responses=answers(s.WhyOut))
@allow(Right.LOOK)
def why_get(query: s.WhyQuery) -> Response:
    """Why a field shows or does not show, and what else decides about it."""
    surface = query.surface or addressed_surface().code
    with work() as unit:
        if is_option_key(query.field) and query.product is not None:
            chosen = dict(pair.partition("=")[::2] for pair in query.chosen)
            found = explaining_options.explain_option(unit, query.product, query.field, surface, query.value, chosen)
        else:
            about = explaining.About(query.product, query.record, query.device or "")
            found = explaining.explain_field(unit, about, query.field, surface)
        return reply(s.WhyOut, {**_explained(found), "field": query.field})


@api.get("/why/block", responses=answers(s.WhyOut))
@allow(Right.LOOK)
def why_block_get(query: s.WhyBlockQuery) -> Response:
    """Why a block of the layout in force, or of another that is tried, shows or does not show."""
    surface = query.surface or addressed_surface().code
    about = explaining.About(query.product, query.record, query.device or "")
    with work() as unit:
        found = explaining.explain_block(unit, about, query.block, surface, query.layout)
        return reply(s.WhyOut, {**_explained(found), "field": query.block})


@api.get("/why/listing", responses=answers(s.WhyOut))
@allow(Right.LOOK)
def why_listing_get(query: s.WhyListingQuery) -> Response:
    """Why a product stands on a listing or does not."""
    with work() as unit:
        found = explaining.explain_listing(unit, query.product, Listing(query.noun, query.key))
        return reply(s.WhyOut, {**_explained(found), "field": query.key})


def _explained(found: explaining.Explained) -> dict[str, Any]:
    return {
        "field_name": found.name,
        "surface": found.surface,
        "title": found.title,
        "shows": found.steps[-1].name == "shows",
        "steps": found.steps,
        "deciders": found.deciders,
    }


@api.get("/missing", responses=answers(s.MissingOut))
@allow(Right.LOOK)
def missing_get(query: s.MissingQuery) -> Response:
    """The fields of a product that a surface does not show, with the first reason."""
    surface = query.surface or addressed_surface().code
    with work() as unit:
        return reply(s.MissingOut, {"missing": explaining.missing(unit, query.product, surface, query.device or "")})
