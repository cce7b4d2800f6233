"""What a change of a field means for the values products hold: which would be wrong, and marking them."""

from __future__ import annotations

from dataclasses import dataclass, field

from young_fabric.core.definitions import Definitions
from young_fabric.core.errors import Refusal
from young_fabric.core.fields import Field
from young_fabric.core.values import judge
from young_fabric.service import gaps, plans
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
        for product_id, _, title, value, _, _ in batch:
            found.values += 1
            if judge(this, value, spec):
                found.wrong += 1
                if len(found.examples) < EXAMPLES:
                    found.examples.append((product_id, title))
    return found


def rejudge(work: Work, old: Field, new: Field) -> None:
    """After limits changed: mark the values that are wrong now, unmark those that are good again."""
    if old.limits == new.limits:
        return
    defs = plans.draft(work.session)
    spec = defs.spec(new)
    touched: set[str] = set()
    for batch in products.stream_values(work.session, new.key):
        became: dict[bool, list[int]] = {True: [], False: []}
        moved: dict[str, int] = {}
        for product_id, type_key, _, value, wrong, unread in batch:
            is_wrong = unread or judge(new, value, spec) is not None
            if is_wrong != (new.key in wrong):
                became[is_wrong].append(product_id)
                moved[type_key] = moved.get(type_key, 0) + (-1 if is_wrong else 1)
        for is_wrong, ids in became.items():
            products.flag_wrong(work.session, new.key, ids, is_wrong)
        for type_key, by in moved.items():
            products.add_fill(work.session, type_key, [new.key], [], by)
        touched.update(moved)
    required = gaps.required_keys(defs)
    gaps.mark(work.session, {key: required[key] for key in touched})
