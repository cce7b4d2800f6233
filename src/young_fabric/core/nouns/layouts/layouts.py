"""Layouts as definitions: the arrangement of a surface, of regions of its own or of steps over another one."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.base.text import make_key
from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.layouts import STEP_WORDS, Arrangement, Json, read_regions, read_takes, resolve_layout
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.kinds.base import Items, Target
from young_fabric.core.nouns.base import Bearing, Calling, Known, Noun, Reference, Referring, Stored, Telling
from young_fabric.core.nouns.fields import fields
from young_fabric.core.nouns.fields.built_in import BUILT_IN
from young_fabric.core.nouns.fields.conditions import read_condition, refers_of_condition, renamed_field, with_asked
from young_fabric.core.nouns.layouts import layout_words
from young_fabric.core.nouns.layouts.block_checks import (
    MOST_BLOCKS,
    check_block,
    check_nesting,
    named_fields,
    tokens_of,
)
from young_fabric.core.nouns.layouts.built_in_layouts import BUILT_IN_LAYOUTS
from young_fabric.core.nouns.layouts.layout_parts import LayoutRegion, LayoutStep
from young_fabric.core.nouns.types import field_sets

LAYOUTS = "layout"
FIELD, FIELD_SET = fields.NOUN.code, field_sets.NOUN.code
MOST_STEPS = 400


@dataclass(frozen=True)
class Layout:
    """The arrangement of a surface: `regions` of its own, or `steps` over the layout `base`, "" for none.

    The first region is where reading begins; the others show in the blocks that name them.
    """

    __pydantic_config__ = STRICT
    key: str
    name: str
    surface: str = next(iter(SURFACES))
    base: str = ""
    regions: tuple[LayoutRegion, ...] = ()
    steps: tuple[LayoutStep, ...] = ()

    def said_blocks(self) -> Iterable[tuple[tuple[str | int, ...], Json]]:
        """All that it says of blocks itself, with the place: whole blocks, and members that its steps set."""
        for number, region in enumerate(self.regions):
            for position, block in enumerate(region.blocks):
                yield ("regions", number, "blocks", position), block
        for number, step in enumerate(self.steps):
            if step.block is not None:
                yield ("steps", number, "block"), step.block
            elif step.props:
                yield ("steps", number, "props"), step.props


def shape_of(layout: Layout) -> Json:
    """A layout as the rules have it."""
    return {
        "base": layout.base or None,
        "regions": [{"id": region.id, "blocks": list(region.blocks)} for region in layout.regions],
        "steps": [step.plain() for step in layout.steps],
    }


def all_layouts(own: Mapping[str, Layout]) -> Mapping[str, Layout]:
    """The layouts the core brings, and a shop's own."""
    built_in = {
        key: Layout(key, name, surface, regions=regions) for key, (name, surface, regions) in BUILT_IN_LAYOUTS.items()
    }
    return {**built_in, **{key: layout for key, layout in own.items() if key not in built_in}}


def arrange(layouts: Mapping[str, Layout], key: str) -> Arrangement:
    """A layout with all its steps taken. Raises Refusal `no_base`, `loop`."""
    found = resolve_layout({name: shape_of(layouts[name]) for name in chain_of(layouts, key)}, key)
    name = layouts[key].name if key in layouts else key
    return Arrangement(key, name, read_regions(found.regions), tuple(found.lost))


def chain_of(layouts: Mapping[str, Layout], key: str) -> tuple[str, ...]:
    """A layout and those it builds on, nearest first, as far as they are there; each once."""
    found: dict[str, None] = {}
    at = key
    while at in layouts and at not in found:
        found[at] = None
        at = layouts[at].base
    return tuple(found)


def bringing(layouts: Mapping[str, Layout], key: str, block_id: str) -> str:
    """The key of the layout that brings a block: of one and those it builds on, the nearest that has it itself."""
    for name in chain_of(layouts, key):
        known = layouts[name]
        added = any(step.op == "add" and step.id == block_id for step in known.steps)
        if added or any(block["id"] == block_id for region in known.regions for block in region.blocks):
            return name
    return key


