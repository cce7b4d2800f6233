"""What a value shows as: a small closed set of nodes that every kind makes and every template, feed and test reads.

`plain` is the node as text. As JSON a node is `[tag, member, …]`.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple, Protocol

from young_fabric.core.base import locales
from young_fabric.core.kinds.leaves import (
    DASH,
    Chooser,
    Copy,
    Downloads,
    Links,
    Nothing,
    Paragraphs,
    Pictures,
    Pinned,
    Rated,
    References,
    Related,
    Rich,
    Samples,
    Swatches,
    Text,
    Videos,
)

__all__ = [
    "DASH",
    "NODES",
    "Cards",
    "Chooser",
    "Copy",
    "Downloads",
    "Framed",
    "Items",
    "Links",
    "Nothing",
    "Paragraphs",
    "Pictures",
    "Pinned",
    "Rated",
    "References",
    "Related",
    "Rich",
    "Samples",
    "Shown",
    "Swatches",
    "Table",
    "Text",
    "Videos",
    "framed",
    "from_json",
    "gathered",
    "joined_text",
    "listed",
    "paragraphs_of",
    "to_json",
]


class Shown(Protocol):
    """Any of the nodes below."""

    @property
    def tag(self) -> str:
        """The name of its sort, which is that of its partial in the shop's templates."""

    @property
    def flows(self) -> bool:
        """Whether it is made of paragraphs of its own, rather than a run inside one."""

    @property
    def plain(self) -> str:
        """The node as text."""


class Table(NamedTuple):
    """Rows of cells under the words of their columns; each cell is a node, Nothing where there is no value."""

    head: tuple[str, ...]
    rows: tuple[tuple[Any, ...], ...]

    @property
    def tag(self) -> str:
        return "table"

    @property
    def flows(self) -> bool:
        return True

    @property
    def plain(self) -> str:
        return "\n".join(", ".join(cell.plain for cell in row if cell.tag != "nothing") for row in self.rows)

    def members(self) -> list[Any]:
        """Its members as JSON values."""
        return [list(self.head), [list(map(to_json, row)) for row in self.rows]]

    @classmethod
    def of_members(cls, head: Any, rows: Any) -> Table:
        """The inverse of `members`."""
        return cls(tuple(head), tuple(tuple(map(from_json, row)) for row in rows))


class Items(NamedTuple):
    """Nodes one under the other: plain, with marks, or numbered (list, marks, numbers)."""

    how: str
    items: tuple[Any, ...]

    @property
    def tag(self) -> str:
        return "items"

    @property
    def flows(self) -> bool:
        return True

    @property
    def plain(self) -> str:
        return "\n".join(item.plain for item in self.items)

    def members(self) -> list[Any]:
        """Its members as JSON values."""
        return [self.how, list(map(to_json, self.items))]

    @classmethod
    def of_members(cls, how: Any, items: Any) -> Items:
        """The inverse of `members`."""
        return cls(how, tuple(map(from_json, items)))


class Cards(NamedTuple):
    """Rows as cards: a grid, a carousel or an accordion; each has the node of its heading, Nothing where there is none, and
    (label, node) of its other cells."""

    how: str
    cards: tuple[tuple[Any, tuple[tuple[str, Any], ...]], ...]

    @property
    def tag(self) -> str:
        return "cards"

    @property
    def flows(self) -> bool:
        return True

    @property
    def plain(self) -> str:
        return "\n".join(
            ", ".join(node.plain for node in (head, *(cell for _, cell in cells)) if node.tag != "nothing")
            for head, cells in self.cards
        )

    def members(self) -> list[Any]:
        """Its members as JSON values."""
        cards = [[to_json(head), [[label, to_json(node)] for label, node in cells]] for head, cells in self.cards]
        return [self.how, cards]

    @classmethod
    def of_members(cls, how: Any, cards: Any) -> Cards:
        """The inverse of `members`."""
        read = tuple(
            (from_json(head), tuple((label, from_json(node)) for label, node in cells)) for head, cells in cards
        )
        return cls(how, read)


class Framed(NamedTuple):
    """A node with words before and after it."""

    before: str
    node: Any
    after: str

    @property
    def tag(self) -> str:
        return "framed"

    @property
    def flows(self) -> bool:
        return bool(self.node.flows)

    @property
    def plain(self) -> str:
        return " ".join(filter(None, (self.before, self.node.plain, self.after)))

    def members(self) -> list[Any]:
        """Its members as JSON values."""
        return [self.before, to_json(self.node), self.after]

    @classmethod
    def of_members(cls, before: Any, node: Any, after: Any) -> Framed:
        """The inverse of `members`."""
        return cls(before, from_json(node), after)


NODES: dict[str, type[Any]] = {
    "text": Text,
    "paragraphs": Paragraphs,
    "pictures": Pictures,
    "swatches": Swatches,
    "samples": Samples,
    "links": Links,
    "references": References,
    "videos": Videos,
    "rated": Rated,
    "rich": Rich,
    "copy": Copy,
    "downloads": Downloads,
    "pinned": Pinned,
    "related": Related,
    "chooser": Chooser,
    "table": Table,
    "items": Items,
    "cards": Cards,
    "framed": Framed,
    "nothing": Nothing,
}
"""Every sort of node by its tag."""
HOLDING: frozenset[type[Any]] = frozenset({Table, Items, Cards, Framed})
"""Those that hold other nodes, and say themselves how they are written as JSON."""


def to_json(node: Any) -> list[Any]:
    """A node as JSON values."""
    return [node.tag, *(node.members() if node.__class__ in HOLDING else node)]


def from_json(data: list[Any]) -> Any:
    """The inverse of `to_json`."""
    sort = NODES[data[0]]
    return sort.of_members(*data[1:]) if sort in HOLDING else sort(*map(_tuples, data[1:]))


def _tuples(value: Any) -> Any:
    return tuple(_tuples(item) for item in value) if isinstance(value, list) else value


def paragraphs_of(text: str) -> Paragraphs:
    """Text split at empty lines into paragraphs, and those into lines."""
    if "\n" not in text:
        return Paragraphs(((text,),))
    return Paragraphs(tuple(tuple(part.split("\n")) for part in text.split("\n\n")))


def joined_text(nodes: list[Any], joiner: str = ", ") -> Text:
    """Several nodes as one line."""
    return Text(joiner.join(filter(None, (node.plain for node in nodes))))


def gathered(nodes: list[Any]) -> Any:
    """Several nodes of a sort that holds several, as one that shows as the first does."""
    first = nodes[0]
    return type(first)(tuple(item for node in nodes for item in node[0]), *first[1:])


def listed(texts: list[str], properties: Mapping[str, Any], locale: str) -> Any:
    """Several texts by display properties: joined on one line, or one under the other."""
    how = properties.get("several_as") or "line"
    if how != "line" and len(texts) > 1:
        return Items(how, tuple(map(Text, texts)))
    joiner = properties.get("joiner") or ", "
    return Text(locales.join_words(texts, locale) if joiner == "and" else joiner.join(texts))


def framed(node: Any, before: str, after: str) -> Any:
    """A node with words before and after it, where there are any."""
    if not (before or after):
        return node
    return (
        Text(" ".join(filter(None, (before, node.text, after))))
        if node.__class__ is Text
        else Framed(before, node, after)
    )
