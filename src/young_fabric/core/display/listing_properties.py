"""How products stand on listings: properties of the surface that stands there, said of it as a whole for shop, collection or product."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, fields
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.text import KEY
from young_fabric.core.base.wording.phrases import EVERY_TOKEN, read_phrase
from young_fabric.core.display.cascade import EVERY, Cascade, Chain
from young_fabric.core.display.choices import Choice, among, short_text, words_of
from young_fabric.core.display.property import Property
from young_fabric.core.display.surfaces import Surface, listed_surface

ONE, VARIANT, BY, ALL_BUT = "product", "variant", "by", "all_but"
HOME, COLLECTION, SEARCH = "home", "collection", "search"
KEEP, DROP, SHOW, HIDE = "keep", "drop", "show", "hide"
PLAIN_TITLE = "{product}"
PRODUCT_TOKEN, SKU_TOKEN = "product", "sku"
TOKENS_OF_TITLES = (PRODUCT_TOKEN, SKU_TOKEN)
"""What titles of cards can hold besides the keys of options."""
MOST_OPTIONS = 6
LONGEST_TITLE = 200
SCOPES_OF_LISTINGS = frozenset({"shop", "collection", "product"})

MODES = (
    Choice(ONE, "one a product", "one card a product"),
    Choice(VARIANT, "one a variant", "a card for every variant"),
    Choice(BY, "by options", "a card for every value of some options"),
    Choice(ALL_BUT, "all but options", "a card for every variant, but for some options"),
)
KINDS = (Choice(HOME, "the home page"), Choice(COLLECTION, "types and collections"))
WITHOUT = (
    Choice(KEEP, "keep as one card", "products without variants keep a card"),
    Choice(DROP, "leave out", "products without variants left out"),
)


def _listed(surface: Surface) -> bool:
    return surface.listed


def _check_options(value: Any) -> Refusal | None:
    sound = isinstance(value, list | tuple) and len(value) <= MOST_OPTIONS and len(set(map(str, value))) == len(value)
    if sound and all(isinstance(key, str) and KEY.fullmatch(key) for key in value):
        return None
    return Refusal("shape", f"Name at most {MOST_OPTIONS} options, each once", help="Choose those that there are")


def _check_kinds(value: Any) -> Refusal | None:
    known = {kind.value for kind in KINDS}
    if isinstance(value, list | tuple) and value and known.issuperset(value) and len(set(value)) == len(value):
        return None
    return Refusal("unknown", "Choose listings, each once", help="Tick at least one")


def _check_title(value: Any) -> Refusal | None:
    wrong = short_text(LONGEST_TITLE)(value)
    if wrong is None:
        try:
            read_phrase(value, EVERY_TOKEN)
        except Refusal as refusal:
            return refusal
    return wrong


def _named(choices: tuple[Choice, ...], values: Any) -> str:
    return ", ".join(choice.label for choice in choices if choice.value in values)


def _split(others: Mapping[str, Any]) -> bool:
    return others.get("mode") in (BY, ALL_BUT)


def _several(others: Mapping[str, Any]) -> bool:
    return others.get("mode") != ONE


def _property(
    code: str,
    name: str,
    control: str,
    check: Any,
    usual: Any,
    words: Any,
    choices: Any = (),
    means_with: Callable[[Mapping[str, Any]], bool] = lambda _others: True,
) -> Property:
    return Property(
        code,
        name,
        control,
        check,
        lambda _kind, _surface: usual,
        words,
        choices,
        whole=True,
        stands_on=_listed,
        scopes=SCOPES_OF_LISTINGS,
        together="Cards on listings",
        means_with=means_with,
    )


OPTIONS_OF_CARDS = _property(
    "options",
    "Split by",
    "variant_options",
    _check_options,
    (),
    lambda value: f"cards by {', '.join(value)}" if value else "cards by no option",
    means_with=_split,
)
TITLE_OF_CARDS = _property(
    "title", "Title", "phrase", _check_title, PLAIN_TITLE, lambda value: f"titles of cards “{value}”"
)
LISTING_PROPERTIES: tuple[Property, ...] = (
    _property("mode", "Cards", "choice", among(MODES), ONE, words_of(MODES), MODES),
    OPTIONS_OF_CARDS,
    TITLE_OF_CARDS,
    _property("no_variants", "No variants", "choice", among(WITHOUT), KEEP, words_of(WITHOUT), WITHOUT, _several),
    _property(
        "listings",
        "Shown on",
        "choices",
        _check_kinds,
        tuple(kind.value for kind in KINDS),
        lambda value: f"several cards on {_named(KINDS, value)}",
        KINDS,
        _several,
    ),
)
"""In the order in which they are told."""


@dataclass(frozen=True)
class FanOut:
    """How many cards a product has on a listing, and how they are called. `cap` 0 is no limit."""

    mode: str = ONE
    options: tuple[str, ...] = ()
    title: str = PLAIN_TITLE
    sold_out: str = SHOW
    no_variants: str = KEEP
    listings: tuple[str, ...] = (HOME, COLLECTION, SEARCH)
    cap: int = 0


def fan_out_of(members: Mapping[str, Any]) -> FanOut:
    """What holds where some members are said and the others are as usual."""
    known = (member.name for member in fields(FanOut) if member.name in members)
    found: dict[str, Any] = {}
    for name in known:
        found[name] = tuple(members[name]) if isinstance(members[name], list) else members[name]
    return FanOut(**found)


def rule_for(cascade: Cascade, product: str | None, collection: str | None) -> FanOut:
    """What holds of a product on the listing of a collection (None: on another), each member from the nearest of product, collection and
    shop that says it."""
    chain = Chain(product, () if collection is None else (collection,))
    resolved = cascade.said(chain, EVERY, listed_surface().code)
    return fan_out_of({code: found.value for code, found in resolved.items()})
