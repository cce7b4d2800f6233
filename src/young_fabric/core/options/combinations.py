"""Which combinations of choices there are, and how variants that exist are matched to them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import product as cross
from math import prod
from typing import Any

from young_fabric.core.base.errors import Refusal

MOST = 2_000
"""At most so many combinations of one product, those left out counted."""
Combination = Mapping[str, str]
"""Option → the code of its value."""
LeaveOut = Mapping[str, Sequence[str]]
"""Option → codes: a combination is left out that has one of them for every option named."""


@dataclass(frozen=True, slots=True)
class Axis:
    """An option that makes variants, with its values in order."""

    key: str
    values: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class ExistingVariant:
    """A variant that exists, in order of position; `retired` ones stand for what is not offered now."""

    id: Any
    values: Combination
    stock: int | None = None
    retired: bool = False


@dataclass(frozen=True, slots=True)
class Matched:
    """What becomes of variants: those kept or brought back with their combination, the new combinations, those no longer offered."""

    kept: tuple[tuple[ExistingVariant, Combination], ...]
    added: tuple[Combination, ...]
    retired: tuple[ExistingVariant, ...]
    back: tuple[tuple[ExistingVariant, Combination], ...] = ()


def size_of(axes: Sequence[Axis]) -> int:
    """How many combinations there are, before any is left out, however many those are."""
    return prod(len(axis.values) for axis in axes) if axes else 0


def check_size(axes: Sequence[Axis]) -> int:
    """How many combinations there are, before any is left out. Raises Refusal `too_many`."""
    size = size_of(axes)
    if size > MOST:
        formula = " × ".join(str(len(axis.values)) for axis in axes)
        words = f"{formula} are {size:,} combinations, at most {MOST:,} are made"
        raise Refusal("too_many", words, (), "Take values off, or let an option be a request that makes no variants")
    return size


def is_left_out(combination: Combination, rules: Sequence[LeaveOut]) -> bool:
    """Whether some rule leaves a combination out."""
    return any(rule and all(combination.get(key) in codes for key, codes in rule.items()) for rule in rules)


def combine(axes: Sequence[Axis], left_out: Sequence[LeaveOut] = ()) -> Iterator[dict[str, str]]:
    """All combinations in order, the last option turning fastest, without those left out. Raises Refusal `too_many`."""
    if not check_size(axes):
        return
    keys = [axis.key for axis in axes]
    rules = _sets(axes, left_out)
    for values in cross(*(axis.values for axis in axes)):
        if not any(all(values[at] in codes for at, codes in rule) for rule in rules):
            yield dict(zip(keys, values, strict=True))


def _sets(axes: Sequence[Axis], left_out: Sequence[LeaveOut]) -> list[list[tuple[int, frozenset[str]]]]:
    """Rules by the positions of their options; those that name an option there is not leave nothing out."""
    at = {axis.key: index for index, axis in enumerate(axes)}
    return [
        [(at[key], frozenset(codes)) for key, codes in rule.items()]
        for rule in left_out
        if rule and all(key in at for key in rule)
    ]


def count(axes: Sequence[Axis], left_out: Sequence[LeaveOut] = ()) -> int:
    """How many combinations are left, without making them. Raises Refusal `too_many`."""
    if not check_size(axes):
        return 0
    rules = _sets(axes, left_out)
    met: Counter[frozenset[int]] = Counter({frozenset(range(len(rules))): 1})
    for index, axis in enumerate(axes):
        named = {number: codes for number, rule in enumerate(rules) for at, codes in rule if at == index}
        step: Counter[frozenset[int]] = Counter()
        for value in axis.values:
            fails = frozenset(number for number, codes in named.items() if value not in codes)
            for state, times in met.items():
                step[state - fails] += times
        met = step
    return met[frozenset()]


def reconcile(
    axes: Sequence[Axis],
    left_out: Sequence[LeaveOut],
    existing: Sequence[ExistingVariant],
    combinations: Sequence[Combination] | None = None,
) -> Matched:
    """Match variants to combinations over the options that stay; these are made unless given. Raises Refusal `too_many`.

    An option a variant knows nothing of stands at its first value; of variants that fall together the first by position
    stays. Retired ones come back when their combination is offered and nobody else has it.
    """
    made = combine(axes, left_out) if combinations is None else combinations
    wanted = {tuple(found.values()): found for found in made}
    taken: set[tuple[str, ...]] = set()
    kept: list[tuple[ExistingVariant, Combination]] = []
    back: list[tuple[ExistingVariant, Combination]] = []
    retired: list[ExistingVariant] = []
    for variant in sorted(existing, key=lambda variant: variant.retired):
        names = tuple(variant.values.get(axis.key, axis.values[0] if axis.values else "") for axis in axes)
        if names in wanted and names not in taken:
            taken.add(names)
            (back if variant.retired else kept).append((variant, wanted[names]))
        elif not variant.retired:
            retired.append(variant)
    added = tuple(found for names, found in wanted.items() if names not in taken)
    return Matched(tuple(kept), added, tuple(retired), tuple(back))
