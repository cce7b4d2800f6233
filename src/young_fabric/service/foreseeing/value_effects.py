"""What a change of definitions would do to stored values, looked at slice by slice and told before anything is written."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, NamedTuple

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds import KINDS
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.subjects.converting import CHANGED, SAME, WRONG, convert, reading_of
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import FieldRules
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.values import judging
from young_fabric.service.values.holding import HolderName, Holders, holders_of
from young_fabric.store.repos import stored_values

SLICE = 2_000
"""How many values one question looks at."""
SAMPLE = 300
"""How many values tell which kinds they fit."""


class ValueEffect(NamedTuple):
    """A value that a change makes wrong, changes or loses: of what (noun or subject, key, name), for which field, in words."""

    noun: str
    key: str
    name: str
    field: str
    how: str
    before: str
    after: str


@dataclass
class ValueEffects:
    """Of the `values` looked at, how many a change makes wrong, changes or loses, and every one of those.

    `next` is where to look on, None when all were looked at.
    """

    values: int = 0
    wrong: int = 0
    changed: int = 0
    lost: int = 0
    examples: list[ValueEffect] = field(default_factory=list)
    next: str | None = None


Effect = Callable[[Any], tuple[str, str, str] | None]
"""(how, before, after) of a value, None when nothing becomes of it."""


class _Judged(NamedTuple):
    """A field judged otherwise, on products of some types alone or (None) on all."""

    key: str
    types: frozenset[str] | None
    old: Field
    new: Field


def _judged(before: Definitions, after: Definitions) -> list[_Judged]:
    """What a change judges otherwise: fields by their own definition, then those that types say otherwise of."""
    whole = [key for key in judging.judged_otherwise(before, after) if key in before.fields]
    out = [_Judged(key, None, before.fields[key], after.fields[key]) for key in whole]
    for key in after.product_fields:
        if key in before.fields and key not in whole:
            for of in sorted(judging.tightened_otherwise(before, after, key)):
                old, new = (_as_of(defs, of, key) for defs in (before, after))
                if old is not None and new is not None:
                    out.append(_Judged(key, frozenset({of}), old, new))
    return out


def _as_of(defs: Definitions, of: str, key: str) -> Field | None:
    return next((effective.field for effective in defs.effective(of) if effective.field.key == key), None)


def value_effects(work: Work, before: Definitions, after: Definitions, cursor: str = "") -> ValueEffects | None:
    """What a change would do to the next stored values after a cursor; None when it bears on none at all.

    Raises Refusal `cursor`.
    """
    judged = _judged(before, after)
    at, last = _position(cursor, len(judged))
    if not judged:
        return None
    found = ValueEffects()
    for index, (key, types, old, new) in enumerate(judged[at:], start=at):
        holders = holders_of(before, old.subject)
        rows = holders.values(work, key, last, SLICE - found.values, types)
        effect = effect_of(old, new, before, after)
        _add(work, found, holders, old, [(number, effect(value)) for number, value in rows])
        found.values += len(rows)
        if found.values >= SLICE:
            found.next = f"{index}:{rows[-1][0] if rows else 0}"
            return found
        last = 0
    return found


def _add(
    work: Work,
    found: ValueEffects,
    holders: Holders,
    field: Field,
    effects: Sequence[tuple[int, tuple[str, str, str] | None]],
) -> None:
    become = {number: effect for number, effect in effects if effect is not None}
    names = holders.named(work, list(become))
    for number, (how, was, becomes) in become.items():
        setattr(found, how, getattr(found, how) + 1)
        key, name = names.get(number, HolderName("", ""))
        found.examples.append(ValueEffect(field.subject, key, name, field.key, how, was[:120], becomes[:120]))


def _position(cursor: str, most: int) -> tuple[int, int]:
    if not cursor:
        return 0, 0
    index, _, number = cursor.partition(":")
    if not (index.isdecimal() and len(index) < 6 and int(index) < most and number.isdecimal() and len(number) <= 9):
        raise Refusal("cursor", "This page mark can't be read", ("after",), "Start again at the first page")
    return int(index), int(number)


def effect_of(old: Field, new: Field, before: Definitions, after: Definitions) -> Effect:
    """What becomes of a value of a field that is judged otherwise, or read otherwise."""
    had, have = FieldRules(old, before.spec(old)), FieldRules(new, after.spec(new))
    if reading_of(old) == reading_of(new):
        return _judged_anew(had, have)

    def converted(value: Any) -> tuple[str, str, str] | None:
        done = convert(had, have, value)
        return None if done.how == SAME else (done.how, done.before, done.after)

    return converted


def _judged_anew(had: FieldRules, have: FieldRules) -> Effect:
    judge, judged_before = have.judge, had.judge

    def effect(value: Any) -> tuple[str, str, str] | None:
        wrong = judge(value)
        if wrong is None or judged_before(value) is not None:
            return None
        return WRONG, had.text(value), wrong.message

    return effect


@dataclass(frozen=True)
class Fits:
    """How many values of a field were looked at, and how many of them each kind would take."""

    looked: int
    kinds: Mapping[str, int]


def kinds_that_fit(work: Work, key: str) -> Fits:
    """Which kinds the values of a field fit, told by some of them; kinds that ask for more are left out. Raises Refusal."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    if key not in defs.fields:
        raise Refusal("not_found", f"There is no field {key[:80]}", ("key",))
    old = defs.fields[key]
    had = FieldRules(old, defs.spec(old))
    values = [value for _, value in holders_of(defs, old.subject).values(work, key, 0, SAMPLE)]
    fits = {}
    for code in KINDS:
        new = _as_kind(old, code)
        if new is not None:
            have = FieldRules(new, defs.spec(new))
            fits[code] = sum(1 for value in values if convert(had, have, value).how in (SAME, CHANGED))
    return Fits(len(values), fits)


def _as_kind(old: Field, code: str) -> Field | None:
    kind = KINDS[code]
    options = {option.code: old.options.get(option.code) for option in kind.options}
    if not kind.own_fields or any(option.check(options[option.code]) for option in kind.options):
        return None
    options = {name: value for name, value in options.items() if value is not None}
    return Field(old.key, old.name, old.label, code, old.many and kind.takes_many, options)


class WrongValue(NamedTuple):
    """A value that is wrong or was not understood, as typed, and why."""

    product: int
    sku: str
    title: str
    typed: str
    reason: str


def wrong_values(work: Work, key: str, after: int, limit: int = 500) -> list[WrongValue]:
    """The next products whose value of a field is wrong or kept aside, by id. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    if key not in draft.defs.all_fields:
        raise Refusal("not_found", f"There is no field {key[:80]}", ("key",))
    return [
        _wrong_value(draft.assessor.rules_of(product, key), product)
        for product in stored_values.wrong_after(work.session, key, after, limit)
    ]


def _wrong_value(rules: FieldRules, product: Product) -> WrongValue:
    outcome = rules.outcome(product)
    key = rules.field.key
    typed = product.unread[key] if key in product.unread else rules.typed(product.values.get(key))
    text = typed if isinstance(typed, str) else json.dumps(typed, ensure_ascii=False)
    return WrongValue(product.id, product.sku, product.title, text, outcome.wrong.message if outcome.wrong else "")
