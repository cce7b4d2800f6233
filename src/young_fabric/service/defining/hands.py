"""What putting products into a thing by hand would touch, found without writing."""

from __future__ import annotations

from collections.abc import Sequence

from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.gatherers import GATHERERS, gathered_otherwise, put_in
from young_fabric.core.subjects.memberships import Memberships
from young_fabric.core.subjects.products import Product
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.defining.definitions import Consequences
from young_fabric.service.foreseeing.counted import MOST_RENDERED, Counted, compared
from young_fabric.service.foreseeing.variant_effects import variant_effects
from young_fabric.service.planning import plans
from young_fabric.service.writing import by_hand, writes
from young_fabric.service.writing.by_hand import Hand
from young_fabric.store.repos import products


def consequences(work: Work, noun: str, key: str, ids: Sequence[int], to: Hand) -> Consequences:
    """What it would touch to put products in by hand, to keep them out, or to leave them to the condition: products that are in it
    or out of it then, the documents of theirs that differ, and what becomes of variants. Raises Refusal."""
    work.need(Right.LOOK)
    current = writes.need_current(work, noun, key)
    changes = by_hand.moved(state_of(current.thing), ids, to)
    thing = definitions.changed_thing(work, noun, key, changes)
    before = plans.draft_plans(work.session)
    after = before.having_all([(noun, key, thing)])
    pairs = _pairs(work, after, ids)
    moved = [pair for pair in pairs if gathered_otherwise(*pair)]
    offers = NOUNS[noun].bearing.offers
    found = _differing(work, before, after, moved)
    return Consequences(
        len({old.type for old, _ in moved}),
        len(moved),
        found.surfaces,
        None,
        variants=variant_effects(work, before.defs, after.defs) if offers else None,
        exact=found.exact,
    )


def _pairs(work: Work, after: Plans, ids: Sequence[int]) -> list[tuple[Product, Product]]:
    """Products as they are, and as they would be gathered."""
    made = {noun: Memberships(after.defs, noun) for noun in GATHERERS}
    found = [record.product for record in products.get(work.session, list(dict.fromkeys(ids))).values()]
    return [
        (product, put_in(product, {noun: members.of(product) for noun, members in made.items()})) for product in found
    ]


def _differing(work: Work, before: Plans, after: Plans, moved: Sequence[tuple[Product, Product]]) -> Counted:
    if len(moved) <= MOST_RENDERED:
        return compared(work, before, after, moved, list(product_surfaces()))
    return Counted({code: len(moved) for code in product_surfaces()}, False)
