"""A field read otherwise than before: each stored value is taken as if it were typed anew."""

from __future__ import annotations

from typing import Any, NamedTuple

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds.base import in_words
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.subjects.values import FieldRules, Reading

SAME, CHANGED, WRONG, LOST = "same", "changed", "wrong", "lost"


class Conversion(NamedTuple):
    """What becomes of a value: `how` is same, changed (it shows otherwise), wrong (it breaks a limit it kept) or lost (not
    understood, and kept aside as typed); `before` and `after` say it in words."""

    how: str
    reading: Reading
    before: str
    after: str


def reading_of(field: Field) -> Any:
    """What decides how a field's values are read."""
    reads = {option.code: field.options.get(option.code) for option in field.rules.options if option.reads}
    return field.kind, field.many, reads


def retyped(rules: FieldRules, value: Any) -> Any:
    """A stored value as it would be typed into a field of any kind; what is not well-formed as it is."""

    def item(single: Any) -> Any:
        return rules.kind.retyped(single, rules.spec) if rules.kind.well_formed(single) else single

    return list(map(item, value)) if rules.field.many and isinstance(value, list) else item(value)


def fitted(typed: Any, many: bool) -> Any:
    """What was typed for one value or many, for a field of the other sort: several texts as one list in words."""
    if many:
        return typed if isinstance(typed, list | str) else [typed]
    if isinstance(typed, list) and len(typed) == 1:
        return typed[0]
    texts = isinstance(typed, list) and all(isinstance(text, str) for text in typed)
    return ", ".join(typed) if texts else typed


def convert(old: FieldRules, new: FieldRules, value: Any) -> Conversion:
    """What becomes of a stored value when a field is read by new rules; never raises."""
    typed = retyped(old, value)
    if old.field.many != new.field.many:
        typed = fitted(typed, new.field.many)
    reading = new.read(typed)
    was_wrong = old.judge(value)
    before = in_words(value) if was_wrong is not None and was_wrong.code not in _LIMITS else old.text(value)
    if reading.value is None:
        return Conversion(LOST, Reading(None, reading.wrong or _EMPTY, typed), before, _reason(reading.wrong or _EMPTY))
    if reading.wrong:
        return Conversion(WRONG, reading, before, _reason(reading.wrong))
    after = new.text(reading.value)
    return Conversion(SAME if after == before else CHANGED, reading, before, after)


def taken_back(new: FieldRules, typed: Any) -> Reading:
    """What was typed and not understood, read by new rules; never raises."""
    return new.read(fitted(typed, new.field.many))


_LIMITS = frozenset({"below", "above", "decimals", "short", "long", "pattern", "few", "many"})
"""What may be wrong with values that can be shown all the same."""
_EMPTY = Refusal("unread", "nothing is left of it", help="Type it anew")


def _reason(wrong: Refusal) -> str:
    return wrong.message
