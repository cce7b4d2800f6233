"""What a noun is: a sort of versioned document that merchandisers define, and all that is asked of it."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any, NamedTuple, Protocol

from young_fabric.core.base.shop import Shop
from young_fabric.core.base.text import make_key
from young_fabric.core.kinds import Spec
from young_fabric.core.kinds.base import Choices, Items, Target

State = Mapping[str, Any]
"""A thing as JSON values."""


class Known(Protocol):
    """What nouns ask of all definitions: things by key, those the core brings among them, and what fields go by."""

    @property
    def shop(self) -> Shop:
        """What holds for the whole shop."""

    @property
    def things(self) -> Mapping[str, Mapping[str, Any]]:
        """Things by noun and key; none for a noun nobody knows."""

    @property
    def fields(self) -> Mapping[str, Any]:
        """The shop's own fields."""

    @property
    def product_fields(self) -> Mapping[str, Any]:
        """The shop's own fields of products."""

    @property
    def all_fields(self) -> Mapping[str, Any]:
        """The fields of products, built-in ones and own."""

    @property
    def lists(self) -> Mapping[str, Any]:
        """Value lists."""

    @property
    def sets(self) -> Mapping[str, Any]:
        """Field sets."""

    @property
    def types(self) -> Mapping[str, Any]:
        """Product types."""

    @property
    def option_sets(self) -> Mapping[str, Any]:
        """Option sets."""

    @property
    def layouts(self) -> Mapping[str, Any]:
        """The layouts the core brings, and the shop's own."""

    @property
    def subjects(self) -> tuple[str, ...]:
        """What fields can be defined for."""

    def fields_of(self, subject: str) -> Mapping[str, Any]:
        """The fields of products, or of a noun whose things hold values."""

    def records_of(self, record_type: str) -> Mapping[str, Any]:
        """The records of a type, by key."""

    def choices(self, target: Target) -> Choices | None:
        """What values can be chosen of a definition, None where it has none."""

    def spec(self, definition: Any) -> Spec:
        """All a field's kind must know."""


class Reference(NamedTuple):
    """What a thing refers to, and the place in it. `loose` ones fall away with it, the others hold it fast.

    No page is made from what an `apart` one names; a thing is sent elsewhere without what a `dispensable` one names.
    """

    noun: str
    key: str
    place: str
    loose: bool = False
    apart: bool = False
    dispensable: bool = False


def own_key(name: str, defs: Known, noun: str) -> str:
    """A free key made from a name."""
    return make_key(name, "", defs.things[noun])


def plain_name(key: str, thing: Any, defs: Known) -> str:  # noqa: ARG001
    """A thing's own name."""
    return str(thing.name)


@dataclass(frozen=True)
class Within:
    """Something within a thing that people look for by its own name: `sort` says what, `key` begins with that of the thing."""

    sort: str
    key: str
    name: str
    also: tuple[str, ...] = ()
    note: str = ""


@dataclass(frozen=True)
class Calling:
    """How things are keyed and called: `key` makes a free key of a name, `key_of` and `name_of` tell them, `note` is a
    word beside the name, `address` must be unique among definitions, `kept_keys` are those the core keeps for what
    it brings itself, `within` is what is found in them by its own name, `own_alone` are members that no copy takes over.
    """

    key: Callable[[str, Known, str], str] = own_key
    key_of: Callable[[Any], str] = lambda thing: str(thing.key)
    name_of: Callable[[str, Any, Known], str] = plain_name
    note: Callable[[Any, Known], str] = lambda _thing, _defs: ""
    address: Callable[[Any], str | None] = lambda _thing: None
    kept_keys: Callable[[], Collection[str]] = lambda: ()
    within: Callable[[Any], Iterable[Within]] = lambda _thing: ()
    own_alone: frozenset[str] = frozenset()


@dataclass(frozen=True)
class Telling:
    """A change in short lines: of a thing that differs, is new, or is gone."""

    describe: Callable[[State, State, Known], list[str]]
    made: Callable[[State, Known], list[str]] = lambda _state, _defs: ["new"]
    gone: Callable[[State, Known], list[str]] = lambda _state, _defs: ["removed"]


@dataclass(frozen=True)
class Referring:
    """`refers` gives all that a thing refers to; `without` gives the thing with a loose reference taken off, None when
    nothing is left of it; `with_items` the thing with other items in place of some of a definition, `with_field`
    with one field in another's place.
    """

    refers: Callable[[Any], Iterable[Reference]] = lambda _thing: ()
    without: Callable[[Any, Reference], Any | None] = lambda thing, _reference: thing
    with_items: Callable[[Any, Target, Items, Known], Any] = lambda thing, _target, _items, _defs: thing
    with_field: Callable[[Any, str, str], Any] = lambda thing, _field, _into: thing


