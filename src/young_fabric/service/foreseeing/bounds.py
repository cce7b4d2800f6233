"""How many documents products have at most, where they are counted by products: one on a surface, on listings as many as they have cards."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.cascade import EVERY
from young_fabric.core.display.listing_properties import LISTING_PROPERTIES
from young_fabric.core.display.surfaces import SURFACES, listed_surface
from young_fabric.core.nouns.layouts import display_settings
from young_fabric.core.pages.plans import Plans
from young_fabric.service.acting.actors import Work
from young_fabric.store.repos import definitions, product_groups, releases

SETTING = display_settings.NOUN.code
CODES = tuple(prop.code for prop in LISTING_PROPERTIES)


def told_apart(before: Plans, after: Plans) -> frozenset[str]:
    """The collections by which products are told apart when two sets of definitions are compared."""
    return before.defs.speaking | after.defs.speaking


@dataclass(frozen=True)
class Bounds:
    """Documents at most of groups with so many products. `cards` are those on listings where products have several, of `each` at most."""

    counts: Mapping[Group, int]
    cards: Mapping[Group, int] = field(default_factory=dict)
    each: int = 1

    def of_group(self, surface: str, group: Group) -> int:
        """Of a whole group."""
        return self.cards[group] if self.cards and SURFACES[surface].listed else self.counts[group]

    def of_products(self, surface: str, products: int) -> int:
        """Of some products."""
        return products * self.each if SURFACES[surface].listed else products

    def within(self, surface: str, group: Group, products: int) -> int:
        """Of some products of a group."""
        return min(self.of_products(surface, products), self.of_group(surface, group))


def bounds_of(work: Work, before: Plans, after: Plans, counts: Mapping[Group, int]) -> Bounds:
    """The bounds of what two sets of definitions can differ in."""
    rules = [_rules(made.defs) for made in (before, after)]
    if not any(rules) and not _of_products(work):
        return Bounds(counts)
    speaking, times = told_apart(before, after), 2 * (sum(rules) + 1)
    made: Counter[Group] = Counter()
    for (type_key, within), number in product_groups.variant_counts(work.session).items():
        made[before.defs.group_of(type_key, within, speaking)] += number
    cards = {group: (count + made[group]) * times for group, count in counts.items()}
    return Bounds(counts, cards, (product_groups.most_variants(work.session) + 1) * times)


def _rules(defs: Definitions) -> int:
    """How many scopes say something of cards on listings."""
    return sum(
        setting.surface == listed_surface().code and setting.field == EVERY and not set(CODES).isdisjoint(setting.set)
        for setting in defs.settings.values()
    )


def _of_products(work: Work) -> bool:
    """Whether any product has such a rule alone, in the draft or live."""
    end = f"/{EVERY}/{listed_surface().code}"
    return definitions.any_of_subjects(work.session, SETTING, end, CODES) or releases.any_open(
        work.session, SETTING, end, CODES
    )
