"""What a value shows as when it is made of nothing smaller: nodes that hold no others."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple

DASH = "–"


class Text(NamedTuple):
    """A run of text on one line."""

    text: str

    @property
    def bare(self) -> bool:
        """Whether it shows as its text and nothing more."""
        return True

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
    """Stored pictures in order, each {file, alt, width, height}; shown as a strip, a grid or one, cut to a shape or not."""

    pictures: tuple[Mapping[str, Any], ...]
    how: str = "strip"
    crop: str = ""

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
    """Colours (#rrggbb) with the text beside each: both, the swatch alone, or the name alone."""

    swatches: tuple[tuple[str, str], ...]
    how: str = "both"

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
    a box (the first of them that is there, the picture before the colours), its label, a note, and where the label leads; both,
    the swatch alone, or the name alone."""

    samples: tuple[tuple[tuple[str, ...], str, str, str, str, str], ...]
    how: str = "both"

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
    """A rating: how much of the best it is in percent, in words, and how many rated, in words or not at all; as stars or a number."""

    percent: int
    text: str
    raters: str
    how: str = "stars"

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


class Pinned(NamedTuple):
    """A stored picture {file, alt, width, height} with pins in order: where each stands, in thousandths of its width and height,
    its lines of words, and the address it leads to, "" for none."""

    picture: Mapping[str, Any]
    pins: tuple[tuple[int, int, tuple[str, ...], str], ...]

    @property
    def tag(self) -> str:
        return "pinned"

    @property
    def flows(self) -> bool:
        return True

    @property
    def plain(self) -> str:
        return "\n".join(" ".join(lines) for _, _, lines, _ in self.pins)


class Related(NamedTuple):
    """Other products by where their cards stand: in one of each of some listings; `fields` are those it was asked by, `most`
    how many show."""

    listings: tuple[tuple[str, ...], ...]
    fields: tuple[str, ...]
    most: int

    @property
    def tag(self) -> str:
        return "related"

    @property
    def flows(self) -> bool:
        return True

    @property
    def plain(self) -> str:
        return ""


class Nothing(NamedTuple):
    """What stands where there is no value."""

    text: str = DASH

    @property
    def bare(self) -> bool:
        """Whether it shows as its text and nothing more."""
        return True

    @property
    def tag(self) -> str:
        return "nothing"

    @property
    def flows(self) -> bool:
        return False

    @property
    def plain(self) -> str:
        return self.text


class OptionShown(NamedTuple):
    """How an option stands: its key, how it is chosen, size, shape and name of its swatches, the words of its empty choice, and how many
    swatches there are at most."""

    key: str
    chosen_by: str
    size: str
    shape: str
    label: str
    empty: str
    most: int


class Chooser(NamedTuple):
    """The options of a product in order, each as `OptionShown`; `mark` tells apart all that is offered of them. What can be
    chosen, and what is left, is looked up when the page is asked for."""

    options: tuple[OptionShown, ...]
    mark: str

    @property
    def tag(self) -> str:
        return "chooser"

    @property
    def flows(self) -> bool:
        return True

    @property
    def plain(self) -> str:
        return ""

    @property
    def shown(self) -> tuple[OptionShown, ...]:
        """The options, read back from JSON or not."""
        return tuple(OptionShown(*option) for option in self.options)