@dataclass(frozen=True)
class Taking:
    """Taking fields in: `members` gives those that change when a thing takes a field, `fields_of` whose fields they
    are.
    """

    members: Callable[[Any, str], Mapping[str, Any]]
    fields_of: str = "product"


@dataclass(frozen=True)
class HoldingValues:
    """`fields` are the fields all things of a noun have, None where things hold no values; `own_fields` tells those of
    a thing where not all have the same.
    """

    fields: Mapping[str, Any] | None = None
    own_fields: Callable[[Any, Known], Mapping[str, Any]] | None = None


@dataclass(frozen=True)
class AsValue:
    """Things as values: `choices` gives what can be chosen of a thing (of key "": of all), `item_of` what values are
    chosen of that name the thing, `page` is the address of its page, "" for none.
    """

    choices: Callable[[str, Known], Choices | None] = lambda _key, _defs: None
    item_of: Callable[[Any], Target | None] = lambda _thing: None
    page: Callable[[Any, Known], str] = lambda _thing, _defs: ""


@dataclass(frozen=True)
class Bearing:
    """What a change bears on: `judges` ones on which values are right, `gathers` ones on what products are
    gathered into, `offers` ones on what can be chosen of them; `unplanned` members have no bearing on pages; `field_of_key` is
    the field a thing speaks of, `subject_of_key` the one subject (code, id) it is said for, `surface_of_key` the one surface.
    """

    judges: bool = False
    gathers: bool = False
    offers: bool = False
    unplanned: frozenset[str] = frozenset()
    field_of_key: Callable[[str], str | None] = lambda _key: None
    subject_of_key: Callable[[str], tuple[str, str] | None] = lambda _key: None
    surface_of_key: Callable[[str], str | None] = lambda _key: None


@dataclass(frozen=True)
class Stored:
    """How things are kept: the `format` with `upgrades` from older ones, lists merged item by item (`keyed`), members
    `guarded` by ways of their own, and the state that is the same as not being there (`nothing`).
    """

    format: int = 1
    upgrades: Mapping[int, Callable[[dict[str, Any]], dict[str, Any]]] = field(default_factory=dict)
    keyed: Mapping[str, str] = field(default_factory=dict)
    guarded: frozenset[str] = frozenset()
    nothing: Callable[[str], dict[str, Any]] | None = None


@dataclass(frozen=True)
class Sent:
    """How things go out as files: `local` members speak of this shop's own products and stay here; `content` things are
    filled in by the thousand, listed by pages, and stay where products do; `files` are stored files a thing names,
    `without_files` the thing without some.
    """

    local: frozenset[str] = frozenset()
    content: bool = False
    files: Callable[[Any], tuple[str, ...]] = lambda _thing: ()
    without_files: Callable[[Any, Collection[str]], Any] = lambda thing, _files: thing


@dataclass(frozen=True)
class Noun:
    """One sort of definition. `code` stands in tables, `plural` in addresses, `name` and `group` in sentences; `check`
    raises Refusal, `blank` makes a new one.

    The rest is in parts: a noun says those it has.
    """

    code: str
    plural: str
    name: str
    group: str
    type: type[Any]
    check: Callable[[Any, Known], None]
    telling: Telling
    blank: Callable[[str, str, Known], Any] | None = None
    calling: Calling = Calling()
    referring: Referring = Referring()
    taking: Taking | None = None
    holding: HoldingValues = HoldingValues()
    chosen: AsValue = AsValue()
    bearing: Bearing = Bearing()
    stored: Stored = Stored()
    sent: Sent = Sent()


def state_of(thing: Any) -> dict[str, Any]:
    """A thing as JSON values."""
    return {member.name: _plain(getattr(thing, member.name)) for member in dataclasses.fields(thing)}


def _plain(value: Any) -> Any:
    if dataclasses.is_dataclass(value):
        return state_of(value)
    if isinstance(value, Mapping):
        return {str(name): _plain(item) for name, item in value.items()}
    if isinstance(value, list | tuple):
        return [_plain(item) for item in value]
    return value


def upgraded(noun: Noun, state: State, since: int) -> dict[str, Any]:
    """A state written in an older format, as it is written now."""
    current = dict(state)
    for number in range(since, noun.stored.format):
        current = noun.stored.upgrades[number](current)
    return current
