"""Releases: putting drafts live at once, history, and going back."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.hashes import content_hash
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.variants import OFFERED
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.releasing import placing
from young_fabric.service.releasing.handing_over import hand_over
from young_fabric.service.releasing.live_documents import LiveWriter, Tally
from young_fabric.service.releasing.release_batches import BATCH, FREEZING, ThingKey, batches, look, work_ahead
from young_fabric.service.values import value_states
from young_fabric.store.repos import (
    changes,
    definitions,
    gathering,
    jobs,
    listings,
    news,
    products,
    releases,
    shop,
    variants,
)
from young_fabric.store.tables import ReleaseRow

LONGEST_NOTE = 200
Progress = Callable[[int, int], None]


def _nothing() -> Refusal:
    return Refusal("nothing", "Nothing is waiting to be released", (), "Change something first")


MANY = 2_000
"""So many documents changed at once leave statistics that no longer tell how large tables are."""


def check(work: Work, note: str) -> None:
    """Whether a release can be asked for. Raises Refusal `forbidden`, `long`, `gathering`, `nothing`."""
    _check_ready(work, note)
    if not changes.unreleased_count(work.session):
        raise _nothing()


def _check_ready(work: Work, note: str) -> None:
    work.need(Right.RELEASE)
    if len(note) > LONGEST_NOTE:
        raise Refusal("long", f"A note has at most {LONGEST_NOTE} characters", ("note",), "Shorten it")
    if gathering.open_keys(work.session):
        words = "The products of a collection are still being gathered"
        raise Refusal("gathering", words, (), "Wait until that job is done, or see to it in Jobs")


def release(work: Work, note: str) -> ReleaseRow:
    """Put all drafts live in the transaction at hand. Raises Refusal `nothing`, `long`, `busy`."""
    number = make(work, note)
    settle(work)
    return need_release(work, number)


def make(work: Work, note: str, progress: Progress = lambda _done, _total: None, job_id: int | None = None) -> int:
    """Render what changed, freeze the drafts and switch the shop; gives the release's number.

    It reads the drafts as they stand when it begins. `progress` is told (done, to do) and may raise to stop.
    Products whose title, address or SKU a shop can't stand by stay as they were; the release says which.
    """
    work.need(Right.RELEASE)
    session = work.session
    _take_turn(work)
    releases.expect_growth(session)
    _check_ready(work, note)
    keys = changes.unreleased(session, list(NOUNS))
    changed_products = changes.changed_products(session)
    if not keys and not changed_products:
        raise _nothing()
    number = shop.shop_of(session)[2] + 1
    last = releases.get(session, number - 1)
    draft = plans.draft_of(session)
    looked, hashes = look(session, draft, keys, last)
    placer = placing.Placer(session, draft.assessor.memberships, number)
    tally = Tally(work_ahead(session, looked, changed_products))
    writer = LiveWriter(work, draft, placer, number, tally)
    for batch in batches(session, looked):
        progress(tally.done, tally.total)
        writer.put(batch)
    writer.finish()
    _freeze_definitions(work, keys, number, progress, tally)
    placer.settle()
    releases.add(
        session,
        number=number,
        at=work.now,
        person_id=work.actor.id,
        job_id=job_id,
        note=note.strip(),
        things=len(keys) + changed_products - tally.left,
        counts=dict(tally.written),
        plan_hashes=[[group.type, list(group.collections), digest] for group, digest in hashes.items()],
        held_back=[list(row) for row in tally.held_back],
    )
    return number


def settle(work: Work) -> None:
    """Clear up after a release: its notes, and the stock of what it no longer sells under the name of a merged value."""
    drop_released_notes(work)
    newest = releases.newest(work.session, 1)
    if newest:
        hand_over(work, newest[0][0].person_id)


def drop_released_notes(work: Work) -> None:
    """Drop the notes of drafts that are live now; after a large release, have statistics taken anew."""
    changes.forget_released(work.session)
    newest = releases.newest(work.session, 1)
    if newest and sum(newest[0][0].counts.values()) >= MANY:
        releases.take_statistics(work.session)


def _note_drafts(work: Work, number: int) -> None:
    """After going back: note the drafts of all that was switched."""
    known = {*NOUNS, PRODUCT.code, OFFERED}
    keys = [key for key in releases.switched_things(work.session, number) if key[0] in known]
    for start in range(0, len(keys), BATCH):
        for noun, drafts in _draft_hashes(work, keys[start : start + BATCH]).items():
            changes.note_missing(work.session, noun, drafts)


def _draft_hashes(work: Work, keys: Sequence[ThingKey]) -> dict[str, dict[str, str | None]]:
    """Noun → key → hash of the draft, None when there is none."""
    found: dict[str, dict[str, str | None]] = defaultdict(dict)
    ids = [int(key) for noun, key in keys if noun == PRODUCT.code]
    digests = products.hashes(work.session, ids) if ids else {}
    offered = variants.offered_states(work.session, [int(key) for noun, key in keys if noun == OFFERED])
    states = draft_states(work, [key for key in keys if key[0] in NOUNS])
    for noun, key in keys:
        if noun == PRODUCT.code:
            found[noun][key] = digests.get(int(key))
        elif noun == OFFERED:
            found[noun][key] = offered[int(key)][0] if int(key) in offered else None
        else:
            state = states.get((noun, key))
            found[noun][key] = content_hash(state[1]) if state is not None else None
    return found


def need_release(work: Work, number: int) -> ReleaseRow:
    """A release by its number. Raises Refusal `not_found`."""
    found = releases.get(work.session, number)
    if found is None:
        raise Refusal("not_found", f"There is no release {number}", (), "Choose one from the history")
    return found


def _take_turn(work: Work) -> None:
    if not shop.take_release_turn(work.session):
        raise Refusal("busy", "A release is being made just now", (), "Wait until it is live, or stop it")


def draft_states(work: Work, keys: Sequence[ThingKey]) -> dict[ThingKey, tuple[int, dict[str, Any]]]:
    """(noun, key) → (format, state) of the draft, of those things that exist."""
    out = definitions.states(work.session, [key for key in keys if key[0] in NOUNS])
    ids = [int(key) for noun, key in keys if noun == PRODUCT.code]
    if ids:
        for product_id, record in products.get(work.session, ids).items():
            out[PRODUCT.code, str(product_id)] = (value_states.FORMAT, PRODUCT.state_of(record.product))
    offered = [int(key) for noun, key in keys if noun == OFFERED]
    for product_id, (_, state) in variants.offered_states(work.session, offered).items():
        out[OFFERED, str(product_id)] = (1, state)
    return out


def _freeze_definitions(work: Work, keys: Sequence[ThingKey], number: int, progress: Progress, tally: Tally) -> None:
    """End the live states of changed definitions, and freeze their drafts."""
    releases.close_things(work.session, keys, number)
    for start in range(0, len(keys), BATCH):
        progress(tally.done, tally.total)
        tally.done += len(keys[start : start + BATCH]) * FREEZING
        states = draft_states(work, keys[start : start + BATCH])
        rows = [releases.frozen(noun, key, written, state, number) for (noun, key), (written, state) in states.items()]
        releases.add_things(work.session, rows)


def history(work: Work, before: int | None = None, limit: int = 30) -> list[tuple[ReleaseRow, str]]:
    """Releases with who made them, last first."""
    work.need(Right.LOOK)
    return releases.newest(work.session, limit, before)


def go_back(work: Work, to: int, note: str = "") -> ReleaseRow:
    """A new release with the content of an old one; drafts stay as they are.

    Raises Refusal `not_found`, `busy`.
    """
    work.need(Right.RELEASE)
    session = work.session
    _take_turn(work)
    current = shop.shop_of(session)[2]
    target = releases.get(session, to)
    if target is None or to >= current:
        raise Refusal("not_found", f"There is no earlier release {to}", (), "Choose one from the history")
    if len(note) > LONGEST_NOTE:
        raise Refusal("long", f"A note has at most {LONGEST_NOTE} characters", ("note",), "Shorten it")
    number = current + 1
    things, counts = releases.go_back(session, to, number)
    listings.part_anew(session, None, shop.shop_of(session)[0].collation)
    releases.add(
        session,
        number=number,
        at=work.now,
        person_id=work.actor.id,
        note=note.strip() or f"Back to release {to}",
        things=things,
        counts=counts,
        plan_hashes=target.plan_hashes,
        held_back=[],
        back_to=to,
    )
    _note_drafts(work, number)
    drop_released_notes(work)
    news.tell(session, work.actor.id, [jobs.JOB])
    return need_release(work, number)
