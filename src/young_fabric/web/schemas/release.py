"""Changes, checks, releases and jobs, as the API sends them."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import Field as Member

from young_fabric.web.schemas.common import In, Out

Noun = Literal["field", "list", "set", "type", "setting", "product"]
"""What a release can change."""


class ChangeOut(Out):
    """One change as the history tells it."""

    id: int
    at: datetime
    person: str
    noun: str
    key: str
    name: str
    lines: list[str]
    undone: bool
    is_undo: bool


class ChangesOut(Out):
    """Changes, last first."""

    changes: list[ChangeOut]


class ChangesQuery(In):
    """Of which thing, and before which change."""

    noun: str | None = None
    key: str | None = None
    before: int | None = None


class UndoneOut(Out):
    """What was taken back."""

    name: str
    noun: str
    key: str
    lines: list[str]


class PendingOne(Out):
    """One thing that would change."""

    group: str
    noun: Noun
    key: str
    name: str
    lines: list[str]
    pages: int
    cards: int
    example: int | None


class PendingOut(Out):
    """All that would change."""

    count: int
    pages: int
    cards: int
    things: list[PendingOne]


class JobOut(Out):
    """A job: waiting, running, done, stopped or failed; `done` of `total` products are looked at.

    `result` holds number, things, pages and cards of a release made, or code, message and help of what went wrong.
    """

    id: int
    kind: str
    state: Literal["waiting", "running", "done", "stopped", "failed"]
    person: str
    done: int
    total: int
    result: dict[str, str | int]


class CountOut(Out):
    """Counts for the top bar, and the release asked for last."""

    unreleased: int
    gaps: int
    release: int
    job: JobOut | None


class DifferingQuery(In):
    """A changed thing."""

    noun: Noun
    key: str = Member(max_length=200)


class DifferingOne(Out):
    """A product whose page or card would look different."""

    id: int
    title: str
    type: str
    page: bool
    card: bool


class DifferingOut(Out):
    """The first of them; `whole` when there are no more."""

    rows: list[DifferingOne]
    whole: bool


class CheckOut(Out):
    """A finding."""

    code: str
    level: str
    text: str
    count: int
    link: list[str] | None


class ChecksOut(Out):
    """All findings."""

    checks: list[CheckOut]


class ReleaseIn(In):
    """A note on what it is about."""

    note: str = Member(default="", max_length=400)


class ReleaseOut(Out):
    """One release."""

    number: int
    at: datetime
    person: str
    note: str
    things: int
    pages: int
    cards: int
    back_to: int | None


class ReleasesQuery(In):
    """Before which release."""

    before: int | None = None


class ReleasesOut(Out):
    """Releases, last first."""

    releases: list[ReleaseOut]
    current: int


class FindQuery(In):
    """A few letters."""

    q: str = Member(default="", max_length=100)


class HitOut(Out):
    """A thing found."""

    noun: str
    key: str
    name: str
    note: str


class FoundOut(Out):
    """Things found."""

    hits: list[HitOut]
