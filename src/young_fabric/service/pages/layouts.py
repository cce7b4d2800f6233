"""Use cases of layouts: how one stands for its editor, edits of it, and what follows from them on the pages."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import ABSENT
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.layouts import STEP_WORDS, Json
from young_fabric.core.display.properties import LAYOUT
from young_fabric.core.display.surfaces import PRODUCTS, SURFACES
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.layouts import display_settings, layouts
from young_fabric.core.nouns.layouts.block_checks import tokens_of
from young_fabric.core.nouns.layouts.display_settings import read_setting_key, scope_name
from young_fabric.core.nouns.layouts.layout_clashes import layout_clashes
from young_fabric.core.nouns.layouts.layout_edits import changed_layout, resolved, with_ids
from young_fabric.core.nouns.layouts.layouts import Layout, arrange, bringing, chain_of
from young_fabric.core.pages.plans import Plans
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.defining.definitions import Consequences
from young_fabric.service.planning import plans
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit, WrittenThing
from young_fabric.store.repos import definitions as stored
from young_fabric.store.repos import products
from young_fabric.store.repos.definitions import StoredThing

NOUN = layouts.NOUN


@dataclass(frozen=True)
class PlacedBlock:
    """A block in its part: what it says, the layout it comes from, what this layout's steps do to it (added, moved, changed),
    how many pages or cards show the words typed in it, None where none are, and whether these hold values of fields."""

    block: Json
    layout: str
    steps: tuple[str, ...]
    pages: int | None
    tokens: bool


@dataclass(frozen=True)
class LostStep:
    """A step of a layout that no longer fits: what it did, and the block it is about."""

    key: str
    words: str


@dataclass(frozen=True)
class LayoutUse:
    """Whom a layout was chosen for."""

    scope: str
    name: str


@dataclass(frozen=True)
class LayoutView:
    """A layout with all its steps taken, as its editor shows it. `taken_away` are blocks of its base that it does not have,
    `lost` its steps that no longer fit, `builders` the layouts that build on it, `shown` how many pages have it in force."""

    key: str
    name: str
    surface: str
    base: str
    version: int
    built_in: bool
    regions: tuple[tuple[str, tuple[PlacedBlock, ...]], ...]
    taken_away: tuple[Json, ...]
    lost: tuple[LostStep, ...]
    uses: tuple[LayoutUse, ...]
    builders: tuple[str, ...]
    shown: int


def layout_view(work: Work, key: str, would_be: Plans | None = None) -> LayoutView:
    """A layout for its editor, or as it would be by other plans. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    made = would_be or plans.draft_plans(work.session)
    layout = _need_layout(made.defs, key)
    counts = _pages_by_layout(work, made, layout)
    found = arrange(made.defs.layouts, key)
    current = stored.get(work.session, NOUN.code, key)
    return LayoutView(
        key,
        layout.name,
        layout.surface,
        layout.base,
        current.version if current else 0,
        current is None,
        tuple(
            (region.id, tuple(_placed(made.defs, layout, block.said, counts) for block in region.blocks))
            for region in found.regions
        ),
        _taken_away(made.defs, layout),
        tuple(_lost(layout, number) for number in found.lost),
        uses_of(work, made.defs, key),
        tuple(sorted(other.key for other in made.defs.layouts.values() if other.base == key)),
        counts.get(key, 0),
    )


def _need_layout(defs: Definitions, key: str) -> Layout:
    found = defs.layouts.get(key)
    if found is None:
        raise Refusal("not_found", f"There is no layout {key[:60]}", (), "It may have been removed: see the history")
    return found


def _placed(defs: Definitions, layout: Layout, block: Json, counts: Mapping[str, int]) -> PlacedBlock:
    steps = tuple(STEP_WORDS[step.op] for step in layout.steps if step.id == block["id"])
    source = bringing(defs.layouts, layout.key, block["id"])
    return PlacedBlock(block, source, steps, _pages_with(defs, layout, block, counts), bool(tokens_of(block)))


def _pages_by_layout(work: Work, made: Plans, layout: Layout) -> dict[str, int]:
    """Layout → pages of the surface that have it in force, for a layout and those that build on it."""
    out: dict[str, int] = {}
    if SURFACES[layout.surface].subject != PRODUCTS:
        for name, sort in made.defs.things["record_type"].items():
            key = made.of_records(name).layout.key
            out[key] = out.get(key, 0) + (len(made.defs.records_of(name)) if sort.page else 0)
        return out
    counts = plans.group_counts(work.session, made.defs)
    for group in made.there(counts):
        key = made.of_group(group, layout.surface).layout.key
        out[key] = out.get(key, 0) + counts[group]
    for key in made.defs.layouts:
        if layout.key in chain_of(made.defs.layouts, key):
            out[key] = out.get(key, 0) + len(stored.referring_of_subjects(work.session, NOUN.code, key))
    return out


