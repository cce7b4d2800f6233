"""What templates are told of a choice: the options as they can be chosen, what they cost, and what hinders an order."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any
from urllib.parse import urlencode

from young_fabric.core.base import locales
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.words import say, tell
from young_fabric.core.kinds.file_types import FILE_TYPES
from young_fabric.core.kinds.leaves import Chooser, OptionShown
from young_fabric.core.kinds.limits import LONGEST
from young_fabric.core.nouns.fields.built_in import COVER
from young_fabric.core.nouns.lists.list_values import Swatch
from young_fabric.core.nouns.options.effects import ONCE, PRICE, Amount, amount_words
from young_fabric.core.nouns.options.option_kinds import LATEST, PICTURE, SOONEST, TAKEN_FILES, UPLOAD
from young_fabric.core.nouns.options.options import OfferedValue
from young_fabric.core.options.chooser import OFFERED
from young_fabric.core.options.choosing import addressed, how_chosen
from young_fabric.core.options.left import is_sold_out, value_left
from young_fabric.core.options.offers import OfferedOption
from young_fabric.core.options.sold import Sold
from young_fabric.core.options.swatches import standing
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.subjects.variants import Variant
from young_fabric.service.sales.selling import Chosen, Selling

_USUAL = OptionShown("", "fits", "medium", "round", "below", "", 6)


@dataclass(frozen=True)
class ValueShown:
    """A value that can be chosen: how it looks, whether it goes with the rest and why not, where it leads, what it adds to the price."""

    code: str
    label: str
    note: str
    swatch: Swatch
    state: str
    words: str
    chosen: bool
    href: str
    price: str


@dataclass(frozen=True)
class OptionToChoose:
    """An option on a page: its `control`, `how` it is chosen from, its values, what was typed or chosen, and what is wrong with it;
    `usual` says whether something is chosen before anybody chooses, `pictured` whether what was sent is a picture."""

    key: str
    set: str
    name: str
    description: str
    required: bool
    several: bool
    control: str
    how: str
    look: OptionShown
    values: Sequence[ValueShown]
    typed: str
    words: str
    price: str
    problem: Refusal | None
    kept: str = ""
    accept: str = ""
    longest: int | None = None
    first_day: str = ""
    last_day: str = ""
    usual: bool = False
    pictured: bool = False


@dataclass(frozen=True)
class MoneyLine:
    """A line of what a price is made of."""

    name: str
    words: str
    amount: str
    once: bool


@dataclass(frozen=True)
class Choosing:
    """A choice as a page tells it. `whole` says whether all is chosen that makes a variant; `hindrances` are what stands against ordering it."""

    chosen: Chosen
    options: Sequence[OptionToChoose]
    lines: Sequence[MoneyLine]
    base: str
    each: str
    once: str
    total: str
    quantity: int
    hindrances: Sequence[Refusal]
    sent: bool

    @cached_property
    def by_key(self) -> Mapping[str, OptionToChoose]:
        """Its options by key."""
        return {option.key: option for option in self.options}

    @property
    def first_wrong(self) -> str:
        """The key of the first option that something is wrong with, "" for none."""
        return next((option.key for option in self.options if option.problem is not None), "")

    @property
    def whole(self) -> bool:
        """Whether a variant is chosen, or there is none to choose."""
        return not self.chosen.selling.goods.offer.axes or self.chosen.quote.combination is not None

    @property
    def sold_out(self) -> bool:
        """Whether nothing can be had: of what is chosen, or of all there is."""
        available = self.chosen.quote.available
        return available == 0 if self.whole and available is not None else self.chosen.selling.sold_out

    @property
    def unpriced(self) -> bool:
        """Whether what is chosen can't be ordered whatever else is chosen, as it has no price."""
        return self.whole and self.chosen.quote.price is None

    def ordered(self, content: Any) -> list[OptionToChoose]:
        """The options that a block shows."""
        shown = content.shown if isinstance(content, Chooser) else ()
        return [self.by_key[option.key] for option in shown if option.key in self.by_key]


