"""What one line costs, and why: the one reckoning that studio, shop and basket ask."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from decimal import Decimal
from typing import Any, NamedTuple

from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.options.effects import COST, PRICE, WEIGHT, Figure
from young_fabric.core.options.combinations import is_left_out
from young_fabric.core.options.goods import Goods, Names, VariantFacts
from young_fabric.core.options.left import left_of_choice
from young_fabric.core.options.offers import Given, Offer, OfferedOption
from young_fabric.core.options.pricing import Price, PriceEffect, price, weigh
from young_fabric.core.options.requests import read_given
from young_fabric.core.options.sku import make_sku
from young_fabric.core.subjects.unit_price import PerReference

_line = tuple.__new__
"""Makes a line of its members, at half the time of calling it."""
SOLD_OUT = Refusal("sold_out", "Sold out", (), "Choose another")
_NOTHING_OWN = VariantFacts()


class QuoteLine(NamedTuple):
    """One effect on the price: of which option, what was chosen, how it is reckoned, and what it comes to."""

    option: str
    name: str
    chosen: str
    effect: PriceEffect
    amount: str


class QuoteProblem(NamedTuple):
    """Why a line can't be ordered so: at an option, or the line as a whole ("")."""

    option: str
    refusal: Refusal


class Quote(NamedTuple):
    """What a line costs. `given` holds what was understood by option; `available` how many can be had, None when not counted."""

    quantity: int
    given: Mapping[str, Given]
    price: Price | None
    lines: tuple[QuoteLine, ...]
    former_price: Decimal | None
    unit_price: tuple[str, PerReference] | None
    weight: str | None
    cost: str | None
    sku: str
    combination: Names | None
    variant: int | None
    available: int | None
    problems: tuple[QuoteProblem, ...]


def quote(goods: Goods, choices: Mapping[str, Any], quantity: int, today: date) -> Quote:
    """Quote a line of what was typed or chosen by option. Raises Refusal `quantity`; all else that is wrong is told in `problems`."""
    if isinstance(quantity, bool) or not isinstance(quantity, int) or quantity < 1:
        raise Refusal(
            "quantity",
            "The quantity must be a whole number of 1 or more",
            ("quantity",),
            "Write 1 or more",
            {"case": "one"},
        )
    given, problems = _read_all(goods, choices, today)
    combination, variant, wrong = _variant(goods, given)
    problems += wrong
    facts = variant or _NOTHING_OWN
    own = goods.own
    base = None if PRICE.code in goods.offer.replaces else (facts.price if facts.price is not None else own.price)
    done = _effects(given)
    priced, lines = _priced(goods, base, quantity, given, done.get(PRICE.code, ()), problems)
    per = facts.per or own.per
    available = left_of_choice(goods, combination, given)
    if available is not None and available < quantity:
        problems.append(QuoteProblem("", _sold_out(available)))
    members = (
        quantity,
        given,
        priced,
        lines,
        facts.former_price if facts.former_price is not None else own.former_price,
        (str(per.price(Decimal(priced.each), goods.currency)), per) if per is not None and priced is not None else None,
        _figure(goods, WEIGHT, facts.weight if facts.weight is not None else own.weight, done, quantity),
        _figure(goods, COST, facts.cost if facts.cost is not None else own.cost, done, quantity),
        _sku(goods, facts, given, problems),
        combination,
        variant.id if variant else None,
        available,
        tuple(problems),
    )
    return _line(Quote, members)


def _read_all(goods: Goods, choices: Mapping[str, Any], today: date) -> tuple[dict[str, Given], list[QuoteProblem]]:
    given, problems = {}, []
    for key, offered in goods.offer.by_key.items():
        try:
            found = read_given(offered, choices.get(key), today, goods.locale)
        except Refusal as refusal:
            problems.append(QuoteProblem(key, refusal))
            continue
        if found is not None:
            given[key] = found
        elif offered.option.required or offered.rules.makes_variants:
            problems.append(QuoteProblem(key, _missing(offered)))
    return given, problems


def _missing(offered: OfferedOption) -> Refusal:
    ask, name = "Choose" if offered.rules.chooses else "Give", offered.option.name
    return Refusal("required", f"{ask} {name}", (), ask, {"case": ask.lower(), "name": name})


