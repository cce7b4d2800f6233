"""The proof: pages and listings from the draft, and why something shows or does not."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import islice
from typing import Any, NamedTuple

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.definitions.reach import Reach
from young_fabric.core.display.cascade import EVERY, DisplaySetting, Scope
from young_fabric.core.display.properties import LAYOUT
from young_fabric.core.display.surfaces import (
    PRODUCTS,
    SURFACES,
    Surface,
    compared_surface,
    listed_surface,
    product_surfaces,
)
from young_fabric.core.listing.cards import MADE_FOR, Cards, documents_on
from young_fabric.core.nouns.content import collections, record_types, records
from young_fabric.core.nouns.content.records import Record
from young_fabric.core.nouns.layouts import display_settings
from young_fabric.core.nouns.layouts.layout_edits import changed_layout
from young_fabric.core.nouns.layouts.layouts import LAYOUTS
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.nouns.types.product_types import descendants
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.pages.headings import Heading, heading_of
from young_fabric.core.pages.listed import Listing
from young_fabric.core.pages.plan import Plan
from young_fabric.core.pages.plans import Plans, reached_groups
from young_fabric.core.pages.record_pages import values_of
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.planning.naming import names_of_cells
from young_fabric.service.planning.referring import record_referrers
from young_fabric.service.planning.showing import Showing
from young_fabric.service.products.collection_members import draft_members
from young_fabric.service.products.products import need_record
from young_fabric.service.writing import writes
from young_fabric.store.repos import definitions, products, stored_values
from young_fabric.store.repos.products import Search

CARDS = 24
OwnSettings = Mapping[str, tuple[DisplaySetting, ...]]


def need_product(work: Work, product_id: int) -> Product:
    """A product by id. Raises Refusal `not_found`."""
    return need_record(work, product_id).product


def need_surface(code: str) -> Surface:
    """A surface by code. Raises Refusal `unknown_surface`."""
    if code not in SURFACES:
        raise Refusal("unknown_surface", f"There is no surface {code[:60]}", ("surface",), "Choose another")
    return SURFACES[code]


def need_product_surface(code: str) -> Surface:
    """A surface of products by code. Raises Refusal `unknown_surface`."""
    surface = need_surface(code)
    if surface.subject != PRODUCTS:
        words = f"The {surface.name} shows no product"
        raise Refusal("unknown_surface", words, ("surface",), "Choose another")
    return surface


def own_settings(work: Work, ids: Sequence[int]) -> OwnSettings:
    """Id → the settings said for single products."""
    return definitions.of_subjects(work.session, display_settings.NOUN.code, PRODUCT.code, ids)


def plan_for(work: Work, product: Product, surface: str) -> Plan:
    """The draft plan for one product, its own settings included."""
    own = own_settings(work, [product.id]).get(str(product.id), ())
    return plans.draft_plans(work.session).of_product(product, surface, own)


@dataclass(frozen=True)
class Trying:
    """What a proof is made with that is not so: a layout in place of the one in force, and edits of one that are not made."""

    layout: str | None = None
    edited: str | None = None
    edits: Sequence[Mapping[str, Any]] = ()


AS_IT_IS = Trying()


def documents(work: Work, product_id: int, trying: Trying = AS_IT_IS) -> tuple[Product, Mapping[str, RenderDoc]]:
    """A product with its draft document on every surface, or with what is tried. Raises Refusal."""
    work.need(Right.LOOK)
    product = need_product(work, product_id)
    made = tried_plans(work, trying)
    own = settings_tried(work, made, product, trying)
    shown = showing_of(work, made).of(work.session, [product])[0]
    return product, {code: made.of_product(product, code, own).render(shown) for code in product_surfaces()}


def showing_of(work: Work, made: Plans) -> Showing:
    """What puts into products all that pages show of them, by the draft or by definitions that are tried."""
    draft = plans.draft_of(work.session)
    return draft.showing if made is draft.plans else Showing(made.defs)


def settings_tried(work: Work, made: Plans, product: Product, trying: Trying) -> tuple[DisplaySetting, ...]:
    """The settings of a product alone, with the layout that is tried. Raises Refusal `not_found`."""
    own = own_settings(work, [product.id]).get(str(product.id), ())
    if trying.layout is None:
        return own
    return (*own, _chosen_layout(made.defs, Scope(PRODUCT.code, str(product.id)), trying.layout))


def _chosen_layout(defs: Definitions, scope: Scope, key: str) -> DisplaySetting:
    """A layout chosen for a scope alone. Raises Refusal `not_found`."""
    found = defs.layouts.get(key)
    if found is None:
        raise Refusal("not_found", f"There is no layout {key[:60]}", ("layout",), "It may have been removed")
    return DisplaySetting(scope, EVERY, found.surface, {LAYOUT.code: key})


def cards_of_product(work: Work, product: Product, trying: Trying = AS_IT_IS) -> list[DraftCard]:
    """All draft cards a product can have on listings, or with what is tried. Raises Refusal."""
    made = tried_plans(work, trying)
    plan = made.of_product(product, listed_surface().code, settings_tried(work, made, product, trying))
    shown = showing_of(work, made).of(work.session, [product])[0]
    found = documents_on(plan, shown, MADE_FOR)
    return [DraftCard(product, key, card.title or product.title, doc) for key, (card, doc) in found.items()]


class DraftCard(NamedTuple):
    """A card of the draft: its product, its key and title, and what it shows."""

    product: Product
    key: str
    title: str
    doc: RenderDoc


def cards(work: Work, listing: Listing, offset: int = 0) -> tuple[list[DraftCard], int]:
    """The draft cards of a page of the products of a listing, and how many products it has. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    made = plans.draft_plans(work.session)
    wanted = wanted_of(made.defs, listing)
    if listing.noun == collections.NOUN.code:
        found = draft_members(work, listing.key, offset, CARDS, offered=True)
    else:
        found = _by_title(work, made, wanted, offset)
    return render_cards(work, made, found, listing), products.count(work.session, wanted)


