"""The kinds of long work: a registry. Each says who may ask for it, what it excludes, and how it is done."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from contextlib import AbstractContextManager
from dataclasses import dataclass
from typing import Any, Protocol

from young_fabric.core.base.wording.counting import counted
from young_fabric.core.definitions.reach import Reach
from young_fabric.service import history
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import field_merging, value_merging
from young_fabric.service.releasing import release
from young_fabric.service.values import converting, judging, memberships, variants
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

    def in_batches(self, total: int, step: Callable[[Work, int], tuple[int, int]]) -> int:
        """Do it batch by batch, from where an earlier run of it ended: (work, where the last ended) → (where this ended, how many)."""

    def conclude(self, work: Work, result: Mapping[str, Any]) -> None:
        """Say that it is done with the transaction that does it."""


@dataclass(frozen=True)
class JobKind:
    """A kind of job: `right` to ask for and stop it, `exclusive` what no other open job may have.

    `run` does it and gives its result; `settle` clears up after it, and is not needed for the result to stand; `found`
    gives the result of one whose worker was lost, when the work was done all the same. One that `resumes` goes on where it
    ended, one after the other of its kind; others are told `lost` when their worker was. `stops` says whether it can be stopped
    while it runs. `counted` is what its progress counts, one and several; one that people ask for by itself reads what they give of it (`asked`, which
    raises Refusal), the others follow from something else; `outcome` says in words what it gave, `broken` what to
    do when something broke.
    """

    code: str
    name: str
    right: Right
    run: Callable[[JobRun, Mapping[str, Any]], dict[str, Any]]
    exclusive: str | None = None
    busy: str = ""
    settle: Callable[[Work], None] = lambda _work: None
    found: Callable[[Work, int], dict[str, Any] | None] = lambda _work, _job_id: None
    resumes: bool = False
    stops: bool = True
    lost: str = "The worker was lost before it was done"
    broken: str = "Try again; nothing changed"
    stopped: str = "It was stopped"
    counted: tuple[str, str] = ("product", "products")
    asked: Callable[[Work, Mapping[str, Any]], dict[str, Any]] | None = None
    outcome: Callable[[Mapping[str, Any]], str] = lambda _result: "Done"


def _asked_release(work: Work, given: Mapping[str, Any]) -> dict[str, Any]:
    """Raises Refusal `long`, `nothing`."""
    note = str(given.get("note", "")).strip()
    release.check(work, note)
    return {"note": note}


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


def _release_outcome(result: Mapping[str, Any]) -> str:
    held = len(result.get("held_back") or ())
    more = f", {held} held back until mended" if held else ""
    return f"Release {result.get('number')} is live, {result.get('things')} things put live{more}"


def _judge(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    reach, keys = Reach(frozenset(args["types"]), frozenset(args.get("collections", ()))), args.get("fields")
    with run.unit() as work:
        counts = fills.counts_by_group(work.session)
    total = sum(count for group, count in counts.items() if reach.takes_in(*group))
    return {"judged": run.in_batches(total, lambda work, last: judging.judge_batch(work, reach, keys, last))}


def _convert(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    with run.unit() as work:
        total = converting.total(work, args)
    return {"converted": run.in_batches(total, lambda work, last: converting.convert_batch(work, args, last))}


def _merge(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    """Products batch by batch, then the list and what else asks for the value, in a transaction of their own."""
    codes, group = args.get("codes") or [args["code"]], args["group"]
    merges = [value_merging.ValueMerge(args["list"], code, args["into"]) for code in codes]
    with run.unit() as work:
        total = sum(value_merging.reach(work, *merges).held.values())

    def step(work: Work, last: int) -> tuple[int, int]:
        return last + 1, next(filter(None, (value_merging.merge_batch(work, merge, group) for merge in merges)), 0)

    done = run.in_batches(total, step)
    with run.unit() as work:
        for merge in merges:
            value_merging.finish(work, merge, group)
        run.conclude(work, {"merged": done})
    return {"merged": done}


def _merge_fields(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    """In one transaction: places, values and the field itself go together, or nothing does."""
    merge = field_merging.FieldMerge(args["field"], args["into"])
    with run.unit() as work:
        moves = field_merging.reach(work, merge).moves
        field_merging.finish(work, merge, args["group"])
        run.conclude(work, {"moved": moves})
    return {"moved": moves}


def _undo(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    """In one transaction, so that all of it is taken back or none."""
    with run.unit() as work:
        taken_back = history.undo_at_once(work, args["change"])
        run.conclude(work, {"name": taken_back.name})
    return {"name": taken_back.name}


def _gather(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    moved = 0

    def step(work: Work, last: int) -> tuple[int, int]:
        nonlocal moved
        last, count, differed = memberships.gather_batch(work, args, last)
        moved += differed
        if not count:
            memberships.take_statistics(work, moved)
        return last, count

    with run.unit() as work:
        total = memberships.total(work, args)
    return {"looked_at": run.in_batches(total, step), "moved": moved}


def _match_variants(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    written = 0

    def step(work: Work, last: int) -> tuple[int, int]:
        nonlocal written
        last, count, changed = variants.match_batch(work, args, last)
        written += changed
        return last, count

    with run.unit() as work:
        total = variants.total(work, args)
    return {"products": run.in_batches(total, step), "variants": written}


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
            settle=release.settle,
            found=_made_release,
            lost="The worker was lost before the release was done; nothing changed in the shop",
            stopped="The release was stopped; nothing changed in the shop",
            counted=("step", "steps"),
            asked=_asked_release,
            outcome=_release_outcome,
        ),
        JobKind(
            judging.JUDGE,
            "Judging values",
            Right.EDIT,
            _judge,
            resumes=True,
            stops=False,
            lost="The worker was lost before all values were judged",
            broken="The command young-fabric recount judges all values anew",
            outcome=lambda result: f"{counted(result.get('judged', 0), 'product')} judged",
        ),
        JobKind(
            judging.CONVERT,
            "Converting values",
            Right.EDIT,
            _convert,
            resumes=True,
            stops=False,
            lost="The worker was lost before all values were converted: change the field back and forth to begin anew",
            broken="Change the field back and forth to begin anew",
            outcome=lambda result: f"{counted(result.get('converted', 0), 'product')} converted",
        ),
        JobKind(
            value_merging.MERGE,
            "Merging values",
            Right.EDIT,
            _merge,
            resumes=True,
            broken="Merge the two once more, or undo",
            lost="The worker was lost before all products were changed: merge the two once more, or undo",
            stopped="Merging was stopped: some products have the other value already; merge once more, or undo",
            outcome=lambda result: f"{counted(result.get('merged', 0), 'product')} changed, the value is merged",
        ),
        JobKind(
            field_merging.MERGE,
            "Merging fields",
            Right.EDIT,
            _merge_fields,
            stops=False,
            lost="The worker was lost before it was done; nothing was changed",
            stopped="It was stopped before it began; nothing was changed",
            outcome=lambda result: f"{result.get('moved', 0):,} values moved, the fields are merged",
        ),
        JobKind(
            history.UNDO,
            "Undoing",
            Right.EDIT,
            _undo,
            stops=False,
            lost="The worker was lost before it was done; nothing was taken back",
            stopped="It was stopped before it began; nothing was taken back",
            counted=("change", "changes"),
            outcome=lambda result: f"{result.get('name', '')} is as it was",
        ),
        JobKind(
            memberships.GATHER,
            "Gathering collections",
            Right.EDIT,
            _gather,
            resumes=True,
            broken="Begin it again at the collection",
            lost="The worker was lost before all products were gathered",
            stopped="Gathering was stopped: begin it again at the collection, nothing is released before",
            outcome=lambda result: (
                f"{counted(result.get('looked_at', 0), 'product')} looked at, {result.get('moved', 0):,} moved"
            ),
        ),
        JobKind(
            variants.MATCH,
            "Matching variants",
            Right.EDIT,
            _match_variants,
            resumes=True,
            broken="Begin it again in the option set's view",
            lost="The worker was lost before all variants were matched: begin it again",
            stopped="Matching was stopped: begin it again; products whose variants are not in step stay as they are live",
            outcome=lambda result: (
                f"{counted(result.get('variants', 0), 'variant')} of {counted(result.get('products', 0), 'product')} written"
            ),
        ),
    )
}
"""Every kind of job by its code."""
RELEASE = JOB_KINDS["release"]
