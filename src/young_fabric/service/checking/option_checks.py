"""What is wrong or worth a look in what shoppers can choose: each finding with the place to mend it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator

from young_fabric.core.base.wording.counting import counted
from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.surfaces import addressed_surface
from young_fabric.core.nouns.layouts import layouts
from young_fabric.core.nouns.options import option_sets
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import VARIANT
from young_fabric.core.subjects.variants import fields_of_variants
from young_fabric.service.acting.findings import Check
from young_fabric.service.planning.offering import Offered, Offers
from young_fabric.service.planning.survey import Checking
from young_fabric.service.values.variants import Matchers
from young_fabric.store.repos import products, variants

MOST_PRODUCTS = 200
"""So many products of each sort of offer are looked at for SKUs."""
MOST_TOLD = 20


def unplaced(looking: Checking) -> Iterable[Check]:
    """Layouts of product pages that have no place for what can be chosen of their products."""
    surface = addressed_surface()
    offers, defs = Offers(looking.defs), looking.defs
    extra = products.offered_counts(looking.work.session)
    by_hand = {type_key for (key, type_key), count in extra.items() if count and key in defs.option_sets}
    found: Counter[str] = Counter()
    for group in looking.draft.plans.there(looking.groups):
        if not (offers.of_sets(offers.of_type(group.type)).options or group.type in by_hand):
            continue
        layout = looking.draft.plans.of_group(group, surface.code).layout
        if not any(BLOCK_KINDS[block.kind].chooses for block in layout.blocks() if block.kind in BLOCK_KINDS):
            found[layout.key] += looking.groups[group]
    for key, count in sorted(found.items()):
        name = defs.layouts[key].name if key in defs.layouts else key
        of = f"of {counted(count, 'product')}"
        text = f"What can be chosen {of} has no place on the {surface.name}, laid out as {name}"
        yield Check("options_unplaced", "wrong", text, count, (layouts.NOUN.code, key))


def clashing_sets(looking: Checking) -> Iterable[Check]:
    """Option sets that stand on one product and don't go together, told once for each pair."""
    offers, known = Offers(looking.defs), set()
    for type_key, more in _kinds_of_offers(looking, offers):
        for clash in offers.of_sets(offers.sets(type_key, more)).clashes:
            if clash not in known:
                known.add(clash)
                yield Check("clashing_sets", "wrong", clash.words, 1, (option_sets.NOUN.code, clash.sets[1]))


def _kinds_of_offers(looking: Checking, offers: Offers) -> Iterator[Offered]:
    yield from ((key, ()) for key in looking.defs.types if offers.of_type(key))
    yield from products.kinds_of_offers(looking.work.session)


def unread_values(looking: Checking) -> Iterable[Check]:
    """What was typed into variants and not understood: the product's own stands in its place, a price too."""
    known = fields_of_variants(looking.defs)
    for key, count, product in variants.unread_fields(looking.work.session):
        name = known[key].name if key in known else key
        of = counted(count, "variant is", "variants are")
        text = f"{name} of {of} not understood: what the product says stands in its place"
        yield Check("variant_unread", "wrong", text, count, (VARIANT.code, f"{product}/"))


def unmatched(looking: Checking) -> Iterable[Check]:
    """That variants wait to be put in step with what their products offer."""
    notes = variants.unmatched(looking.work.session)
    for key in sorted(notes & looking.defs.option_sets.keys()):
        text = f"Variants are still being put in step with {looking.defs.option_sets[key].name}: products that differ stay as they are live"
        yield Check("unmatched", "look", text, 1, (option_sets.NOUN.code, key))
    if notes - looking.defs.option_sets.keys():
        text = "Variants of some products are still being put in step with what these offer: they stay as they are live"
        yield Check("unmatched", "look", text)


def lost_skus(looking: Checking) -> Iterable[Check]:
    """Products with variants whose SKU another has, so that they go by the product's."""
    for index, (product, sku, count) in enumerate(_lost(looking)):
        if index == MOST_TOLD:
            yield Check("lost_skus", "wrong", "There are more products with variants whose SKU another has", 1)
            return
        who = counted(count, "variant goes", "variants go")
        text = f"{product.title}: {who} by the product's own SKU, as another has the one made: {sku}"
        yield Check("lost_skus", "wrong", text, count, (VARIANT.code, f"{product.id}/"))


def _lost(looking: Checking) -> Iterator[tuple[Product, str, int]]:
    """Product, the first SKU that is taken, and how many of its variants lost theirs."""
    session = looking.work.session
    matchers = Matchers(Offers(looking.defs))
    for (type_key, more), ids in variants.without_sku(session, MOST_PRODUCTS).items():
        matcher = matchers.of(matchers.offers.of_sets(matchers.offers.sets(type_key, more)))
        if matcher is None or not matcher.makes_skus:
            continue
        own = variants.of_products(session, ids, retired=False)
        for number, record in sorted(products.get(session, ids).items()):
            wanted = [matcher.with_sku(variant, record.product.sku).sku for variant in own[number] if not variant.sku]
            lost = [sku for sku in wanted if sku]
            if lost:
                yield record.product, lost[0], len(lost)
