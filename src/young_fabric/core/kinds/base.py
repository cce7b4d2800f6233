"""What a kind of field is: it reads typed text, judges stored values, and says what they show as."""

from __future__ import annotations

import json
import re
from abc import ABC, abstractmethod
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, ClassVar, NamedTuple, Protocol

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds.limits import Limit
from young_fabric.core.kinds.shown import Text, joined_text

Value = Any
"""A canonical stored value: str, bool, list of them, or a mapping such as {amount, unit}."""

Judge = Callable[[Value], Refusal | None]
Show = Callable[[Value], Any]
Target = tuple[str, str]
"""(noun, key) of a definition that values are chosen of."""
Items = Mapping[Any, Any]
"""Items of a definition, and what stands for each."""


class Choices(Protocol):
    """What a kind asks of a value list."""

    @property
    def by_code(self) -> Mapping[str, Any]:
        """Every value by its code."""

    @property
    def more(self) -> bool:
        """Whether any value shows more than its label."""

    def find(self, text: str) -> str | None:
        """The code meant by typed text."""

    def label(self, code: str) -> str:
        """What shoppers read for a code."""

    def offered(self) -> Iterable[str]:
        """The labels that can be chosen."""

    @property
    def looks(self) -> Any:
        """All that decides how chosen values show; nothing where names are put in as pages are made."""


@dataclass(frozen=True)
class KindOption:
    """What fields of a kind must say besides: `control` edits it, `noun` is what it names, if it names a definition.

    `check` gives the refusal of a value (None when it is sound); `missing` is said where there is none. What may be left
    unsaid is no refusal to it. Stored values stand by those that `reads`; the others bear only on how values show. `read`
    gives what is kept of what was given. Values are chosen of what a `chooses` one names.
    """

    code: str
    label: str
    control: str
    check: Callable[[Any], Refusal | None]
    missing: str
    noun: str | None = None
    reads: bool = True
    read: Callable[[Any], Any] = lambda given: given
    chooses: bool = False

    @property
    def needed(self) -> bool:
        """Whether a field of the kind can't be without it."""
        return self.check(None) is not None


class Naming(NamedTuple):
    """A definition that options of a field name: noun and key, where in the options, and what is said when it is not there."""

    noun: str
    key: str
    where: tuple[str | int, ...]
    missing: str
    chooses: bool = False


@dataclass(frozen=True)
class Column:
    """A sub-field: one value of a kind in every row."""

    key: str
    label: str
    kind: Kind
    options: Mapping[str, Any] = field(default_factory=dict)
    limits: Mapping[str, Any] = field(default_factory=dict)
    required: bool = False


@dataclass(frozen=True)
class Part:
    """A column with all its kind must know."""

    column: Column
    spec: Spec

    @property
    def key(self) -> str:
        """What cells of it are known by."""
        return self.column.key

    @property
    def kind(self) -> Kind:
        """The kind of its cells."""
        return self.column.kind


@dataclass(frozen=True)
class Spec:
    """All a kind must know to read, judge and show a value: limits and options given, choices, locale, currency, parts, and
    whether several values stand by the alphabet."""

    limits: Mapping[str, Any] = field(default_factory=dict)
    options: Mapping[str, Any] = field(default_factory=dict)
    choices: Choices | None = None
    locale: str = "en"
    currency: str = "EUR"
    parts: tuple[Part, ...] = ()
    alphabetical: bool = False


@dataclass(frozen=True)
class StoredFile:
    """A file the shop keeps: its type and bytes; a picture's size in pixels, nought of all others."""

    type: str
    bytes: int
    width: int = 0
    height: int = 0


