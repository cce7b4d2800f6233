"""Cells of the weave: all that can be set in one, and many set at once."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.cascade import EVERY, Resolved, Scope
from young_fabric.core.display.choices import Choice
from young_fabric.core.display.properties import PROPERTIES
from young_fabric.core.display.property import FieldSaid
from young_fabric.core.nouns.layouts import display_settings
from young_fabric.core.nouns.layouts.display_settings import spoken_of
from young_fabric.core.pages.plan import settings_of
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.defining.definitions import Consequences, SettingEdit
from young_fabric.service.pages.proofs import need_surface
from young_fabric.service.pages.weave import asked_cascade, surfaces_of_scope
from young_fabric.service.planning import plans
from young_fabric.service.writing.writes import WrittenThing
from young_fabric.store.repos import definitions as stored

SETTING = display_settings.NOUN
MOST_CELLS = 5_000


@dataclass(frozen=True)
class CellProperty:
    """A property in a cell: what holds, where it came from, and its choices there; `own` says that it is set here."""

    code: str
    found: Resolved
    own: bool
    choices: tuple[Choice, ...]


@dataclass(frozen=True)
class OpenCell:
    """All that can be set in a cell, and the version of its setting, None when nothing is set there."""

    version: int | None
    properties: tuple[CellProperty, ...]


def open_cell(work: Work, scope: Scope, field: str, surface_code: str) -> OpenCell:
    """A cell, or a whole row or column of them, with all its properties. Raises Refusal."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    cascade, chain = asked_cascade(work, scope)
    own = cascade.set_here(scope, field, surface_code)
    key = str(display_settings.SettingKey(scope, field, surface_code))
    version = stored.versions_of(work.session, SETTING.code, [key]).get(key)
    if field == EVERY or surface_code == EVERY:
        of_field = _need_spoken(defs, scope, surface_code, field) if field != EVERY else None
        surfaces = surfaces_of_scope(scope).values() if surface_code == EVERY else [need_surface(surface_code)]
        codes = [
            code
            for code, prop in PROPERTIES.items()
            if not prop.whole and (of_field is None or any(prop.means(of_field, surface) for surface in surfaces))
        ]
        said = cascade.said(chain, field, surface_code)
        found = {code: said.get(code, Resolved(None, "default")) for code in codes}
        return OpenCell(version, tuple(_property(code, found[code], own, of_field) for code in codes))
    definition, surface = _need_spoken(defs, scope, surface_code, field), need_surface(surface_code)
    settings = settings_of(defs, cascade, chain, definition, surface)
    codes = [code for code, prop in PROPERTIES.items() if not prop.whole and prop.means(definition, surface)]
    return OpenCell(version, tuple(_property(code, settings[code], own, definition) for code in codes))


def _need_spoken(defs: Definitions, scope: Scope, surface: str, key: str) -> FieldSaid:
    found = spoken_of(defs, scope, surface, key)
    if found is None:
        raise Refusal("unknown_field", f"There is no field {key[:60]}", ("field",), "Choose another")
    return found


def _property(code: str, found: Resolved, own: Mapping[str, Any], field: FieldSaid | None) -> CellProperty:
    prop = PROPERTIES[code]
    choices = prop.offered(field) if field is not None else prop.choices
    return CellProperty(code, found, code in own, choices)


def put_several(work: Work, scope: Scope, cells: Sequence[SettingEdit]) -> list[WrittenThing]:
    """Set properties of many cells at once, as one change. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    _check_count(cells)
    return definitions.display_many(work, scope, cells)


def consequences_of_several(work: Work, scope: Scope, cells: Sequence[SettingEdit]) -> Consequences:
    """What setting many cells would touch, found without writing. Raises Refusal."""
    work.need(Right.LOOK)
    _check_count(cells)
    changed = definitions.changed_settings(work, scope, cells)
    return definitions.consequences_of_all(work, [(SETTING.code, key, thing) for key, thing in changed])


def _check_count(cells: Sequence[SettingEdit]) -> None:
    if not 0 < len(cells) <= MOST_CELLS:
        raise Refusal("too_many", f"At most {MOST_CELLS:,} cells are set at once", ("cells",), "Set them in parts")
    if len({cell[:2] for cell in cells}) < len(cells):
        raise Refusal("twice", "A cell is here twice", ("cells",), "Send each once")
