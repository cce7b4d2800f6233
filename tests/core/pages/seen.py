"""What a device shows of a document."""

from __future__ import annotations

from young_fabric.core.pages.document import ShownRegion


def fields_seen(region: ShownRegion, device: str) -> set[str]:
    """The fields with a value that a device shows in a region."""
    seen: set[str] = set()
    for block in region.blocks:
        if device in block.devices:
            seen |= {e.field for e in block.entries if e.value is not None and device in e.devices}
            seen = seen.union(*(fields_seen(inner, device) for inner in block.regions))
    return seen
