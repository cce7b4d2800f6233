"""Edits of a layout, as its editor makes them: of regions of its own, or as steps over a base, as few as lead to the same."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.block_members import REGIONS, WIDTHS
from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.layouts import Json, apply_step, resolve_layout
from young_fabric.core.nouns.base import Known
from young_fabric.core.nouns.layouts.layout_parts import LayoutRegion, LayoutStep, step_of
from young_fabric.core.nouns.layouts.layouts import (
    NOUN,
    Layout,
    arrange,
    chain_of,
    check_layout,
    shape_of,
    with_read_conditions,
)

MOST_EDITS = 100
Regions = list[tuple[str, list[Json]]]


def edited(layouts: Mapping[str, Layout], layout: Layout, edits: Iterable[Json]) -> Layout:
    """A layout after edits, one after the other. Each is `add` (block, region, after), `remove` (id), `move` (id, region,
    after), `set` (id, props), `wrap` (id, kind: into a new block with parts), `parts` (id, count), `follow` (id: as the base
    has it) or `drop` (step: a step taken back).

    Raises Refusal: `edit`, `block_gone`, `region_gone`, `stands_once`, `block_kind`.
    """
    for number, edit in enumerate(edits):
        try:
            layout = _EDITS.get(str(edit.get("op")), _unknown)(layouts, layout, edit)
        except Refusal as refusal:
            raise refusal.at("edits", number) from None
    return layout


def changed_layout(defs: Known, key: str, edits: Sequence[Json]) -> Layout:
    """A shop's own layout after edits, with what was typed in conditions read; sound. Raises Refusal."""
    own = defs.things[NOUN.code]
    if key not in own:
        words = f"There is no layout of your own {key[:60]}"
        raise Refusal("not_found", words, (), "Make one that builds on it")
    if not 0 < len(edits) <= MOST_EDITS:
        raise Refusal("too_many", f"Send one to {MOST_EDITS} edits at once", ("edits",), "Send them in parts")
    made = with_read_conditions(edited(defs.layouts, own[key], edits), defs)
    check_layout(made, defs)
    return made


def with_ids(edits: Sequence[Json], *states: Layout | None, layouts: Mapping[str, Layout]) -> list[Json]:
    """Edits in which every block added has its id, one that none of some states of the layout has used: so they mean the same
    blocks whichever of those states they are made of."""
    there = [state for state in states if state is not None]
    taken: set[str] = set().union(*(_taken_ids(layouts, state, resolved(layouts, state)) for state in there))
    out = []
    for edit in edits:
        block = edit.get("block")
        if edit.get("op") == "add" and isinstance(block, dict):
            wanted = _free(taken, str(block.get("id") or block.get("kind")))
            edit = {**edit, "block": {**block, "id": wanted}}
        out.append(edit)
    return out


def _unknown(_layouts: Mapping[str, Layout], _layout: Layout, edit: Json) -> Layout:
    raise Refusal("edit", f"There is no edit “{str(edit.get('op'))[:40]}”", ("op",), "Send one of those in the API")


def resolved(layouts: Mapping[str, Layout], layout: Layout) -> Regions:
    """The regions a layout comes to."""
    shapes = {key: shape_of(layouts[key]) for key in chain_of(layouts, layout.key)}
    if layout.base:
        shapes |= {key: shape_of(layouts[key]) for key in chain_of(layouts, layout.base)}
    return resolve_layout({**shapes, layout.key: shape_of(layout)}, layout.key).regions


def _blocks(regions: Regions) -> dict[str, Json]:
    return {block["id"]: block for _, blocks in regions for block in blocks}


def _need_block(regions: Regions, block_id: Any) -> Json:
    found = _blocks(regions).get(block_id)
    if found is None:
        raise Refusal("block_gone", "This block is there no more", ("id",), "Look at the layout as it is now")
    return found


def _need_region(regions: Regions, region: Any) -> None:
    if not any(name == region for name, _ in regions):
        raise Refusal("region_gone", "This part is there no more", ("region",), "Look at the layout as it is now")