def wanted_of(defs: Definitions, listing: Listing) -> Search:
    """The products of the draft that stand on a listing. Raises Refusal `not_found`."""
    if listing.key not in defs.things[listing.noun]:
        raise Refusal("not_found", f"There is no listing {listing.key[:80]}")
    if listing.noun == collections.NOUN.code:
        return Search(collection=listing.key, offered=True)
    if listing.noun == records.NOUN.code:
        return Search(also=record_referrers(defs, listing.key), offered=True)
    return Search(types=tuple(sorted(descendants(listing.key, defs.types))), offered=True)


def render_cards(work: Work, made: Plans, found: Sequence[Product], listing: Listing) -> list[DraftCard]:
    """The draft cards that products have on a listing, in order."""
    own, surface = own_settings(work, [product.id for product in found]), listed_surface().code
    out = []
    for product, shown in zip(found, showing_of(work, made).of(work.session, found), strict=True):
        plan = made.of_product(product, surface, own.get(str(product.id), ()))
        for card in Cards(plan.fans, shown).on(listing):
            title = card.title or product.title
            out.append(DraftCard(product, card.key, title, plan.render(card.product(shown))))
    return out


def record_document(session: Session, made: Plans, key: str, *, live: bool = False) -> RenderDoc:
    """The page of a record, but for the products it lists."""
    record = made.defs.things[records.NOUN.code][key]
    names = names_of_cells(session, made.defs, records.NOUN.code, record, live=live)
    return made.of_records(record.type).render(values_of(record, names))


