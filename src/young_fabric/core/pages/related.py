"""What stands beside a product on its page: which others a document asks for, and the document without what finds none."""

from __future__ import annotations

from collections.abc import Collection

from young_fabric.core.kinds.references import ToProduct
from young_fabric.core.kinds.shown import References, Related
from young_fabric.core.pages.blocks import settled
from young_fabric.core.pages.document import RenderDoc, ShownBlock, ShownRegion


def related_blocks(doc: RenderDoc) -> list[ShownBlock]:
    """The blocks of a document that show other products, in reading order."""
    return [block for block in doc.blocks() if isinstance(block.content, Related)]


def named_products(block: ShownBlock) -> list[int]:
    """The products that the fields of a block name, in order, each once."""
    found = [
        int(item)
        for entry in block.entries
        if isinstance(entry.shown, References)
        for _, noun, item, _ in entry.shown.things
        if noun == ToProduct.noun
    ]
    return list(dict.fromkeys(found))


def without_blocks(doc: RenderDoc, ids: Collection[str]) -> RenderDoc:
    """A document without some blocks, and without what has nothing in it then."""
    return doc._replace(region=_without(doc.region, ids)) if ids else doc


def _without(region: ShownRegion, ids: Collection[str]) -> ShownRegion:
    kept = []
    for block in region.blocks:
        if block.id in ids:
            continue
        if block.regions:
            inner = tuple(found for part in block.regions if (found := _without(part, ids)).blocks)
            if not inner:
                continue
            block = block._replace(regions=inner)
        kept.append(block)
    return region._replace(blocks=tuple(settled(kept)))
