"""Arrangements of their own: a layout for one product, collection or type, that follows what is in force there but for what it
says itself."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from uuid import uuid4

from young_fabric.core.display.cascade import EVERY, DisplaySetting, Scope
from young_fabric.core.display.layouts import Json
from young_fabric.core.display.properties import LAYOUT
from young_fabric.core.nouns.layouts import display_settings
from young_fabric.core.nouns.layouts.display_settings import SettingKey, scope_name
from young_fabric.core.nouns.layouts.layouts import NOUN, Layout
from young_fabric.core.pages.plan import layout_in_force
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.pages import layouts, proofs
from young_fabric.service.pages.layouts import LayoutView, layout_view, uses_of
from young_fabric.service.pages.weave import asked_cascade
from young_fabric.service.planning import plans
from young_fabric.store.repos import definitions as stored
from young_fabric.store.repos import shop

LONGEST_NAME = 80
FIRST = 1
"""The version of an arrangement before anything is arranged in it."""


@dataclass(frozen=True)
class Arrangement:
    """The layout that a scope has for itself on a surface, for its editor; `key` is None where it has none yet, and `view` then
    shows the one it would have: as what is in force there."""

    key: str | None
    view: LayoutView


def arrangement(work: Work, scope: Scope, surface_code: str) -> Arrangement:
    """What is arranged for a scope alone on a surface, or would be; nothing is written. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    found, layout = _of(work, scope, surface_code)
    if found is not None:
        return Arrangement(found, layout_view(work, found))
    setting = DisplaySetting(scope, EVERY, layout.surface, {LAYOUT.code: layout.key})
    would_be = plans.draft_plans(work.session).having(NOUN.code, layout.key, layout)
    if scope.sort.subject is None:
        would_be = would_be.having(display_settings.NOUN.code, str(SettingKey(scope, EVERY, layout.surface)), setting)
    view = layout_view(work, layout.key, would_be)
    return Arrangement(None, view if scope.sort.subject is None else replace(view, shown=1))


def arrange_own(
    work: Work, scope: Scope, surface_code: str, edits: Sequence[Json], version: int | None, group: str | None = None
) -> str:
    """Edit what a scope has for itself on a surface, which begins with the first edit: a layout that builds on the one in force
    there, chosen for the scope; all is undone together. `version` is the one read, None when there was none. Gives the layout's
    key. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    shop.lock_definitions(work.session)
    plans.refresh(work.session)
    found, layout = _of(work, scope, surface_code)
    if found is not None:
        layouts.edit(work, found, edits, version or FIRST, group)
        return found
    group = group or uuid4().hex
    given = {"key": layout.key, "surface": layout.surface, "base": layout.base}
    definitions.create(work, NOUN.code, layout.name, given, group=group)
    key = str(SettingKey(scope, EVERY, layout.surface))
    read = stored.versions_of(work.session, display_settings.NOUN.code, [key]).get(key)
    definitions.display(work, scope, EVERY, layout.surface, {LAYOUT.code: layout.key}, read, group)
    layouts.edit(work, layout.key, edits, group=group)
    return layout.key


def _of(work: Work, scope: Scope, surface_code: str) -> tuple[str | None, Layout]:
    """The key of the layout that a scope has for itself on a surface, which it chose and nobody else did, and the layout; None and
    the one it would have where it has none. Raises Refusal `not_found`."""
    defs = plans.draft(work.session)
    surface = proofs.need_surface(surface_code)
    cascade, chain = asked_cascade(work, scope)
    chosen = cascade.set_here(scope, EVERY, surface.code).get(LAYOUT.code)
    own = defs.things[NOUN.code]
    if isinstance(chosen, str) and chosen in own and [use.scope for use in uses_of(work, defs, chosen)] == [str(scope)]:
        return chosen, own[chosen]
    base = layout_in_force(cascade, chain, surface).value
    name = f"{surface.name.capitalize()} of {_name(work, scope)}"[:LONGEST_NAME].strip()
    key = NOUN.calling.key(name, defs, NOUN.code)
    return None, Layout(key, name, surface.code, base if base in defs.layouts else surface.layout)


def _name(work: Work, scope: Scope) -> str:
    if scope.sort.subject is not None:
        return proofs.need_product(work, int(scope.key)).title
    return scope_name(plans.draft(work.session), scope)
