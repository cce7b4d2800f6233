"""Why options of products show or do not, why a value is not offered, and how a price comes about."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Cascade
from young_fabric.core.nouns.options.said_options import SaidOption, said_option
from young_fabric.core.options.chooser import value_states
from young_fabric.core.pages.plan import settings_of
from young_fabric.core.pages.why import of_product
from young_fabric.core.pages.why_options import why_option, why_price, why_value
from young_fabric.core.subjects.products import Product
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.pages import proofs
from young_fabric.service.pages.explaining import Explained
from young_fabric.service.planning import plans
from young_fabric.service.planning.offering import Offers
from young_fabric.service.sales import selling


def explain_option(
    work: Work, product_id: int, key: str, surface: str, value: str | None, choices: Mapping[str, Any]
) -> Explained:
    """Why an option shows or does not on a surface; of a value, why it can be chosen or not with some choices; and how their price comes
    about. Raises Refusal `not_found`, `unknown_surface`."""
    work.need(Right.LOOK)
    proofs.need_product_surface(surface)
    made = plans.draft_plans(work.session)
    said = said_option(made.defs, key)
    if said is None:
        raise Refusal("not_found", f"There is no option {key[:120]}", ("field",), "It may have been removed")
    product = proofs.need_product(work, product_id)
    own = proofs.settings_tried(work, made, product, proofs.AS_IT_IS)
    plan = made.of_product(product, surface, own)
    cascade = Cascade((*made.defs.settings.values(), *own))
    settings = settings_of(made.defs, cascade, made.defs.cascade_chain(plan.group), said, plan.surface)
    through = _through(Offers(made.defs), product, said)
    steps = why_option(made.defs, plan, of_product(product), said, settings, through)
    if through:
        found = selling.draft_selling(work, made, [product])[product.id]
        chosen = selling.choose(found, choices, 1, work.now.date())
        if value is not None:
            others = {name: given for name, given in chosen.quote.given.items() if name != said.option.key}
            steps = (*steps, *why_value(made.defs, found.goods, said, value_states(found.goods, others), value))
        steps = (*steps, why_price(found.goods, chosen.quote))
    return Explained(said.name, product.title, plan.surface.code, steps)


def _through(offers: Offers, product: Product, said: SaidOption) -> str:
    """How an option set comes to a product, in words; "" when it does not."""
    options = offers.defs.option_sets[said.set]
    if said.set in offers.of_type(product.type):
        by = next(
            (key for key in offers.defs.chain(product.type) if said.set in offers.defs.types[key].option_sets),
            product.type,
        )
        return f"through the type {offers.defs.types[by].name}"
    if said.set not in product.option_sets:
        return ""
    return "by hand" if product.id in options.picked else "by its condition"
