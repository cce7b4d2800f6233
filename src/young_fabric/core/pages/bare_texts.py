"""Texts that show as they are, many in one block: their entries are made together, by what Python does without asking each."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from itertools import compress, repeat
from typing import Any, NamedTuple

from young_fabric.core.kinds.shown import Text
from young_fabric.core.pages.document import Entry

FEWEST = 12
"""Fewer in a block are made one by one."""
_TEXTS = frozenset({str, type(None)})
_new = tuple.__new__


class Bare(NamedTuple):
    """A field whose good values are texts of one line that show as they are, within two lengths: its label, and where that
    stands, and on which devices."""

    label: str
    label_at: str
    devices: tuple[str, ...]
    least: int
    most: int


class BareTexts(NamedTuple):
    """The bare fields of a block, by what is put into their entries, with the lengths within which all of them are good."""

    fields: tuple[str, ...]
    labels: tuple[str, ...]
    labels_at: tuple[str, ...]
    devices: tuple[tuple[str, ...], ...]
    least: int
    most: int

    def entries(self, value_of: Callable[[str], Any]) -> list[Entry] | None:
        """The entries of those that have a value, in order; None when they must be looked at one by one: one is no text, is too
        short or too long, or has several lines."""
        values = list(map(value_of, self.fields))
        if not _TEXTS.issuperset(map(type, values)):
            return None
        texts: list[str] = list(filter(None, values))
        if len(texts) + values.count(None) != len(values):
            return None
        if texts and (max(map(len, texts)) > self.most or "\n" in "".join(texts)):
            return None
        # An empty text was none to begin with.
        if self.least > 1 and texts and min(map(len, texts)) < self.least:
            return None
        members = zip(
            compress(self.fields, values),
            compress(self.labels, values),
            compress(self.labels_at, values),
            map(_new, repeat(Text), zip(texts, strict=True)),
            texts,
            compress(self.devices, values),
            strict=True,
        )
        return list(map(_new, repeat(Entry), members))


def bare_texts(fields: Sequence[tuple[str, Bare | None]]) -> BareTexts | None:
    """The bare ones among some fields, None when they are too few for it to pay."""
    found: Mapping[str, Bare] = {key: bare for key, bare in fields if bare is not None}
    if len(found) < FEWEST:
        return None
    each = found.values()
    return BareTexts(
        tuple(found),
        tuple(bare.label for bare in each),
        tuple(bare.label_at for bare in each),
        tuple(bare.devices for bare in each),
        max(bare.least for bare in each),
        min(bare.most for bare in each),
    )
