"""The render document: a plain tree of what shows on a surface for one product, the only thing pages are made from."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, NamedTuple


class Entry(NamedTuple):
    """One field as shown: final `text` beside the raw `value`, label and its place, and on which devices."""

    field: str
    label: str
    label_at: str
    text: str
    value: Any
    devices: tuple[str, ...]


class Block(NamedTuple):
    """Entries under an optional heading."""

    id: str
    kind: str
    heading: str
    entries: tuple[Entry, ...]


class Columns(NamedTuple):
    """Regions side by side."""

    id: str
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
        {"id": b.id, "regions": [_region_json(r) for r in b.regions]}
        if isinstance(b, Columns)
        else {"id": b.id, "kind": b.kind, "heading": b.heading, "entries": [list(e) for e in b.entries]}
        for b in region.blocks
    ]
    return {"id": region.id, "blocks": blocks}


def from_json(data: dict[str, Any]) -> RenderDoc:
    """The inverse of `to_json`."""
    return RenderDoc(data["surface"], data["product"], _region(data["region"]))


def _region(data: dict[str, Any]) -> Region:
    blocks: list[Block | Columns] = []
    for b in data["blocks"]:
        if "regions" in b:
            blocks.append(Columns(b["id"], tuple(_region(r) for r in b["regions"])))
        else:
            entries = tuple(Entry(e[0], e[1], e[2], e[3], e[4], tuple(e[5])) for e in b["entries"])
            blocks.append(Block(b["id"], b["kind"], b["heading"], entries))
    return Region(data["id"], tuple(blocks))
