"""Changes, checks, releases and jobs, as the API sends them."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from pydantic import Field as Member

from young_fabric.web.schemas.common import Id, In, Key, Out


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

    noun: Key | None = None
    key: Key | None = None
    before: Id | None = None


class UndoneOut(Out):
    """What was taken back."""

    name: str
    noun: str
    key: str
    lines: list[str]
    job: int | None = None
    count: int


class PendingOne(Out):
    """One thing that would change."""

    group: str
    noun: str
    key: str
    name: str
    lines: list[str]
    surfaces: dict[str, int]
    exact: bool
    example: int | None
    held_back: str | None


class PendingOut(Out):
    """All that would change."""

    count: int
    surfaces: dict[str, int]
    exact: bool
    things: list[PendingOne]


class JobOut(Out):
    """A job: waiting, running, done, stopped or failed; `done` of `total` (one and several of them are `counted`) are seen to.

    `result` holds what its kind gives, or code, message and help of what went wrong; `outcome` tells it in words.
    """

    id: int
    kind: str
    name: str
    asked: datetime
    state: Literal["waiting", "running", "done", "stopped", "failed"]
    person: str
    done: int
    total: int
    result: dict[str, Any]
    counted: list[str]
    outcome: str
    may_stop: bool


class JobsOut(Out):
    """Jobs, last asked first."""

    jobs: list[JobOut]


class CountOut(Out):
    """Counts for the top bar, and the release asked for last."""

    unreleased: int
    gaps: int
    judging: bool
    release: int
    job: JobOut | None


class DifferingQuery(In):
    """A changed thing."""

    noun: Key
    key: Key


class DifferingOne(Out):
    """A product whose page or card would look different."""

    id: int
    title: str
    type: str
    surfaces: list[str]


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


class JobIn(In):
    """A kind of long work, and what it is to be done with, as its kind has it."""

    kind: str = Member(max_length=60)
    args: dict[str, Any] = Member(default={})


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
    counts: dict[str, int]
    held_back: list[list[Any]]
    back_to: int | None


class BetweenQuery(In):
    """Two releases: what was live with one against what was with the other; 0 is before the first."""

    before: int = Member(ge=0, le=2_000_000_000)
    after: int = Member(ge=0, le=2_000_000_000)


class ThingBetween(Out):
    """A thing that was otherwise."""

    group: str
    noun: str
    key: str
    name: str
    lines: list[str]


class BetweenOut(Out):
    """What two releases differ in: how many things, the first of them in words, documents by surface, and products that differ."""

    before: int
    after: int
    count: int
    things: list[ThingBetween]
    surfaces: dict[str, int]
    differing: DifferingOut


class ReleasesQuery(In):
    """Before which release."""

    before: Id | None = None


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
