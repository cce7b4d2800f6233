"""What a change of a field means for the values products hold: which would be wrong, and marking them."""

from __future__ import annotations

from dataclasses import dataclass, field

from young_fabric.core.definitions import Definitions
from young_fabric.core.errors import Refusal
from young_fabric.core.fields import Field
from young_fabric.core.values import judge
from young_fabric.service import gaps
from young_fabric.service.actors import Work
from young_fabric.store.repos import products

EXAMPLES = 5
_FIXED = {"kind": "kind", "many": "number of values", "unit": "unit", "list": "value list"}


@dataclass
class Outside:
    """How many stored values a definition makes wrong, out of how many, with some of the products (id, title)."""

    values: int = 0
    wrong: int = 0
    examples: list[tuple[int, str]] = field(default_factory=list)


def check_change(work: Work, defs: Definitions, old: Field | None, new: Field) -> None:
    """What stored values were read by can't change under them. Raises Refusal `values_exist`, or of the default."""
    if new.default is not None:
        wrong = judge(new, new.default, defs.spec(new))
        if wrong:
            raise Refusal(wrong.code, f"The default: {wrong}", ("default",), wrong.help)
    if old is None:
        return
    changed = [member for member in _FIXED if getattr(old, member) != getattr(new, member)]
    if changed:
        held = products.count(work.session, products.Search(having=new.key))
        if held:
            raise Refusal(
                "values_exist",
                f"{held} products have a value, so the {_FIXED[changed[0]]} stays as it is",
                (changed[0],),
                "Make a new field, or empty the values first",
            )


def outside(work: Work, this: Field, defs: Definitions) -> Outside:
    """Which stored values would break the limits of a definition."""
    found = Outside()
    spec = defs.spec(this)
    for batch in products.stream_values(work.session, this.key):
        for product_id, _, title, value, _, unread in batch:
            if unread:
                continue
            found.values += 1
            if judge(this, value, spec):
                found.wrong += 1
                if len(found.examples) < EXAMPLES:
                    found.examples.append((product_id, title))
    return found


def follow(work: Work, before: Definitions, after: Definitions) -> None:
    """After a field, set or type changed: judge anew the values it bears on, and keep marks, counts and gaps in step.

    A value is wrong only where its product's type has the field. Looked at are the values of fields whose limits changed,
    and of fields that came to types or left them, on products of those types.
    """
    had, have = _types_by_field(before), _types_by_field(after)
    touched: set[str] = set()
    for key, this in after.fields.items():
        types = had.get(key, frozenset()) ^ have.get(key, frozenset())
        old = before.fields.get(key)
        if old is not None and old.limits != this.limits:
            types = have.get(key, frozenset()) | had.get(key, frozenset())
        if types:
            touched |= _rejudge(work, this, after, have.get(key, frozenset()), types)
    required = gaps.required_keys(after)
    old_required = gaps.required_keys(before)
    differ = {key for key, keys in required.items() if old_required.get(key) != keys}
    gaps.mark(work.session, {key: required[key] for key in sorted(differ | touched & required.keys())})


def _types_by_field(defs: Definitions) -> dict[str, frozenset[str]]:
    """Own field → the types that have it."""
    found: dict[str, set[str]] = {}
    for type_key in defs.types:
        for one in defs.effective(type_key):
            if one.field.own:
                found.setdefault(one.field.key, set()).add(type_key)
    return {key: frozenset(types) for key, types in found.items()}


def _rejudge(work: Work, this: Field, defs: Definitions, have: frozenset[str], types: frozenset[str]) -> set[str]:
    """Mark the values of a field that are wrong now on products of some types, unmark the others; gives types marked."""
    spec = defs.spec(this)
    touched: set[str] = set()
    for batch in products.stream_values(work.session, this.key, sorted(types)):
        became: dict[bool, list[int]] = {True: [], False: []}
        moved: dict[str, int] = {}
        for product_id, type_key, _, value, wrong, unread in batch:
            is_wrong = type_key in have and (unread or judge(this, value, spec) is not None)
            if is_wrong != (this.key in wrong):
                became[is_wrong].append(product_id)
                touched.add(type_key)
                if not unread:
                    moved[type_key] = moved.get(type_key, 0) + (-1 if is_wrong else 1)
        for is_wrong, ids in became.items():
            products.flag_wrong(work.session, this.key, ids, is_wrong)
        for type_key, by in moved.items():
            products.add_fill(work.session, type_key, [this.key], [], by)
    return touched
