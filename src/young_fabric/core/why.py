"""Why a field shows or does not show for a product on a surface: the steps of the chain, told one by one."""

from __future__ import annotations

from young_fabric.core.definitions import Definitions, Product
from young_fabric.core.display import SURFACES, Chain, defaults_for
from young_fabric.core.entries import Outcome
from young_fabric.core.fields import DERIVED, Field
from young_fabric.core.product_types import type_path
from young_fabric.core.resolve import EntryPlan, Plan
from young_fabric.core.steps import Mend, Step, scope_name, step_audience, step_shown

SHOWS = {"beside": "label beside the value", "above": "label above the value", "hidden": "no label"}


def why(defs: Definitions, plan: Plan, product: Product, key: str) -> tuple[Step, ...]:
    """The chain for one field. Steps after the first failure are told too, as far as they can be asked."""
    this = defs.all_fields[key]
    entry = plan.entries.get(key)
    visible = _visible(product)
    if entry is None:
        return (visible, *_not_applying(defs, plan, product, this))
    told = entry.outcome(product)
    steps = (visible, *entry.steps, _value(entry, product, told), _device(entry))
    if all(step.ok for step in steps):
        return (*steps, _shows(defs, plan, entry))
    return steps


def _visible(product: Product) -> Step:
    if not product.offered:
        return Step(
            "visible",
            False,
            "The product is kept out of the shop",
            Mend("Put it in the shop", "product", str(product.id)),
        )
    if product.stock is not None and product.stock <= 0:
        return Step("visible", True, "The product is in the shop, sold out and shown as such")
    return Step("visible", True, "The product is in the shop")


def _not_applying(defs: Definitions, plan: Plan, product: Product, this: Field) -> tuple[Step, ...]:
    name = defs.types[product.type].name
    sets = [one for one in defs.sets.values() if this.key in one.fields]
    types = sorted(
        one.name for one in defs.types.values() if any(e.field.key == this.key for e in defs.effective(one.key))
    )
    text = f"{type_path(product.type, defs.types)} does not have it"
    if types:
        text += f"; {_some(types)} {'has' if len(types) == 1 else 'have'} it"
    if sets:
        text += f", the set {_some([one.name for one in sets])} would bring it"
    mend = Mend(f"Give it to {name}", "type", product.type)
    settings = defs.cascade.resolve(
        Chain(str(product.id), (), defs.chain(product.type)), this.key, plan.surface, defaults_for(this, plan.surface)
    )
    has = this.key in product.values
    return (
        Step("applies", False, text, mend),
        step_audience(this, plan.surface),
        step_shown(defs, this, settings, plan.surface),
        Step("slot", None, "No place is looked for, as the product does not have the field"),
        Step("value", has, "A value is kept from before" if has else "There is no value"),
    )


def _some(names: list[str]) -> str:
    shown = names[:3]
    rest = len(names) - len(shown)
    return ", ".join(shown) + (f" and {rest} more" if rest else "")


def _value(entry: EntryPlan, product: Product, told: Outcome) -> Step:
    key = entry.field.key
    mend = Mend("Fill it", "product", f"{product.id}/{'contents' if key in DERIVED else key}")
    if told.state == "good":
        from_default = " by the field's default" if told.source == "default" else ""
        text = f"“{told.text[:80]}”" if told.text else "yes"
        return Step("value", True, f"Value is filled{from_default}: {text}")
    if told.state == "empty":
        reason = f": {told.wrong.message}" if told.wrong else ""
        omitted = "" if entry.settings["empty"].value == "omit" else ", a dash stands for it"
        return Step("value", False, f"There is no value{reason}{omitted}", mend)
    reason = told.wrong.message if told.wrong else "it breaks a limit"
    return Step("value", False, f"The value is wrong: {reason}", mend._replace(text="Mend it"))


def _device(entry: EntryPlan) -> Step:
    devices = entry.settings["devices"].value
    every = len(devices) == 3
    return Step("device", True, "On every width" if every else f"On {', '.join(devices)} only")


def _shows(defs: Definitions, plan: Plan, entry: EntryPlan) -> Step:
    label = entry.settings["label"]
    by = "" if label.origin == "default" else f" by {scope_name(defs, label.origin)}"
    blocks = [block.heading or block.id for block in plan.layout.blocks() if block.id in entry.blocks]
    return Step(
        "shows", True, f"It shows on the {SURFACES[plan.surface]} in {' and '.join(blocks)}, {SHOWS[label.value]}{by}"
    )