class Kind(ABC):
    """A kind of field. Values are canonical: what `read` gives and the store holds.

    `comparison` is how conditions compare values, `recurs` whether the same value is met on many products, `label` where
    a shopper's label stands unless set otherwise, `in_rows` whether columns of rows can be of it, `several` whether one value of it
    is a list in an order, `shapes` those that properties of structured data can have which it feeds. `formats` are the display properties
    its values go by, and `formats_of_many` those that several values together do.
    """

    code: ClassVar[str]
    name: ClassVar[str]
    example: ClassVar[str] = ""
    limits: ClassVar[tuple[Limit, ...]] = ()
    options: tuple[KindOption, ...] = ()
    own_fields: ClassVar[bool] = True
    takes_many: ClassVar[bool] = True
    takes_default: ClassVar[bool] = True
    in_rows: ClassVar[bool] = True
    several: ClassVar[bool] = False
    shapes: ClassVar[tuple[str, ...]] = ()
    comparison: ClassVar[str] = "text"
    recurs: ClassVar[bool] = True
    formats: ClassVar[tuple[str, ...]] = ()
    formats_of_many: ClassVar[tuple[str, ...]] = ("several_as", "joiner", "item_order")
    label: ClassVar[str] = "beside"

    @abstractmethod
    def read(self, text: str, spec: Spec) -> Value:
        """Typed text as a value, limits not yet looked at. Raises Refusal with a code of the rules."""

    def take(self, value: Any, spec: Spec) -> Value:
        """What was typed or chosen: text, or a value already canonical. Raises Refusal."""
        if isinstance(value, str):
            return self.read(value, spec) if value.strip() else None
        if self.well_formed(value):
            return value
        raise Refusal("shape", f"Not a value of kind {self.name}", help=f"Type it, such as {self.example_for(spec)}")

    def well_formed(self, value: Any) -> bool:
        """Whether any JSON value has this kind's shape; never raises."""
        return isinstance(value, str) and value != ""

    def checker(self, spec: Spec) -> Judge:  # noqa: ARG002
        """A function that gives the first limit a well-formed value breaks."""
        return lambda _value: None

    def judge(self, spec: Spec) -> Judge:
        """A function that says what is wrong with any JSON value, None when it is good; never raises."""
        well_formed, check = self.well_formed, self.checker(spec)
        shape = Refusal("shape", f"not a value of kind {self.name}", help="Type it anew")

        def judged(value: Value) -> Refusal | None:
            return check(value) if well_formed(value) else shape

        return judged

    def faults(self, typed: Any, spec: Spec) -> Iterable[Refusal]:
        """All that is wrong with what was typed or is stored, each with its place in it; never raises."""
        try:
            value = self.take(typed, spec)
        except Refusal as refusal:
            return [refusal]
        wrong = None if value is None else self.judge(spec)(value)
        return [] if wrong is None else [wrong]

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        """A function from a good value to the node it shows as, for resolved display properties."""
        return Text

    def bare(self, spec: Spec) -> tuple[int, int] | None:  # noqa: ARG002
        """Within which lengths texts of one line are good and show as they are, None for kinds that are not so."""
        return None

    def together(self, nodes: list[Any]) -> Any:
        """Several values' nodes as one."""
        return joined_text(nodes)

    def typed(self, value: Value, spec: Spec) -> Any:
        """A good value as a person would type it: `take` of it gives the value again."""
        return self.to_text(value, spec)

    def to_text(self, value: Value, spec: Spec) -> str:
        """A good value as files have it: `from_text` gives the value again."""
        return str(self.shower(spec, {})(value).plain)

    def from_text(self, text: str, spec: Spec) -> Value:
        """The inverse of `to_text`. Raises Refusal."""
        return self.read(text, spec)

    def json_schema(self, spec: Spec) -> dict[str, Any]:  # noqa: ARG002
        """JSON Schema 2020-12 of a value."""
        return {"type": "string"}

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        """What structured data hold of a good value, as members of a schema.org PropertyValue; `root` begins addresses here."""
        return {"value": str(self.shower(spec, {})(value).plain)}

    def words(self, value: Value) -> str:
        """Any JSON value in a few words, for the history; never raises."""
        return in_words(value)

    def words_of(self, values: list[Value]) -> str:
        """Several values in a few words; never raises."""
        return ", ".join(map(self.words, values[:12])) + ("…" if len(values) > 12 else "")

    def example_for(self, spec: Spec) -> str:  # noqa: ARG002
        """An example of what one would type."""
        return self.example

    def identity(self, value: Value) -> Any:
        """What tells values apart that are no texts: alike for no good value and any other. Raises TypeError, KeyError."""
        return told_apart(value)

    def retyped(self, value: Value, spec: Spec) -> Any:
        """A well-formed value as any kind could be asked to take it: its text where that says all of it."""
        text = self.to_text(value, spec)
        try:
            return text if self.read(text, spec) == value else self.typed(value, spec)
        except Refusal:
            return self.typed(value, spec)

    def columns(self, options: Mapping[str, Any]) -> tuple[Column, ...]:  # noqa: ARG002
        """The sub-fields that options describe."""
        return ()

    def named(self, options: Mapping[str, Any]) -> Iterable[Naming]:
        """The definitions that options name."""
        for option in self.options:
            key = options.get(option.code)
            if option.noun and isinstance(key, str):
                yield Naming(option.noun, key, (option.code,), option.missing, option.chooses)

    def chooses_of(self, options: Mapping[str, Any], target: Target) -> bool:
        """Whether values are chosen of a definition, which the options name."""
        return any(naming.chooses and (naming.noun, naming.key) == target for naming in self.named(options))

    def chosen(self, options: Mapping[str, Any]) -> Target | None:
        """The definition that values are chosen of."""
        return next(((naming.noun, naming.key) for naming in self.named(options) if naming.chooses), None)

    def standing(self, choices: Any, collections: Sequence[str]) -> tuple[Value, Target] | None:  # noqa: ARG002
        """What stands where a product in some collections has no value, and the definition (noun, key) it stems from; None for
        kinds whose fields have it from nowhere but their default."""
        return None

    def targets(self, options: Mapping[str, Any]) -> tuple[Target, ...]:  # noqa: ARG002
        """What the things are of that stored values name, and whose names are put in as pages are made."""
        return ()

    def items(self, value: Value, options: Mapping[str, Any]) -> Iterable[tuple[Target, Any]]:  # noqa: ARG002
        """The things a well-formed value names, each with what it is of."""
        return ()

    def containing(self, options: Mapping[str, Any], target: Target, item: Any) -> tuple[Any, ...]:
        """What a stored value contains when it names an item of a definition: JSON patterns, one of which it contains."""
        return (item,) if self.chooses_of(options, target) else ()

    def paths(self, options: Mapping[str, Any], target: Target) -> tuple[str, ...]:
        """Where in a stored value items of a definition stand, as ends of SQL/JSON paths."""
        return ("[*]",) if self.chooses_of(options, target) else ()

    def with_items(self, value: Value, options: Mapping[str, Any], target: Target, items: Items) -> Value:
        """A stored value with other items in place of some of a definition; what is not well-formed as it is."""
        return items.get(value, value) if isinstance(value, str | int) and self.chooses_of(options, target) else value

    def files(self, value: Value, spec: Spec) -> tuple[str, ...]:  # noqa: ARG002
        """The stored files a well-formed value names."""
        return ()

    def with_files(self, value: Value, stored: Mapping[str, StoredFile], spec: Spec) -> Value:  # noqa: ARG002
        """The value as the stored files have it. Raises Refusal when one is not there."""
        return value


