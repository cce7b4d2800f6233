"""One more computed field, added as the registries have it in a process of its own: told, shown, explained, never filled."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

ADDED = """
import json, sys
from dataclasses import replace
from decimal import Decimal
from young_fabric.core.nouns.fields import built_in

field = replace(built_in.BUILT_IN["unit_price"], key="profit", name="Profit", label="Profit", kind="money", schema_org="", help="")
built_in.BUILT_IN["profit"] = field
built_in.DERIVED |= {"profit"}

from young_fabric.core.subjects import derived

compute = lambda values: str(Decimal(values[0]) - Decimal(values[1]))
derived.DERIVED["profit"] = derived.Derived("profit", ("price", "unit_cost"), lambda _spec: compute, "no_profit")

from tests.core.saltmarsh import SALTMARSH
from young_fabric.core.pages.plans import Plans
from young_fabric.core.pages.why import of_product, why
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.core.subjects.products import Product

plan = Plans(SALTMARSH).of_type("easels", "product_page")
full = Product(5, "easels", {"title": "Heron easel", "price": "90", "unit_cost": "60"})
bare = Product(5, "easels", {"title": "Heron easel", "price": "90"})
asked = Assessor(SALTMARSH)
shown = [entry.text for block in plan.render(full).blocks() for entry in block.entries if entry.field == "profit"]
steps = {step.name: step for step in why(SALTMARSH, plan, of_product(bare), "profit")}
print(json.dumps({
    "shown": shown,
    "none": [entry.field for block in plan.render(bare).blocks() for entry in block.entries if entry.field == "profit"],
    "value": steps["value"].text,
    "mend": steps["value"].mend.key,
    "filled": "profit" in asked.fillable_of(full),
    "code": asked.rules("profit").outcome(bare).wrong.code,
}))
"""


def test_a_computed_field_is_a_line_in_two_registries() -> None:
    root = Path(__file__).parents[3]
    done = subprocess.run(
        [sys.executable, "-c", ADDED], cwd=root, capture_output=True, text=True, timeout=120, check=False
    )
    assert done.returncode == 0, done.stderr
    found = json.loads(done.stdout)
    assert found["shown"] == ["€30.00"]
    assert found["none"] == []
    assert found["value"] == "There is no value: Cost is not filled, and it is computed from that"
    assert found["mend"] == "5/unit_cost"
    assert (found["filled"], found["code"]) == (False, "no_profit")
