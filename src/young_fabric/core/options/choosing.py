"""What is chosen before anybody chooses, what of a choice an address can hold, and how an option is chosen from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from young_fabric.core.display.option_properties import BUTTONS, FITS, GRID, LIST, MOST_BUTTONS
from young_fabric.core.nouns.lists.list_values import Swatch
from young_fabric.core.nouns.options.option_kinds import PICK, TICK
from young_fabric.core.options.offers import Offer, OfferedOption

ADDRESSED = frozenset({PICK, TICK})
"""The controls of which an address holds what was chosen; what shoppers type stays out of it."""
LONGEST_TYPED = 5_000
MOST_SEVERAL = 60


def defaults(offer: Offer) -> dict[str, Any]:
    """What is chosen of each option before anybody chooses."""
    return {
        key: [offered.option.default] if offered.rules.several else offered.option.default
        for key, offered in offer.by_key.items()
        if offered.option.default
    }


def chosen_with(offer: Offer, asked: Mapping[str, Any]) -> dict[str, Any]:
    """What was asked for of options there are, with what is chosen beforehand where nothing was said; "" is nothing chosen."""
    usual = defaults(offer)
    return {key: asked[key] if key in asked else usual[key] for key in offer.by_key if key in asked or key in usual}


def read_asked(offer: Offer, sent: Mapping[str, Sequence[str]], *, typed: bool = False) -> dict[str, Any]:
    """What a form (`typed`) or an address says of options: key → texts, as the options take it. Of what is too long the beginning."""
    out: dict[str, Any] = {}
    for key, offered in offer.by_key.items():
        if key in sent:
            texts = [text[:LONGEST_TYPED] for text in sent[key][:MOST_SEVERAL]]
            if offered.rules.chooses and not typed:
                # An old address may name what is no longer offered: then nothing is chosen. What a form asks for is told.
                texts = [text if text in offered.by_code else "" for text in texts]
            out[key] = [text for text in texts if text] if offered.rules.several else (texts or [""])[-1]
    return out


def addressed(offer: Offer, asked: Mapping[str, Any]) -> list[tuple[str, str]]:
    """What of a choice an address holds, in order of the options: (option, code); a value that is not offered is left out."""
    out: list[tuple[str, str]] = []
    for key, offered in offer.by_key.items():
        value = asked.get(key)
        if offered.rules.control not in ADDRESSED or value is None:
            continue
        items = value if isinstance(value, list) else [value]
        known = [
            item
            for item in items
            if isinstance(item, str) and (item in offered.by_code or not (offered.rules.chooses and item))
        ]
        if known != items or (known in ([], [""]) and not offered.option.default):
            known = [item for item in known if item]
        out += [(key, item) for item in known]
    return out


def has_swatches(offered: OfferedOption) -> bool:
    """Whether some value of an option can be told by how it looks."""
    return any(value.swatch != Swatch() for value in offered.values)


def how_chosen(chosen_by: str, offered: OfferedOption) -> str:
    """How an option is chosen from, where what fits is asked for: by swatches if it has any, by buttons if it has few values."""
    if chosen_by != FITS:
        return chosen_by
    if has_swatches(offered):
        return GRID
    return BUTTONS if len(offered.values) <= MOST_BUTTONS else LIST
