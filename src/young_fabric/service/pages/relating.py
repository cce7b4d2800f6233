"""The products that a page shows beside its own: those it names, then those that stand in the same listings."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.surfaces import listed_surface
from young_fabric.core.kinds.shown import Related
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.types import product_types
from young_fabric.core.nouns.types.product_types import descendants
from young_fabric.core.pages.document import RenderDoc, ShownBlock
from young_fabric.core.pages.listed import items_of, read_listing
from young_fabric.core.pages.related import named_products, related_blocks
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Work
from young_fabric.service.pages import proofs
from young_fabric.service.planning import plans
from young_fabric.store.repos import listings, products, releases, stored_values
from young_fabric.store.repos.products import Search
from young_fabric.store.tables import LiveDocumentRow

Card = tuple[Product, RenderDoc]


def draft_related(work: Work, product: Product, doc: RenderDoc) -> dict[str, list[Card]]:
    """Block → cards of other products of the draft, by the blocks of a document that show some."""
    out = {}
    made = plans.draft_plans(work.session)
    for block in related_blocks(doc):
        named = products.get(work.session, named_products(block))
        found = [record.product for number in named_products(block) if (record := named.get(number)) is not None]
        found = [other for other in found if other.offered and other.id != product.id][: block.content.most]
        found += _more(work.session, made.defs, product, block, [other.id for other in found])
        out[block.id] = proofs.render_products(work, made, found, listed_surface())
    return out


def _more(
    session: Session, defs: Definitions, product: Product, block: ShownBlock, have: Sequence[int]
) -> list[Product]:
    content: Related = block.content
    left = content.most - len(have)
    if left <= 0 or not content.listings:
        return []
    search = Search(offered=True, without=(product.id, *have), **_asked(defs, product, content))
    return [record.product for record in products.page(session, search, None, left, collation=defs.shop.collation)]


def _asked(defs: Definitions, product: Product, content: Related) -> dict[str, Any]:
    """What others must have, as a search of the draft has it."""
    if not content.fields:
        types = [read_listing(text) for listings_of in content.listings for text in listings_of]
        keys = [listing.key for listing in types if listing.noun == product_types.NOUN.code]
        return {"types": tuple(sorted(key for top in keys for key in descendants(top, defs.types)))}
    group = defs.group_of(product.type, product.collections)
    fields = {effective.field.key: effective.field for effective in defs.applicable(group)}
    asked = [
        stored_values.containing({key: _patterns(fields[key], product)}) for key in content.fields if key in fields
    ]
    return {"also": products.both(*asked)}


def _patterns(field: Field, product: Product) -> list[Any]:
    """What is looked for in stored values to find those that have any of the things of a product's value."""
    value = product.values.get(field.key, field.default)
    if field.targets:
        return [pattern for target, item in field.items(value) for pattern in field.containing(target, item)]
    return [[item] if field.many else item for item in items_of(field, value)]


def live_related(session: Session, defs: Definitions, doc: RenderDoc) -> dict[str, list[LiveDocumentRow]]:
    """Block → live cards of other products, by the blocks of a live document that show some."""
    out = {}
    surface, counts = listed_surface().code, plans.live_counts(session)
    for block in related_blocks(doc):
        content: Related = block.content
        ids = [number for number in named_products(block) if number != doc.product]
        known: Mapping[str, LiveDocumentRow] = releases.documents_on(
            session, surface, PRODUCT.code, list(map(str, ids))
        )
        found = [known[str(number)] for number in ids if str(number) in known][: content.most]
        have = [doc.product, *[int(row.subject_id) for row in found]]
        left = content.most - len(found)
        if left > 0 and content.listings:
            # The listing of fewest first: it is gone through, and of each in it is asked whether it stands in the others.
            fewest_first = sorted(content.listings, key=lambda names: sum(counts.get(name, 0) for name in names))
            found += listings.beside(session, surface, fewest_first, have, left, defs.shop.collation)
        out[block.id] = found
    return out