def _pages_with(defs: Definitions, layout: Layout, block: Json, counts: Mapping[str, int]) -> int | None:
    """How many pages what is typed in a block of a layout changes, at most: those with that layout, or with one that builds on it and
    has the block as it is."""
    kind = BLOCK_KINDS.get(str(block.get("kind")))
    typed = [member.code for member in kind.all_members() if member.typed and block.get(member.code)] if kind else []
    if not typed:
        return None
    total = 0
    for key, count in counts.items():
        if key not in defs.layouts or layout.key not in chain_of(defs.layouts, key):
            continue
        arranged = defs.arrangement(key, SURFACES[defs.layouts[key].surface])
        same = next((other for other in arranged.blocks() if other.id == block["id"]), None)
        if same is not None and all(same.said.get(code) == block.get(code) for code in typed):
            total += count
    return total


def _taken_away(defs: Definitions, layout: Layout) -> tuple[Json, ...]:
    """Blocks of the base that the layout takes away."""
    if not layout.base or layout.base not in defs.layouts:
        return ()
    gone = {step.id for step in layout.steps if step.op == "remove"}
    base = resolved(defs.layouts, defs.layouts[layout.base])
    return tuple(block for _, blocks in base for block in blocks if block["id"] in gone)


def _lost(layout: Layout, number: int) -> LostStep:
    step = layout.steps[number]
    name = str((step.block or {}).get("heading") or step.id.replace("_", " "))
    where = f" after {step.after.replace('_', ' ')}" if step.after else ""
    anchored = step.op in ("add", "move")
    tail = f"{where}, which is there no more" if anchored and where else ": it is there no more"
    return LostStep(step.key, f"{name} {STEP_WORDS.get(step.op, step.op)}{tail}")


def uses_of(work: Work, defs: Definitions, key: str) -> tuple[LayoutUse, ...]:
    """Whom a layout was chosen for."""
    scopes = [setting.scope for setting in defs.settings.values() if setting.set.get(LAYOUT.code) == key]
    single = stored.referring_of_subjects(work.session, NOUN.code, key)
    scopes += [read_setting_key(other).scope for code, other in single if code == display_settings.NOUN.code]
    ids = [int(scope.key) for scope in scopes if scope.sort.subject is not None]
    titles = {str(number): record.product.title for number, record in products.get(work.session, ids).items()}
    return tuple(LayoutUse(str(scope), titles.get(scope.key) or scope_name(defs, scope)) for scope in scopes)


def edit(
    work: Work, key: str, edits: Sequence[Json], version: int | None = None, group: str | None = None
) -> WrittenThing:
    """Edit a layout, from the version that was read; what others did since is kept. `version` None is "as it stands", for what
    reads it under the lock that the write takes. Raises Refusal, Clash."""
    work.need(Right.EDIT)

    def change(current: StoredThing | None) -> Edit:
        defs = plans.draft(work.session)
        named = edits
        if version is not None and current is not None and version != current.version:
            named = _none_overwritten(work, defs, key, edits, version, current)
        made = changed_layout(defs, key, named)
        return Edit(state_of(current.thing) if current is not None else ABSENT, state_of(made))

    return writes.apply(work, NOUN.code, key, change, group=group)


def _none_overwritten(
    work: Work, defs: Definitions, key: str, edits: Sequence[Json], version: int, current: StoredThing
) -> list[Json]:
    """Edits made of a version before the one that stands, to be made of what stands. Raises Clash where they change what others
    changed since."""
    began = writes.state_at(work, NOUN, key, version, current)
    before = None if began is ABSENT else writes.read_thing(NOUN, began)
    named = with_ids(edits, before, current.thing, layouts=defs.layouts)
    then = defs.having(NOUN.code, key, before)
    if before is None or key not in then.things[NOUN.code]:
        return named
    mine = changed_layout(then, key, named)
    clashes = layout_clashes(defs.layouts, before, mine, current.thing, named)
    if clashes:
        raise writes.clash_of(work, NOUN, key, Edit(began, state_of(mine)), current, clashes)
    return named


@dataclass(frozen=True)
class BuilderEffect:
    """What a change of its base does to a layout: the steps of it that no longer fit then."""

    key: str
    name: str
    lost: tuple[LostStep, ...]


@dataclass(frozen=True)
class LayoutConsequences:
    """What edits of a layout would touch, what they do to the layouts that build on it, and the layout as it would be."""

    consequences: Consequences
    builders: tuple[BuilderEffect, ...]
    view: LayoutView


def preview(work: Work, key: str, edits: Sequence[Json]) -> LayoutConsequences:
    """What follows from edits, found without writing. Raises Refusal."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    made = changed_layout(defs, key, edits)
    after = {**defs.layouts, key: made}
    found = []
    for other in sorted(defs.layouts):
        if other != key and key in chain_of(defs.layouts, other):
            was = {defs.layouts[other].steps[number].key for number in arrange(defs.layouts, other).lost}
            lost = tuple(_lost(defs.layouts[other], number) for number in arrange(after, other).lost)
            found.append(
                BuilderEffect(other, defs.layouts[other].name, tuple(step for step in lost if step.key not in was))
            )
    touched = definitions.consequences(work, NOUN.code, key, made)
    return LayoutConsequences(
        touched, tuple(found), layout_view(work, key, plans.draft_plans(work.session).having(NOUN.code, key, made))
    )