def chooser_in(doc: RenderDoc) -> Chooser | None:
    """The options as a document shows them, None where it has no place for them."""
    return next((block.content for block in doc.blocks() if isinstance(block.content, Chooser)), None)


def choosing(chosen: Chosen, doc: RenderDoc, href: str, kept: Mapping[str, Any], *, sent: bool) -> Choosing:
    """A choice as a page tells it; `kept` holds the tokens of files that were sent. What is not yet chosen is told as missing only of
    what was `sent`."""
    content = chooser_in(doc)
    looks = {option.key: option for option in content.shown} if content is not None else {}
    goods, quote = chosen.selling.goods, chosen.quote
    wrong = {
        problem.option: problem.refusal
        for problem in reversed(quote.problems)
        if problem.option and (sent or problem.refusal.code != "required")
    }
    options = [
        _option(chosen, offered, looks.get(key, _USUAL), href, wrong.get(key), str(kept.get(key) or ""))
        for key, offered in goods.offer.by_key.items()
    ]
    price = quote.price

    def money(amount: str) -> str:
        return locales.show_money(amount, goods.currency, goods.locale)

    lines = [
        MoneyLine(line.name, line.chosen, money(line.amount), line.effect.charge == ONCE)
        for line in quote.lines
        if line.effect.mode != "replace"
    ]
    return Choosing(
        chosen,
        options,
        lines,
        money(price.base) if price else "",
        money(price.each) if price else "",
        money(price.once) if price and price.once.strip("0.") else "",
        money(price.total) if price else "",
        quote.quantity,
        [
            problem.refusal
            for problem in quote.problems
            if not problem.option and (sent or _now(chosen, problem.refusal))
        ],
        sent,
    )


def _now(chosen: Chosen, refusal: Refusal) -> bool:
    """Whether something wrong with the whole is told before anything is sent: once a variant is chosen; of what has none, where some
    are left, for else the button says so already."""
    if not chosen.selling.goods.offer.axes:
        return chosen.quote.available != 0
    return chosen.quote.combination is not None or refusal.code == "left_out"


def _option(
    chosen: Chosen, offered: OfferedOption, look: OptionShown, href: str, wrong: Refusal | None, kept: str
) -> OptionToChoose:
    option, goods = offered.option, chosen.selling.goods
    given, asked = chosen.quote.given.get(option.key), chosen.asked.get(option.key)
    limits = option.limits
    taken = limits.get(TAKEN_FILES.code) or (PICTURE,)
    return OptionToChoose(
        option.key,
        offered.set,
        option.name,
        option.description,
        option.required or option.rules.makes_variants,
        option.rules.several,
        option.rules.control,
        how_chosen(look.chosen_by, offered),
        look,
        [_value(chosen, offered, value, href) for value in offered.values],
        asked if isinstance(asked, str) else "",
        given.words if given is not None else "",
        _price(option.effect.amounts.get(PRICE.code), goods.locale, goods.currency),
        wrong,
        kept if option.rules.control == UPLOAD and given is not None else "",
        _accept(taken) if option.rules.control == UPLOAD else "",
        limits.get(LONGEST.code),
        chosen.day(limits.get(SOONEST.code, 0)),
        chosen.day(limits[LATEST.code]) if LATEST.code in limits else "",
        bool(option.default),
        option.rules.control == UPLOAD and isinstance(asked, Mapping) and asked.get("type") == PICTURE,
    )


def _accept(taken: Sequence[str]) -> str:
    endings = {PICTURE: (".jpg", ".jpeg", ".png", ".webp"), **{code: sort.endings for code, sort in FILE_TYPES.items()}}
    return ",".join(ending for code in taken for ending in endings.get(code, ()))


def _value(chosen: Chosen, offered: OfferedOption, value: OfferedValue, href: str) -> ValueShown:
    key, goods = offered.option.key, chosen.selling.goods
    state = chosen.states.get(key, {}).get(value.code, OFFERED)
    asked = chosen.asked.get(key)
    held = value.code in asked if isinstance(asked, list) else asked == value.code
    several = offered.option.rules.several
    others = [code for code in asked if code != value.code] if isinstance(asked, list) else []
    next_ = ([*others] if held else [*others, value.code]) if several else value.code
    address = addressed(goods.offer, {**chosen.asked, key: next_})
    return ValueShown(
        value.code,
        value.label,
        value.note,
        value.swatch,
        state.state,
        tell(goods.locale, state.why, helped=False) if state.why is not None else "",
        held,
        f"{href}?{urlencode(address)}" if address else href,
        _price(value.effect.amounts.get(PRICE.code), goods.locale, goods.currency),
    )


