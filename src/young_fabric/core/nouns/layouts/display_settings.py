"""Display settings as definitions: what is said for one scope, field and surface."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any, NamedTuple

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.phrases import read_phrase
from young_fabric.core.display.cascade import EVERY, SCOPES, DisplaySetting, Scope
from young_fabric.core.display.listing_properties import OPTIONS_OF_CARDS, TITLE_OF_CARDS, TOKENS_OF_TITLES
from young_fabric.core.display.properties import CONDITION, LAYOUT, PROPERTIES, check_properties
from young_fabric.core.display.property import FieldSaid
from young_fabric.core.display.surfaces import PRODUCTS, RECORDS, SURFACES
from young_fabric.core.kinds.base import Items, Target
from young_fabric.core.nouns.base import (
    Bearing,
    Calling,
    Known,
    Noun,
    Reference,
    Referring,
    State,
    Stored,
    Telling,
    state_of,
)
from young_fabric.core.nouns.fields.built_in import BUILT_IN, TITLE
from young_fabric.core.nouns.fields.conditions import (
    condition_words,
    read_condition,
    refers_of_condition,
    renamed_field,
    with_asked,
)
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.layouts.built_in_layouts import BUILT_IN_LAYOUTS
from young_fabric.core.nouns.layouts.layouts import LAYOUTS
from young_fabric.core.nouns.options.option_sets import OPTION_SETS
from young_fabric.core.nouns.options.said_options import is_option_key, said_option, set_of_option_key

SETTING = "display_setting"


class SettingKey(NamedTuple):
    """What a setting is known by."""

    scope: Scope
    field: str
    surface: str

    def __str__(self) -> str:
        return f"{self.scope}/{self.field}/{self.surface}"


def setting_key(setting: DisplaySetting) -> SettingKey:
    """The key of a setting."""
    return SettingKey(setting.scope, setting.field, setting.surface)


def read_setting_key(text: str) -> SettingKey:
    """The inverse of `str` of a key."""
    scope, field, surface = [*text.split("/"), "", ""][:3]
    kind, _, key = scope.partition(":")
    return SettingKey(Scope(kind, key), field, surface)


def nothing_said(key: str) -> dict[str, Any]:
    """The state of a setting that says nothing, which is the same as none."""
    return state_of(DisplaySetting(*read_setting_key(key)))


def check_setting(setting: DisplaySetting, defs: Known) -> None:
    """Raises Refusal: `scope`, `unknown_field`, `unknown_surface`, `unknown_property`, or of a property."""
    sort = SCOPES.get(setting.scope.kind)
    if sort is None:
        raise Refusal("scope", f"“{setting.scope}” is not a scope", ("scope",), "Choose another")
    if sort.noun is not None and setting.scope.key not in defs.things[sort.noun]:
        words = f"There is no {sort.noun.replace('_', ' ')} {setting.scope.key}"
        raise Refusal("not_found", words, ("scope",), "It may have been removed")
    if setting.field != EVERY and spoken_of(defs, setting.scope, setting.surface, setting.field) is None:
        raise Refusal("unknown_field", f"There is no field {setting.field}", ("field",), "Choose another")
    if setting.surface != EVERY and setting.surface not in SURFACES:
        raise Refusal("unknown_surface", f"There is no surface {setting.surface}", ("surface",), "Choose another")
    surface = SURFACES.get(setting.surface)
    if surface is not None and SCOPES[setting.scope.kind].of not in ("", surface.subject):
        words = f"The {surface.name} is not a page of {scope_name(defs, setting.scope)}"
        raise Refusal("unknown_surface", words, ("surface",), "Choose another")
    if not setting.set:
        raise Refusal("required", "Nothing is set", ("set",), "Set at least one property")
    check_properties(setting.set, setting.field)
    _check_wholes(setting)
    _check_named(setting, defs)


def _check_wholes(setting: DisplaySetting) -> None:
    """Whether what is said of a whole surface can be said of this one, by this scope. Raises Refusal `no_meaning`."""
    surface = SURFACES.get(setting.surface)
    for prop in (PROPERTIES[code] for code in setting.set if PROPERTIES[code].scopes is not None):
        if surface is None or not prop.stands_on(surface):
            where = f"the {surface.name}" if surface is not None else "every surface at once"
            raise Refusal("no_meaning", f"“{prop.name}” means nothing on {where}", ("set", prop.code), "Leave it out")
        if prop.scopes is not None and setting.scope.kind not in prop.scopes:
            words = f"“{prop.name}” is said for the shop, a collection or a product"
            raise Refusal("no_meaning", words, ("set", prop.code), "Say it there")


def fields_spoken_of(defs: Known, scope: Scope, surface: str) -> Mapping[str, Field]:
    """The fields that settings of a scope on a surface, or on every one, can speak of: of products, or of records."""
    known = SURFACES.get(surface)
    of = SCOPES[scope.kind].of or (known.subject if known is not None else PRODUCTS)
    return defs.all_fields if of == PRODUCTS else {TITLE.key: TITLE, **defs.fields_of(RECORDS)}


def spoken_of(defs: Known, scope: Scope, surface: str, key: str) -> FieldSaid | None:
    """The field or option that settings of a scope on a surface mean by a key, None when there is none."""
    if is_option_key(key):
        known = SURFACES.get(surface)
        return said_option(defs, key) if known is None or known.options else None
    return fields_spoken_of(defs, scope, surface).get(key)


def field_called(defs: Known, key: str) -> str:
    """What staff call a field of products or records, or an option; its key when it is gone."""
    field = said_option(defs, key) if is_option_key(key) else defs.all_fields.get(key) or defs.fields.get(key)
    return field.name if field is not None else key


def _check_named(setting: DisplaySetting, defs: Known) -> None:
    """Whether the condition and the layout that are set can be."""
    _check_options(setting, defs)
    condition = setting.set.get(CONDITION.code)
    if condition is not None:
        try:
            read = read_condition(condition, defs)
        except Refusal as refusal:
            raise refusal.at("set", CONDITION.code) from None
        if read != condition:
            raise Refusal("condition", "The condition is not as it is kept", ("set", CONDITION.code), "Make it anew")
    layout = setting.set.get(LAYOUT.code)
    if layout is not None:
        found = defs.layouts.get(layout)
        if found is None:
            raise Refusal("not_found", f"There is no layout {layout[:60]}", ("set", LAYOUT.code), "Choose another")
        if found.surface != setting.surface:
            words = f"{found.name} is a layout of the {SURFACES[found.surface].name}"
            raise Refusal("other_surface", words, ("set", LAYOUT.code), "Choose one of this surface")


def _check_options(setting: DisplaySetting, defs: Known) -> None:
    """Whether cards are split by options there are, and called by them. Raises Refusal `unknown_option`, `unknown_token`."""
    split, title = setting.set.get(OPTIONS_OF_CARDS.code), setting.set.get(TITLE_OF_CARDS.code)
    known = variant_options(defs) if split or title else {}
    unknown = next((key for key in split or () if key not in known), None)
    if unknown is not None:
        words = f"No option set makes variants by an option {unknown}"
        raise Refusal("unknown_option", words, ("set", OPTIONS_OF_CARDS.code), "Choose one that there is")
    if title:
        try:
            read_phrase(title, {*TOKENS_OF_TITLES, *known})
        except Refusal as refusal:
            raise refusal.at("set", TITLE_OF_CARDS.code) from None


def variant_options(defs: Known) -> dict[str, str]:
    """The options by which some option set makes variants: key → what staff call the first of each."""
    found: dict[str, str] = {}
    for options in defs.option_sets.values():
        for option in options.options:
            if option.known and option.rules.makes_variants:
                found.setdefault(option.key, option.name)
    return found


def with_read_condition(setting: DisplaySetting, defs: Known) -> DisplaySetting:
    """A setting with what was typed in its condition read into values. Raises Refusal."""
    condition = setting.set.get(CONDITION.code)
    if not isinstance(condition, Mapping):
        return setting
    try:
        return replace(setting, set={**setting.set, CONDITION.code: read_condition(condition, defs)})
    except Refusal as refusal:
        raise refusal.at("set", CONDITION.code) from None


def _refers(setting: DisplaySetting) -> Iterable[Reference]:
    if is_option_key(setting.field):
        yield Reference(OPTION_SETS, set_of_option_key(setting.field), "field", loose=True)
    elif setting.field != EVERY and setting.field not in BUILT_IN:
        yield Reference("field", setting.field, "field", loose=True)
    noun = setting.scope.sort.noun
    if noun is not None:
        yield Reference(noun, setting.scope.key, "scope", loose=True)
    layout, condition = setting.set.get(LAYOUT.code), setting.set.get(CONDITION.code)
    if isinstance(layout, str) and layout not in BUILT_IN_LAYOUTS:
        yield Reference(LAYOUTS, layout, "set.layout")
    if isinstance(condition, Mapping):
        yield from refers_of_condition(condition, BUILT_IN, "set.condition")


def _with_field(setting: DisplaySetting, field: str, into: str) -> DisplaySetting:
    condition = setting.set.get(CONDITION.code)
    if not isinstance(condition, Mapping):
        return setting
    return replace(setting, set={**setting.set, CONDITION.code: renamed_field(condition, field, into)})


def _with_items(setting: DisplaySetting, target: Target, items: Items, defs: Known) -> DisplaySetting:
    condition = setting.set.get(CONDITION.code)
    if not isinstance(condition, Mapping):
        return setting
    asked = {key for key, field in defs.all_fields.items() if field.own and field.paths(target)}
    return replace(setting, set={**setting.set, CONDITION.code: with_asked(condition, asked, items)})


def _surface_of_key(key: str) -> str | None:
    surface = read_setting_key(key).surface
    return None if surface == EVERY else surface


def _subject_of_key(key: str) -> tuple[str, str] | None:
    scope = read_setting_key(key).scope
    sort = SCOPES.get(scope.kind)
    return (sort.subject, scope.key) if sort is not None and sort.subject is not None else None


def scope_name(defs: Known, scope: Scope) -> str:
    """A scope as sentences have it: `Paint`, `the shop`, `this product`."""
    sort = SCOPES.get(scope.kind)
    if sort is None:
        return scope.kind
    thing = defs.things[sort.noun].get(scope.key) if sort.noun else None
    return str(thing.name) if thing is not None else sort.words or scope.key


def origin_name(defs: Known, origin: str) -> str:
    """Where a resolved property came from, as sentences have it."""
    kind, _, key = origin.partition(":")
    if kind == LAYOUTS:
        return f"the layout {defs.layouts[key].name if key in defs.layouts else key}"
    return scope_name(defs, Scope(kind, key))


def setting_name(key: str, thing: Any, defs: Known) -> str:
    """The field a setting speaks of, or that it chooses a layout."""
    field = read_setting_key(key).field
    if field != EVERY:
        return field_called(defs, field)
    names = {PROPERTIES[code].together for code in thing.set if code in PROPERTIES} if thing is not None else set()
    return next(iter(names)) or "Every field" if len(names) == 1 else "Every field"


def _where(state: State, defs: Known) -> str:
    scope = Scope(state["scope"]["kind"], state["scope"]["key"])
    surface = SURFACES.get(state["surface"])
    where = f"the {surface.name}" if surface else "every surface"
    return f"{where}, by {scope_name(defs, scope)}"


def said_words(code: str, value: Any, defs: Known) -> str:
    """A property's value in the words of a change, with what it names called as it is."""
    if code == LAYOUT.code and value in defs.layouts:
        return f"layout {defs.layouts[value].name}"
    if code == CONDITION.code and isinstance(value, Mapping):
        return f"only when {condition_words(value, defs)}"
    return PROPERTIES[code].words(value)


