"""Options on pages: how those of a product stand where a layout has a place for them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Protocol

from young_fabric.core.display.surfaces import SWATCHES, Surface
from young_fabric.core.kinds.leaves import Chooser, OptionShown
from young_fabric.core.nouns.options.said_options import SaidOption
from young_fabric.core.options.choosing import has_swatches
from young_fabric.core.options.sold import Sold

SOLD = "…sold"
"""Under which key of what pages read of a product stands what can be chosen of it; no field has such a key."""
FROM = "from"
"""What a block of prices is told when it shows the lowest of several."""


class OptionsShown(Protocol):
    """How options show on a surface."""

    surface: Surface

    def of(self, said: SaidOption) -> Mapping[str, Any]:
        """All that holds for an option, by property."""

    @property
    def mark(self) -> Any:
        """What tells apart how options show."""


def chooser_of(sold: Sold | None, asked: OptionsShown) -> Chooser | None:
    """The options of a product that show on a surface, None where there are none; as swatches only those that have any."""
    if sold is None:
        return None
    alone = asked.surface.options == SWATCHES
    made = []
    for offered in sold.offer.options:
        settings = asked.of(SaidOption(offered.set, offered.option))
        if settings["shown"] and (has_swatches(offered) or not alone):
            made.append(_shown(offered.option.key, settings))
    return Chooser(tuple(made), sold.mark) if made else None


def _shown(key: str, settings: Mapping[str, Any]) -> OptionShown:
    return OptionShown(
        key,
        settings["chosen_by"],
        settings["swatch_size"],
        settings["swatch_shape"],
        settings["swatch_label"],
        settings["empty_choice"],
        settings["most_swatches"],
    )