def check_layout(layout: Layout, defs: Known) -> None:
    """Raises Refusal: `required`, `long`, `unknown_surface`, `no_base`, `loop`, `other_surface`, `too_many`, `twice`,
    `unknown_region`, `nested`, or of a block."""
    if not layout.name.strip():
        raise Refusal("required", "A layout needs a name", ("name",), "Type a name, such as Page of paints")
    if len(layout.name) > 80:
        raise Refusal("long", "At most 80 characters fit", ("name",), "Shorten it")
    if layout.surface not in SURFACES:
        raise Refusal("unknown_surface", f"There is no surface {layout.surface[:60]}", ("surface",), "Choose another")
    layouts = {**defs.layouts, layout.key: layout}
    base = layouts.get(layout.base) if layout.base else None
    if base is not None and base.surface != layout.surface:
        words = f"{base.name} is a layout of the {SURFACES[base.surface].name}"
        raise Refusal("other_surface", words, ("base",), "Build on one of the same surface")
    if not layout.base and not layout.regions:
        raise Refusal("required", "A layout needs a part to put blocks in", ("regions",), "Add one")
    if len(layout.steps) > MOST_STEPS:
        raise Refusal("too_many", f"A layout has at most {MOST_STEPS} steps over its base", ("steps",), "Begin anew")
    if len({step.key for step in layout.steps}) < len(layout.steps):
        raise Refusal("twice", "A step is here twice", ("steps",), "Keep one")
    for index, step in enumerate(layout.steps):
        if step.op not in STEP_WORDS:
            words = f"There is no step “{step.op[:40]}”"
            raise Refusal("edit", words, ("steps", index, "op"), "Send one of those in the API")
    arranged = arrange(layouts, layout.key)
    blocks = [block for region in arranged.regions for block in region.blocks]
    surface = SURFACES[layout.surface]
    small = next((b for b in blocks if b.kind in BLOCK_KINDS and not BLOCK_KINDS[b.kind].stands_on(surface)), None)
    if small is not None:
        words = f"A block of {BLOCK_KINDS[small.kind].name} does not go on the {surface.name}"
        raise Refusal("block_kind", words, ("regions",), "Take it away")
    for block in blocks:
        for member in BLOCK_KINDS[block.kind].all_members() if block.kind in BLOCK_KINDS else ():
            if block.said.get(member.code) and surface.subject not in member.subjects:
                words = f"“{member.name}” can't be said on the {surface.name}"
                raise Refusal("no_member", words, ("regions",), "Take it away")
    if len(blocks) > MOST_BLOCKS:
        raise Refusal("too_many", f"A layout has at most {MOST_BLOCKS} blocks", ("regions",), "Take some away")
    for where, said in layout.said_blocks():
        try:
            check_block(said, defs, whole="props" not in where)
        except Refusal as refusal:
            raise refusal.at(*where) from None
    check_nesting(arranged)


def _names_of_block(said: Json) -> Iterable[Reference]:
    takes = read_takes(said.get("takes"))
    for key in takes.fields:
        if key not in BUILT_IN:
            yield Reference(FIELD, key, "takes", loose=True)
    for key in (*takes.sets, *(field_set for field_set, _ in takes.sections)):
        yield Reference(FIELD_SET, key, "takes", loose=True)
    for member, keys in named_fields(said, None):
        for key in keys:
            if key not in BUILT_IN:
                yield Reference(FIELD, key, member.code, loose=True)
    condition = said.get("condition")
    if isinstance(condition, Mapping):
        yield from refers_of_condition(condition, BUILT_IN, "condition")
    for key in tokens_of(said):
        if key not in BUILT_IN:
            yield Reference(FIELD, key, "words", apart=True)
    if isinstance(said.get("copy"), str):
        yield Reference("shared_copy", said["copy"], "copy")


def _refers(layout: Layout) -> Iterable[Reference]:
    if layout.base and layout.base not in BUILT_IN_LAYOUTS:
        yield Reference(LAYOUTS, layout.base, "base")
    for _, said in layout.said_blocks():
        yield from _names_of_block(said)


def _changed_blocks(layout: Layout, change: Any) -> Layout:
    """A layout with all that it says of blocks made into something else."""
    regions = tuple(replace(region, blocks=tuple(map(change, region.blocks))) for region in layout.regions)
    steps = tuple(
        replace(
            step,
            block=None if step.block is None else change(step.block),
            props=None if step.props is None else change(step.props),
        )
        for step in layout.steps
    )
    return replace(layout, regions=regions, steps=steps)


