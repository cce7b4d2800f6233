"""Whether what values name is there: stored files, and things of the shop they refer to."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds import StoredFile
from young_fabric.core.subjects.product_labels import is_there, numbers_in
from young_fabric.core.subjects.values import FieldRules
from young_fabric.store.repos import files, labels


@dataclass(frozen=True)
class Existing:
    """Of what some values name: the files that are stored, and the products there are. Definitions say the rest."""

    defs: Definitions
    files: Mapping[str, StoredFile] = field(default_factory=dict)
    products: frozenset[int] = frozenset()

    def settled(self, rules: FieldRules, value: Any) -> Any:
        """A value as what is stored has it. Raises Refusal when something it names is not there."""
        wrong = self.gone(rules, value)
        if wrong is not None:
            raise wrong
        return rules.with_files(value, self.files)

    def gone(self, rules: FieldRules, value: Any) -> Refusal | None:
        """What a value names that is not there, None when all is."""
        for target, item in rules.field.items(value):
            if not is_there(self.defs, self.products, target, item):
                words = f"{str(item)[:60]} is not there, or no longer"
                return Refusal("gone", words, (), "Choose another")
        return None


def existing(session: Session, defs: Definitions, given: Iterable[tuple[FieldRules, Any]]) -> Existing:
    """What of all that some values name is there; products are held until the transaction ends."""
    values = [(rules, value) for rules, value in given if not isinstance(value, str)]
    named = sorted({file for rules, value in values for file in rules.files(value)})
    numbers = numbers_in((rules.field, value) for rules, value in values)
    return Existing(
        defs, files.stored(session, named) if named else {}, labels.hold(session, numbers) if numbers else frozenset()
    )
