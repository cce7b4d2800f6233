"""What templates put around blocks and values, said once for all of them: marks the studio finds them by, devices, and looks."""

from __future__ import annotations

from functools import lru_cache
from typing import Any, Protocol

import orjson
from markupsafe import Markup, escape

from young_fabric.core.display.choices import EVERY_DEVICE
from young_fabric.core.pages.document import Entry, ShownBlock

_LOOKS = (("background", "bg"), ("padding", "pad"), ("width", "wide"), ("crop", "crop"))


class OnDevices(Protocol):
    """What shows on some devices."""

    @property
    def devices(self) -> tuple[str, ...]:
        """Their codes."""


def on(shown: OnDevices) -> str:
    """Classes of what does not show on every device, "" where it does."""
    devices = shown.devices
    return "" if len(devices) == len(EVERY_DEVICE) else " some" + "".join(f" on-{device}" for device in devices)


def marks(entry: Entry, block: ShownBlock) -> Markup:
    """Attributes that say which field, in which block, something is of."""
    return _marks(entry.field, block.id)


@lru_cache(8192)
def _marks(field: str, block: str) -> Markup:
    return Markup(f'data-field="{escape(field)}" data-block="{escape(block)}"')  # noqa: S704


def look(block: ShownBlock) -> str:
    """Classes of how a block was set to look."""
    if not block.look:
        return ""
    return "".join(f" {prefix}-{value}" for member, prefix in _LOOKS if (value := block.said(member)))


_IN_HTML = [(sign.encode(), f"\\u{ord(sign):04x}".encode()) for sign in "<>&'"]


def data_html(value: Any) -> Markup:
    """JSON as it can stand in a script of a page, whatever is in it: signs that HTML knows are spelled by number (RFC 8259, 7)."""
    written = orjson.dumps(value, option=orjson.OPT_SORT_KEYS)
    for sign, spelled in _IN_HTML:
        written = written.replace(sign, spelled)
    return Markup(written.decode())  # noqa: S704
