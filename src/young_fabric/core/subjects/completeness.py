"""Completeness: what a product lacks, and what to fill next."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from young_fabric.core.nouns.fields.fields import Need


@dataclass(frozen=True, slots=True)
class Wanted:
    """One applicable field of a product, in set order; `applies` is false when its condition is."""

    key: str
    need: Need
    applies: bool = True


@dataclass(frozen=True, slots=True)
class Completeness:
    """`percent` is the whole part of 100 × filled required ÷ required; `next` the field to fill next."""

    required_filled: int
    required_missing: tuple[str, ...]
    wanted_filled: int
    wanted_missing: tuple[str, ...]
    percent: int
    next: str | None


def completeness(fields: Iterable[Wanted], state: Mapping[str, str]) -> Completeness:
    """What is filled and missing. A field is filled when its state is `good`."""
    filled = {"required": 0, "wanted": 0, "optional": 0}
    missing: dict[str, list[str]] = {"required": [], "wanted": [], "optional": []}
    for wanted in fields:
        if not wanted.applies:
            continue
        if state.get(wanted.key) == "good":
            filled[wanted.need] += 1
        else:
            missing[wanted.need].append(wanted.key)
    required = filled["required"] + len(missing["required"])
    first = (*missing["required"], *missing["wanted"])
    return Completeness(
        filled["required"],
        tuple(missing["required"]),
        filled["wanted"],
        tuple(missing["wanted"]),
        100 * filled["required"] // required if required else 100,
        first[0] if first else None,
    )
