"""Filter counts over cards (the rules of the job, *Filter counts*): what the index computes from bitmaps, said plainly."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal


@dataclass(frozen=True)
class Bounds:
    """A range, both ends in; None is open."""

    least: Decimal | None = None
    most: Decimal | None = None

    def holds(self, number: Decimal | None) -> bool:
        """Whether a number is in it; what has none never is, unless both ends are open."""
        if self.least is None and self.most is None:
            return True
        if number is None:
            return False
        return (self.least is None or number >= self.least) and (self.most is None or number <= self.most)


@dataclass(frozen=True)
class FacetCard:
    """What filters see of a card: the values it has by filter, and its numbers by what ranges are asked of."""

    values: Mapping[str, Sequence[str]] = field(default_factory=dict)
    numbers: Mapping[str, Decimal] = field(default_factory=dict)


@dataclass(frozen=True)
class Selected:
    """What is chosen: values by filter, of which any will do, and ranges; an empty choice does not filter."""

    values: Mapping[str, Sequence[str]] = field(default_factory=dict)
    ranges: Mapping[str, Bounds] = field(default_factory=dict)


@dataclass(frozen=True)
class Counts:
    """The cards listed, by position, and filter → value → how many there would be with that value alone chosen of it."""

    listed: tuple[int, ...]
    values: Mapping[str, Mapping[str, int]]


def count(cards: Sequence[FacetCard], filters: Sequence[str], selected: Selected) -> Counts:
    """What a choice lists, and what each value of each filter would; values with none are left out unless they are chosen."""
    found: dict[str, dict[str, int]] = {}
    for name in filters:
        counted = Counter(
            value for card in cards if _listed(card, selected, name) for value in set(card.values.get(name, ()))
        )
        chosen = dict.fromkeys(selected.values.get(name, ()), 0)
        found[name] = {**chosen, **counted}
    listed = tuple(index for index, card in enumerate(cards) if _listed(card, selected, None))
    return Counts(listed, found)


def _listed(card: FacetCard, selected: Selected, without: str | None) -> bool:
    return all(
        not chosen or not set(chosen).isdisjoint(card.values.get(name, ()))
        for name, chosen in selected.values.items()
        if name != without
    ) and all(bounds.holds(card.numbers.get(name)) for name, bounds in selected.ranges.items() if name != without)
