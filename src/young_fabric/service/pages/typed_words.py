"""Words typed into a layout made a field or shared copy in one step: the pages say the same, and each can say otherwise after."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.block_members import COMMON, HEADING, ICON
from young_fabric.core.display.blocks import BLOCK_KINDS, COPY, WORDS, BlockKind
from young_fabric.core.display.cascade import Scope
from young_fabric.core.display.layouts import Json
from young_fabric.core.display.surfaces import PRODUCTS, SURFACES, product_surfaces
from young_fabric.core.kinds.texts import LongText
from young_fabric.core.nouns.layouts.block_checks import tokens_of
from young_fabric.core.nouns.layouts.layouts import Layout, arrange, bringing, chain_of
from young_fabric.core.nouns.types import product_types
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.pages import layouts
from young_fabric.service.planning import plans
from young_fabric.service.writing import writes

SHOP = Scope("shop")
LONGEST_NAME = 60
KEPT = (HEADING, ICON, *COMMON)
"""What of a block the one in its place says too."""


def make_copy(work: Work, key: str, block_id: str) -> str:
    """Words of a block as shared copy, shown in their place; gives the key of the layout that was edited. Raises Refusal."""
    work.need(Right.EDIT)
    layout, block, kind, group = _words_block(work, key, block_id)
    name, heading = _name_of(block), str(block.get(HEADING.code) or "")
    given = {"title": heading or name, "words": block[WORDS.code], "icon": str(block.get(ICON.code) or "")}
    copy = definitions.create(work, "shared_copy", name, given, group=group)
    put_instead(work, layout, block, {"kind": kind.becomes["as_copy"], COPY.code: copy.thing.key}, group)
    return layout.key


def make_field(work: Work, key: str, block_id: str) -> str:
    """Words of a block as a field whose default they are, shown in their place on the products that show them now, and
    nowhere else; gives the key of the layout that was edited. Raises Refusal."""
    work.need(Right.EDIT)
    layout, block, kind, group = _words_block(work, key, block_id)
    if SURFACES[layout.surface].subject != PRODUCTS:
        raise Refusal("edit", "Records have no field of their own for it", ("id",), "Make it shared copy")
    name = _name_of(block)
    given = {"kind": LongText.code, "default": block[WORDS.code], "label": str(block.get(HEADING.code) or name)}
    types = types_with(work, layout)
    field = definitions.create(work, "field", name, given, group=group).thing.key
    for type_key in types:
        current = writes.need_current(work, product_types.NOUN.code, type_key)
        fields = [*current.thing.fields, field]
        definitions.change(work, product_types.NOUN.code, type_key, current.version, {"fields": fields}, group=group)
    for code in product_surfaces():
        here: dict[str, Any] = {"shown": code == layout.surface}
        if code == layout.surface:
            here["label"] = "hidden"
        definitions.display(work, SHOP, field, code, here, None, group)
    put_instead(work, layout, block, {"kind": kind.becomes["as_field"], "takes": {"fields": [field]}}, group)
    return layout.key


def _words_block(work: Work, key: str, block_id: str) -> tuple[Layout, Json, BlockKind, str]:
    """The layout that brings a block of words, the block, its kind, and a group for what is done. Raises Refusal."""
    defs = plans.draft(work.session)
    if key not in defs.layouts:
        raise Refusal("not_found", f"There is no layout {key[:60]}", (), "It may have been removed: see the history")
    block = next((found.said for found in arrange(defs.layouts, key).blocks() if found.id == block_id), None)
    if block is None:
        raise Refusal("block_gone", "This block is there no more", ("id",), "Look at the layout as it is now")
    kind = BLOCK_KINDS[str(block["kind"])]
    if not kind.becomes or not block.get(WORDS.code):
        raise Refusal("edit", "There are no words in it to make something of", ("id",), "Choose a block of words")
    if tokens_of(block):
        words = "These words hold values of fields, which neither a field nor shared copy can"
        raise Refusal("tokens", words, ("id",), "Take the braces out first")
    return defs.layouts[bringing(defs.layouts, key, block_id)], block, kind, uuid4().hex


def _name_of(block: Json) -> str:
    said = str(block.get(HEADING.code) or block[WORDS.code]).strip().splitlines()[0]
    return said[:LONGEST_NAME].strip()


def types_with(work: Work, layout: Layout) -> list[str]:
    """The topmost types whose products have the layout, or one that builds on it, in force."""
    made = plans.draft_plans(work.session)
    shown = {
        group.type
        for group in made.there(plans.group_counts(work.session, made.defs))
        if layout.key in chain_of(made.defs.layouts, made.of_group(group, layout.surface).layout.key)
    }
    covered = {key for key in shown if not any(above in shown for above in made.defs.chain(key)[1:])}
    return sorted(covered)


def put_instead(work: Work, layout: Layout, block: Json, given: Mapping[str, Any], group: str) -> None:
    """Another block in a block's place, which says of itself what that said."""
    kept = {member.code: block[member.code] for member in KEPT if member.code in block}
    defs = plans.draft(work.session)
    region = next(
        region.id
        for region in arrange(defs.layouts, layout.key).regions
        for held in region.blocks
        if held.id == block["id"]
    )
    edits = [
        {"op": "add", "block": {**kept, **given}, "region": region, "after": block["id"]},
        {"op": "remove", "id": block["id"]},
    ]
    layouts.edit(work, layout.key, edits, group=group)
