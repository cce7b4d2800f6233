"""How products stand on listings, as it is said for shop, collections and products; and what that gives on a listing of the draft."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.phrases import EVERY_TOKEN, read_phrase
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.cascade import EVERY, SHOP, Cascade, Chain, Resolved, Scope
from young_fabric.core.display.choices import Choice
from young_fabric.core.display.listing_properties import (
    LISTING_PROPERTIES,
    OPTIONS_OF_CARDS,
    PRODUCT_TOKEN,
    SCOPES_OF_LISTINGS,
    SKU_TOKEN,
    TITLE_OF_CARDS,
    FanOut,
    fan_out_of,
)
from young_fabric.core.display.property import Property
from young_fabric.core.display.surfaces import listed_surface
from young_fabric.core.listing.cards import Card, Cards
from young_fabric.core.nouns.content import collections
from young_fabric.core.nouns.layouts.display_settings import SETTING, SettingKey, scope_name, variant_options
from young_fabric.core.pages.listed import Listing
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.pages import proofs
from young_fabric.service.planning import plans
from young_fabric.store.repos import definitions, labels, products

MOST_LOOKED_AT = 600
"""So many products of a listing are looked at one by one."""
MOST_NAMED = 5
MOST_PRODUCTS = 60
TOKENS = (Choice(PRODUCT_TOKEN, "the product's title"), Choice(SKU_TOKEN, "the SKU"))
CODES = frozenset(prop.code for prop in LISTING_PROPERTIES)


@dataclass(frozen=True)
class RuleMember:
    """A member of a rule: what holds, where it came from, whether it is said here, and its choices: of the options to split by, or of what
    stands in titles."""

    prop: Property
    found: Resolved
    own: bool
    choices: tuple[Choice, ...]


@dataclass(frozen=True)
class OpenRule:
    """All that can be said of cards for a scope and means something there, the scope's name, and the version of what is said there (None: nothing)."""

    name: str
    version: int | None
    members: tuple[RuleMember, ...]


@dataclass(frozen=True)
class SaidRule:
    """A scope that says something of cards: its name, and what."""

    scope: str
    name: str
    own: Mapping[str, Any]


def open_rule(work: Work, scope: Scope) -> OpenRule:
    """All that can be said of cards for a scope. Raises Refusal `no_meaning`, `not_found`."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    if scope.kind not in SCOPES_OF_LISTINGS:
        words = "Cards on listings are said for the shop, a collection or a product"
        raise Refusal("no_meaning", words, ("scope",), "Choose one of them")
    name, own = _named(work, defs, scope)
    cascade = Cascade((*defs.settings.values(), *own))
    chain = Chain(
        scope.key if scope.kind == PRODUCT.code else None, (scope.key,) if scope.kind == collections.NOUN.code else ()
    )
    surface = listed_surface()
    resolved, here = cascade.said(chain, EVERY, surface.code), cascade.set_here(scope, EVERY, surface.code)
    usual = FanOut()
    options = tuple(Choice(key, name) for key, name in sorted(variant_options(defs).items()))
    choices = {OPTIONS_OF_CARDS.code: options, TITLE_OF_CARDS.code: (*TOKENS, *options)}
    holds = {
        prop.code: resolved[prop.code].value if prop.code in resolved else getattr(usual, prop.code)
        for prop in LISTING_PROPERTIES
    }
    members = tuple(
        RuleMember(
            prop,
            resolved.get(prop.code, Resolved(getattr(usual, prop.code), "default")),
            prop.code in here,
            choices.get(prop.code, prop.choices),
        )
        for prop in LISTING_PROPERTIES
        if prop.means_with(holds) or prop.code in here
    )
    key = str(SettingKey(scope, EVERY, surface.code))
    return OpenRule(name, definitions.versions_of(work.session, SETTING, [key]).get(key), members)


def _named(work: Work, defs: Definitions, scope: Scope) -> tuple[str, Sequence[Any]]:
    """What a scope is called, and the settings said for it alone. Raises Refusal `not_found`."""
    if scope.kind == PRODUCT.code:
        product = proofs.need_product(work, int(scope.key))
        return product.title, proofs.own_settings(work, [product.id]).get(str(product.id), ())
    if scope.kind != SHOP and scope.key not in defs.things[str(scope.sort.noun)]:
        raise Refusal("not_found", f"There is no collection {scope.key[:60]}", ("scope",), "It may have been removed")
    return scope_name(defs, scope), ()


def said_rules(work: Work) -> list[SaidRule]:
    """The scopes that say something of cards: the shop, whether or not it does, collections in their order, the first products."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    surface = listed_surface().code
    found = {
        str(setting.scope): {code: value for code, value in setting.set.items() if code in CODES}
        for setting in defs.settings.values()
        if setting.surface == surface and setting.field == EVERY
    }
    of = collections.NOUN.code
    order = [Scope(SHOP), *(Scope(of, thing.key) for thing in collections.in_order(defs))]
    rules = [
        SaidRule(str(scope), scope_name(defs, scope), found.get(str(scope), {}))
        for scope in order
        if scope.kind == SHOP or found.get(str(scope))
    ]
    own = definitions.said_of_subjects(work.session, SETTING, f"/{EVERY}/{surface}", sorted(CODES), MOST_PRODUCTS)
    named = labels.labels(work.session, [int(setting.scope.key) for setting in own])
    return rules + [
        SaidRule(
            str(setting.scope),
            named[int(setting.scope.key)].title,
            {code: value for code, value in setting.set.items() if code in CODES},
        )
        for setting in own
        if int(setting.scope.key) in named
    ]


