"""What shoppers can choose of a product: its option sets put together in order, and what hinders that."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cached_property
from typing import Any, NamedTuple

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.locales import show_yes_no
from young_fabric.core.base.text import fold
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds import KINDS, Kind, Spec
from young_fabric.core.kinds.base import Judge
from young_fabric.core.nouns.options.effects import FIGURES, Effect
from young_fabric.core.nouns.options.option_kinds import OF_DAYS, OptionKind
from young_fabric.core.nouns.options.option_sets import OptionSet
from young_fabric.core.nouns.options.options import OfferedValue, Option, offered_values
from young_fabric.core.options.combinations import Axis, LeaveOut, check_size
from young_fabric.core.options.pricing import PriceEffect
from young_fabric.core.options.sku import Policy


class OfferClash(NamedTuple):
    """Two sets that can't stand on one product as they are: which, where in the second, and why."""

    code: str
    words: str
    sets: tuple[str, str]
    option: str = ""


Amounts = Mapping[str, tuple[PriceEffect, ...]]
"""Figure → what is done to it."""


class BoundKind(NamedTuple):
    """A kind of field with all it must know of what it reads."""

    kind: Kind
    spec: Spec
    judge: Judge


@dataclass(frozen=True, slots=True)
class Given:
    """What was given for an option: its canonical value and its words, what it does, and its parts of the SKU."""

    value: Any
    words: str
    amounts: Amounts
    parts: tuple[str, ...]


def amounts_of(option: str, effects: Sequence[Effect]) -> Amounts:
    """What choices of an option do to each figure, ready to be reckoned with."""
    found: dict[str, tuple[PriceEffect, ...]] = {}
    for effect in effects:
        for figure, amount in effect.amounts.items():
            if amount.mode != "typed":
                made = PriceEffect(option, amount.mode, Decimal(amount.value), amount.charge)
                found[figure] = (*found.get(figure, ()), made)
    return found


def parts_of(effects: Sequence[Effect]) -> tuple[str, ...]:
    """What choices add to the SKU."""
    return tuple(effect.sku for effect in effects if effect.sku)


@dataclass(frozen=True)
class OfferedOption:
    """An option with the values that can be chosen of it."""

    set: str
    option: Option
    values: tuple[OfferedValue, ...]

    @cached_property
    def rules(self) -> OptionKind:
        """What holds for options of its kind."""
        return self.option.rules

    @cached_property
    def _ticked(self) -> dict[str, Given]:
        return {}

    def ticked(self, locale: str) -> Given:
        """What a tick gives."""
        found = self._ticked.get(locale)
        if found is None:
            found = self._ticked[locale] = Given(True, show_yes_no(True, locale), self.amounts, self.parts)
        return found

    @cached_property
    def by_code(self) -> Mapping[str, OfferedValue]:
        """Its values by code."""
        return {value.code: value for value in self.values}

    @cached_property
    def _bound(self) -> dict[str, BoundKind]:
        return {}

    def bound(self, locale: str) -> BoundKind:
        """The kind that reads what is given, with all it must know, bound once."""
        found = self._bound.get(locale)
        if found is None:
            kind = KINDS[self.rules.kind]
            limits = {code: limit for code, limit in self.option.limits.items() if code not in OF_DAYS}
            spec = Spec(limits, {}, self if self.rules.chooses else None, locale)
            found = self._bound[locale] = BoundKind(kind, spec, kind.judge(spec))
        return found

    @cached_property
    def plain(self) -> Mapping[str, Given]:
        """What each value gives that is chosen by its code alone."""
        return {
            value.code: Given(value.code, value.label, amounts_of(self.option.key, effects), parts_of(effects))
            for value in self.values
            for effects in [(self.option.effect, value.effect)]
        }

    @cached_property
    def amounts(self) -> Amounts:
        """What its own effect does, for requests that are given."""
        return amounts_of(self.option.key, (self.option.effect,))

    @cached_property
    def parts(self) -> tuple[str, ...]:
        """What its own effect adds to the SKU, for requests that are given."""
        return parts_of((self.option.effect,))

    @cached_property
    def _known(self) -> Mapping[str, str]:
        codes = {fold(value.code): value.code for value in self.values}
        return {**{fold(value.label): value.code for value in reversed(self.values)}, **codes}

    @property
    def more(self) -> bool:
        """Whether any of its values shows more than its label."""
        return False

    @property
    def looks(self) -> object:
        """All that decides how chosen values show."""
        return [(value.code, value.label) for value in self.values]

    def find(self, text: str) -> str | None:
        """The code meant by a code or label."""
        return self._known.get(fold(text))

    def label(self, code: str) -> str:
        """What shoppers read for a code."""
        found = self.by_code.get(code)
        return found.label if found else code

    def offered(self) -> tuple[str, ...]:
        """The labels that can be chosen."""
        return tuple(value.label for value in self.values)


class SkuRule(NamedTuple):
    """How one set makes the SKU: its policy, what its parts stand apart by, its options that make variants and its requests."""

    policy: Policy
    separator: str
    makers: tuple[str, ...]
    requests: tuple[str, ...]
    makes_variants: bool


