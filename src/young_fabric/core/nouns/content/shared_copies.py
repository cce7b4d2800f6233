"""Shared copy: titled words written once and shown on many products, which collections and products can replace with their own."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.display.icons import ICONS
from young_fabric.core.kinds.base import Spec, in_words
from young_fabric.core.kinds.rich_text import RichText, plain
from young_fabric.core.nouns.base import AsValue, Bearing, Calling, Known, Noun, Reference, Referring, State, Telling

COPIES = "shared_copy"
_WORDS = RichText()


@dataclass(frozen=True)
class SharedCopy:
    """`title` and `icon` ("" for none) stand above `words`, clean HTML; `own` are the words of collections in their place."""

    __pydantic_config__ = STRICT
    key: str
    name: str
    title: str = ""
    icon: str = ""
    words: str = ""
    own: Mapping[str, str] = field(default_factory=dict)

    @property
    def by_code(self) -> Mapping[str, Any]:
        """Nothing is chosen of its words."""
        return {}

    @property
    def more(self) -> bool:
        """Whether any value shows more than its label: there are none."""
        return False

    def find(self, text: str) -> str | None:  # noqa: ARG002
        """Nothing is found by typed text."""
        return None

    def label(self, code: str) -> str:
        """A code as it is."""
        return code

    def offered(self) -> tuple[str, ...]:
        """Nothing is offered."""
        return ()

    @property
    def looks(self) -> Any:
        """All that decides how words show, the words aside."""
        return [self.title, self.icon]

    def words_for(self, collections: Sequence[str]) -> tuple[str, tuple[str, str]] | None:
        """What stands on products in some collections: the words of the first that has its own, else the shared ones; and the
        definition they are of. None when there are none."""
        for key in collections:
            if key in self.own:
                return self.own[key], ("collection", key)
        return (self.words, (COPIES, self.key)) if self.words else None


def check_copy(copy: SharedCopy, defs: Known) -> None:
    """Raises Refusal: `required`, `long`, `icon`, `shape`, `unknown_collection`."""
    if not copy.name.strip():
        raise Refusal("required", "A shared copy needs a name", ("name",), "Type a name, such as Care of brushes")
    for member in ("name", "title"):
        if len(getattr(copy, member)) > 80:
            raise Refusal("long", "At most 80 characters fit", (member,), "Shorten it")
    if copy.icon and copy.icon not in ICONS:
        raise Refusal("icon", "There is no such icon", ("icon",), "Choose one of those offered, or none")
    _check_words(copy.words, ("words",))
    for key, words in copy.own.items():
        if key not in defs.things["collection"]:
            raise Refusal("unknown_collection", f"There is no collection {key[:60]}", ("own", key), "Take it off")
        _check_words(words, ("own", key))
        if not words:
            raise Refusal("required", "Own words can't be empty", ("own", key), "Untick them, or write some")


def _check_words(words: str, where: tuple[str, ...]) -> None:
    if not words:
        return
    wrong = _WORDS.judge(Spec())(words)
    if wrong is not None:
        raise wrong.at(*where)


def read_words(copy: SharedCopy) -> SharedCopy:
    """A copy with what was typed as its words cleaned. Raises Refusal."""
    own = {key: _WORDS.read(words, Spec()) or "" for key, words in copy.own.items()}
    return replace(copy, words=_WORDS.read(copy.words, Spec()) or "" if copy.words else "", own=own)


def _refers(copy: SharedCopy) -> Iterable[Reference]:
    return (Reference("collection", key, "own", loose=True, dispensable=True) for key in copy.own)


def _without(copy: SharedCopy, reference: Reference) -> SharedCopy:
    return replace(copy, own={key: words for key, words in copy.own.items() if key != reference.key})


def _describe(before: State, after: State, defs: Known) -> list[str]:
    out = []
    if before["words"] != after["words"]:
        out.append(f"words {in_words(plain(before['words']))} → {in_words(plain(after['words']))}")
    named = defs.things["collection"]
    for key in sorted({*before["own"], *after["own"]}):
        old, new = before["own"].get(key), after["own"].get(key)
        if old != new:
            who = named[key].name if key in named else key
            told = (
                "follows the shared words" if new is None else "has its own words" if old is None else "words changed"
            )
            out.append(f"{who}: {told}")
    for member in ("title", "icon", "name"):
        if before[member] != after[member]:
            out.append(f"{member} {in_words(before[member])} → {in_words(after[member])}")
    return out or ["no difference"]


NOUN = Noun(
    code=COPIES,
    plural="shared_copies",
    name="shared copy",
    group="What it is",
    type=SharedCopy,
    check=check_copy,
    blank=lambda key, name, _defs: SharedCopy(key, name, name),
    telling=Telling(describe=_describe),
    referring=Referring(refers=_refers, without=_without),
    chosen=AsValue(choices=lambda key, defs: defs.things[COPIES].get(key)),
    calling=Calling(note=lambda thing, _defs: plain(thing.words)[:80]),
    bearing=Bearing(unplanned=frozenset({"name"})),
)
