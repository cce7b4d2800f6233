"""Making a field with all that goes with it in one stroke: its list, and the set or type it goes to."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.kinds import KINDS
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.fields import fields
from young_fabric.core.nouns.fields.starters import Starter, starters
from young_fabric.core.nouns.lists import value_lists
from young_fabric.core.nouns.lists.list_reading import paste
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.planning import plans
from young_fabric.service.writing import writes

SHOP = Scope("shop")


@dataclass(frozen=True)
class Taker:
    """What a field goes to: a thing of a noun that takes fields."""

    noun: str
    key: str


def make(
    work: Work,
    name: str,
    given: Mapping[str, Any],
    values: str | None,
    into: Taker | None,
    group: str | None = None,
    shown: Mapping[str, bool] | None = None,
) -> str:
    """Make a field; `values` are a new list of its own, one a line, `into` is what it goes to, `shown` the surfaces of products on
    which it shows, or does not, other than is usual there. Gives its key.

    All of it is made, or none, and it is undone together. Raises Refusal with the member in `where`.
    """
    work.need(Right.EDIT)
    group = group or uuid4().hex
    given = dict(given)
    if values is not None:
        given["options"] = {**(given.get("options") or {}), **_listed(work, name, given.get("kind"), values, group)}
    taking = NOUNS[into.noun].taking if into is not None and into.noun in NOUNS else None
    if taking is not None:
        given.setdefault("subject", taking.fields_of)
    made = definitions.create(work, fields.NOUN.code, name, given, group)
    key: str = made.thing.key
    if into is not None:
        _put_into(work, key, into, group)
    for code, shows in (shown or {}).items():
        if code not in product_surfaces() or made.thing.subject != PRODUCT.code:
            words = f"It can't be shown on “{code[:40]}”"
            raise Refusal("not_found", words, ("shown", code[:40]), "Choose one of those offered")
        definitions.display(work, SHOP, key, code, {"shown": shows}, None, group)
    return key


@dataclass(frozen=True)
class StarterRow:
    """A starter field, and the key of the shop's field made from it, if there is one."""

    starter: Starter
    there: str | None


def offered(work: Work) -> list[StarterRow]:
    """All starter fields, with those the shop has already."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    keys = {key: f"{defs.shop.prefix}{key}" for key in starters()}
    return [StarterRow(starter, keys[key] if keys[key] in defs.fields else None) for key, starter in starters().items()]


def add_starters(work: Work, keys: Sequence[str], into: Taker | None) -> list[str]:
    """Make the fields of some starters, with their lists, and put them where they go, in one stroke. Gives their keys.

    Raises Refusal `not_found`, `taken` with the starter in `where`, or of the set or type.
    """
    work.need(Right.EDIT)
    group = uuid4().hex
    made = []
    for key in dict.fromkeys(keys):
        starter = starters().get(key)
        if starter is None:
            raise Refusal("not_found", f"There is no starter field {key[:60]}", ("keys", key[:60]), "Choose another")
        given = {**starter.members, "key": f"{plans.draft(work.session).shop.prefix}{key}"}
        values = "\n".join(starter.values) if starter.values else None
        try:
            made.append(make(work, starter.name, given, values, into, group))
        except Refusal as refusal:
            raise refusal.at("keys", key) from None
    return made


def _listed(work: Work, name: str, kind: Any, values: str, group: str) -> dict[str, str]:
    """Make a list of pasted values, and give the option of the kind that names it."""
    options = KINDS[kind].options if kind in KINDS else ()
    option = next((option for option in options if option.noun == value_lists.NOUN.code), None)
    if option is None:
        raise Refusal("list", "A field of this kind takes no list", ("values",), "Choose one or many of a list")
    read = paste(ValueList("new", name), values)
    if read.skipped:
        line, text, reason = read.skipped[0]
        raise Refusal("list", f"Line {line}, “{text[:40]}”: {reason}", ("values",), "Mend that line, or take it out")
    if not read.added:
        raise Refusal("list", "A new list needs values", ("values",), "Type one a line, or choose a list there is")
    chosen = {"values": [state_of(value) for value in read.result.values]}
    made = definitions.create(work, value_lists.NOUN.code, name, chosen, group)
    return {option.code: made.thing.key}


def _put_into(work: Work, field: str, into: Taker, group: str) -> None:
    noun = NOUNS.get(into.noun)
    if noun is None or noun.taking is None:
        raise Refusal("not_found", "Fields go to sets and types", ("into",), "Choose one of those offered")
    try:
        current = writes.need_current(work, noun.code, into.key)
    except Refusal as refusal:
        raise refusal.at("into") from None
    if plans.draft(work.session).fields[field].subject != noun.taking.fields_of:
        words = f"A {noun.name} takes fields of {noun.taking.fields_of}s"
        raise Refusal("subject", words, ("into",), "Choose another place, or record it of those")
    definitions.change(work, noun.code, into.key, current.version, noun.taking.members(current.thing, field), group)
