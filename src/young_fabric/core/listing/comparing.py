"""Products side by side: what stands above each, and the fields they have as rows, those that differ told from the same."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.pages.document import Entry, RenderDoc, ShownBlock, ShownRegion

MOST_COMPARED = 4


@dataclass(frozen=True)
class ComparedRow:
    """A field of the compared products: its label, the entry of each in their order, None where one has none."""

    field: str
    label: str
    cells: tuple[Entry | None, ...]

    @property
    def same(self) -> bool:
        """Whether all of them show the same."""
        first = self.cells[0]
        return first is not None and all(cell is not None and cell.shown == first.shown for cell in self.cells)


@dataclass(frozen=True)
class Compared:
    """Products side by side: the blocks above each, and the rows."""

    heads: tuple[ShownRegion, ...]
    rows: tuple[ComparedRow, ...]


def compare(docs: Sequence[RenderDoc]) -> Compared:
    """Documents of the compare surface side by side. Rows stand in the order of the first document that has them, a field
    that only later ones have after the one before it there."""
    order: list[str] = []
    by_field: list[dict[str, Entry]] = []
    heads = []
    for doc in docs:
        blocks = list(doc.blocks())
        entries = {entry.field: entry for block in blocks if _in_rows(block) for entry in block.entries}
        last = -1
        for key in entries:
            if key not in order:
                order.insert(last + 1, key)
            last = order.index(key)
        by_field.append(entries)
        heads.append(
            ShownRegion(doc.region.id, tuple(block for block in blocks if not block.regions and not _in_rows(block)))
        )
    rows = []
    for key in order:
        cells = tuple(entries.get(key) for entries in by_field)
        label = next(cell.label for cell in cells if cell is not None)
        rows.append(ComparedRow(key, label, cells))
    return Compared(tuple(heads), tuple(rows))


def _in_rows(block: ShownBlock) -> bool:
    return BLOCK_KINDS[block.kind].in_rows
