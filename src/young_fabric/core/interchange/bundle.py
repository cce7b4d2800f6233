"""Definitions as files: one JSON document of states by noun, and what reading it into other definitions comes to."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import ABSENT, merge, same
from young_fabric.core.base.text import check_key
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import Noun, State, state_of, upgraded
from young_fabric.core.nouns.registry import NOUNS, describe

FORMAT = 1
"""The format of bundles as this code writes them."""
MOST_THINGS = 20_000
MOST_PARTS = 100_000
"""So many values one definition is made of: what reading it costs grows with them."""
NEW, SAME, MERGED, CLASH = "new", "same", "merged", "clash"
DEFINED: Mapping[str, Noun] = {code: noun for code, noun in NOUNS.items() if not noun.sent.content}
"""The nouns whose things go out as files: what is filled in by the thousand stays where products do."""
Thing = tuple[str, str]
"""(noun, key)."""
ReadState = Callable[[Noun, State], Any]
"""Gives the thing of a state. Raises Refusal `shape`."""


def bundle_of(defs: Definitions, wanted: Iterable[Thing] | None = None) -> dict[str, Any]:
    """All definitions as one document, or those wanted with all they refer to; in the order of nouns and keys."""
    keys = None if wanted is None else closure(defs, wanted)
    things: dict[str, Any] = {}
    for code, noun in DEFINED.items():
        rows = [
            _sent(noun, thing, keys)
            for key, thing in sorted(defs.things[code].items())
            if keys is None or (code, key) in keys
        ]
        if rows:
            things[noun.plural] = {"format": noun.stored.format, "things": rows}
    return {"format": FORMAT, "prefix": defs.shop.prefix, "definitions": things}


def _sent(noun: Noun, thing: Any, keys: frozenset[Thing] | None) -> dict[str, Any]:
    """The state of a thing as it goes out; without what stays and it can be without."""
    for reference in noun.referring.refers(thing):
        if keys is not None and reference.dispensable and (reference.noun, reference.key) not in keys:
            thing = noun.referring.without(thing, reference)
    return {name: value for name, value in state_of(thing).items() if name not in noun.sent.local}


def closure(defs: Definitions, wanted: Iterable[Thing]) -> frozenset[Thing]:
    """(noun, key) of some definitions with all they refer to, but for what a thing is sent without."""
    found: set[Thing] = set()
    waiting = list(wanted)
    while waiting:
        noun, key = waiting.pop()
        thing = defs.things[noun].get(key)
        if (noun, key) in found or thing is None:
            continue
        found.add((noun, key))
        waiting += [(ref.noun, ref.key) for ref in NOUNS[noun].referring.refers(thing) if not ref.dispensable]
    return frozenset(found)


@dataclass(frozen=True)
class PlannedThing:
    """What becomes of a definition of a bundle: new, same, merged (both keep what they have) or clash at `clashes`.

    `state` is the one after the import, `lines` the change in words; `of_file` is, where they clash, what taking all of the bundle's would
    change.
    """

    noun: str
    key: str
    name: str
    how: str
    state: State
    lines: tuple[str, ...]
    clashes: tuple[str, ...] = ()
    of_file: tuple[str, ...] = ()


def plan_import(
    data: Any, defs: Definitions, read: ReadState, stored: frozenset[str], from_file: bool
) -> tuple[PlannedThing, ...]:
    """What reading a bundle comes to, each thing after those it refers to. Raises Refusal `bundle`, `shape`, `too_many`.

    Where both say otherwise, what stands is kept, or with `from_file` the bundle's is taken. Of files those not `stored` are left out.
    """
    return tuple(_planned(noun, thing, defs, stored, from_file) for noun, thing in things_of(data, read))


def things_of(data: Any, read: ReadState) -> Iterator[tuple[Noun, Any]]:
    """The definitions of a bundle, each after those it refers to. Raises Refusal `bundle`, `shape`, `too_many`."""
    if not isinstance(data, dict) or not isinstance(data.get("definitions"), dict):
        raise Refusal("bundle", "This is no file of definitions", ("bundle",), "Choose one that was exported here")
    if data.get("format") != FORMAT:
        raise Refusal(
            "bundle", f"Its format is {data.get('format')!r:.20}, not {FORMAT}", ("bundle",), "Export it anew"
        )
    unknown = data["definitions"].keys() - {noun.plural for noun in DEFINED.values()}
    if unknown:
        words = f"There is nothing called {min(unknown)[:40]}"
        raise Refusal("bundle", words, ("bundle", "definitions"), "Take it out of the file")
    count = 0
    for noun in DEFINED.values():
        rows = data["definitions"].get(noun.plural, {"format": noun.stored.format, "things": []})
        where = ("bundle", "definitions", noun.plural)
        if not _is_section(rows, noun):
            raise Refusal("bundle", f"The {noun.name}s can't be read", where, "Export it anew")
        count += len(rows["things"])
        if count > MOST_THINGS:
            words = f"At most {MOST_THINGS:,} definitions are read at once"
            raise Refusal("too_many", words, ("bundle",), "Split the file")
        read_things = [_read(noun, row, rows["format"], index, read) for index, row in enumerate(rows["things"])]
        yield from ((noun, thing) for thing in _in_order(noun, read_things))


def _read(noun: Noun, row: dict[str, Any], written: int, index: int, read: ReadState) -> Any:
    where = ("bundle", "definitions", noun.plural, "things", index)
    if _parts(row) > MOST_PARTS:
        words = f"A {noun.name} has at most {MOST_PARTS:,} parts"
        raise Refusal("too_many", words, where, "Split it in several")
    try:
        return read(noun, upgraded(noun, row, written))
    except Refusal as refusal:
        raise refusal.at(*where) from None
    except (KeyError, TypeError, AttributeError, ValueError) as error:
        raise Refusal("bundle", f"A {noun.name} can't be read", where, "Export it anew") from error


def _parts(value: Any) -> int:
    """How many values JSON is made of, counted no further than one too many."""
    waiting, count = [value], 0
    while waiting and count <= MOST_PARTS:
        found = waiting.pop()
        count += 1
        if isinstance(found, dict | list):
            waiting += found.values() if isinstance(found, dict) else found
    return count


def _is_section(rows: Any, noun: Noun) -> bool:
    return (
        isinstance(rows, dict)
        and type(rows.get("format")) is int
        and 1 <= rows["format"] <= noun.stored.format
        and isinstance(rows.get("things"), list)
        and all(isinstance(row, dict) for row in rows["things"])
    )


def _in_order(noun: Noun, things: list[Any]) -> list[Any]:
    """Things of one noun, each after those of the same it refers to; those of a ring come last, and are refused when written."""
    keys = {noun.calling.key_of(thing) for thing in things}
    needs = [
        (thing, {ref.key for ref in noun.referring.refers(thing) if ref.noun == noun.code and ref.key in keys})
        for thing in things
    ]
    out: list[Any] = []
    while needs:
        there = {noun.calling.key_of(thing) for thing in out}
        ready = [thing for thing, needed in needs if needed <= there]
        if not ready:
            return [*out, *[thing for thing, _ in needs]]
        out += ready
        needs = [(thing, needed) for thing, needed in needs if not needed <= there]
    return out


def _planned(noun: Noun, thing: Any, defs: Definitions, stored: frozenset[str], from_file: bool) -> PlannedThing:
    thing = noun.sent.without_files(thing, frozenset(noun.sent.files(thing)) - stored)
    key = noun.calling.key_of(thing)
    if noun.bearing.subject_of_key(key) is not None:
        words = "What is said of a single product stays in its shop"
        raise Refusal("bundle", words, ("bundle", noun.code, key), "Take it out of the file")
    if noun.blank is not None:
        check_key(key)
    current = defs.things[noun.code].get(key)
    mine = state_of(thing)
    name = noun.calling.name_of(key, thing, defs)
    if current is None:
        return PlannedThing(noun.code, key, name, NEW, mine, tuple(describe(noun, None, mine, defs)))
    theirs = state_of(current)
    mine = {**mine, **{member: theirs[member] for member in noun.sent.local}}
    merged, clashes = merge(ABSENT, mine, theirs, noun.stored.keyed)
    if from_file:
        merged = {**merged, **{path[0]: mine[path[0]] for path in clashes}}
    how = SAME if same(mine, theirs) else CLASH if clashes else MERGED
    lines = () if same(merged, theirs) else tuple(describe(noun, theirs, merged, defs))
    at = tuple(dict.fromkeys(str(path[0]) for path in clashes))
    of_file = tuple(describe(noun, theirs, {**merged, **{member: mine[member] for member in at}}, defs)) if at else ()
    return PlannedThing(noun.code, key, name, how, merged, lines, at, of_file)


def bundle_schema(state_schemas: Mapping[str, Any]) -> dict[str, Any]:
    """The JSON Schema (2020-12) of bundles; `state_schemas` are those of states, by noun, without their local members."""
    sections = {
        noun.plural: {
            "type": "object",
            "properties": {
                "format": {"type": "integer", "minimum": 1, "maximum": noun.stored.format},
                "things": {"type": "array", "items": state_schemas[code]},
            },
            "required": ["format", "things"],
            "additionalProperties": False,
        }
        for code, noun in DEFINED.items()
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Definitions of a shop",
        "type": "object",
        "properties": {
            "format": {"const": FORMAT},
            "prefix": {"type": "string"},
            "definitions": {"type": "object", "properties": sections, "additionalProperties": False},
        },
        "required": ["format", "definitions"],
    }
