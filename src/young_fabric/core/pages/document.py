"""The render document: a plain tree of what shows on a surface for one product, the only thing pages are made from."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from types import MappingProxyType
from typing import Any, NamedTuple

from young_fabric.core.display.choices import EVERY_DEVICE
from young_fabric.core.kinds import shown as nodes

FORMAT = 3
"""The format of documents as this code makes them; it enters their hash, so that older ones are made anew."""
NO_LOOK: Mapping[str, Any] = MappingProxyType({})


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


class ShownBlock(NamedTuple):
    """What a block shows: entries of fields, parts, or a node of its own, under an optional heading; on which devices, and
    what else templates are told of how it looks."""

    id: str
    kind: str
    heading: str = ""
    entries: tuple[Entry, ...] = ()
    regions: tuple[ShownRegion, ...] = ()
    content: Any = None
    devices: tuple[str, ...] = EVERY_DEVICE
    look: Mapping[str, Any] = NO_LOOK

    def said(self, member: str, usual: Any = "") -> Any:
        """What it is told of how it looks."""
        return self.look.get(member, usual)

    @property
    def title(self) -> str:
        """What heads it as a panel."""
        return self.heading or str(getattr(self.content, "title", ""))


class ShownRegion(NamedTuple):
    """Blocks one under the other."""

    id: str
    blocks: tuple[ShownBlock, ...]


class RenderDoc(NamedTuple):
    """What a surface shows of one product. Nothing empty stands in it."""

    surface: str
    product: int
    region: ShownRegion

    def blocks(self) -> Iterator[ShownBlock]:
        """Every block, in reading order."""
        yield from _blocks(self.region)

    def entries(self) -> Iterator[Entry]:
        """Every entry, in reading order."""
        for block in self.blocks():
            yield from block.entries


def _blocks(region: ShownRegion) -> Iterator[ShownBlock]:
    for block in region.blocks:
        yield block
        for inner in block.regions:
            yield from _blocks(inner)


def to_json(doc: RenderDoc) -> dict[str, Any]:
    """The document as plain JSON values."""
    return {"surface": doc.surface, "product": doc.product, "region": _region_json(doc.region)}


def _region_json(region: ShownRegion) -> dict[str, Any]:
    return {"id": region.id, "blocks": list(map(_block_json, region.blocks))}


def _block_json(block: ShownBlock) -> dict[str, Any]:
    """A block without what it does not have."""
    out: dict[str, Any] = {"id": block.id, "kind": block.kind}
    if block.heading:
        out["heading"] = block.heading
    if block.entries:
        out["entries"] = list(map(_entry_json, block.entries))
    if block.regions:
        out["regions"] = list(map(_region_json, block.regions))
    if block.content is not None:
        out["content"] = nodes.to_json(block.content)
    if block.devices != EVERY_DEVICE:
        out["devices"] = list(block.devices)
    if block.look:
        out["look"] = dict(block.look)
    return out


def _entry_json(entry: Entry) -> list[Any]:
    field, label, label_at, shown, value, devices = entry
    return [field, label, label_at, nodes.to_json(shown), value, devices]


def _with_stock(data: Mapping[str, Any]) -> Mapping[str, Any]:
    """Format 2 told the stock with the price, wherever that stood on a page with parts."""

    def region(old: Mapping[str, Any]) -> dict[str, Any]:
        blocks: list[Any] = []
        for block in old["blocks"]:
            parts = {"regions": list(map(region, block["regions"]))} if "regions" in block else {}
            blocks.append({**block, **parts})
            if (block["id"], block["kind"]) == (_PRICE, _PRICE):
                blocks.append({"id": "stock", "kind": "stock"})
        return {**old, "blocks": blocks}

    parted = any("regions" in block for block in data["region"]["blocks"])
    return {**data, "region": region(data["region"])} if parted else data


_PRICE = "price"
_UPGRADES = {2: _with_stock}
"""How documents of an older format are read, by that format."""


def from_json(data: Mapping[str, Any], since: int = FORMAT) -> RenderDoc:
    """The inverse of `to_json`, also of documents that were written in an older format."""
    for number in range(since, FORMAT):
        data = _UPGRADES.get(number, lambda same: same)(data)
    return RenderDoc(data["surface"], data["product"], _region(data["region"]))


def _region(data: Mapping[str, Any]) -> ShownRegion:
    return ShownRegion(data["id"], tuple(map(_block, data["blocks"])))


def _block(data: Mapping[str, Any]) -> ShownBlock:
    content = data.get("content")
    return ShownBlock(
        data["id"],
        data["kind"],
        data.get("heading", ""),
        tuple(map(_entry, data.get("entries", ()))),
        tuple(map(_region, data.get("regions", ()))),
        None if content is None else nodes.from_json(content),
        tuple(data.get("devices", EVERY_DEVICE)),
        data.get("look", NO_LOOK),
    )


def _entry(data: Any) -> Entry:
    field, label, label_at, shown, value, devices = data
    return Entry(field, label, label_at, nodes.from_json(shown), value, tuple(devices))