def _anchor(regions: Regions, edit: Json) -> str | None:
    """The block after which one goes, None for the start: the last of the part where the asked one is not there."""
    there = [block["id"] for block in dict(regions)[edit["region"]] if block["id"] != edit.get("id")]
    after = edit.get("after")
    return after if after is None or after in there else there[-1] if there else None


def _taken_ids(layouts: Mapping[str, Layout], layout: Layout, regions: Regions) -> set[str]:
    """Ids of blocks and regions that were ever used, here or in a base, so that none comes to mean something else."""
    bases = [layouts[key] for key in (chain_of(layouts, layout.base) if layout.base else ())]
    out = {*_blocks(regions), *(name for name, _ in regions)}
    for known in (layout, *bases):
        out |= {step.id for step in known.steps}
        out |= {block["id"] for region in known.regions for block in region.blocks}
    return out


def _free(taken: set[str], wanted: str) -> str:
    number = 2
    found = wanted
    while found in taken:
        found, number = f"{wanted}_{number}", number + 1
    taken.add(found)
    return found


def _new_block(layouts: Mapping[str, Layout], layout: Layout, regions: Regions, given: Json) -> Json:
    """A block as it is added: with an id of its own, what its kind begins with, and parts of its own."""
    kind = BLOCK_KINDS.get(str(given.get("kind")))
    if kind is None:
        raise Refusal("block_kind", f"There is no kind of block “{str(given.get('kind'))[:40]}”", ("block", "kind"))
    if kind.once:
        other = next((block for block in _blocks(regions).values() if block.get("kind") == kind.code), None)
        if other is not None:
            words = f"This layout has a block of {kind.name} already: a second would say the same twice"
            raise Refusal("stands_once", words, ("block", "kind"), "Move the one that is there")
    taken = _taken_ids(layouts, layout, regions)
    block: dict[str, Any] = {**given, "id": _free(taken, str(given.get("id") or kind.code))}
    if kind.takes_fields and "takes" not in block:
        block["takes"] = kind.begins.get("takes", {"fields": list(kind.fields)})
    for member, value in kind.begins.items():
        block.setdefault(member, value)
    if kind.most_regions and not block.get(REGIONS.code):
        count = max(kind.fewest_regions, 1)
        block[REGIONS.code] = [_free(taken, f"{block['id']}_{number + 1}") for number in range(count)]
    return block


def _add(layouts: Mapping[str, Layout], layout: Layout, edit: Json) -> Layout:
    regions = resolved(layouts, layout)
    given = edit.get("block")
    if not isinstance(given, Mapping):
        raise Refusal("edit", "There is no block to add", ("block",), "Send one with its kind")
    _need_region(regions, edit.get("region"))
    block = _new_block(layouts, layout, regions, given)
    step = step_of("add", block["id"], region=edit["region"], after=_anchor(regions, edit), block=block)
    return _taken(layouts, layout, step)


def _remove(layouts: Mapping[str, Layout], layout: Layout, edit: Json) -> Layout:
    _need_block(resolved(layouts, layout), edit.get("id"))
    return _taken(layouts, layout, step_of("remove", str(edit["id"])))


def _move(layouts: Mapping[str, Layout], layout: Layout, edit: Json) -> Layout:
    regions = resolved(layouts, layout)
    block = _need_block(regions, edit.get("id"))
    _need_region(regions, edit.get("region"))
    if edit["region"] in _inside(regions, block):
        raise Refusal("nested", "A block can't stand in itself", ("region",), "Move it elsewhere")
    step = step_of("move", str(edit["id"]), region=edit["region"], after=_anchor(regions, edit))
    return _taken(layouts, layout, step)


def _inside(regions: Regions, block: Json) -> set[str]:
    """All parts in a block, those in its inner blocks too."""
    out: set[str] = set()
    waiting = list(block.get(REGIONS.code) or ())
    while waiting:
        name = waiting.pop()
        if name not in out:
            out.add(name)
            waiting += [inner for held in dict(regions).get(name, ()) for inner in held.get(REGIONS.code) or ()]
    return out


