"""Keys of other systems, and what they ask the feed for."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field as Member

from young_fabric.web.schemas.common import In, Out


class KeyNew(In):
    """Which system a key is for."""

    name: str = Member(max_length=200)


class KeyMade(Out):
    """A key just made: it is shown once."""

    id: int
    key: str


class KeyOut(Out):
    """A key: its last signs, who made it, and when it was used last and ended."""

    id: int
    name: str
    tail: str
    person: str
    made: datetime
    used: datetime | None
    ended: datetime | None


class KeysOut(Out):
    """Every key, and where the feed is read."""

    keys: list[KeyOut]
    address: str


class FeedQuery(In):
    """A page of the feed: where it begins, only what changed since a release, how many products, and in which format."""

    cursor: str | None = Member(default=None, max_length=40)
    since: Annotated[int, Member(ge=0, lt=2**31)] | None = None
    limit: Annotated[int, Member(ge=1, le=1000)] = 500
    format: Literal["jsonl", "csv"] = "jsonl"