def tried_record(work: Work, key: str, trying: Trying = AS_IT_IS) -> RenderDoc:
    """The page of a record of the draft, or with what is tried. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    _, made = record_tried(work, key, trying)
    return record_document(work.session, made, key)


def record_tried(work: Work, key: str, trying: Trying) -> tuple[Record, Plans]:
    """A record, and the plans it is shown by, with what is tried. Raises Refusal `not_found`."""
    made = tried_plans(work, trying)
    record = made.defs.things[records.NOUN.code].get(key)
    if record is None:
        raise Refusal("not_found", f"There is no record {key[:60]}", (), "It may have been removed")
    if trying.layout is not None:
        chosen = _chosen_layout(made.defs, Scope("record_type", record.type), trying.layout)
        made = made.having(display_settings.NOUN.code, str(display_settings.setting_key(chosen)), chosen)
    return record, made


def tried_plans(work: Work, trying: Trying) -> Plans:
    """The plans of the draft, or with the edits that are tried. Raises Refusal."""
    made = plans.draft_plans(work.session)
    if trying.edited is None or not trying.edits:
        return made
    return made.having(LAYOUTS, trying.edited, changed_layout(made.defs, trying.edited, trying.edits))


def heading(session: Session, defs: Definitions, listing: Listing, *, live: bool = False) -> Heading | None:
    """What stands above a listing of what holds values of its own, None for others."""
    if NOUNS[listing.noun].holding.fields is None or listing.noun == records.NOUN.code:
        return None
    names = names_of_cells(session, defs, listing.noun, defs.things[listing.noun][listing.key], live=live)
    return heading_of(names, listing.noun, listing.key)


def _by_title(work: Work, made: Plans, wanted: Search, offset: int) -> list[Product]:
    page = products.page(work.session, wanted, None, CARDS, offset, made.defs.shop.collation)
    return [record.product for record in page]


def compared(work: Work, ids: Sequence[int]) -> list[tuple[Product, RenderDoc]]:
    """Products with their draft documents of the compare surface, in the order asked, those that are gone left out."""
    work.need(Right.LOOK)
    records = products.get(work.session, list(ids))
    found = [records[number].product for number in ids if number in records]
    return render_products(work, plans.draft_plans(work.session), found, compared_surface())


def render_products(
    work: Work, made: Plans, found: Sequence[Product], surface: Surface
) -> list[tuple[Product, RenderDoc]]:
    """Products with their draft documents on a surface."""
    own = own_settings(work, [product.id for product in found])
    return [
        (product, made.of_product(product, surface.code, own.get(str(product.id), ())).render(shown))
        for product, shown in zip(found, showing_of(work, made).of(work.session, found), strict=True)
    ]


def example_product(work: Work, wanted: Search) -> int | None:
    """A product to prove with, out of those wanted; the fullest of the first ones."""
    collation = plans.draft(work.session).shop.collation
    found = products.page(work.session, wanted, None, 12, collation=collation)
    if not found:
        return None
    return max(found, key=lambda record: (len(record.product.values), -record.product.id)).product.id


def example_for(work: Work, noun: str, key: str) -> Product | None:
    """A product whose pages read a definition, to prove with. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    writes.noun_of(noun)
    made = plans.draft_plans(work.session)
    if noun == collections.NOUN.code:
        found = example_product(work, Search(collection=key))
        return need_product(work, found) if found is not None else None
    if noun == records.NOUN.code and key in made.defs.things[noun]:
        found = example_product(work, Search(also=record_referrers(made.defs, key)))
        return need_product(work, found) if found is not None else None
    counts = plans.group_counts(work.session, made.defs)
    reached = reached_groups(made, counts, noun, key)
    if noun == LAYOUTS:
        reached = _shown_with(made, counts, key)
    plain = frozenset(group.type for group in reached if not group.collections)
    within = frozenset(key for group in reached for key in group.collections)
    types = tuple(sorted({group.type for group in reached}))
    found = example_product(work, Search(types=types, reach=Reach(plain, within)))
    return need_product(work, found) if found is not None else None


def example_record(work: Work, noun: str, key: str) -> Record | None:
    """A record to prove a layout of their pages or a record type with: the fullest of the first; None where products are."""
    work.need(Right.LOOK)
    made = plans.draft_plans(work.session)
    sorts = made.defs.things[record_types.NOUN.code]
    layout = made.defs.layouts.get(key) if noun == LAYOUTS else None
    if layout is not None and SURFACES[layout.surface].subject != PRODUCTS:
        within = [name for name in sorts if made.of_records(name).layout.key == key] or list(sorts)
    elif noun == record_types.NOUN.code and key in sorts:
        within = [key]
    else:
        return None
    found = [record for name in within for record in islice(made.defs.records_of(name).values(), 50)]
    return max(found, key=lambda record: (len(record.filled), record.key), default=None)


def _shown_with(made: Plans, counts: Mapping[Group, int], key: str) -> frozenset[Group]:
    """The groups that have a layout in force; every group while none has."""
    layout = made.defs.layouts.get(key)
    there = made.there(counts)
    if layout is None:
        return frozenset()
    found = frozenset(group for group in there if made.of_group(group, layout.surface).layout.key == key)
    return found or frozenset(there)


@dataclass(frozen=True)
class FieldExample:
    """A product worth proving a field with: `how` it is so, in a word (has, lacks, longest) and in words."""

    how: str
    words: str
    product: int
    title: str


def examples_of(work: Work, key: str) -> list[FieldExample]:
    """A product that has a value of a field, one that lacks it, and the one with the longest. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    if key not in defs.all_fields:
        raise Refusal("not_found", f"There is no field {key[:60]}", ("field",), "It may have been removed")
    if defs.all_fields[key].derived:
        return []
    holders = defs.holders.get(key)
    reach = Reach(holders.types, holders.collections) if holders is not None else None
    lacking = Search(lacking=key, reach=reach) if reach is not None else Search(lacking=key)
    found = [
        ("has", "one that has it", example_product(work, Search(having=key))),
        ("lacks", "one that lacks it", example_product(work, lacking)),
        ("longest", "a long one", stored_values.longest(work.session, key)),
    ]
    ids = [number for _, _, number in found if number is not None]
    titles = {number: record.product.title for number, record in products.get(work.session, ids).items()}
    return [FieldExample(how, words, number, titles[number]) for how, words, number in found if number in titles]