def object_schema(members: Mapping[str, Any]) -> dict[str, Any]:
    """JSON Schema of an object with these members and no others."""
    return {"type": "object", "properties": dict(members), "required": sorted(members), "additionalProperties": False}


_STORED = re.compile("[0-9a-f]{64}")
FILE_NAME: Mapping[str, Any] = {"type": "string", "pattern": "^[0-9a-f]{64}$"}
"""JSON Schema of a name a file is stored under."""


def names_file(value: Any) -> bool:
    """Whether any JSON value is a name a file is stored under: the SHA-256 of what is in it."""
    return isinstance(value, str) and _STORED.fullmatch(value) is not None


def told_apart(value: Any) -> Any:
    """What tells JSON values of one field apart, types included; unhashable for those nested deeper."""
    sort = value.__class__
    if sort is dict:
        return (*value, *value.values(), *map(type, value.values()))
    if sort is list or sort is tuple:
        return (*value, *map(type, value))
    return sort, value


def in_words(value: Any) -> str:
    """Any JSON value in a few words."""
    if value is None or value == "" or value == []:
        return "nothing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, list):
        return ", ".join(in_words(item) for item in value[:12]) + ("…" if len(value) > 12 else "")
    if isinstance(value, str):
        return f"“{value[:60]}{'…' if len(value) > 60 else ''}”"
    return json.dumps(value, ensure_ascii=False)[:60]