def _lines(before: State, after: State, defs: Known) -> list[str]:
    old, new = before.get("set", {}), after.get("set", {})
    where = _where(after or before, defs)
    out = []
    for code in [code for code in PROPERTIES if code in old or code in new]:
        if code in old and code in new and old[code] == new[code]:
            continue
        if code not in new:
            out.append(f"{PROPERTIES[code].name.lower()} back to inherited on {where}")
        else:
            out.append(f"{said_words(code, new[code], defs)} on {where}")
    return out or ["no difference"]


NOUN = Noun(
    code=SETTING,
    plural="display_settings",
    name="display setting",
    group="How it shows",
    type=DisplaySetting,
    check=check_setting,
    telling=Telling(
        describe=_lines,
        made=lambda state, defs: _lines({}, state, defs),
        gone=lambda state, defs: [f"back to inherited on {_where(state, defs)}"],
    ),
    referring=Referring(
        refers=_refers, without=lambda _setting, _reference: None, with_field=_with_field, with_items=_with_items
    ),
    calling=Calling(key_of=lambda setting: str(setting_key(setting)), name_of=setting_name),
    bearing=Bearing(
        field_of_key=lambda key: read_setting_key(key).field,
        subject_of_key=_subject_of_key,
        surface_of_key=_surface_of_key,
    ),
    stored=Stored(nothing=nothing_said),
)
