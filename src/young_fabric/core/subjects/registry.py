"""What holds values of fields: a registry, so that one more is one module and one line here."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, NamedTuple

from young_fabric.core.nouns.base import State
from young_fabric.core.nouns.built_in import BUILT_IN, BuiltInField
from young_fabric.core.nouns.definitions import Definitions
from young_fabric.core.nouns.fields import VARIANTS
from young_fabric.core.subjects.products import describe_product, product_of_state, state_of_product


@dataclass(frozen=True)
class Subject:
    """A sort of thing that holds values: its built-in fields, its state as JSON and back, and its changes in words."""

    code: str
    plural: str
    name: str
    group: str
    built_in: Mapping[str, BuiltInField]
    state_of: Callable[[Any], dict[str, Any]]
    thing_of: Callable[[int, State], Any]
    describe: Callable[[State | None, State | None, Definitions], list[str]]


PRODUCT = Subject(
    "product", "products", "product", "Products", BUILT_IN, state_of_product, product_of_state, describe_product
)
SUBJECTS: dict[str, Subject] = {subject.code: subject for subject in (PRODUCT,)}
"""Every subject by its code."""


class FieldSubject(NamedTuple):
    """What fields can be recorded of besides things of nouns."""

    code: str
    plural: str
    name: str
    group: str


FIELD_SUBJECTS: dict[str, FieldSubject] = {
    code: FieldSubject(code, plural, name, group)
    for code, plural, name, group in (
        (PRODUCT.code, PRODUCT.plural, PRODUCT.name, PRODUCT.group),
        (VARIANTS, "variants", "variant", PRODUCT.group),
    )
}
"""Those by their code: variants have all fields that are recorded of them."""
