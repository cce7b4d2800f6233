"""The render document: a plain tree of what shows on a surface for one product, the only thing pages are made from."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, NamedTuple

from young_fabric.core.kinds import shown as nodes

FORMAT = 2
"""The format of documents as this code makes them; it enters their hash, so that older ones are made anew."""


class Entry(NamedTuple):
    """One field as shown: its node beside the raw `value`, label and where that stands, and on which devices."""

    field: str
    label: str
    label_at: str
    shown: Any
    value: Any
    devices: tuple[str, ...]

    @property
    def text(self) -> str:
        """What it shows, as text."""
        return str(self.shown.plain)


UNKNOWN = Entry("", "", "", None, None, ())
"""Stands for an entry that was not made yet; known by its identity."""


class Block(NamedTuple):
    """Entries under an optional heading."""

    id: str
    kind: str
    heading: str
    entries: tuple[Entry, ...]


class Columns(NamedTuple):
    """Regions side by side."""

    id: str
    kind: str
    regions: tuple[Region, ...]


class Region(NamedTuple):
    """Blocks one under the other."""

    id: str
    blocks: tuple[Block | Columns, ...]


class RenderDoc(NamedTuple):
    """What a surface shows of one product. Nothing empty stands in it."""

    surface: str
    product: int
    region: Region

    def blocks(self) -> Iterator[Block]:
        """Every block, in reading order."""
        yield from _blocks(self.region)

    def entries(self) -> Iterator[Entry]:
        """Every entry, in reading order."""
        for block in self.blocks():
            yield from block.entries


def _blocks(region: Region) -> Iterator[Block]:
    for block in region.blocks:
        if isinstance(block, Columns):
            for inner in block.regions:
                yield from _blocks(inner)
        else:
            yield block


def to_json(doc: RenderDoc) -> dict[str, Any]:
    """The document as plain JSON values."""
    return {"surface": doc.surface, "product": doc.product, "region": _region_json(doc.region)}


def _region_json(region: Region) -> dict[str, Any]:
    blocks = [
        {"id": block.id, "kind": block.kind, "regions": [_region_json(inner) for inner in block.regions]}
        if isinstance(block, Columns)
        else {
            "id": block.id,
            "kind": block.kind,
            "heading": block.heading,
            "entries": list(map(_entry_json, block.entries)),
        }
        for block in region.blocks
    ]
    return {"id": region.id, "blocks": blocks}


def _entry_json(entry: Entry) -> list[Any]:
    field, label, label_at, shown, value, devices = entry
    return [field, label, label_at, nodes.to_json(shown), value, devices]


def from_json(data: dict[str, Any]) -> RenderDoc:
    """The inverse of `to_json`."""
    return RenderDoc(data["surface"], data["product"], _region(data["region"]))


def _region(data: dict[str, Any]) -> Region:
    blocks: list[Block | Columns] = []
    for block in data["blocks"]:
        if "regions" in block:
            blocks.append(Columns(block["id"], block["kind"], tuple(map(_region, block["regions"]))))
        else:
            entries = tuple(
                Entry(field, label, label_at, nodes.from_json(shown), value, tuple(devices))
                for field, label, label_at, shown, value, devices in block["entries"]
            )
            blocks.append(Block(block["id"], block["kind"], block["heading"], entries))
    return Region(data["id"], tuple(blocks))
