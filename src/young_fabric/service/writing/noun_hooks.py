"""What single nouns ask of the store beyond what all do: a registry, with a line for each noun that has something to ask."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from young_fabric.core.base.conditions import tests_of
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.counting import counted
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.pins import PICTURE
from young_fabric.core.kinds import KINDS
from young_fabric.core.kinds.base import StoredFile
from young_fabric.core.kinds.limits import UNIQUE
from young_fabric.core.nouns.content import collections, records, shared_copies
from young_fabric.core.nouns.content.collections import Collection
from young_fabric.core.nouns.content.records import Record
from young_fabric.core.nouns.content.shared_copies import read_words
from young_fabric.core.nouns.fields import fields
from young_fabric.core.nouns.fields.conditions import read_condition
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.fields.tightening import Tightening, tightened
from young_fabric.core.nouns.layouts import display_settings, layouts
from young_fabric.core.nouns.layouts.display_settings import with_read_condition
from young_fabric.core.nouns.layouts.layouts import Layout, with_read_conditions
from young_fabric.core.nouns.lists import value_lists
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.options import option_sets
from young_fabric.core.nouns.options.option_sets import OptionSet, swatch_pictures
from young_fabric.core.nouns.types import product_types
from young_fabric.core.nouns.types.product_types import ProductType
from young_fabric.core.subjects.values import FieldRules
from young_fabric.service.acting.actors import Work
from young_fabric.service.planning import plans
from young_fabric.service.values import converting
from young_fabric.service.values.holding import HOLDERS, holders_of
from young_fabric.store.repos import files, products, stored_values, variants
from young_fabric.store.repos.stored_values import Holding

SOME = 4
Follow = Callable[[Work, Definitions, Definitions, Any, Any, str], Iterable[tuple[str, str, Any, Any]]]
"""Writes what follows from a change, in its group; gives the definitions that are to follow: (noun, key, state, state after)."""
CheckStored = Callable[[Work, Definitions, Definitions, Any, Any], None]


def _nothing_to_check(_work: Work, _before: Definitions, _after: Definitions, _old: Any, _new: Any) -> None:
    return None


@dataclass(frozen=True)
class NounHooks:
    """`read` gives a thing with what was typed in it read into values; `check_stored` refuses what stored values stand
    against; `held` says which products hold a thing fast; `follow` puts values in step with what was written."""

    read: Callable[[Any, Definitions], Any] = lambda thing, _defs: thing
    check_stored: CheckStored = _nothing_to_check
    held: Callable[[Work, str], list[str]] = lambda _work, _key: []
    follow: Follow = lambda *_: ()


def _check_field(work: Work, before: Definitions, _after: Definitions, old: Field | None, new: Field) -> None:
    """What a field is recorded of can't change under stored values, and values that two products share hinder that no two may.

    Raises Refusal `values_exist`, `taken`.
    """
    if new.limits.get(UNIQUE.code) and not (old is not None and old.limits.get(UNIQUE.code)):
        count, first = stored_values.shared(work.session, new.key, SOME)
        if count:
            examples = ", ".join(f"{title} ({value[:40]})" for value, title in first)
            words = f"{count} products share their value with another: {examples}{'…' if count > SOME else ''}"
            raise Refusal("taken", words, ("limits", UNIQUE.code), "Mend those first, then tick it")
    if old is None or old.subject == new.subject:
        return
    held = holders_of(before, old.subject).count(work, Holding(new.key))
    if held:
        words = f"{held} of them have a value, so the sort of thing it is for stays as it is"
        raise Refusal("values_exist", words, ("subject",), "Make a new field, or empty the values first")


def _field_held(work: Work, key: str) -> list[str]:
    """Holders with a value, where they have a table: definitions tell themselves what they refer to."""
    defs = plans.draft(work.session)
    if key not in defs.fields or defs.fields[key].subject not in HOLDERS:
        return []
    holders = HOLDERS[defs.fields[key].subject]
    held = holders.count(work, Holding(key))
    return [f"{held:,} {holders.counted[held > 1]} with a value"] if held else []


def _check_list(work: Work, _before: Definitions, after: Definitions, old: ValueList | None, new: ValueList) -> None:
    """Conditions hold the values they ask for fast; what products hold is told beforehand, and stays on them marked."""
    _check_pictures(work, new)
    gone = old.by_code.keys() - new.by_code.keys() if old is not None else set()
    if not gone:
        return
    for options in after.option_sets.values():
        for option in options.options:
            if option.list == new.key and any(value.code in gone for value in option.values):
                words = f"{option.name} in {options.name} speaks of a value you take out"
                raise Refusal("in_use", words, ("values",), "Retire it instead, or take it off there first")
    keys = [field.key for field in after.fields.values() if new.key in field.named(value_lists.NOUN.code)]
    for collection in after.things[collections.NOUN.code].values():
        for test in tests_of(collection.condition or {}):
            value = test.get("value")
            asked = value if isinstance(value, list | tuple) else [value]
            if test["field"] in keys and any(isinstance(code, str) and code in gone for code in asked):
                words = f"The condition of {collection.name} asks for a value you take out"
                raise Refusal("in_use", words, ("values",), "Retire it instead, or change that condition first")


def _check_pictures(work: Work, values: ValueList) -> None:
    """Pictures of swatches are among the shop's. Raises Refusal `picture_gone`."""
    named: dict[str, tuple[str | int, ...]] = {}
    for index, value in enumerate(values.values):
        if value.swatch.picture:
            named.setdefault(value.swatch.picture, ("values", index, "swatch", "picture"))
    _need_pictures(work, named)


