"""A field on a surface, ready for any product."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from young_fabric.core.display.cascade import Resolved
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.types.product_types import EffectiveField
from young_fabric.core.pages.steps import Step
from young_fabric.core.pages.when import When
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import FieldRules, Outcome


@dataclass(frozen=True)
class EntryPlan:
    """One field on one surface, ready for any product: the outcome of each step that definitions decide, the blocks that
    take it, and the condition under which it shows."""

    effective: EffectiveField
    settings: Mapping[str, Resolved]
    label: str
    rules: FieldRules
    steps: tuple[Step, ...]
    blocks: tuple[str, ...]
    when: When | None = None

    @property
    def field(self) -> Field:
        """The field."""
        return self.effective.field

    @property
    def placed(self) -> bool:
        """Whether it can show for a product that has a value."""
        return all(step.ok for step in self.steps)

    def outcome(self, product: Product) -> Outcome:
        """The value step for one product."""
        return self.rules.outcome(product)
