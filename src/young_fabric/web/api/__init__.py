"""Thin handlers per noun: parse, call a service, dump."""

from __future__ import annotations

from typing import Any

from flask import Response, current_app
from flask_openapi3 import APIBlueprint
from pydantic import BaseModel

from young_fabric.web.schemas.common import Problem

PROBLEMS: dict[Any, Any] = dict.fromkeys(("401", "403", "404", "409", "422"), Problem)


def blueprint(name: str, prefix: str = "") -> APIBlueprint:
    """A blueprint under /api."""
    return APIBlueprint(name, __name__, url_prefix=f"/api{prefix}")


def answers(model: type[BaseModel]) -> dict[Any, Any]:
    """The responses a handler declares."""
    return {"200": model, **PROBLEMS}


def reply(model: type[BaseModel], value: Any, status: int = 200) -> Response:
    """A service value as its response model."""
    made = value if isinstance(value, model) else model.model_validate(value, from_attributes=True)
    return current_app.response_class(made.model_dump_json(), status, mimetype="application/json")
