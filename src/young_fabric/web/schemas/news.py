"""News as the API takes and sends them."""

from __future__ import annotations

from pydantic import Field as Member

from young_fabric.web.auth import LONGEST_WINDOW
from young_fabric.web.schemas.common import In, Out


class NewsIn(In):
    """A window of the studio, what is open in it (empty for nothing), and the mark it last got (null when it begins)."""

    window: str = Member(min_length=8, max_length=LONGEST_WINDOW, pattern="^[0-9a-f-]+$")
    noun: str = Member("", max_length=40)
    key: str = Member("", max_length=200)
    since: int | None = Member(None, ge=0, lt=2**63)


class NewsThingOut(Out):
    """A thing that was written, with its version after it."""

    noun: str
    key: str
    version: int


class NewsItemOut(Out):
    """A write: who made it, whether that is who asks, the nouns, and the things, null where they are many."""

    id: int
    by: str
    mine: bool
    nouns: list[str]
    things: list[NewsThingOut] | None


class NewsOut(Out):
    """What is new: the mark to send the next time, the writes, and others who have the same thing open. Where some were `missed`,
    anything may be another. A write can be told more than once: it has the same id."""

    mark: int
    missed: bool
    items: list[NewsItemOut]
    people: list[str]