@dataclass(frozen=True)
class Offer:
    """All that can be chosen of a product, in order. `replaces` are the figures whose base the sets make themselves."""

    options: tuple[OfferedOption, ...] = ()
    left_out: tuple[LeaveOut, ...] = ()
    replaces: frozenset[str] = frozenset()
    skus: tuple[SkuRule, ...] = ()
    clashes: tuple[OfferClash, ...] = ()

    @cached_property
    def by_key(self) -> Mapping[str, OfferedOption]:
        """Its options by key."""
        return {offered.option.key: offered for offered in self.options}

    @cached_property
    def axes(self) -> tuple[Axis, ...]:
        """The options that make variants, with their values."""
        return tuple(
            Axis(offered.option.key, tuple(value.code for value in offered.values))
            for offered in self.options
            if offered.rules.makes_variants
        )

    @cached_property
    def too_many(self) -> Refusal | None:
        """Why it makes no variants: its combinations are too many; None where they are not."""
        try:
            check_size(self.axes)
        except Refusal as refusal:
            return refusal
        return None

    @cached_property
    def axis_keys(self) -> tuple[str, ...]:
        """The options that make variants, by key."""
        return tuple(axis.key for axis in self.axes)

    def names_of(self, choices: Mapping[str, str]) -> tuple[str, ...] | None:
        """The codes of a combination in the order of its options that make variants; None of one that it does not make."""
        if not choices or len(choices) != len(self.axes):
            return None
        names = tuple([choices.get(key, "") for key in self.axis_keys])
        sound = all(code in self.by_key[key].by_code for key, code in zip(self.axis_keys, names, strict=True))
        return names if sound else None

    def words_of(self, choices: Mapping[str, str]) -> str:
        """A combination as people read it, in the order of its options; what is offered no longer by its codes."""
        known = self.by_key
        ordered = [key for key in known if key in choices] + [key for key in choices if key not in known]
        return " · ".join(known[key].label(choices[key]) if key in known else choices[key] for key in ordered)

    @cached_property
    def fewer(self) -> Mapping[str, OfferedOption]:
        """The options that make no variants, by key."""
        return {key: offered for key, offered in self.by_key.items() if not offered.rules.makes_variants}


def offer_of(sets: Sequence[OptionSet], defs: Definitions) -> Offer:
    """Sets put together in order; of an option that comes twice the first stands, and the clash is told."""
    found: dict[str, OfferedOption] = {}
    left_out: list[LeaveOut] = []
    clashes: list[OfferClash] = []
    skus: list[SkuRule] = []
    for options in sets:
        mine = []
        for option in options.options:
            if not option.known:
                continue
            if option.key in found:
                other = found[option.key]
                name = defs.option_sets[other.set].name if other.set in defs.option_sets else other.set
                words = f"{option.name} is in {options.name} and in {name}: the first stands"
                clashes.append(OfferClash("option_twice", words, (other.set, options.key), option.key))
                continue
            mine.append(option.key)
            found[option.key] = OfferedOption(options.key, option, offered_values(option, defs.lists))
        left_out += [rule for rule in options.left_out if all(key in mine for key in rule)]
        makers = tuple(key for key in mine if found[key].rules.makes_variants)
        requests = tuple(key for key in mine if key not in makers)
        skus.append(SkuRule(options.sku, options.separator, makers, requests, options.makes_variants))
    replaces, of_bases = _bases(sets)
    made = Offer(tuple(found.values()), tuple(left_out), replaces, tuple(skus), (*clashes, *of_bases))
    return replace(made, clashes=(*made.clashes, *_sizes(made, sets)))


def _sizes(made: Offer, sets: Sequence[OptionSet]) -> list[OfferClash]:
    """That sets make too many combinations together."""
    makers = [options for options in sets if any(made.by_key[key].set == options.key for key in made.axis_keys)]
    if made.too_many is None or len(makers) < 2:
        return []
    names = " and ".join(options.name for options in makers)
    words = f"{names} are too many together: {made.too_many.message}"
    return [OfferClash("too_many", words, (makers[0].key, makers[-1].key))]


def _bases(sets: Sequence[OptionSet]) -> tuple[frozenset[str], list[OfferClash]]:
    """The figures whose base is replaced: what the first set says that changes it holds, and the clash with others is told."""
    replaces, clashes = set(), []
    for figure, what in FIGURES.items():
        changing = [options for options in sets if _changes(options, figure)]
        if not changing:
            continue
        first = changing[0]
        if getattr(first, figure) == "replace":
            replaces.add(figure)
        for other in changing[1:]:
            if getattr(other, figure) != getattr(first, figure):
                words = f"{first.name} and {other.name} differ on whether {what.label.lower()} is added or replaced"
                clashes.append(OfferClash("add_and_replace", f"{words}: the first holds", (first.key, other.key)))
    return frozenset(replaces), clashes


def _changes(options: OptionSet, figure: str) -> bool:
    effects = (effect for option in options.options for effect in (option.effect, *option.effects.values()))
    return any(figure in effect.amounts for effect in effects)


def sets_of_type(chain: Iterable[str], defs: Definitions) -> tuple[str, ...]:
    """The option sets that products of a type get through it, ancestors' first; `chain` is nearest first."""
    found = [key for name in reversed(tuple(chain)) if name in defs.types for key in defs.types[name].option_sets]
    return tuple(dict.fromkeys(key for key in found if key in defs.option_sets))
