"""Releases: putting drafts live at once, history, and going back."""

from __future__ import annotations

import hashlib
from collections import Counter, defaultdict
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.hashes import content_hash, listed_hash, spelled
from young_fabric.core.display.cascade import DisplaySetting
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.nouns.built_in import ADDRESS, CODE, TITLE
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.document import FORMAT, to_json
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service import placing, plans, proofs, values
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos import changes, definitions, fills, gathering, listings, products, releases, shop
from young_fabric.store.repos.releases import DocumentKey
from young_fabric.store.tables import ReleaseRow

BATCH = 500
LONGEST_NOTE = 200
MOST_HELD_BACK = 50
Progress = Callable[[int, int], None]
ThingKey = tuple[str, str]


RENDERING, PLACING, FREEZING = 6, 2, 1
"""What each takes of one product or thing, against the others."""


@dataclass
class Tally:
    """How much of the work is done, of how much, what was written by surface, and which products had to be left."""

    total: int
    done: int = 0
    written: Counter[str] = field(default_factory=Counter)
    held_back: list[tuple[int, str, str]] = field(default_factory=list)
    held: set[int] = field(default_factory=set)


@dataclass(frozen=True)
class _Looked:
    """What a release looks at: groups that render differently, single products, and collections listed otherwise."""

    stored: Sequence[fills.GroupKey]
    single: Sequence[int]
    collections: Sequence[str]


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
    drop_released_notes(work)
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
    keys = changes.unreleased(session)
    if not keys:
        raise _nothing()
    number = shop.shop_of(session)[2] + 1
    last = releases.get(session, number - 1)
    draft = plans.draft_of(session)
    groups = plans.stored_groups(session, draft.defs)
    hashes = {group: draft.plans.group_hash(group) for group in groups}
    old = {(row[0], tuple(row[1])): row[2] for row in last.plan_hashes} if last else {}
    changed = [group for group, digest in hashes.items() if old.get((group.type, group.collections)) != digest]
    stored = [key for group in changed for key in groups[group]]
    asked = draft.assessor.memberships
    single, removed = _sort_out(work, keys, stored)
    # Before the first release nothing stands anywhere, and every group is looked at as a whole.
    relisted = placing.relisted(plans.live_plans(session).defs, asked) if last is not None else []
    looked = _Looked(stored, single, relisted)
    placer = placing.Placer(session, asked, number)
    tally = Tally(_work_ahead(work, looked, keys))
    changed_products = {int(key) for noun, key in keys if noun == PRODUCT.code}
    for batch, whole in _batches(work, looked):
        progress(tally.done, tally.total)
        _write_live(work, draft, batch if whole else placer.moved(batch), number, tally)
        standing = [product for product in batch if product.id not in tally.held]
        placer.place(standing)
        going = [product for product in standing if product.id in changed_products]
        _freeze_products(work, going, number)
        tally.done += len(batch) * (RENDERING if whole else PLACING) + len(going) * FREEZING
    _end_removed(work, removed, number, tally)
    releases.close_things(session, [(PRODUCT.code, str(product_id)) for product_id in removed], number)
    placer.take_out(removed)
    _freeze_definitions(work, [key for key in keys if key[0] != PRODUCT.code], number, progress, tally)
    placer.settle()
    releases.add(
        session,
        number=number,
        at=work.now,
        person_id=work.actor.id,
        job_id=job_id,
        note=note.strip(),
        things=len(keys) - len(changed_products & tally.held),
        counts=dict(tally.written),
        plan_hashes=[[group.type, list(group.collections), digest] for group, digest in hashes.items()],
        held_back=[list(row) for row in tally.held_back[:MOST_HELD_BACK]],
    )
    return number


def drop_released_notes(work: Work) -> None:
    """Drop the notes of drafts that are live now; after a large release, have statistics taken anew."""
    changes.forget_released(work.session)
    newest = releases.newest(work.session, 1)
    if newest and sum(newest[0][0].counts.values()) >= MANY:
        releases.take_statistics(work.session)