def _set(layouts: Mapping[str, Layout], layout: Layout, edit: Json) -> Layout:
    _need_block(resolved(layouts, layout), edit.get("id"))
    props = edit.get("props")
    if not isinstance(props, Mapping) or not props or {"id", "kind", REGIONS.code} & props.keys():
        raise Refusal("edit", "There is nothing to set, or something that can't be", ("props",), "Send members of it")
    return _taken(layouts, layout, step_of("set", str(edit["id"]), props=dict(props)))


def _wrap(layouts: Mapping[str, Layout], layout: Layout, edit: Json) -> Layout:
    """A new block with parts at a block's place, with the block in the first part."""
    regions = resolved(layouts, layout)
    block = _need_block(regions, edit.get("id"))
    region = next(name for name, blocks in regions if block in blocks)
    holder = _new_block(layouts, layout, regions, {"kind": edit.get("kind")})
    inner = (holder.get(REGIONS.code) or [None])[0]
    if inner is None:
        raise Refusal(
            "block_kind", "Blocks of that kind hold no others", ("kind",), "Choose columns, panels or a section"
        )
    layout = _taken(layouts, layout, step_of("add", holder["id"], region=region, after=block["id"], block=holder))
    return _taken(layouts, layout, step_of("move", block["id"], region=inner, after=None))


def _parts(layouts: Mapping[str, Layout], layout: Layout, edit: Json) -> Layout:
    """More or fewer parts of a block; what stood in a part that goes stands in the last that stays."""
    regions = resolved(layouts, layout)
    block = _need_block(regions, edit.get("id"))
    kind, names = BLOCK_KINDS.get(str(block.get("kind"))), list(block.get(REGIONS.code) or ())
    count = edit.get("count")
    if kind is None or type(count) is not int or not max(1, kind.fewest_regions) <= count <= kind.most_regions:
        most = kind.most_regions if kind is not None else 0
        raise Refusal("regions", f"It has at most {most} parts", ("count",), "Choose another number")
    taken = _taken_ids(layouts, layout, regions)
    kept = [*names[:count], *(_free(taken, f"{block['id']}_{number + 1}") for number in range(len(names), count))]
    for name in names[count:]:
        for held in list(dict(regions).get(name, ())):
            there = dict(resolved(layouts, layout))[kept[-1]]
            after = there[-1]["id"] if there else None
            layout = _taken(layouts, layout, step_of("move", held["id"], region=kept[-1], after=after))
    props = {REGIONS.code: kept, **({WIDTHS.code: None} if block.get(WIDTHS.code) else {})}
    return _taken(layouts, layout, step_of("set", str(block["id"]), props=props))


def _follow(_layouts: Mapping[str, Layout], layout: Layout, edit: Json) -> Layout:
    steps = tuple(step for step in layout.steps if step.id != edit.get("id") or step.op == "add")
    if steps == layout.steps:
        raise Refusal("block_gone", "Nothing is said of this block here", ("id",), "Look at the layout as it is now")
    return replace(layout, steps=steps)


def _drop(_layouts: Mapping[str, Layout], layout: Layout, edit: Json) -> Layout:
    steps = tuple(step for step in layout.steps if step.key != edit.get("step"))
    if steps == layout.steps:
        raise Refusal("block_gone", "This step is there no more", ("step",), "Look at the layout as it is now")
    return replace(layout, steps=steps)


_EDITS = {
    "add": _add,
    "remove": _remove,
    "move": _move,
    "set": _set,
    "wrap": _wrap,
    "parts": _parts,
    "follow": _follow,
    "drop": _drop,
}
"""What each edit does, by its op."""


