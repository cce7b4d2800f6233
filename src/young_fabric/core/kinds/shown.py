"""What a value shows as: a small closed set of nodes that every kind makes and every template, feed and test reads.

`plain` is the node as text. As JSON a node is `[tag, member, …]`.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple, Protocol

DASH = "–"


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


class Text(NamedTuple):
    """A run of text on one line."""

    text: str

    @property
    def tag(self) -> str:
        return "text"

    @property
    def flows(self) -> bool:
        return False

    @property
    def plain(self) -> str:
        return self.text


class Paragraphs(NamedTuple):
    """Paragraphs of lines."""

    paragraphs: tuple[tuple[str, ...], ...]

    @property
    def tag(self) -> str:
        return "paragraphs"

    @property
    def flows(self) -> bool:
        return True

    @property
    def plain(self) -> str:
        return "\n\n".join("\n".join(lines) for lines in self.paragraphs)


class Pictures(NamedTuple):
    """Stored pictures in order, each {file, alt, width, height}."""

    pictures: tuple[Mapping[str, Any], ...]

    @property
    def tag(self) -> str:
        return "pictures"

    @property
    def flows(self) -> bool:
        return False

    @property
    def plain(self) -> str:
        return ", ".join(filter(None, (str(picture["alt"]) for picture in self.pictures)))


class Swatches(NamedTuple):
    """Colours (#rrggbb) with the text beside each."""

    swatches: tuple[tuple[str, str], ...]

    @property
    def tag(self) -> str:
        return "swatches"

    @property
    def flows(self) -> bool:
        return False

    @property
    def plain(self) -> str:
        return ", ".join(text for _, text in self.swatches)


class Samples(NamedTuple):
    """Values of a list in order, each with how it looks: colours (#rrggbb) side by side, the stored picture, the short label in
    a box (the first of them that is there, the picture before the colours), its label, a note, and where the label leads."""

    samples: tuple[tuple[tuple[str, ...], str, str, str, str, str], ...]

    @property
    def tag(self) -> str:
        return "samples"

    @property
    def flows(self) -> bool:
        return False

    @property
    def plain(self) -> str:
        return ", ".join(label for _, _, _, label, _, _ in self.samples)


class Links(NamedTuple):
    """Links in order: the words of each, and its address."""

    links: tuple[tuple[str, str], ...]

    @property
    def tag(self) -> str:
        return "links"

    @property
    def flows(self) -> bool:
        return False

    @property
    def plain(self) -> str:
        return ", ".join(words for words, _ in self.links)


class References(NamedTuple):
    """Things of the shop in order: the name of each, its noun or subject, its key or number, and its address, "" where it has
    no page."""

    things: tuple[tuple[str, str, str, str], ...]

    @property
    def tag(self) -> str:
        return "references"

    @property
    def flows(self) -> bool:
        return False

    @property
    def plain(self) -> str:
        return ", ".join(name for name, *_ in self.things)


class Videos(NamedTuple):
    """Videos in order: the words of each, its page, how it plays (`frame`, `file` or `page`), from which address, and
    what its button says, and of where it comes from."""

    videos: tuple[tuple[str, str, str, str, str, str], ...]

    @property
    def tag(self) -> str:
        return "videos"

    @property
    def flows(self) -> bool:
        return False

    @property
    def plain(self) -> str:
        return ", ".join(words for words, *_ in self.videos)


class Rich(NamedTuple):
    """Clean HTML of paragraphs, lists and headings, and its text."""

    html: str
    text: str

    @property
    def tag(self) -> str:
        return "rich"

    @property
    def flows(self) -> bool:
        return True

    @property
    def plain(self) -> str:
        return self.text


class Copy(NamedTuple):
    """Words under a title with an icon, "" for none: clean HTML, and its text."""

    title: str
    icon: str
    html: str
    text: str

    @property
    def tag(self) -> str:
        return "copy"

    @property
    def flows(self) -> bool:
        return True

    @property
    def plain(self) -> str:
        return self.text


class Rated(NamedTuple):
    """A rating: how much of the best it is in percent, in words, and how many rated, in words or not at all."""

    percent: int
    text: str
    raters: str

    @property
    def tag(self) -> str:
        return "rated"

    @property
    def flows(self) -> bool:
        return False

    @property
    def plain(self) -> str:
        return ", ".join(filter(None, (self.text, self.raters)))


class Downloads(NamedTuple):
    """Files in order: the words of each, its address here, and its sort and size."""

    files: tuple[tuple[str, str, str], ...]

    @property
    def tag(self) -> str:
        return "downloads"

    @property
    def flows(self) -> bool:
        return False

    @property
    def plain(self) -> str:
        return ", ".join(words for words, _, _ in self.files)


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


class Nothing(NamedTuple):
    """What stands where there is no value."""

    text: str = DASH

    @property
    def tag(self) -> str:
        return "nothing"

    @property
    def flows(self) -> bool:
        return False

    @property
    def plain(self) -> str:
        return self.text


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
    "table": Table,
    "nothing": Nothing,
}
"""Every sort of node by its tag."""
HOLDING: frozenset[type[Any]] = frozenset({Table})
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
    """Several nodes of a sort that holds several, as one."""
    return type(nodes[0])(tuple(item for node in nodes for item in node[0]))
