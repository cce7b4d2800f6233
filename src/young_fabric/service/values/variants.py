"""Variants kept in step with what products offer: at once for up to 2,000 of them, by a job beyond.

Those no longer offered are retired and keep all they hold; they come back when their combination does. Until a job is done the
option sets are noted as not yet matched, and nothing is released meanwhile.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy.exc import IntegrityError

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.options.matching import MatchedVariants, Matcher, settle_skus
from young_fabric.core.options.offers import Offer
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.variants import Variant
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import offering, plans
from young_fabric.service.planning.offering import Offers
from young_fabric.service.values import sizes
from young_fabric.store.repos import jobs, products, shop, variants

MATCH = "match_variants"
MOST_AT_ONCE = 2_000
MOST_TRIES = 5
BATCH = 100
"""Products a job matches in one transaction."""


@dataclass
class Matchers:
    """The offers of some definitions with their combinations, each made once."""

    offers: Offers
    _made: dict[int, Matcher | None] = field(default_factory=dict)

    def of(self, offer: Offer) -> Matcher | None:
        """The combinations of an offer; None where they are too many."""
        if id(offer) not in self._made:
            try:
                self._made[id(offer)] = Matcher(offer)
            except Refusal:
                self._made[id(offer)] = None
        return self._made[id(offer)]

    def match(self, product: Product, existing: Sequence[Variant]) -> MatchedVariants:
        """What becomes of a product's variants. Of too many combinations none is made and all stay as they are."""
        offer = self.offers.of(product)
        if not existing and not offer.axes:
            return MatchedVariants()
        matcher = self.of(offer)
        return MatchedVariants() if matcher is None else matcher.match(product.id, product.sku, existing)


def rematch(work: Work, before: Definitions, after: Definitions) -> None:
    """Put variants in step with a change of definitions, at once or by a job. Called under `shop.lock_definitions`."""
    sets, types = offering.otherwise(before, after)
    if not sets and not types:
        return
    sizes.check_definitions(work, before, after, sets, types)
    wanted = offering.having(sets, types)
    per_product = _most_variants(after, sets, types)
    most = MOST_AT_ONCE // max(per_product, 1)
    if products.count_where(work.session, wanted, most + 1) > most:
        offers = Offers(after)
        ask(work, sorted(sets.union(*map(offers.of_type, types))), sorted(types), ())
        return
    put(work, products.ids_where(work.session, wanted, 0, most))
    variants.settle_matched(work.session, sorted(sets), shop.shop_of(work.session)[1])


def _most_variants(defs: Definitions, sets: Iterable[str], types: Iterable[str]) -> int:
    """How many variants one product may have at most of those concerned."""
    made = Matchers(Offers(defs))
    keys = {made.offers.of_type(name) for name in types} | {(key,) for key in sets if key in defs.option_sets}
    found = [made.of(made.offers.of_sets(of)) for of in keys if of]
    return max((len(matcher.combinations) for matcher in found if matcher is not None), default=1)


def match(work: Work, ids: Sequence[int]) -> None:
    """Put the variants of some products in step with what they offer now, at once or by a job. Called under a lock of the
    definitions, shared or alone, and of the products' rows."""
    if not ids:
        return
    variants.note_offered(work.session, ids)
    defs = plans.draft(work.session)
    if not defs.option_sets and not variants.counts(work.session, ids):
        return
    if len(ids) > 1 and _expected(work, defs, ids) > MOST_AT_ONCE:
        ask(work, (), (), ids)
        return
    put(work, ids)


def _expected(work: Work, defs: Definitions, ids: Sequence[int]) -> int:
    """How many variants products will have."""
    made = Matchers(Offers(defs))
    total = 0
    for record in products.get(work.session, ids).values():
        matcher = made.of(made.offers.of(record.product))
        total += len(matcher.combinations) if matcher is not None else 0
    return total