def _price(amount: Amount | None, locale: str, currency: str) -> str:
    """What a price effect is to shoppers; what stands in the base's place is a price by itself."""
    if amount is None:
        return ""
    each = amount_words(replace(amount, charge="each"), PRICE.code, locale, currency).removeprefix("= ")
    return (f"{each} {say(locale, 'once')}" if amount.charge == ONCE else each).replace(" ", "\u00a0")


@dataclass(frozen=True)
class CardSwatch:
    """A value on a card: how it looks, the address of the product with it chosen, the picture of that, whether none is left."""

    label: str
    swatch: Swatch
    href: str
    picture: Mapping[str, Any] | None
    sold_out: bool


@dataclass(frozen=True)
class CardSwatches:
    """An option's swatches on a card, and how many more there are."""

    name: str
    look: OptionShown
    values: Sequence[CardSwatch]
    more: int


def card_swatches(
    selling: Selling, doc: RenderDoc, href: str, values: Mapping[str, str], variants: frozenset[int]
) -> list[CardSwatches]:
    """The swatches of a card, each leading to the page with what the card is of: of each option that its `values` leave open the first
    values that some of its `variants` has."""
    content = chooser_in(doc)
    sold: Sold | None = selling.product.sold
    if content is None or sold is None:
        return []
    out = []
    for look in content.shown:
        offered = selling.goods.offer.by_key.get(look.key)
        if offered is None or look.key in values:
            continue
        found = _with_each(selling, offered, [variant for variant in sold.variants if variant.id in variants])
        chosen = list(values.items())
        shown = [
            CardSwatch(
                value.label, value.swatch, f"{href}?{urlencode([*chosen, (look.key, value.code)])}", picture, gone
            )
            for value, picture, gone in found[: look.most]
        ]
        if shown:
            out.append(CardSwatches(offered.option.name, look, shown, max(len(found) - look.most, 0)))
    return out


def _with_each(
    selling: Selling, offered: OfferedOption, variants: Sequence[Variant]
) -> list[tuple[OfferedValue, Mapping[str, Any] | None, bool]]:
    """(value, picture of its first variant that is left, whether none is left), of values that some variant has; of requests all."""
    key = offered.option.key
    if not offered.option.rules.makes_variants:
        return [(value, None, not value_left(selling.goods, key, value.code)) for value in offered.values]
    having: dict[str, list[Variant]] = {}
    for variant in variants:
        having.setdefault(variant.choices[key], []).append(variant)
    out = []
    for value in offered.values:
        found = having.get(value.code, [])
        left = [variant for variant in found if _left(selling, variant)]
        if found:
            out.append((value, _picture((left or found)[0]), not left))
    return out


def _left(selling: Selling, variant: Variant) -> bool:
    names = selling.goods.offer.names_of(variant.choices)
    return names is not None and not is_sold_out(selling.goods, names)


def _picture(variant: Variant) -> Mapping[str, Any] | None:
    found = variant.values.get(COVER.key)
    return found[0] if isinstance(found, list) and found else None


def halves(colours: Sequence[str]) -> str:
    """Colours side by side as one ground (CSS Images 4): two split on the slant, more in stripes."""
    if len(colours) == 1:
        return colours[0]
    slant = "135deg" if len(colours) == 2 else "90deg"
    step = 100 / len(colours)
    stops = [f"{colour} {step * at:.4g}% {step * (at + 1):.4g}%" for at, colour in enumerate(colours)]
    return f"linear-gradient({slant}, {', '.join(stops)})"


def needs_outline(swatch: Swatch) -> bool:
    """Whether a swatch would vanish on the page without a line around it."""
    return bool(swatch.colours) and not swatch.picture and standing(swatch.colours).outline
