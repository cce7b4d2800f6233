"""Why a field shows or does not show for a product on a surface: the steps of the chain, told one by one."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.properties import PROPERTIES, defaults_for
from young_fabric.core.display.surfaces import PRODUCTS
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.layouts import display_settings
from young_fabric.core.nouns.layouts.display_settings import origin_name
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.nouns.types import product_types
from young_fabric.core.nouns.types.product_types import type_path
from young_fabric.core.pages.entry_plan import EntryPlan
from young_fabric.core.pages.plan import Plan
from young_fabric.core.pages.steps import (
    Mend,
    Step,
    block_name,
    step_audience,
    step_block,
    step_condition,
    step_device,
    step_shown,
)
from young_fabric.core.pages.when import Holding
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import Outcome

SUBJECT = "product"


class Asked(NamedTuple):
    """What is asked about: a product, or a record read as what holds values, with the key it is known by."""

    product: Product
    noun: str
    key: str

    def mend(self, text: str, field: str = "") -> Mend:
        """The place to mend it, or a value of it."""
        return Mend(text, self.noun, f"{self.key}/{field}" if field else self.key)


def of_product(product: Product) -> Asked:
    """A product that is asked about."""
    return Asked(product, SUBJECT, str(product.id))


def why(defs: Definitions, plan: Plan, about: Asked | Product, key: str, device: str = "") -> tuple[Step, ...]:
    """The chain for one field, on a `device` or, "", on any. Steps after the first failure are told too, as far as they
    can be asked."""
    asked = of_product(about) if isinstance(about, Product) else about
    product = asked.product
    entry = plan.entries.get(key)
    visible = step_visible(defs, plan, asked)
    if entry is None:
        field = defs.all_fields.get(key) or defs.fields[key]
        return (visible, *_not_applying(defs, plan, asked, field))
    outcome = entry.outcome(product)
    values = plan.values(product)
    holdings = [plan.holding[block] for block in entry.blocks if block in plan.holding]
    steps = (
        visible,
        *entry.steps,
        step_block(defs, holdings, values, plan.layout),
        step_condition(defs, entry.field, entry.when, values, entry.settings["condition"].origin, plan.surface),
        _value(defs, entry, asked, outcome),
        _device(plan, entry, [holding for holding in holdings if holding.shows(values)], device),
    )
    if all(step.ok for step in steps):
        return (*steps, _shows(defs, plan, entry))
    return steps


def step_visible(defs: Definitions, plan: Plan, asked: Asked) -> Step:
    """Whether what is asked about is in the shop at all."""
    product = asked.product
    if plan.group.of != PRODUCTS:
        sort = defs.things["record_type"][plan.group.type]
        if not sort.page:
            return Step(
                "visible", False, f"Records of {sort.name} have no page", Mend("Give them one", "record_type", sort.key)
            )
        return Step("visible", True, f"Records of {sort.name} have a page")
    if not product.offered:
        return Step("visible", False, "The product is kept out of the shop", asked.mend("Put it in the shop"))
    if product.sold_out:
        return Step("visible", True, "The product is in the shop, sold out and shown as such")
    return Step("visible", True, "The product is in the shop")


def _not_applying(defs: Definitions, plan: Plan, asked: Asked, field: Field) -> tuple[Step, ...]:
    if plan.group.of != PRODUCTS:
        sort = defs.things["record_type"][plan.group.type]
        mend = Mend(f"Give it to {sort.name}", "record_type", sort.key)
        return (Step("applies", False, f"Records of {sort.name} do not have it", mend),)
    product = asked.product
    name = defs.types[product.type].name
    sets = [field_set for field_set in defs.sets.values() if field.key in field_set.fields]
    types = sorted(
        product_type.name
        for product_type in defs.types.values()
        if any(effective.field.key == field.key for effective in defs.effective(product_type.key))
    )
    text = f"{type_path(product.type, defs.types)} does not have it"
    if types:
        text += f"; {_some(types)} {'has' if len(types) == 1 else 'have'} it"
    if sets:
        text += f", the set {_some([field_set.name for field_set in sets])} would bring it"
    mend = Mend(f"Give it to {name}", product_types.NOUN.code, product.type)
    brings = sorted(defs.holders[field.key].collections) if field.key in defs.holders else []
    if brings:
        text += f", to products in {_some([defs.things['collection'][key].name for key in brings])}"
        mend = asked.mend("Put it in there")
    chain = defs.cascade_chain(plan.group)
    settings = defs.cascade.resolve(chain, field.key, plan.surface.code, defaults_for(field, plan.surface))
    has = field.key in product.values
    return (
        Step("applies", False, text, mend),
        step_audience(field, plan.surface),
        step_shown(defs, field, settings, plan.surface),
        Step("slot", None, "No place is looked for, as the product does not have the field"),
        Step("value", has, "A value is kept from before" if has else "There is no value"),
    )


def _some(names: list[str]) -> str:
    shown = names[:3]
    rest = len(names) - len(shown)
    return ", ".join(shown) + (f" and {rest} more" if rest else "")


def default_words(defs: Definitions, entry: EntryPlan) -> str:
    """What a default stems from, in words."""
    origin = entry.effective.default_from
    if origin is None:
        return "the field's default"
    noun, key = origin
    thing = defs.things[noun].get(key)
    return f"the {NOUNS[noun].name} {thing.name if thing is not None else key}"


def _value(defs: Definitions, entry: EntryPlan, asked: Asked, outcome: Outcome) -> Step:
    product = asked.product
    derived = entry.rules.derived
    filled_at = entry.field.key
    if derived is not None:
        filled_at = next((key for key in derived.reads if key not in product.values), derived.reads[-1])
    mend = asked.mend("Fill it", filled_at)
    if outcome.state == "good":
        from_default = f" by {default_words(defs, entry)}" if outcome.source == "default" else ""
        text = entry.rules.text(outcome.value)
        return Step("value", True, f"Value is filled{from_default}: {f'“{text[:80]}”' if text else 'yes'}")
    if outcome.state == "empty":
        reason = f": {outcome.wrong.message}" if outcome.wrong else ""
        instead = ", a dash stands for it" if entry.settings["empty"].value != "omit" else ""
        return Step("value", False, f"There is no value{reason}{instead}", mend)
    if entry.field.key in product.unread:
        typed = str(product.unread[entry.field.key])[:60]
        return Step("value", False, f"The value is wrong: “{typed}” was not understood", mend._replace(text="Mend it"))
    reason = outcome.wrong.message if outcome.wrong else "it breaks a limit"
    return Step("value", False, f"The value is wrong: {reason}", mend._replace(text="Mend it"))


def _device(plan: Plan, entry: EntryPlan, holdings: Sequence[Holding], device: str) -> Step:
    devices = entry.settings["devices"]
    key = f"{devices.origin}/{entry.field.key}/{plan.surface.code}"
    mend = Mend("Change where it shows", display_settings.NOUN.code, key)
    return step_device(plan.layout, holdings, devices.value, mend, device)


def _shows(defs: Definitions, plan: Plan, entry: EntryPlan) -> Step:
    label = entry.settings["label"]
    by = "" if label.origin == "default" else f" by {origin_name(defs, label.origin)}"
    blocks = [block_name(block) for block in plan.layout.blocks() if block.id in entry.blocks]
    words = PROPERTIES["label"].words(label.value)
    return Step("shows", True, f"It shows on the {plan.surface.name} in {' and '.join(blocks)}, {words}{by}")