def _taken(layouts: Mapping[str, Layout], layout: Layout, step: LayoutStep) -> Layout:
    """A layout with one more step taken: in its own regions, or kept over its base in as few steps as come to the same."""
    regions = resolved(layouts, layout)
    apply_step(regions, step.plain())
    wanted = _shown_regions(regions)
    if not layout.base:
        return replace(layout, regions=wanted)
    lost = _lost_keys(layouts, layout)
    for steps in (*_shorter(layout.steps, step), (*(s for s in layout.steps if s.key != step.key), step)):
        made = replace(layout, steps=steps)
        if _shown_regions(resolved(layouts, made)) == wanted and _lost_keys(layouts, made) <= lost:
            return made
    base = resolved(layouts, layouts[layout.base])
    kept = tuple(other for other in layout.steps if other.key in lost)
    return replace(layout, steps=(*_steps_between(base, wanted), *kept))


def _lost_keys(layouts: Mapping[str, Layout], layout: Layout) -> set[str]:
    found = arrange({**layouts, layout.key: layout}, layout.key)
    return {layout.steps[number].key for number in found.lost}


def _steps_between(regions: Regions, wanted: Sequence[LayoutRegion]) -> Iterable[LayoutStep]:
    """Steps that lead from some regions to others, each anchored on what stands there when it is taken."""
    target = {region.id: region.blocks for region in wanted}
    there = {block["id"] for blocks in target.values() for block in blocks}
    for gone in [key for key in _blocks(regions) if key not in there]:
        yield _applied(regions, step_of("remove", gone))
    waiting = [wanted[0].id]
    while waiting:
        name = waiting.pop(0)
        before: str | None = None
        for index, block in enumerate(target.get(name, ())):
            old = _blocks(regions).get(block["id"])
            now = dict(regions)[name]
            if old is None:
                yield _applied(regions, step_of("add", block["id"], region=name, after=before, block=block))
            elif index >= len(now) or now[index]["id"] != block["id"]:
                yield _applied(regions, step_of("move", block["id"], region=name, after=before))
            if old is not None and old != block:
                props = {
                    member: block.get(member) for member in {**old, **block} if old.get(member) != block.get(member)
                }
                yield _applied(regions, step_of("set", block["id"], props=props))
            before = block["id"]
            waiting += block.get(REGIONS.code) or ()


def _applied(regions: Regions, step: LayoutStep) -> LayoutStep:
    apply_step(regions, step.plain())
    return step


def _shorter(steps: Sequence[LayoutStep], step: LayoutStep) -> Iterable[tuple[LayoutStep, ...]]:
    """Steps that may come to the same as those with one more: folded into what was said of the block before."""
    rest = tuple(other for other in steps if other.id != step.id)
    known = {other.op: other for other in steps if other.id == step.id}
    added = known.get("add")
    if step.op == "remove":
        yield rest
        yield (*rest, step)
    elif step.op == "set" and added is not None and added.block is not None:
        block = {name: value for name, value in {**added.block, **(step.props or {})}.items() if value is not None}
        yield tuple(replace(added, block=block) if other is added else other for other in steps)
    elif step.op == "set" and "set" in known:
        props = {**(known["set"].props or {}), **(step.props or {})}
        merged = replace(known["set"], props=props)
        yield tuple(merged if other is known["set"] else other for other in steps)
    elif step.op == "move":
        if added is not None:
            moved = replace(added, region=step.region, after=step.after)
            yield tuple(
                moved if other is added else other for other in steps if other.op != "move" or other.id != step.id
            )
            yield (*(other for other in steps if other is not added and other.key != step.key), moved)
        without = tuple(other for other in steps if other.key != step.key)
        yield without
        yield (*without, step)


def _shown_regions(regions: Regions) -> tuple[LayoutRegion, ...]:
    """The regions that show: the first, and those that blocks in them name; each once, in the order they stand."""
    there, shown = dict(regions), []
    waiting = [regions[0][0]] if regions else []
    while waiting:
        name = waiting.pop(0)
        if name not in shown and name in there:
            shown.append(name)
            waiting += [inner for block in there[name] for inner in block.get(REGIONS.code) or ()]
    return tuple(LayoutRegion(name, tuple(blocks)) for name, blocks in regions if name in shown)
