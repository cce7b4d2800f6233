"""Use cases of definitions that hold values of their own, such as collections and records: their fields, and filling them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import ABSENT
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.subjects.product_labels import Names
from young_fabric.core.subjects.values import FieldRules
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.planning.naming import names_of_cells
from young_fabric.service.products.editor import EditorField, EditorValue, NamedItem, faults_of
from young_fabric.service.values.value_states import ValueEdit, cells_of_state, existing_of, state_of_cells, typed_into
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit
from young_fabric.store.repos.definitions import StoredThing


def fields_of(work: Work, noun: str, key: str) -> list[EditorField]:
    """A thing's own fields with their values, as the editor shows them. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    thing = writes.need_current(work, noun, key).thing
    defs = plans.draft(work.session)
    names = names_of_cells(work.session, defs, noun, thing)
    known = defs.fields_of_thing(noun, thing)
    return [_editor_field(names, field, thing.filled.get(name)) for name, field in known.items()]


def _editor_field(names: Names, field: Field, cell: tuple[str, Any] | None) -> EditorField:
    rules = FieldRules(field, names.defs.spec(field))
    example = field.example or field.rules.example_for(rules.spec)
    value = _editor_value(names, rules, cell)
    return EditorField(field, field.need, field.own, False, value, (), example)


def _editor_value(names: Names, rules: FieldRules, cell: tuple[str, Any] | None) -> EditorValue:
    if cell is None:
        return EditorValue("empty", None, None, "", None, None, None)
    sort, held = cell
    named = names.put_in(rules.field, held) if sort == "value" else held
    wrong = rules.judge(named) if sort == "value" else rules.read(held).wrong
    state = "good" if sort == "value" and wrong is None else "wrong"
    shown = rules.text(named) if state == "good" else ""
    typed = rules.typed(held) if sort == "value" else held
    value = held if sort == "value" else None
    called = tuple(NamedItem(*item) for item in names.called(rules.field, value))
    if wrong is None:
        return EditorValue(state, value, typed, shown, None, None, None, (), called)
    faults = faults_of(rules.faults(named))
    return EditorValue(state, value, typed, shown, wrong.code, wrong.message, wrong.help, faults, called)


def fill(work: Work, noun: str, key: str, version: int, typed: Mapping[str, Any]) -> None:
    """Fill a thing's own fields with what was typed; what is not understood is kept as typed. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    definition = writes.noun_of(noun)

    def edit(current: StoredThing | None) -> Edit:
        base = writes.state_at(work, definition, key, version, current)
        if base is ABSENT or current is None:
            raise Refusal("not_found", f"There is no {definition.name} {key[:60]}", (), "It may have been removed")
        defs = plans.draft(work.session)
        known = defs.fields_of_thing(noun, current.thing)
        rules = {name: FieldRules(field, defs.spec(field)) for name, field in known.items()}

        def need_rules(name: str) -> FieldRules:
            if name not in rules:
                words = f"This {definition.name} has no field {name[:80]}"
                raise Refusal("unknown_field", words, ("values", name), "See Define")
            return rules[name]

        there = existing_of(work, defs, [ValueEdit(0, values=typed)], rules.get)
        after = typed_into(state_of_cells(base["filled"]), typed, need_rules, there)
        return Edit(base, {**base, "filled": cells_of_state(after)})

    writes.apply(work, noun, key, edit)