def _variant(goods: Goods, given: Mapping[str, Given]) -> tuple[Names | None, VariantFacts | None, list[QuoteProblem]]:
    """The combination chosen and its variant, None where the choice is not whole."""
    keys = goods.offer.axis_keys
    if not keys or any(key not in given for key in keys):
        return None, None, []
    names = tuple([str(given[key].value) for key in keys])
    found = goods.variants.get(names)
    if found is not None:
        return names, found, []
    if goods.offer.left_out:
        combination = dict(zip(keys, names, strict=True))
        if is_left_out(combination, goods.offer.left_out):
            return names, None, [QuoteProblem("", left_out_words(goods.offer, combination))]
    if goods.variants or not goods.tried:
        return (
            names,
            None,
            [QuoteProblem("", Refusal("left_out", "This is not made", (), "Choose another", {"case": "all"}))],
        )
    return names, None, []


def left_out_words(offer: Offer, combination: Mapping[str, str]) -> Refusal:
    """Why a combination is not made, by the first rule that leaves it out."""
    rule = next(
        rule for rule in offer.left_out if rule and all(combination.get(key) in codes for key, codes in rule.items())
    )
    said = [offer.by_key[key].label(combination[key]) for key in rule]
    return not_made(said[-1], said[:-1])


def not_made(label: str, others: Sequence[str]) -> Refusal:
    """That a value is not made, or not with others."""
    if not others:
        return Refusal("left_out", f"{label} is not made", (), "Choose another", {"case": "alone", "name": label})
    among = " & ".join(others)
    words = f"{label} is not made in {' and '.join(others)}"
    return Refusal("left_out", words, (), "Choose another", {"name": label, "among": among})


Done = Mapping[str, Sequence[PriceEffect]]
"""Figure → what all that was given does to it, in order of the options."""


def _effects(given: Mapping[str, Given]) -> Done:
    done: dict[str, list[PriceEffect]] = {}
    for found in given.values():
        for figure, effects in found.amounts.items():
            done.setdefault(figure, []).extend(effects)
    return done


def _priced(
    goods: Goods,
    base: Decimal | None,
    quantity: int,
    given: Mapping[str, Given],
    made: Sequence[PriceEffect],
    problems: list[QuoteProblem],
) -> tuple[Price | None, tuple[QuoteLine, ...]]:
    if base is None and PRICE.code not in goods.offer.replaces and not any(effect.mode == "replace" for effect in made):
        problems.append(QuoteProblem("", Refusal("no_price", "There is no price yet", (), "Give the product a price")))
        return None, ()
    priced = price(goods.currency, base if base is not None else Decimal(0), quantity, made)
    if not made:
        return priced, ()
    amounts = iter(priced.lines)
    by_key = goods.offer.by_key
    lines = []
    for effect in made:
        key = effect.option
        amount = priced.base if effect.mode == "replace" else next(amounts).amount
        lines.append(_line(QuoteLine, (key, by_key[key].option.name, given[key].words, effect, amount)))
    return priced, tuple(lines)


def _figure(goods: Goods, figure: Figure, base: Decimal | None, done: Done, quantity: int) -> str | None:
    """Weight in grams or cost of the whole line, None where nothing is known of it."""
    made = done.get(figure.code, ())
    replaced = figure.code in goods.offer.replaces
    if (base is None or replaced) and not made:
        return None
    start = Decimal(0) if base is None or replaced else base
    found = weigh(start, quantity, made) if figure.grams else price(goods.currency, start, quantity, made)
    return found.total


def _sku(goods: Goods, facts: VariantFacts, given: Mapping[str, Given], problems: list[QuoteProblem]) -> str:
    """The line's SKU: the variant's own, or made of the parts of its values; then the parts of requests."""
    base = goods.own.sku or ""
    try:
        chosen = {key: found.parts for key, found in given.items() if found.parts}
        sku = facts.sku or variant_sku(goods.offer, base, chosen)
        for rule in goods.offer.skus:
            parts = [part for key in rule.requests if key in chosen for part in chosen[key]]
            if parts:
                policy = "extend" if rule.policy == "replace" and rule.makes_variants else rule.policy
                sku = make_sku(sku, policy, parts, rule.separator)
    except Refusal as refusal:
        problems.append(QuoteProblem("", refusal))
        return base
    return sku


def variant_sku(offer: Offer, base: str, chosen: Mapping[str, Sequence[str]]) -> str:
    """The SKU of a variant, made by each set in order of the parts of the values chosen, by option. Raises Refusal `too_long`."""
    sku = base
    for rule in offer.skus:
        if rule.makes_variants:
            parts = [part for key in rule.makers if key in chosen for part in chosen[key]]
            sku = make_sku(sku, rule.policy, parts, rule.separator)
    return sku


def _sold_out(available: int) -> Refusal:
    if available == 0:
        return SOLD_OUT
    help_words, facts = f"Take {available} or fewer", {"case": "some", "left": available}
    return Refusal("sold_out", f"Only {available} left", ("quantity",), help_words, facts)
