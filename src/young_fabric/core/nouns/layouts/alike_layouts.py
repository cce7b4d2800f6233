"""Layouts that are the same but for words typed into them: they could be one layout, and the words a field."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping
from typing import Any, NamedTuple

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.display.block_members import HEADING, REGIONS
from young_fabric.core.display.blocks import BLOCK_KINDS, WORDS
from young_fabric.core.display.layouts import Arrangement, Block, Region
from young_fabric.core.display.surfaces import PRODUCTS, SURFACES
from young_fabric.core.nouns.layouts.block_checks import tokens_of
from young_fabric.core.nouns.layouts.layouts import Layout, arrange


class DifferingWords(NamedTuple):
    """Words that stand at one place of some layouts: by layout, the id of the block and its words."""

    name: str
    blocks: Mapping[str, str]
    words: Mapping[str, str]


class AlikeLayouts(NamedTuple):
    """Layouts of a surface, by key, that are the same but for some words; none of them where they are the same throughout."""

    layouts: tuple[str, ...]
    differing: tuple[DifferingWords, ...]


def alike_layouts(layouts: Mapping[str, Layout], own: Mapping[str, Layout]) -> list[AlikeLayouts]:
    """All groups of a shop's own layouts that could be one; those that others build on stay as they are."""
    bases = {layout.base for layout in layouts.values()}
    found: dict[str, list[Arrangement]] = defaultdict(list)
    for key in sorted(own):
        if key not in bases and SURFACES[own[key].surface].subject == PRODUCTS:
            arranged = arrange(layouts, key)
            found[content_hash([own[key].surface, _shape(arranged)])].append(arranged)
    return [
        AlikeLayouts(tuple(each.key for each in group), _differing(group)) for group in found.values() if len(group) > 1
    ]


def _words(block: Block) -> str | None:
    """Words that could be a field, None where a block has none."""
    kind, words = BLOCK_KINDS.get(block.kind), block.said.get(WORDS.code)
    lifts = kind is not None and bool(kind.becomes)
    return words if lifts and isinstance(words, str) and not tokens_of(block.said) else None


def _shape(arranged: Arrangement) -> Any:
    """What a layout is apart from the ids of its blocks and the words that could be fields."""
    return [_region(arranged, region, 0) for region in arranged.regions[:1]]


def _region(arranged: Arrangement, region: Region, deep: int) -> list[Any]:
    return [_block(arranged, block, deep) for block in region.blocks]


def _block(arranged: Arrangement, block: Block, deep: int) -> Any:
    said = {name: value for name, value in block.said.items() if name not in ("id", REGIONS.code)}
    if _words(block) is not None:
        said[WORDS.code] = None
    inner = [arranged.region(name) for name in block.regions] if deep < len(arranged.regions) else []
    return [said, [_region(arranged, region, deep + 1) for region in inner if region is not None]]


def _differing(group: list[Arrangement]) -> tuple[DifferingWords, ...]:
    """The places where words differ from layout to layout."""
    return tuple(_differ(group))


def _differ(group: list[Arrangement]) -> Iterator[DifferingWords]:
    for blocks in zip(*(arranged.blocks() for arranged in group), strict=True):
        words = [_words(block) for block in blocks]
        if len(set(words)) > 1:
            keys = [arranged.key for arranged in group]
            name = blocks[0].heading or str(words[0]).splitlines()[0][:60]
            yield DifferingWords(
                str(blocks[0].said.get(HEADING.code) or name),
                {key: block.id for key, block in zip(keys, blocks, strict=True)},
                {key: str(text or "") for key, text in zip(keys, words, strict=True)},
            )
