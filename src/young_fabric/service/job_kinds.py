"""The kinds of long work: a registry. Each says who may ask for it, what it excludes, and how it is done."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from contextlib import AbstractContextManager
from dataclasses import dataclass
from typing import Any, Protocol

from young_fabric.core.nouns.reach import Reach
from young_fabric.service import changes, converting, field_merging, judging, memberships, merging, release, variants
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
    when it was not. `counted` is what its progress counts, one and several; `outcome` says in words what it gave.
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
    stopped: str = "It was stopped; what it did is taken back"
    counted: tuple[str, str] = ("product", "products")
    outcome: Callable[[Mapping[str, Any]], str] = lambda _result: "Done"


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
    """Batch by batch, each in a transaction of its own, so that people go on writing values meanwhile."""
    reach, keys = Reach(frozenset(args["types"]), frozenset(args.get("collections", ()))), args.get("fields")
    with run.unit() as work:
        counts = fills.counts_by_group(work.session)
    total, done, last = sum(count for group, count in counts.items() if reach.takes_in(*group)), 0, 0
    while True:
        run.progress(done, total)
        with run.unit() as work:
            last, count = judging.judge_batch(work, reach, keys, last)
        if not count:
            return {"judged": done}
        done += count


def _convert(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    """Batch by batch, each in a transaction of its own, so that people go on writing values meanwhile."""
    with run.unit() as work:
        total = converting.total(work, args)
    done, last = 0, 0
    while True:
        run.progress(done, max(total, done))
        with run.unit() as work:
            last, count = converting.convert_batch(work, args, last)
        if not count:
            return {"converted": done}
        done += count


def _merge(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    """Products batch by batch, then the list and what else asks for the value, in a transaction of their own."""
    merge, group = merging.Merge(args["list"], args["code"], args["into"]), args["group"]
    with run.unit() as work:
        total = merging.reach(work, merge).products
    done, last = 0, 0
    while True:
        run.progress(done, max(total, done))
        with run.unit() as work:
            last, count = merging.merge_batch(work, merge, group, last)
        if not count:
            break
        done += count
    with run.unit() as work:
        merging.finish(work, merge, group)
    return {"merged": done}


def _merge_fields(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    """In one transaction: places, values and the field itself go together, or nothing does."""
    merge = field_merging.FieldMerge(args["field"], args["into"])
    with run.unit() as work:
        moves = field_merging.reach(work, merge).moves
        field_merging.finish(work, merge, args["group"])
    return {"moved": moves}


def _undo(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    """In one transaction, so that all of it is taken back or none."""
    with run.unit() as work:
        taken_back = changes.undo_at_once(work, args["change"])
    return {"name": taken_back.name}


def _gather(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    """Batch by batch, each in a transaction of its own, so that people go on writing values meanwhile."""
    with run.unit() as work:
        total = memberships.total(work, args)
    done, moved, last = 0, 0, 0
    while True:
        run.progress(done, max(total, done))
        with run.unit() as work:
            last, count, differed = memberships.gather_batch(work, args, last)
        if not count:
            with run.unit() as work:
                memberships.take_statistics(work, moved)
            return {"looked_at": done, "moved": moved}
        done, moved = done + count, moved + differed


def _match_variants(run: JobRun, args: Mapping[str, Any]) -> dict[str, Any]:
    """Batch by batch, each in a transaction of its own."""
    with run.unit() as work:
        total = variants.total(work, args)
    done, written, last = 0, 0, 0
    while True:
        run.progress(done, max(total, done))
        with run.unit() as work:
            last, count, changed = variants.match_batch(work, args, last)
        if not count:
            return {"products": done, "variants": written}
        done, written = done + count, written + changed


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
            stopped="The release was stopped; nothing changed in the shop",
            counted=("step", "steps"),
            outcome=_release_outcome,
        ),
        JobKind(
            judging.JUDGE,
            "Judging values",
            Right.EDIT,
            _judge,
            lost="The worker was lost before all values were judged",
            unreached="Judging could not be handed to the worker",
            stopped="Judging was stopped: counts of wrong values may be behind until they are judged again",
            outcome=lambda result: f"{result.get('judged', 0):,} products judged",
        ),
        JobKind(
            judging.CONVERT,
            "Converting values",
            Right.EDIT,
            _convert,
            lost="The worker was lost before all values were converted: change the field back and forth to begin anew",
            unreached="Converting could not be handed to the worker",
            stopped="Converting was stopped: values not converted yet are marked wrong until the field is changed back",
            outcome=lambda result: f"{result.get('converted', 0):,} products converted",
        ),
        JobKind(
            merging.MERGE,
            "Merging values",
            Right.EDIT,
            _merge,
            lost="The worker was lost before all products were changed: merge the two once more, or undo",
            unreached="Merging could not be handed to the worker; nothing was changed",
            stopped="Merging was stopped: some products have the other value already; merge once more, or undo",
            outcome=lambda result: f"{result.get('merged', 0):,} products changed, the value is merged",
        ),
        JobKind(
            field_merging.MERGE,
            "Merging fields",
            Right.EDIT,
            _merge_fields,
            lost="The worker was lost before it was done; nothing was changed",
            unreached="Merging could not be handed to the worker; nothing was changed",
            stopped="Merging was stopped; nothing was changed",
            outcome=lambda result: f"{result.get('moved', 0):,} values moved, the fields are merged",
        ),
        JobKind(
            changes.UNDO,
            "Undoing",
            Right.EDIT,
            _undo,
            lost="The worker was lost before it was done; nothing was taken back",
            unreached="It could not be handed to the worker; nothing was taken back",
            stopped="Undoing was stopped; nothing was taken back",
            counted=("change", "changes"),
            outcome=lambda result: f"{result.get('name', '')} is as it was",
        ),
        JobKind(
            memberships.GATHER,
            "Gathering collections",
            Right.EDIT,
            _gather,
            lost="The worker was lost before all products were gathered",
            unreached="Gathering could not be handed to the worker",
            stopped="Gathering was stopped: begin it again at the collection, nothing is released before",
            outcome=lambda result: (
                f"{result.get('looked_at', 0):,} products looked at, {result.get('moved', 0):,} moved"
            ),
        ),
        JobKind(
            variants.MATCH,
            "Matching variants",
            Right.EDIT,
            _match_variants,
            lost="The worker was lost before all variants were matched: begin it again, nothing is released before",
            unreached="Matching could not be handed to the worker",
            stopped="Matching was stopped: begin it again, nothing is released before",
            outcome=lambda result: (
                f"{result.get('variants', 0):,} variants of {result.get('products', 0):,} products written"
            ),
        ),
    )
}
"""Every kind of job by its code."""
RELEASE = JOB_KINDS["release"]