def _note_drafts(work: Work, number: int) -> None:
    """After going back: note the drafts of all that was switched."""
    keys = releases.switched_things(work.session, number)
    for start in range(0, len(keys), BATCH):
        for noun, drafts in _draft_hashes(work, keys[start : start + BATCH]).items():
            changes.note_missing(work.session, noun, drafts)


def _draft_hashes(work: Work, keys: Sequence[ThingKey]) -> dict[str, dict[str, str | None]]:
    """Noun → key → hash of the draft, None when there is none."""
    found: dict[str, dict[str, str | None]] = defaultdict(dict)
    ids = [int(key) for noun, key in keys if noun == PRODUCT.code]
    digests = products.hashes(work.session, ids) if ids else {}
    states = draft_states(work, [key for key in keys if key[0] != PRODUCT.code])
    for noun, key in keys:
        if noun == PRODUCT.code:
            found[noun][key] = digests.get(int(key))
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


def single_products(keys: Sequence[ThingKey]) -> list[int]:
    """Of changed things, the products, and those that have changed definitions of their own."""
    found = {int(key) for noun, key in keys if noun == PRODUCT.code}
    for noun, key in keys:
        subject = NOUNS[noun].subject_of_key(key) if noun in NOUNS else None
        if subject is not None and subject[0] == PRODUCT.code:
            found.add(int(subject[1]))
    return sorted(found)


def draft_states(work: Work, keys: Sequence[ThingKey]) -> dict[ThingKey, tuple[int, dict[str, Any]]]:
    """(noun, key) → (format, state) of the draft, of those things that exist."""
    out = definitions.states(work.session, [key for key in keys if key[0] in NOUNS])
    ids = [int(key) for noun, key in keys if noun == PRODUCT.code]
    if ids:
        for product_id, record in products.get(work.session, ids).items():
            out[PRODUCT.code, str(product_id)] = (values.FORMAT, PRODUCT.state_of(record.product))
    return out


def _end_removed(work: Work, removed: Sequence[int], number: int, tally: Tally) -> None:
    live = releases.open_hashes(work.session, PRODUCT.code, removed) if removed else {}
    tally.written.update(Counter(surface for surface, _, _ in live))
    releases.close_documents(work.session, PRODUCT.code, removed, number)


def _sort_out(work: Work, keys: Sequence[ThingKey], stored: Sequence[fills.GroupKey]) -> tuple[list[int], list[int]]:
    """Of changed products: (those to look at one by one, of groups that render as before; those that are gone)."""
    ids, whole = single_products(keys), set(stored)
    single: list[int] = []
    gone: list[int] = []
    for start in range(0, len(ids), BATCH):
        part = ids[start : start + BATCH]
        found = products.groups_of(work.session, part)
        single += [product_id for product_id, group in found.items() if group not in whole]
        gone += [product_id for product_id in part if product_id not in found]
    return single, gone


def _work_ahead(work: Work, looked: _Looked, keys: Sequence[ThingKey]) -> int:
    """How much there is to do, in the measure of RENDERING and the others."""
    counts = fills.counts_by_group(work.session)
    whole = sum(counts.get(key, 0) for key in set(looked.stored)) + len(looked.single)
    placed = sum(
        count
        for (type_key, within), count in counts.items()
        if (type_key, within) not in set(looked.stored) and set(looked.collections).intersection(within)
    )
    return whole * RENDERING + placed * PLACING + len(keys) * FREEZING


def _batches(work: Work, looked: _Looked) -> Iterator[tuple[list[Product], bool]]:
    """Products to look at as a whole, then those that may have moved to or in a collection: (batch, whole)."""
    session = work.session
    if looked.stored:
        for batch in products.stream(session, looked.stored, BATCH):
            yield batch, True
    for start in range(0, len(looked.single), BATCH):
        found = products.get(session, looked.single[start : start + BATCH])
        yield [record.product for record in found.values()], True
    single, whole = set(looked.single), set(looked.stored)
    for batch in placing.stream_relisted(
        session, looked.collections, BATCH, lambda number, group: number in single or group in whole
    ):
        yield batch, False


