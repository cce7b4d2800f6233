"""Why things show or do not: fields and blocks of products and records, products on listings, and what else decides."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import EVERY, Cascade, Chain
from young_fabric.core.display.choices import EVERY_DEVICE
from young_fabric.core.display.surfaces import listed_surface, record_surface
from young_fabric.core.listing.cards import Cards
from young_fabric.core.listing.why_cards import why_cards
from young_fabric.core.listing.why_listed import why_listed
from young_fabric.core.nouns.content import collections, records
from young_fabric.core.nouns.layouts.display_settings import field_called
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.deciders import Decider, deciders
from young_fabric.core.pages.listed import Listing
from young_fabric.core.pages.plan import Plan
from young_fabric.core.pages.record_pages import values_of
from young_fabric.core.pages.steps import Step, block_name
from young_fabric.core.pages.why import Asked, of_product, why
from young_fabric.core.pages.why_blocks import why_block
from young_fabric.core.subjects.products import Product
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.pages import proofs
from young_fabric.service.planning import plans
from young_fabric.service.planning.naming import names_of_cells
from young_fabric.store.repos import listings


class About(NamedTuple):
    """What is asked about: a product by number, or a record by key; on one device or, "", on any."""

    product: int | None = None
    record: str | None = None
    device: str = ""


@dataclass(frozen=True)
class Explained:
    """What was asked, by name, of what, the steps, and all that has a say."""

    name: str
    title: str
    surface: str
    steps: tuple[Step, ...]
    deciders: Sequence[Decider] = ()


class _Subject(NamedTuple):
    asked: Asked
    title: str
    plan: Plan
    cascade: Cascade


def explain_field(work: Work, about: About, key: str, surface: str) -> Explained:
    """Why a field shows or does not show for a product or a record, and what else decides about it. Raises Refusal."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    found = _subject(work, about, surface)
    if key not in found.plan.entries and key not in defs.all_fields and key not in defs.fields:
        raise Refusal("not_found", f"There is no field {key[:60]}", ("field",), "It may have been removed")
    steps = why(defs, found.plan, found.asked, key, about.device)
    said = deciders(defs, found.plan, found.cascade, key)
    return Explained(field_called(defs, key), found.title, found.plan.surface.code, steps, said)


def explain_block(work: Work, about: About, block: str, surface: str, layout: str | None) -> Explained:
    """Why a block of the layout in force, or of one that is tried, shows or does not show. Raises Refusal."""
    work.need(Right.LOOK)
    found = _subject(work, about, surface, proofs.Trying(layout))
    defs = plans.draft(work.session)
    holding = found.plan.holding.get(block)
    name = block_name(holding.chain[-1]) if holding is not None else block.replace("_", " ")
    steps = why_block(defs, found.plan, found.asked, block, about.device)
    return Explained(name, found.title, found.plan.surface.code, steps)


def explain_listing(work: Work, product_id: int, listing: Listing) -> Explained:
    """Why a product stands on a listing of the draft or does not, and whether it does live. Raises Refusal."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    product = proofs.need_product(work, product_id)
    if listing.noun not in (noun.code for noun in NOUNS.values() if noun.calling.address is not None):
        raise Refusal("not_found", f"{listing.noun[:40]} has no listings", ("noun",), "Ask of a type or a collection")
    thing = draft.defs.things[listing.noun].get(listing.key)
    if thing is None:
        raise Refusal("not_found", f"There is no listing {listing.key[:80]}", ("key",), "It may have been removed")
    steps = why_listed(draft.assessor.memberships, product, listing)
    if steps[-1].name == "shows":
        cards = _why_cards(work, product, listing)
        steps = (*steps[:-1], *cards, *(steps[-1:] if all(step.ok for step in cards) else ()))
    live = any(card.listing == str(listing) for card in listings.open_places(work.session, [product_id]))
    now = "It stands there live" if live else "It does not stand there live"
    wanted = steps[-1].name == "shows"
    live_step = Step(
        "live", live == wanted or None, now + ("" if live == wanted else ", the next release changes that")
    )
    return Explained(
        thing.name, product.title, "", (*steps[:-1], live_step, steps[-1]) if wanted else (*steps, live_step)
    )


def _why_cards(work: Work, product: Product, listing: Listing) -> tuple[Step, ...]:
    """How many cards a product has on a listing that it stands on, and why."""
    made, surface = plans.draft_plans(work.session), listed_surface().code
    own = proofs.own_settings(work, [product.id]).get(str(product.id), ())
    shown = proofs.showing_of(work, made).of(work.session, [product])[0]
    cards = Cards(made.of_product(product, surface, own).fans, shown).on(listing)
    collection = (listing.key,) if listing.noun == collections.NOUN.code else ()
    cascade = Cascade((*made.defs.settings.values(), *own))
    said = cascade.said(Chain(str(product.id), collection), EVERY, surface)
    varies = shown.sold is not None and bool(shown.sold.variants)
    return why_cards(made.defs, said, cards, title=product.title, varies=varies)


def need_device(code: str) -> str:
    """A device by code, "" for any. Raises Refusal `unknown_device`."""
    if code and code not in EVERY_DEVICE:
        raise Refusal("unknown_device", f"There is no device {code[:40]}", ("device",), "Choose another")
    return code


def _subject(work: Work, about: About, surface: str, trying: proofs.Trying = proofs.AS_IT_IS) -> _Subject:
    need_device(about.device)
    if about.record is not None:
        return _record(work, about.record, trying)
    if about.product is None:
        raise Refusal("required", "Say what is asked about", ("product",), "Give a product or a record")
    proofs.need_product_surface(surface)
    product = proofs.need_product(work, about.product)
    made = plans.draft_plans(work.session)
    own = proofs.settings_tried(work, made, product, trying)
    shown = proofs.showing_of(work, made).of(work.session, [product])[0]
    cascade = Cascade((*made.defs.settings.values(), *own))
    return _Subject(of_product(shown), product.title, made.of_product(product, surface, own), cascade)


def _record(work: Work, key: str, trying: proofs.Trying) -> _Subject:
    record, made = proofs.record_tried(work, key, trying)
    names = names_of_cells(work.session, made.defs, records.NOUN.code, record, live=False)
    asked = Asked(values_of(record, names), records.NOUN.code, key)
    plan = made.of_records(record.type)
    if plan.surface.code != record_surface().code:
        raise Refusal("unknown_surface", "Records have a page alone", ("surface",), "Ask about their page")
    return _Subject(asked, record.name, plan, made.defs.cascade)


@dataclass(frozen=True)
class Missing:
    """A field of a product that a surface does not show, and the first step that fails."""

    key: str
    name: str
    step: Step


def missing(work: Work, product_id: int, surface: str, device: str = "") -> list[Missing]:
    """The fields a product has that should show on a surface and don't, for want of a value, a place, a reader or, on a
    device, of width."""
    work.need(Right.LOOK)
    proofs.need_product_surface(surface)
    need_device(device)
    defs = plans.draft(work.session)
    product = plans.draft_of(work.session).showing.of(work.session, [proofs.need_product(work, product_id)])[0]
    plan = proofs.plan_for(work, product, surface)
    out = []
    for key, entry in plan.entries.items():
        if entry.field.audience == "staff":
            continue
        outcome = entry.outcome(product)
        if entry.placed and outcome.state == "good" and not device:
            continue
        failed = next((step for step in why(defs, plan, product, key, device) if step.ok is False), None)
        if failed is not None:
            out.append(Missing(key, entry.field.name, failed))
    return out
