"""Why an option of a product shows or does not, why a value is not offered, and how its price comes about."""

from __future__ import annotations

from collections.abc import Mapping

from young_fabric.core.base import locales
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.cascade import Resolved
from young_fabric.core.nouns.layouts import display_settings, layouts
from young_fabric.core.nouns.layouts.display_settings import origin_name
from young_fabric.core.nouns.options.effects import PRICE
from young_fabric.core.nouns.options.option_sets import LISTS, OPTION_SETS
from young_fabric.core.nouns.options.said_options import SaidOption
from young_fabric.core.options.chooser import OFFERED, ValueState
from young_fabric.core.options.goods import Goods
from young_fabric.core.options.quote import Quote
from young_fabric.core.pages.plan import Plan
from young_fabric.core.pages.steps import Mend, Step
from young_fabric.core.pages.why import Asked, step_visible
from young_fabric.core.subjects.products import Product


def why_option(
    defs: Definitions, plan: Plan, asked: Asked, said: SaidOption, settings: Mapping[str, Resolved], through: str
) -> tuple[Step, ...]:
    """The chain for an option on the surface of a plan; `through` says how its set comes to the product, "" when it does not."""
    steps = [
        step_visible(defs, plan, asked),
        _offered(defs, asked.product, said, through),
        _shown(defs, plan, said, settings),
        _place(defs, plan),
    ]
    if all(step.ok for step in steps):
        how = settings["chosen_by"]
        by = "" if how.origin == "default" else f" by {origin_name(defs, how.origin)}"
        words = f", chosen by {how.value}{by}" if said.picked else ""
        steps.append(Step("shows", True, f"It shows on the {plan.surface.name}{words}"))
    return tuple(steps)


def _offered(defs: Definitions, product: Product, said: SaidOption, through: str) -> Step:
    name = defs.option_sets[said.set].name
    if through:
        return Step("applies", True, f"{name} is offered {through}")
    words = f"{name} is not offered: not through {defs.types[product.type].name}, by its condition or by hand"
    return Step("applies", False, words, Mend("Offer it", OPTION_SETS, said.set))


def _shown(defs: Definitions, plan: Plan, said: SaidOption, settings: Mapping[str, Resolved]) -> Step:
    if not plan.surface.options:
        return Step("shown", False, f"Options do not stand on the {plan.surface.name}")
    found = settings["shown"]
    by = "by default" if found.origin == "default" else f"by the setting on {origin_name(defs, found.origin)}"
    key = f"{found.origin}/{said.key}/{plan.surface.code}"
    mend = None if found.value else Mend("Show it there", display_settings.NOUN.code, key)
    return Step("shown", bool(found.value), f"{'Shown' if found.value else 'Not shown'} {by}", mend)


def _place(defs: Definitions, plan: Plan) -> Step:
    """Whether the layout in force has a block of options that is not hidden."""
    found = [block for block in plan.layout.blocks() if BLOCK_KINDS[block.kind].chooses]
    standing = [block for block in found if plan.holding[block.id].hidden is None]
    name = defs.layouts[plan.layout.key].name if plan.layout.key in defs.layouts else plan.layout.key
    mend = Mend("Give it a place there", layouts.NOUN.code, plan.layout.key)
    if standing:
        return Step("slot", True, f"The layout {name} has a place for options")
    words = "has its place for options hidden" if found else "has no place for options"
    return Step("slot", False, f"The layout {name} {words}", mend)


def why_value(
    defs: Definitions, goods: Goods, said: SaidOption, states: Mapping[str, Mapping[str, ValueState]], code: str
) -> tuple[Step, ...]:
    """Why one value of an option can be chosen or not, with what else is chosen."""
    option, offered = said.option, goods.offer.by_key.get(said.option.key)
    mend = Mend("Look at the option", OPTION_SETS, said.set)
    if offered is None or code not in offered.by_code:
        values = defs.lists.get(option.list)
        kept = values.by_code.get(code) if values is not None else None
        if kept is not None and kept.retired:
            words = f"{kept.label} is retired in the list {values.name if values else option.list}"
            return (Step("value", False, words, Mend("Offer it again", LISTS, option.list)),)
        if kept is not None:
            return (Step("value", False, f"{kept.label} is in the list, and {option.name} does not take it", mend),)
        return (Step("value", False, f"{option.name} has no value {code[:60]}", mend),)
    label = offered.label(code)
    state = states.get(option.key, {}).get(code, OFFERED)
    if state.state == OFFERED.state:
        return (Step("value", True, f"{label} can be chosen"),)
    return (Step("value", False, state.words or f"{label} can't be chosen", mend),)


def why_price(goods: Goods, quote: Quote) -> Step:
    """How the price of what is chosen comes about: its base, and what each choice does to it."""
    if quote.price is None:
        return Step("price", False, "There is no price yet: neither the product nor the variant has one")
    money = [locales.show_money(quote.price.base, goods.currency, goods.locale)]
    facts = goods.variants.get(quote.combination) if quote.combination is not None else None
    whose = "the variant's own price" if facts is not None and facts.price is not None else "the product's price"
    if PRICE.code in goods.offer.replaces:
        whose = "nothing, as the set makes the price itself"
    replaced = [line for line in quote.lines if line.effect.mode == "replace"]
    if replaced:
        whose = f"what {replaced[-1].chosen} says"
    added = [
        f"{line.name} {line.chosen} {locales.show_money(line.amount, goods.currency, goods.locale)}"
        for line in quote.lines
        if line.effect.mode != "replace"
    ]
    total = locales.show_money(quote.price.total, goods.currency, goods.locale)
    return Step("price", True, f"{', '.join([f'{money[0]}, {whose}', *added])}: {total} for {quote.quantity}")