def why_held_back(assessor: Assessor, product: Product) -> str | None:
    """Why a shop can't stand by a product as it is, None when it can: its title, address or SKU is wrong."""
    for definition in (TITLE, ADDRESS, CODE):
        outcome = assessor.rules(definition.key).outcome(product)
        if outcome.state == "wrong" and outcome.wrong is not None:
            return f"{definition.label}: {outcome.wrong.message}"
        if outcome.state == "empty" and definition.key != CODE.key:
            return f"{definition.label} is missing"
    return None


def _write_live(work: Work, draft: plans.Draft, batch: Sequence[Product], number: int, tally: Tally) -> None:
    """Render a batch and write the documents whose content differs from what is live."""
    standing = []
    for product in batch:
        reason = why_held_back(draft.assessor, product) if product.offered else None
        if reason is None:
            standing.append(product)
        else:
            tally.held_back.append((product.id, product.title, reason))
            tally.held.add(product.id)
    ids = [product.id for product in standing]
    own = proofs.own_settings(work, ids)
    rendered: dict[DocumentKey, dict[str, Any]] = {}
    for product in standing:
        if product.offered:
            rendered.update(live_documents(draft.plans, product, own.get(str(product.id), ())))
    live = releases.open_hashes(work.session, PRODUCT.code, ids) if number > 1 else {}
    fresh = {key: row for key, row in rendered.items() if live.get(key) != row["hash"]}
    gone = [key for key in live if key in fresh or key not in rendered]
    releases.replace_documents(work.session, PRODUCT.code, gone, list(fresh.values()), number)
    tally.written.update(Counter(key[0] for key in {*fresh, *gone}))


def live_documents(made: Plans, product: Product, own: Sequence[DisplaySetting]) -> dict[DocumentKey, dict[str, Any]]:
    """A product's document on each surface as it could go live, with a hash of what readers would get."""
    address, under = product.values.get(ADDRESS.key), list(made.defs.chain(product.type))
    head = [spelled(part) for part in (FORMAT, address, product.title, under)]
    out: dict[DocumentKey, dict[str, Any]] = {}
    for code, surface in SURFACES.items():
        document = spelled(to_json(made.of_product(product, code, own).render(product)))
        out[code, str(product.id), ""] = {
            "surface": code,
            "subject_id": str(product.id),
            "card": "",
            "address": address,
            "title": product.title,
            "listed": surface.listed,
            "under": under,
            "document": document,
            "format": FORMAT,
            "hash": listed_hash([*head, document]),
        }
    return out


def _freeze_products(work: Work, found: Sequence[Product], number: int) -> None:
    """End the live states of products that go live, and freeze their drafts."""
    releases.close_things(work.session, [(PRODUCT.code, str(product.id)) for product in found], number)
    rows = [
        _frozen(PRODUCT.code, str(product.id), values.FORMAT, PRODUCT.state_of(product), number) for product in found
    ]
    releases.add_things(work.session, rows)


def _freeze_definitions(work: Work, keys: Sequence[ThingKey], number: int, progress: Progress, tally: Tally) -> None:
    """End the live states of changed definitions, and freeze their drafts."""
    releases.close_things(work.session, keys, number)
    for start in range(0, len(keys), BATCH):
        progress(tally.done, tally.total)
        tally.done += len(keys[start : start + BATCH]) * FREEZING
        states = draft_states(work, keys[start : start + BATCH])
        rows = [_frozen(noun, key, written, state, number) for (noun, key), (written, state) in states.items()]
        releases.add_things(work.session, rows)


def _frozen(noun: str, key: str, written: int, state: dict[str, Any], number: int) -> dict[str, Any]:
    text = spelled(state)
    digest = hashlib.sha256(text).hexdigest()
    return {"noun": noun, "key": key, "format": written, "hash": digest, "state": text, "since": number}


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
    return need_release(work, number)


def surface_counts(counts: Mapping[str, int]) -> dict[str, int]:
    """Counts by surface, of every surface there is."""
    return {code: counts.get(code, 0) for code in SURFACES}
