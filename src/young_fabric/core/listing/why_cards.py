"""Why a product has the cards it has on a listing: the rule that decided, who says it, and what became of it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.cascade import Resolved
from young_fabric.core.display.listing_properties import ALL_BUT, BY, COLLECTION, DROP, ONE, FanOut, fan_out_of
from young_fabric.core.listing.cards import Card
from young_fabric.core.nouns.layouts.display_settings import origin_name, variant_options
from young_fabric.core.pages.steps import Mend, Step

MOST_NAMED = 3
LISTING_RULE = "listing_rule"
"""What is opened to say how many cards there are; its key is the scope."""


def why_cards(
    defs: Definitions, resolved: Mapping[str, Resolved], cards: Sequence[Card], *, title: str, varies: bool
) -> tuple[Step, ...]:
    """The step that tells how many cards a product has on a listing of a type or a collection; nothing where no scope says anything of it.
    `resolved` are the members of its rule that are said, `title` is the product's, `varies` whether it has variants."""
    rule = fan_out_of({code: found.value for code, found in resolved.items()})
    decided = resolved.get("no_variants" if not cards else "mode")
    if rule == FanOut() or (rule.mode == ONE and len(cards) == 1 and rule.title == FanOut().title):
        return ()
    words = f"{_counted(cards)}: {_because(defs, rule, varies=varies)}"
    if decided is not None:
        words += f", by {origin_name(defs, decided.origin)}"
    mend = Mend("Say it otherwise", LISTING_RULE, decided.origin) if decided else None
    return (Step("cards", bool(cards), words + _called(cards, title), mend),)


def _counted(cards: Sequence[Card]) -> str:
    return {0: "No card", 1: "One card"}.get(len(cards), f"{len(cards):,} cards")


def _because(defs: Definitions, rule: FanOut, *, varies: bool) -> str:
    """What of the rule decided how many there are."""
    if rule.mode == ONE:
        return "one a product"
    if COLLECTION not in rule.listings:
        return "several stand on other listings only"
    if not varies:
        return "products without variants are left out" if rule.no_variants == DROP else "it has no variants"
    known = variant_options(defs)
    names = " and ".join(known.get(key, key) for key in rule.options) or "no option"
    return {BY: f"split by {names}", ALL_BUT: f"split by all but {names}"}.get(rule.mode, "one a variant")


def _called(cards: Sequence[Card], title: str) -> str:
    names = list(dict.fromkeys(card.title or title for card in cards))
    if not cards:
        return ""
    if len(names) == 1 and len(cards) > 1:
        return f". All of them are called {names[0]}"
    return f". {'; '.join(names[:MOST_NAMED])}{' …' if len(names) > MOST_NAMED else ''}"