def _need_pictures(work: Work, named: Mapping[str, tuple[str | int, ...]]) -> Mapping[str, StoredFile]:
    """The stored pictures of some names, each with the place that names it. Raises Refusal `picture_gone`."""
    stored = files.stored(work.session, sorted(named)) if named else {}
    for file, where in named.items():
        found = stored.get(file)
        if found is None or not found.width:
            raise Refusal("picture_gone", "There is no such picture", where, "Upload it again")
    return stored


def _check_layout(work: Work, _before: Definitions, _after: Definitions, _old: Any, layout: Layout) -> None:
    """Pictures of blocks are among the shop's, and as large as is said. Raises Refusal `picture_gone`, `picture`."""
    said = {
        (*where, PICTURE.code): block[PICTURE.code] for where, block in layout.said_blocks() if block.get(PICTURE.code)
    }
    stored = _need_pictures(work, {picture["file"]: where for where, picture in said.items()})
    for where, picture in said.items():
        found = stored[picture["file"]]
        if (picture["width"], picture["height"]) != (found.width, found.height):
            raise Refusal("picture", "The picture has another size", where, "Choose it anew")


def _check_option_set(work: Work, _before: Definitions, _after: Definitions, _old: Any, options: OptionSet) -> None:
    """Pictures of swatches are among the shop's, and products put in by hand are there. Raises Refusal `picture_gone`, `not_found`."""
    _need_pictures(work, swatch_pictures(options))
    named = (*options.picked, *options.kept_out)
    gone = set(named) - products.there(work.session, named)
    if gone:
        raise Refusal("not_found", f"There is no product {min(gone)}", ("picked",), "Take it off")


def _option_set_held(work: Work, key: str) -> list[str]:
    """Stock that its values have of their own would go with it."""
    held = len(variants.choice_stocks(work.session, [key]).get(key, {}))
    return [f"{held} stocks of its values"] if held else []


def _type_held(work: Work, key: str) -> list[str]:
    held = products.count(work.session, products.Search(types=(key,)))
    return [counted(held, "product")] if held else []


