"""Where fields stand on pages, as all groups of products have them: looked through once, for all checks that ask."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field
from functools import cached_property

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.formats import COLOUR_ALONE, COLOUR_AS
from young_fabric.core.display.layouts import Arrangement
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.pages.plan import Plan
from young_fabric.service.acting.actors import Work
from young_fabric.service.planning import plans
from young_fabric.service.planning.plans import Draft


@dataclass
class Survey:
    """What was found: fields that types have, and those that some surface of their readers shows, and those
    for which something stands where a product has no value; by (surface, layout) the
    fields that want a place and have none, those that stand in several slots, and labels that several fields have."""

    had: set[str] = field(default_factory=set)
    placed: set[str] = field(default_factory=set)
    standing: set[str] = field(default_factory=set)
    slotless: dict[tuple[str, str], set[str]] = field(default_factory=lambda: defaultdict(set))
    doubled: dict[tuple[str, str], set[str]] = field(default_factory=lambda: defaultdict(set))
    labels: dict[tuple[str, str], set[str]] = field(default_factory=lambda: defaultdict(set))
    words: dict[str, set[str]] = field(default_factory=lambda: defaultdict(set))
    layouts: dict[str, Arrangement] = field(default_factory=dict)
    coloured: dict[tuple[str, str], set[str]] = field(default_factory=lambda: defaultdict(set))


class Checking:
    """What checks look at: the work, the draft, and the survey of its pages, made when first asked for."""

    def __init__(self, work: Work, draft: Draft) -> None:
        self.work, self.draft = work, draft

    @property
    def defs(self) -> Definitions:
        """The definitions."""
        return self.draft.defs

    @cached_property
    def groups(self) -> dict[Group, int]:
        """Groups with how many products are of each, types without any too."""
        return {
            **dict.fromkeys((Group(key) for key in self.defs.types), 0),
            **plans.group_counts(self.work.session, self.defs),
        }

    @cached_property
    def survey(self) -> Survey:
        """Where fields stand, in all groups and on all surfaces."""
        found = Survey()
        for group in self.draft.plans.there(self.groups):
            for code in product_surfaces():
                _look(found, self.draft.plans.of_group(group, code))
        return found


def _look(found: Survey, plan: Plan) -> None:
    surface = plan.surface
    key = (surface.code, plan.layout.key)
    found.layouts[plan.layout.key] = plan.layout
    found.words[plan.layout.key] |= plan.said
    by_label: dict[str, list[str]] = defaultdict(list)
    for name, entry in plan.entries.items():
        found.had.add(name)
        if entry.field.default is not None:
            found.standing.add(name)
        if entry.placed and (not surface.data or entry.field.audience == "feeds"):
            found.placed.add(name)
        failed = [step.name for step in entry.steps if not step.ok]
        if failed == ["slot"]:
            found.slotless[key].add(name)
        for block in entry.blocks if entry.placed and not surface.data else ():
            if entry.settings[COLOUR_AS.code].value == COLOUR_ALONE:
                found.coloured[plan.layout.key, block].add(name)
        if entry.placed and len(entry.blocks) > 1:
            found.doubled[key].add(name)
        if entry.placed and entry.settings["label"].value != "hidden" and not surface.data:
            by_label[entry.label.strip().casefold()].append(name)
    for names in by_label.values():
        if len(names) > 1 and _labelled(plan, names):
            found.labels[key] |= set(names)


def _labelled(plan: Plan, names: list[str]) -> bool:
    """Whether more than one of some fields stands in a block that tells labels."""
    kinds = {block.id: BLOCK_KINDS[block.kind] for block in plan.layout.blocks() if block.kind in BLOCK_KINDS}
    labelled = [
        name for name in names if any(kinds[block].in_rows for block in plan.entries[name].blocks if block in kinds)
    ]
    return len(labelled) > 1
