"""What there is to know of the swatches of values: missing, too pale for the page, hardly told apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from young_fabric.core.nouns.lists import value_lists
from young_fabric.core.nouns.lists.list_values import Swatch
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.options import option_sets
from young_fabric.core.options.swatches import alike_pairs, standing
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.planning.offering import Offers
from young_fabric.service.writing import writes


class WithLook(Protocol):
    """A value with a look."""

    @property
    def code(self) -> str:
        """Its code."""

    @property
    def label(self) -> str:
        """What shoppers read."""

    @property
    def swatch(self) -> Swatch:
        """How it looks."""


@dataclass(frozen=True)
class ValueRemark:
    """Something to know of a value's swatch: `code` of the remark, in words, and the other value where it is of two; `sides` are the
    colours of both then."""

    option: str
    value: str
    code: str
    words: str
    other: str = ""
    sides: tuple[tuple[str, ...], ...] = ()


def of_option_set(work: Work, key: str) -> list[ValueRemark]:
    """What there is to know of the swatches of an option set's values. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    writes.need_current(work, option_sets.NOUN.code, key)
    offer = Offers(plans.draft(work.session)).of_sets((key,))
    return [remark for offered in offer.options for remark in remarks(offered.option.key, offered.values)]


def of_list(work: Work, key: str) -> list[ValueRemark]:
    """What there is to know of the swatches of a value list. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    thing: ValueList = writes.need_current(work, value_lists.NOUN.code, key).thing
    return remarks("", [value for value in thing.values if not value.retired])


def remarks(option: str, values: Sequence[WithLook]) -> list[ValueRemark]:
    """What can be computed of swatches: those missing where others have one, too pale for the page, and alike."""
    looks = [value.swatch for value in values]
    out = []
    if any(look.colours or look.picture for look in looks):
        out += [
            ValueRemark(option, value.code, "no_swatch", "no swatch yet")
            for value in values
            if not (value.swatch.colours or value.swatch.picture or value.swatch.short)
        ]
    for value in values:
        if value.swatch.colours and not value.swatch.picture:
            stands = standing(value.swatch.colours)
            if stands.outline:
                out.append(ValueRemark(option, value.code, "pale", f"pale, outlined: {stands.contrast} : 1"))
    swatches = [() if look.picture else look.colours for look in looks]
    for pair in alike_pairs(swatches):
        first, second = values[pair.first], values[pair.second]
        words = f"like {second.label}, ΔE {pair.difference}"
        out.append(
            ValueRemark(option, first.code, "alike", words, second.code, (first.swatch.colours, second.swatch.colours))
        )
    return out