def put(work: Work, ids: Sequence[int]) -> int:
    """Match and write the variants of some products; gives how many were written. Rows are locked in order of id."""
    session = work.session
    if not ids:
        return 0
    products.lock(session, sorted(ids))
    found = products.get(session, sorted(ids))
    existing = variants.of_products(session, sorted(ids), lock=True)
    made = Matchers(Offers(plans.draft(session)))
    changed: list[tuple[Variant, Variant]] = []
    added: list[Variant] = []
    for number, record in found.items():
        matched = made.match(record.product, existing.get(number, []))
        changed += matched.changed
        added += matched.added
    if not changed and not added:
        return 0
    return write(work, changed, added)


def write(work: Work, changed: Sequence[tuple[Variant, Variant]], added: Sequence[Variant]) -> int:
    """Write, under locks of the variants' rows, with the SKUs that are free; looked at anew when somebody took one meanwhile. Gives how many were written."""
    for attempt in range(MOST_TRIES):
        settled = with_free_skus(work, [*(new for _, new in changed), *added])
        differ = [new for (old, _), new in zip(changed, settled, strict=False) if old != new]
        try:
            with work.session.begin_nested():
                variants.write_many(work.session, differ, settled[len(changed) :])
            variants.note_offered(work.session, [variant.product for variant in (*differ, *added)])
            return len(differ) + len(added)
        except IntegrityError as error:
            if "pk_taken_sku" not in str(error.orig) or attempt == MOST_TRIES - 1:
                raise
    return 0


def with_free_skus(work: Work, wanted: Sequence[Variant]) -> list[Variant]:
    """Variants with the SKUs they can have: those that others have already are left out, and told in the grid."""
    shop.lock_name(work.session, "skus")
    writing = {variant.id for variant in wanted if variant.id}
    asked = sorted({variant.sku for variant in wanted if variant.sku is not None})
    taken = {
        sku: variant
        for sku, (_, variant, _) in variants.taken_skus(work.session, asked).items()
        if variant not in writing or not variant
    }
    return settle_skus(wanted, taken)[0]


def ask(work: Work, sets: Sequence[str], types: Sequence[str], ids: Sequence[int]) -> None:
    """Have variants matched by a job."""
    stamp = shop.shop_of(work.session)[1]
    notes = [*sets, *([f"products {ids[0]} to {ids[-1]}, {len(ids)}"] if ids else [])] or ["types"]
    variants.note_unmatched(work.session, notes, stamp)
    args = {"sets": list(sets), "types": list(types), "ids": list(ids), "notes": notes, "stamp": stamp}
    work.asked.append(jobs.add(work.session, MATCH, work.actor.id, None, args, work.now))


def match_again(work: Work) -> None:
    """Have all variants matched anew whose job was stopped or failed. Raises Refusal `busy`, `nothing`."""
    work.need(Right.EDIT)
    if not variants.unmatched(work.session):
        raise Refusal("nothing", "All variants are in step", (), "Nothing needs doing")
    if jobs.open_of(work.session, MATCH):
        raise Refusal("busy", "Variants are being matched just now", (), "Wait until it is done, or stop it")
    defs = plans.draft(work.session)
    ask(work, sorted({*defs.option_sets, *variants.unmatched(work.session)}), sorted(defs.types), ())


def _wanted(args: Mapping[str, Any]) -> Any:
    return products.any_of([offering.having(args["sets"], args["types"]), products.concerned((), (), args["ids"])])


def total(work: Work, args: Mapping[str, Any]) -> int:
    """How many products a job has to look at."""
    return products.count_where(work.session, _wanted(args))


def match_batch(work: Work, args: Mapping[str, Any], after: int) -> tuple[int, int, int]:
    """Match the next products by the definitions as they are now; gives (last id, products, variants written)."""
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    ids = products.ids_where(work.session, _wanted(args), after, BATCH)
    if not ids:
        variants.settle_matched(work.session, args["notes"], args["stamp"])
        return after, 0, 0
    return ids[-1], len(ids), put(work, ids)
