"""The kinds of long work: a registry. Each says who may ask for it, what it excludes, and how it is done."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from contextlib import AbstractContextManager
from dataclasses import dataclass
from typing import Any, Protocol

from young_fabric.service import judging, release
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos import fills, releases


class JobRun(Protocol):
    """What a running job is given."""

    @property
    def id(self) -> int:
        """The job's id."""

    def unit(self, *, as_of_begin: bool = False) -> AbstractContextManager[Work]:
        """A unit of work for whom asked; `as_of_begin` sees one state of the database throughout."""

    def progress(self, done: int, total: int) -> None:
        """Tell how far it is; raises when someone asked it to stop."""


@dataclass(frozen=True)
class JobKind:
    """A kind of job: `right` to ask for and stop it, `exclusive` what no other open job may have.

    `run` does it and gives its result; `settle` clears up after it, and is not needed for the result to stand; `found`
    gives the result of one whose worker was lost, when the work was done all the same. `lost` and `unreached` are said
    when it was not.
    """

    code: str
    name: str
    right: Right
    run: Callable[[JobRun, Mapping[str, Any]], dict[str, Any]]
    exclusive: str | None = None
    busy: str = ""
    settle: Callable[[Work], None] = lambda _work: None
    found: Callable[[Work, int], dict[str, Any] | None] = lambda _work, _job_id: None
    lost: str = "The worker was lost before it was done"
    unreached: str = "It could not be handed to the worker"


def _release(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    with run.unit(as_of_begin=True) as work:
        number = release.make(work, str(args.get("note", "")), run.progress, run.id)
    with run.unit() as work:
        return _release_result(release.need_release(work, number))


def _release_result(row: Any) -> dict[str, Any]:
    return {"number": row.number, "things": row.things, "counts": row.counts, "held_back": row.held_back}


def _made_release(work: Work, job_id: int) -> dict[str, Any] | None:
    row = releases.of_job(work.session, job_id)
    return _release_result(row) if row is not None else None


def _judge(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    """Batch by batch, each in a transaction of its own, so that people go on writing values meanwhile."""
    types, keys = list(args["types"]), args.get("fields")
    with run.unit() as work:
        counts = fills.counts_by_type(work.session)
    total, done, last = sum(counts.get(key, 0) for key in types), 0, 0
    while True:
        run.progress(done, total)
        with run.unit() as work:
            last, count = judging.judge_batch(work, types, keys, last)
        if not count:
            return {"judged": done}
        done += count


JOB_KINDS: dict[str, JobKind] = {
    kind.code: kind
    for kind in (
        JobKind(
            "release",
            "Release",
            Right.RELEASE,
            _release,
            exclusive="release",
            busy="A release is being made already",
            settle=release.drop_released_notes,
            found=_made_release,
            lost="The worker was lost before the release was done; nothing changed in the shop",
            unreached="The release could not be handed to the worker; nothing changed in the shop",
        ),
        JobKind(
            judging.JUDGE,
            "Judging values",
            Right.EDIT,
            _judge,
            lost="The worker was lost before all values were judged",
            unreached="Judging could not be handed to the worker",
        ),
    )
}
"""Every kind of job by its code."""
RELEASE = JOB_KINDS["release"]
