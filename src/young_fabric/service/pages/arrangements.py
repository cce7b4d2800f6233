"""Arrangements of their own: a layout for one product, collection or type, that follows what is in force there but for what it
says itself."""

from __future__ import annotations

from uuid import uuid4

from young_fabric.core.display.cascade import EVERY, Scope
from young_fabric.core.display.properties import LAYOUT
from young_fabric.core.nouns.layouts import display_settings, layouts
from young_fabric.core.nouns.layouts.display_settings import SettingKey, scope_name
from young_fabric.core.pages.plan import layout_in_force
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.pages import proofs
from young_fabric.service.pages.layouts import uses_of
from young_fabric.service.pages.weave import asked_cascade
from young_fabric.service.planning import plans
from young_fabric.store.repos import definitions as stored

NOUN = layouts.NOUN
LONGEST_NAME = 80


def own_arrangement(work: Work, scope: Scope, surface_code: str) -> str:
    """The key of the layout that a scope has for itself on a surface: the one it chose where nobody else did, else a new one
    that builds on the one in force there. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    defs = plans.draft(work.session)
    surface = proofs.need_surface(surface_code)
    cascade, chain = asked_cascade(work, scope)
    chosen = cascade.set_here(scope, EVERY, surface.code).get(LAYOUT.code)
    if (
        isinstance(chosen, str)
        and chosen in defs.things[NOUN.code]
        and [use.scope for use in uses_of(work, defs, chosen)] == [str(scope)]
    ):
        return chosen
    base, group = layout_in_force(cascade, chain, surface).value, uuid4().hex
    given = {"surface": surface.code, "base": base if base in defs.layouts else surface.layout}
    name = f"{surface.name.capitalize()} of {_name(work, scope)}"[:LONGEST_NAME].strip()
    made = str(definitions.create(work, NOUN.code, name, given, group=group).thing.key)
    key = str(SettingKey(scope, EVERY, surface.code))
    version = stored.versions_of(work.session, display_settings.NOUN.code, [key]).get(key)
    definitions.display(work, scope, EVERY, surface.code, {LAYOUT.code: made}, version, group)
    return made


def _name(work: Work, scope: Scope) -> str:
    if scope.sort.subject is not None:
        return proofs.need_product(work, int(scope.key)).title
    return scope_name(plans.draft(work.session), scope)
