"""What holds values of fields: a registry, so that one more is one module and one line here."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import State
from young_fabric.core.nouns.fields.built_in import BUILT_IN, BuiltInField
from young_fabric.core.nouns.fields.fields import VARIANTS
from young_fabric.core.subjects.products import describe_product, product_of_state, state_of_product
from young_fabric.core.subjects.variants import OWN, describe_variant, state_of_variant, variant_of_state


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
VARIANT = Subject(
    VARIANTS, "variants", "variant", "Products", OWN, state_of_variant, variant_of_state, describe_variant
)
SUBJECTS: dict[str, Subject] = {subject.code: subject for subject in (PRODUCT, VARIANT)}
"""Every subject by its code."""