def _read_field(definition: Field, defs: Definitions) -> Field:
    """Options as they are kept; a field's default is typed like a value. Raises Refusal."""
    given = {option.code: option.read for option in definition.rules.options} if definition.kind in KINDS else {}
    options = {code: given[code](value) if code in given else value for code, value in definition.options.items()}
    return _read_default(replace(definition, options=options), defs)


def _read_default(definition: Field, defs: Definitions) -> Field:
    if not isinstance(definition.default, str | list):
        return definition
    fields.NOUN.check(replace(definition, default=None), defs)
    read = FieldRules(definition, defs.spec(definition)).read(definition.default)
    if read.wrong:
        raise Refusal(read.wrong.code, f"The default: {read.wrong.message}", ("default",), read.wrong.help)
    return replace(definition, default=read.value)


def _read_type(product_type: ProductType, defs: Definitions) -> ProductType:
    """Defaults that a type gives are typed like values. Raises Refusal."""
    own = {}
    for key, by in product_type.own.items():
        if isinstance(by.default, str) and key in defs.all_fields:
            tight = tightened(defs.all_fields[key], replace(by, default=None))
            read = FieldRules(tight, defs.spec(tight)).read(by.default)
            if read.wrong:
                words = f"The default: {read.wrong.message}"
                raise Refusal(read.wrong.code, words, ("own", key, "default"), read.wrong.help)
            by = replace(by, default=read.value)
        if by != Tightening():
            own[key] = by
    return replace(product_type, own=own)


def _read_collection(collection: Collection, defs: Definitions) -> Collection:
    """The tests of a condition are typed like values. Raises Refusal."""
    if collection.condition is None:
        return collection
    try:
        return replace(collection, condition=read_condition(collection.condition, defs))
    except Refusal as refusal:
        raise refusal.at("condition") from None


def _check_record(_work: Work, _before: Definitions, _after: Definitions, old: Record | None, new: Record) -> None:
    """A record stays of its type: what refers to it chose among the records of that. Raises Refusal `values_exist`."""
    if old is not None and old.type != new.type:
        raise Refusal("values_exist", "A record stays of its type", ("type",), "Make a new one of the other type")


HOOKS: dict[str, NounHooks] = {
    fields.NOUN.code: NounHooks(_read_field, _check_field, _field_held, converting.follow),
    value_lists.NOUN.code: NounHooks(check_stored=_check_list),
    collections.NOUN.code: NounHooks(_read_collection),
    shared_copies.NOUN.code: NounHooks(lambda copy, _defs: read_words(copy)),
    records.NOUN.code: NounHooks(check_stored=_check_record),
    option_sets.NOUN.code: NounHooks(option_sets.read_typed, _check_option_set, _option_set_held),
    product_types.NOUN.code: NounHooks(_read_type, held=_type_held),
    layouts.NOUN.code: NounHooks(with_read_conditions, _check_layout),
    display_settings.NOUN.code: NounHooks(with_read_condition),
}
_NONE = NounHooks()


def read_typed(noun: str, thing: Any, defs: Definitions) -> Any:
    """A thing with what was typed in it read into values. Raises Refusal."""
    return HOOKS.get(noun, _NONE).read(thing, defs)


def check_stored(work: Work, before: Definitions, after: Definitions, noun: str, old: Any, new: Any) -> None:
    """Whether what is stored allows a definition to be written. Raises Refusal."""
    HOOKS.get(noun, _NONE).check_stored(work, before, after, old, new)


def held(work: Work, noun: str, key: str) -> list[str]:
    """What products hold of a thing, in words; empty when nothing does."""
    return HOOKS.get(noun, _NONE).held(work, key)


def follow(
    work: Work, before: Definitions, after: Definitions, noun: str, old: Any, new: Any, group: str
) -> Iterable[tuple[str, str, Any, Any]]:
    """Put values in step with what was written; gives the definitions that are to follow."""
    return HOOKS.get(noun, _NONE).follow(work, before, after, old, new, group)
