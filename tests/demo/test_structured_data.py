"""The structured data of the demo's products, kept where the front end's checks hold them against schema.org's types.

After a change that is meant: `KEEP_STRUCTURED_DATA=1 python -m pytest tests/demo/test_structured_data.py`.
"""

from __future__ import annotations

import json
import os
from pathlib import Path

from young_fabric.core.display.surfaces import data_surface
from young_fabric.core.pages.json_ld import Offering, product_data
from young_fabric.service.acting.actors import Work
from young_fabric.service.planning import plans
from young_fabric.store.repos import products

KEPT = Path(__file__).parents[2] / "frontend/shop/structured_data.check.ts"
ROOT = "https://saltmarsh.example"
HEAD = (
    "// Made by tests/demo/test_structured_data.py: one product of each type of the demo, as its page says it to machines.\n"
    'import type { Product, WithContext } from "schema-dts";\n\n'
    "export const documents = "
)


def documents(work: Work) -> str:
    """The structured data of the first product of each type, as TypeScript."""
    made = plans.draft_plans(work.session)
    found = {}
    for product in products.stream_where(
        work.session, products.conditions_of(products.Search(offered=True))[0], 0, 500
    ):
        if product.type not in found:
            doc = made.of_product(product, data_surface().code).render(product)
            offering = Offering("EUR", False, f"{ROOT}/shop/p/{product.values['slug']}", ROOT)
            found[product.type] = product_data(doc, offering, made.defs)
    text = json.dumps(list(found.values()), indent=2, ensure_ascii=False)
    return f"{HEAD}{text} as const satisfies readonly WithContext<Product>[];\n"


def test_what_is_kept_for_the_checks_is_what_pages_say(work: Work) -> None:
    made = documents(work)
    if "KEEP_STRUCTURED_DATA" in os.environ:
        KEPT.write_text(made)
    assert KEPT.read_text() == made
    assert made.count('"@type": "Product"') >= 8
    for said in (
        '"unitCode": "GM"',
        '"@type": "UnitPriceSpecification"',
        '"@type": "AggregateRating"',
        '"value": true',
    ):
        assert said in made
