"""What changing one field costs, against compiling the plans of all groups, with 200 types and 300 fields."""

from __future__ import annotations

import statistics
from collections.abc import Mapping
from dataclasses import replace

from base import RUNS, timed
from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.types.field_sets import FieldSet, Section
from young_fabric.core.nouns.types.product_types import ProductType
from young_fabric.core.pages.plans import PlanCache, Plans

TYPES, FIELDS, A_SET, SETS_A_TYPE = 200, 300, 10, 3
MOST = 0.02


def definitions() -> Definitions:
    """200 types of three sets each, out of thirty sets of ten fields."""
    fields = {
        f"field_{number}": Field(f"field_{number}", f"Field {number}", f"Field {number}", "text")
        for number in range(FIELDS)
    }
    keys = list(fields)
    sets = {
        f"set_{number}": FieldSet(
            f"set_{number}",
            f"Set {number}",
            (Section("all", "All", tuple(keys[number * A_SET : (number + 1) * A_SET])),),
        )
        for number in range(FIELDS // A_SET)
    }
    names = list(sets)
    types = {
        f"type_{number}": ProductType(
            f"type_{number}",
            f"Type {number}",
            slug=f"type-{number}",
            sets=tuple(names[(number + step * 7) % len(names)] for step in range(SETS_A_TYPE)),
        )
        for number in range(TYPES)
    }
    things: Mapping[str, Mapping[str, object]] = {"field": fields, "field_set": sets, "product_type": types}
    return Definitions(Shop("Bench", "EUR", "en"), things)


def all_plans(defs: Definitions, cache: PlanCache) -> int:
    """Have the plan of every type on every surface."""
    plans = Plans(defs, cache, "bench")
    return len([plans.of_group(Group(key), surface) for key in defs.types for surface in product_surfaces()])


def run() -> bool:
    """Measure, print, and say whether the ratio is held."""
    defs = definitions()
    whole = timed(all_plans, defs, PlanCache())
    cache = PlanCache()
    count = all_plans(defs, cache)
    field = defs.fields["field_7"]
    helps = [replace(field, help=f"Words {step}") for step in range(RUNS)]
    labels = [replace(field, label=f"Words {step}") for step in range(RUNS)]
    helped, labelled = (
        statistics.median(timed(all_plans, defs.having("field", field.key, other), cache) for other in others)
        for others in (helps, labels)
    )
    print(f"plans: {TYPES} types, {FIELDS} fields, {count} plans")
    print(f"  compiling all             {whole:.3f} s")
    print(f"  after one field's help    {helped:.4f} s   {100 * helped / whole:.2f} % (at most {100 * MOST:.0f})")
    print(
        f"  after one field's label   {labelled:.4f} s   {100 * labelled / whole:.2f} %, {TYPES * SETS_A_TYPE * A_SET // FIELDS} types have it"
    )
    return helped / whole <= MOST
