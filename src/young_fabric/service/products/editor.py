"""A product as its editor shows it: the fields of its type in the sections of its sets, with what is wrong and missing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.differences import Piece, differences
from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.surfaces import addressed_surface, product_surfaces
from young_fabric.core.nouns.content.collections import NOUN as COLLECTION
from young_fabric.core.nouns.fields.fields import Field, Need
from young_fabric.core.nouns.types.product_types import type_path
from young_fabric.core.pages.entry_plan import EntryPlan
from young_fabric.core.pages.why import default_words
from young_fabric.core.subjects.completeness import Completeness
from young_fabric.core.subjects.product_labels import Names
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import Outcome
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.planning.naming import names_for
from young_fabric.service.products.collection_members import ProductPlace, places_of
from young_fabric.service.products.products import AssessedProduct
from young_fabric.store.repos import variants


@dataclass(frozen=True)
class NamedItem:
    """A thing that a value names: its key or number, its name, "" when it is gone, and its address in the shop, if any."""

    item: str | int
    name: str
    address: str


@dataclass(frozen=True)
class Fault:
    """A place in a value, and what is wrong there."""

    at: tuple[str | int, ...]
    message: str


def faults_of(wrong: Sequence[Refusal]) -> tuple[Fault, ...]:
    """Refusals as the editor tells them."""
    return tuple(Fault(tuple(refusal.where), refusal.message) for refusal in wrong)


@dataclass(frozen=True)
class EditorValue:
    """A value as stored, as one would type it, as shown, what is wrong with it first and at each place in it, and the things it names."""

    state: str
    value: Any
    typed: Any
    shown: str
    code: str | None
    message: str | None
    help: str | None
    faults: tuple[Fault, ...] = ()
    named: tuple[NamedItem, ...] = ()


@dataclass(frozen=True)
class StandingValue:
    """What stands where a field has no value: the value, as shown, what it stems from in words, and how the field's own differs."""

    value: Any
    shown: str
    source: str
    differs: tuple[Piece, ...]


@dataclass(frozen=True)
class EditorField:
    """A field with its value, the need for it, where it shows, an example, and what stands where it has none."""

    field: Field
    need: Need
    own: bool
    computed: bool
    value: EditorValue
    surfaces: tuple[str, ...]
    example: str
    standing: StandingValue | None = None


@dataclass(frozen=True)
class EditorSection:
    """A section of fields, with the set or type that brings it."""

    title: str
    note: str
    set: str | None
    fields: list[EditorField]


@dataclass(frozen=True)
class ComputedValue:
    """A field that is computed, as shown."""

    key: str
    name: str
    shown: str


@dataclass(frozen=True)
class EditorProduct:
    """All the editor shows of a product."""

    id: int
    version: int
    title: str
    sku: str
    type: str
    type_path: str
    offered: bool
    stock: int | None
    computed: list[ComputedValue]
    sections: list[EditorSection]
    completeness: Completeness
    wrong: list[str]
    collections: list[ProductPlace]
    variants: int


Place = tuple[str | None, str | None, str | None, str | None]
"""(type, set, section, collection) that bring a field."""


def editor_of(work: Work, opened: AssessedProduct) -> EditorProduct:
    """An assessed product as its editor shows it."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    defs, product = draft.defs, opened.product
    names = names_for(work.session, defs, [product])
    group = defs.group_of(product.type, product.collections)
    by_surface = {code: draft.plans.of_group(group, code).entries for code in product_surfaces()}
    # A plan may stem from before the help or example changed: those come from the definitions.
    fields = {effective.field.key: effective.field for effective in defs.applicable(group)}
    sections: dict[Place, list[EditorField]] = {}
    computed: list[ComputedValue] = []
    for key, entry in by_surface[addressed_surface().code].items():
        if entry.rules.derived is not None:
            outcome = entry.outcome(product)
            shown = entry.rules.text(outcome.value) if outcome.state == "good" else ""
            computed.append(ComputedValue(key, entry.field.name, shown))
            continue
        effective = entry.effective
        section_of = (
            effective.type if effective.set is None else None,
            effective.set,
            effective.section,
            effective.collection,
        )
        surfaces = tuple(code for code, entries in by_surface.items() if entries[key].placed)
        sections.setdefault(section_of, []).append(
            _field(names, product, entry, fields[key], opened.outcomes[key], surfaces)
        )
    return EditorProduct(
        product.id,
        opened.version,
        product.title,
        product.sku,
        product.type,
        type_path(product.type, defs.types),
        product.offered,
        product.stock,
        computed,
        [_section(defs, section_of, rows) for section_of, rows in sections.items()],
        opened.completeness,
        [key for key, outcome in opened.outcomes.items() if outcome.state == "wrong"],
        places_of(draft.assessor.memberships, product),
        variants.count(work.session, product.id),
    )


def _section(defs: Definitions, section_of: Place, rows: list[EditorField]) -> EditorSection:
    of_type, of_set, section_key, collection = section_of
    if of_set is not None:
        field_set = defs.sets[of_set]
        by = f", by being in {defs.things[COLLECTION.code][collection].name}" if collection is not None else ""
        section = next(section for section in field_set.sections if section.key == section_key)
        if len(field_set.sections) == 1:
            return EditorSection(field_set.name, f"field set{by}", of_set, rows)
        return EditorSection(section.name, f"of the field set {field_set.name}{by}", of_set, rows)
    if of_type is not None:
        return EditorSection("Single fields", f"of {defs.types[of_type].name}", None, rows)
    return EditorSection("Basics", "every product", None, rows)


def _field(
    names: Names, product: Product, entry: EntryPlan, field: Field, outcome: Outcome, surfaces: tuple[str, ...]
) -> EditorField:
    example = field.example or field.rules.example_for(entry.rules.spec)
    value = value_of(names, product, entry, outcome)
    standing = _standing(names.defs, entry, value)
    return EditorField(field, entry.effective.need, field.own, False, value, surfaces, example, standing)


def _standing(defs: Definitions, entry: EntryPlan, value: EditorValue) -> StandingValue | None:
    default = entry.field.default
    if default is None or entry.rules.judge(default) is not None:
        return None
    shown = entry.rules.text(default)
    pieces = differences(shown, value.shown) if value.state == "good" else ()
    return StandingValue(default, shown, default_words(defs, entry), pieces)


def value_of(names: Names, product: Product, entry: EntryPlan, outcome: Outcome) -> EditorValue:
    """A value as the editor has it: what was typed when it was not understood, else as one would type it."""
    key = entry.field.key
    value = product.values.get(key)
    typed = product.unread[key] if key in product.unread else None if value is None else entry.rules.typed(value)
    wrong = outcome.wrong
    shown = entry.rules.text(names.put_in(entry.field, outcome.value)) if outcome.state == "good" else ""
    return EditorValue(
        "empty" if outcome.source == "default" else outcome.state,
        value,
        typed,
        shown,
        wrong.code if wrong else None,
        wrong.message if wrong else None,
        wrong.help if wrong else None,
        faults_of(entry.rules.faults(names.put_in(entry.field, value) if key in product.values else typed))
        if wrong
        else (),
        tuple(NamedItem(*item) for item in names.called(entry.field, value)),
    )
