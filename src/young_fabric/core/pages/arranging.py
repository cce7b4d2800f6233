"""A layout made ready for any product of a group: its blocks with the fields placed in them, their conditions and their own words."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.blocks import BETWEEN, BLOCK_KINDS, ICON_OF, LIGHT, TITLE, BlockKind
from young_fabric.core.display.layouts import MOST_DEEP, Arrangement, Block, Region, block_devices
from young_fabric.core.display.surfaces import Surface
from young_fabric.core.pages import document
from young_fabric.core.pages.bare_texts import bare_texts
from young_fabric.core.pages.blocks import RENDERERS, BlockPlan, PlacedField, RegionPlan, Setting, Values
from young_fabric.core.pages.chooser import OptionsShown
from young_fabric.core.pages.entries import EntryBudget, entry_maker
from young_fabric.core.pages.entry_plan import EntryPlan
from young_fabric.core.pages.when import Holding, When, bind_condition

_MIXED = frozenset({TITLE, BETWEEN, LIGHT})


class Arranging:
    """Makes a layout ready. `said` are the fields whose values stand in its words; `holding` its blocks by id."""

    def __init__(
        self,
        defs: Definitions,
        group: Group,
        layout: Arrangement,
        placed: Mapping[str, tuple[PlacedField, ...]],
        entries: Mapping[str, EntryPlan],
        surface: Surface,
        budget: EntryBudget | None,
        options: OptionsShown,
    ) -> None:
        self._defs, self._group, self._layout, self._surface = defs, group, layout, surface
        self._placed, self._entries, self._budget = placed, entries, budget
        self._setting = Setting(defs, group, self._text_of, options)
        self.said: dict[str, EntryPlan] = {}
        self.holding: dict[str, Holding] = {}
        conditions: dict[str, When | None] = {}
        for block, within in layout.walk():
            conditions[block.id] = bind_condition(defs, block.said.get("condition"), group.type, entries)
            chain = (*within, block)
            self.holding[block.id] = Holding(chain, tuple(conditions[held.id] for held in chain))

    def plan(self) -> RegionPlan:
        """All that the layout shows."""
        first = self._layout.regions[0] if self._layout.regions else Region("main", ())
        return self._region(first, 0)

    def _region(self, region: Region, deep: int) -> RegionPlan:
        made = [plan for block in region.blocks if (plan := self._block(block, deep)) is not None]
        mixed = any(BLOCK_KINDS[plan.kind].weight in _MIXED for plan in made)
        return RegionPlan(region.id, tuple(made), mixed)

    def _block(self, block: Block, deep: int) -> BlockPlan | None:
        """A block ready to render; None for one that can show nothing."""
        kind, holding = BLOCK_KINDS.get(block.kind), self.holding.get(block.id)
        if kind is None or holding is None or holding.hidden is not None or deep > MOST_DEEP:
            return None
        entries = self._placed.get(block.id, ())
        if kind.takes_fields and not (entries or kind.alone):
            return None
        regions = tuple(
            self._region(region, deep + 1)
            for name in block.regions
            if (region := self._layout.region(name)) is not None
        )
        renderer, when = RENDERERS[kind.code], holding.conditions[-1]
        icon = self._icon_field(block)
        bare = bare_texts([(placed.field, placed.bare) for placed in entries])
        content, mark = renderer.ready(block, self._setting)
        return BlockPlan(
            block.id,
            kind.code,
            block.heading,
            renderer.render,
            entries,
            regions,
            content,
            when.holds if when else None,
            block_devices(block),
            _look(block, kind),
            [mark, when.mark if when else None, *([icon] if icon else [])],
            icon,
            bare,
            tuple(placed for placed in entries if placed.bare is None) if bare is not None else (),
        )

    def _icon_field(self, block: Block) -> str:
        """The field whose picture is the block's icon, "" for none that is here and for the surface."""
        key = block.said.get(ICON_OF.code)
        entry = self._entries.get(key) if isinstance(key, str) else None
        return entry.field.key if entry is not None and entry.field.audience in self._surface.readers else ""

    def _text_of(self, key: str) -> Callable[[Values], str] | None:
        """A function that gives what a field shows as text, None for a field that is not there or not for the surface."""
        entry = self._entries.get(key)
        if entry is None or entry.field.audience not in self._surface.readers:
            return None
        self.said[key] = entry
        make = entry_maker(entry.rules, entry.label, entry.settings, self._budget)

        def text(values: Values) -> str:
            value = values.get(key)
            made = None if value is None else make(value)
            return "" if made is None else made.text

        return text


def _look(block: Block, kind: BlockKind) -> Mapping[str, Any]:
    """What templates are told of how a block looks: what it says otherwise than usual, sound as its kind has it."""
    out: dict[str, Any] = {}
    for member in kind.all_members():
        value = block.said.get(member.code)
        if member.styled and value is not None and value != member.default and member.check(value) is None:
            out[member.code] = value
    return out or document.NO_LOOK
