"""The proof: pages and listings from the draft, and why something shows or does not."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from young_fabric.core.definitions import Product
from young_fabric.core.display import SURFACES
from young_fabric.core.document import RenderDoc
from young_fabric.core.entries import Outcome
from young_fabric.core.errors import Refusal
from young_fabric.core.plans import Plans
from young_fabric.core.product_types import descendants
from young_fabric.core.resolve import Plan
from young_fabric.core.steps import Step
from young_fabric.core.why import why
from young_fabric.service import plans
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos import products
from young_fabric.store.repos.things import settings_of_products

CARDS = 24


@dataclass(frozen=True)
class Drafted:
    """A product with its draft documents."""

    product: Product
    page: RenderDoc
    facts: RenderDoc


def need_product(work: Work, product_id: int) -> Product:
    """A product by id. Raises Refusal `not_found`."""
    found = products.get(work.session, [product_id]).get(product_id)
    if found is None:
        raise Refusal("not_found", "There is no such product", (), "It may have been removed")
    return found.product


def plan_for(work: Work, product: Product, surface: str) -> Plan:
    """The draft plan for one product, its own settings included."""
    own = settings_of_products(work.session, [product.id]).get(product.id, ())
    return plans.draft_plans(work.session).of_product(product, surface, own)


def page(work: Work, product_id: int) -> Drafted:
    """A product's draft page and structured data. Raises Refusal."""
    work.need(Right.LOOK)
    product = need_product(work, product_id)
    return Drafted(
        product,
        plan_for(work, product, "product_page").render(product),
        plan_for(work, product, "structured_data").render(product),
    )


def cards(work: Work, type_key: str, offset: int = 0) -> tuple[list[tuple[Product, RenderDoc]], int]:
    """A page of draft cards of a type and all below it, and how many there are. Raises Refusal."""
    work.need(Right.LOOK)
    all_plans = plans.draft_plans(work.session)
    if type_key not in all_plans.defs.types:
        raise Refusal("not_found", f"There is no product type {type_key}")
    wanted = products.Search(types=tuple(descendants(type_key, all_plans.defs.types)), offered=True)
    total = products.count(work.session, wanted)
    found = [one.product for one in products.page(work.session, wanted, None, CARDS, offset)]
    return render_cards(work, all_plans, found), total


def render_cards(work: Work, all_plans: Plans, found: Sequence[Product]) -> list[tuple[Product, RenderDoc]]:
    """Draft cards of products."""
    own = settings_of_products(work.session, [one.id for one in found])
    return [(one, all_plans.of_product(one, "listing_card", own.get(one.id, ())).render(one)) for one in found]


@dataclass(frozen=True)
class Missing:
    """A field of a product that a surface does not show, and the first step that fails."""

    key: str
    name: str
    step: Step


def missing(work: Work, product_id: int, surface: str) -> list[Missing]:
    """The fields a product has that should show on a surface and don't, for want of a value, a place or a reader."""
    work.need(Right.LOOK)
    product = need_product(work, product_id)
    plan = plan_for(work, product, surface)
    defs = plans.draft(work.session)
    out = []
    for key, entry in plan.entries.items():
        if entry.field.audience == "staff":
            continue
        told: Outcome = entry.outcome(product)
        if entry.placed and told.state == "good":
            continue
        failed = next((step for step in why(defs, plan, product, key) if step.ok is False), None)
        if failed is not None:
            out.append(Missing(key, entry.field.name, failed))
    return out


def explain(work: Work, product_id: int, key: str, surface: str) -> tuple[Product, tuple[Step, ...]]:
    """Why a field shows or does not show for a product on a surface. Raises Refusal."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    if surface not in SURFACES:
        raise Refusal("unknown_surface", f"There is no surface {surface}", ("surface",), "Choose another")
    if key not in defs.all_fields:
        raise Refusal("not_found", f"There is no field {key}", ("field",), "It may have been removed")
    product = need_product(work, product_id)
    return product, why(defs, plan_for(work, product, surface), product, key)


def example_product(work: Work, types: Sequence[str]) -> int | None:
    """A product to prove with, out of some types; the fullest of the first ones."""
    found = products.page(work.session, products.Search(types=tuple(types)), None, 12) if types else []
    if not found:
        return None
    return max(found, key=lambda one: (len(one.product.values), -one.product.id)).product.id