def _without(layout: Layout, reference: Reference) -> Layout:
    def without(said: Json) -> Json:
        if reference.noun == FIELD:
            said = _with_named(said, {reference.key: None})
        takes = said.get("takes")
        if not isinstance(takes, Mapping):
            return said
        kept = {
            "fields": [key for key in takes.get("fields", ()) if (reference.noun, reference.key) != (FIELD, key)],
            "sets": [key for key in takes.get("sets", ()) if (reference.noun, reference.key) != (FIELD_SET, key)],
            "sections": [
                pair for pair in takes.get("sections", ()) if (reference.noun, reference.key) != (FIELD_SET, pair[0])
            ],
        }
        return {**said, "takes": {**takes, **{name: kept[name] for name in kept if name in takes}}}

    return _changed_blocks(layout, without)


def _with_named(said: Json, into: Mapping[str, str | None]) -> Json:
    """What is said of a block with other fields in place of those its members name, None taking one out."""
    found = named_fields(said, None)
    changed = {member.code: member.with_fields(said[member.code], into) for member, _ in found}
    return {code: value for code, value in {**said, **changed}.items() if value is not None or code not in changed}


def _with_field(layout: Layout, field: str, into: str) -> Layout:
    def renamed(said: Json) -> Json:
        out = dict(_with_named(said, {field: into}))
        takes = said.get("takes")
        if isinstance(takes, Mapping) and "fields" in takes:
            keys = dict.fromkeys(into if key == field else key for key in takes["fields"])
            out["takes"] = {**takes, "fields": list(keys)}
        if isinstance(said.get("condition"), Mapping):
            out["condition"] = renamed_field(said["condition"], field, into)
        if isinstance(said.get("words"), str):
            out["words"] = said["words"].replace(f"{{{field}}}", f"{{{into}}}")
        return out

    return _changed_blocks(layout, renamed)


def with_read_conditions(layout: Layout, defs: Known) -> Layout:
    """A layout with what was typed in the conditions of its blocks read into values. Raises Refusal with its place."""

    def read(where: tuple[str | int, ...], said: Json) -> Json:
        if not isinstance(said.get("condition"), Mapping):
            return said
        try:
            return {**said, "condition": read_condition(said["condition"], defs)}
        except Refusal as refusal:
            raise refusal.at(*where, "condition") from None

    found = {id(said): read(where, said) for where, said in layout.said_blocks()}
    return _changed_blocks(layout, lambda said: found.get(id(said), said))


def _with_items(layout: Layout, target: Target, items: Items, defs: Known) -> Layout:
    asked = {key for key, field in defs.all_fields.items() if field.own and field.paths(target)}

    def changed(said: Json) -> Json:
        condition = said.get("condition")
        return {**said, "condition": with_asked(condition, asked, items)} if isinstance(condition, Mapping) else said

    return _changed_blocks(layout, changed)


def _blank(key: str, name: str, defs: Known) -> Layout:  # noqa: ARG001
    surface = next(iter(SURFACES.values()))
    return Layout(key, name, surface.code, surface.layout)


def _key(name: str, defs: Known, noun: str) -> str:  # noqa: ARG001
    return make_key(name, "", defs.layouts)


def _note(layout: Layout, defs: Known) -> str:
    surface = SURFACES.get(layout.surface)
    name = surface.name if surface is not None else layout.surface
    base = defs.layouts.get(layout.base) if layout.base else None
    return f"{name}, {len(layout.steps)} steps over {base.name}" if base is not None else name


NOUN = Noun(
    code=LAYOUTS,
    plural="layouts",
    name="layout",
    group="How it shows",
    type=Layout,
    check=check_layout,
    blank=_blank,
    telling=Telling(describe=layout_words.described),
    calling=Calling(key=_key, kept_keys=lambda: BUILT_IN_LAYOUTS.keys(), note=_note),
    referring=Referring(refers=_refers, without=_without, with_field=_with_field, with_items=_with_items),
    stored=Stored(keyed={"regions": "id", "regions/*/blocks": "id", "steps": "key"}),
    bearing=Bearing(unplanned=frozenset({"name"})),
)