@dataclass(frozen=True)
class NamedProduct:
    """A product of a listing, and how many cards it has there."""

    id: int
    title: str
    cards: int


@dataclass(frozen=True)
class ListingCards:
    """What a listing of the draft has: products and their cards (of the first MOST_LOOKED_AT where not `whole`), how many it has live, the
    products with most, those of which several cards are called the same, and those that are not there although they belong.

    `mend` is a title by which those would differ, None where none would; `mended_at` the scope that says how they are split.
    """

    products: int
    looked_at: int
    cards: int
    live: int
    most: tuple[NamedProduct, ...]
    alike: tuple[NamedProduct, ...]
    alike_in_all: int
    gone: tuple[NamedProduct, ...]
    gone_in_all: int
    mend: str | None
    mended_at: str

    @property
    def whole(self) -> bool:
        """Whether every product was looked at."""
        return self.looked_at == self.products


def cards_of_listing(work: Work, listing: Listing) -> ListingCards:
    """What a listing of the draft has. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    made = plans.draft_plans(work.session)
    wanted = proofs.wanted_of(made.defs, listing)
    found = [
        record.product
        for record in products.page(work.session, wanted, None, MOST_LOOKED_AT, collation=made.defs.shop.collation)
    ]
    total = len(found) if len(found) < MOST_LOOKED_AT else products.count(work.session, wanted)
    own = proofs.own_settings(work, [product.id for product in found])
    shown = proofs.showing_of(work, made).of(work.session, found)
    rows: list[tuple[Product, tuple[Card, ...]]] = []
    for product, whole in zip(found, shown, strict=True):
        plan = made.of_product(product, listed_surface().code, own.get(str(product.id), ()))
        rows.append((product, Cards(plan.fans, whole).on(listing)))
    alike = [(product, cards) for product, cards in rows if len({card.title for card in cards}) < len(cards)]
    mend, mended_at = _mend(made.defs, listing, alike)
    live = plans.live_counts(work.session).get(str(listing), 0)
    named = [NamedProduct(product.id, product.title, len(cards)) for product, cards in rows]
    gone = [row for row in named if row.cards == 0]
    return ListingCards(
        total,
        len(found),
        sum(row.cards for row in named),
        live,
        tuple(sorted((row for row in named if row.cards > 1), key=lambda row: -row.cards)[:MOST_NAMED]),
        tuple(NamedProduct(product.id, product.title, len(cards)) for product, cards in alike[:MOST_NAMED]),
        len(alike),
        tuple(gone[:MOST_NAMED]),
        len(gone),
        mend,
        mended_at,
    )


def _mend(
    defs: Definitions, listing: Listing, alike: Sequence[tuple[Product, tuple[Card, ...]]]
) -> tuple[str | None, str]:
    """A title that tells cards apart which are called the same, and who splits them."""
    collection = (listing.key,) if listing.noun == collections.NOUN.code else ()
    resolved = defs.cascade.said(Chain(None, collection), EVERY, listed_surface().code)
    split = resolved.get("mode", Resolved(None, SHOP)).origin
    if not alike:
        return None, split
    rule = fan_out_of({code: found.value for code, found in resolved.items()})
    tokens = read_phrase(rule.title, EVERY_TOKEN).tokens
    options = list(dict.fromkeys(key for _, cards in alike for card in cards for key in card.split_by))
    lacking = [key for key in options if key not in tokens]
    more = "".join(f"[, {{{key}}}]" for key in lacking)
    return (f"{rule.title}{more}" if lacking else None), split
