"""Releases: putting drafts live at once, history, and going back."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.definitions import Product
from young_fabric.core.display import SURFACES, DisplaySetting
from young_fabric.core.document import to_json
from young_fabric.core.errors import Refusal
from young_fabric.core.hashes import content_hash
from young_fabric.core.plans import Plans
from young_fabric.service import plans
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos import changes, products, releases, shop
from young_fabric.store.repos.things import REPOS, settings_of_products
from young_fabric.store.states import state_of
from young_fabric.store.tables import LiveCardRow, LiveDocRow, LiveThingRow, ReleaseRow

BATCH = 500
LONGEST_NOTE = 200
Progress = Callable[[int, int], None]


@dataclass
class Tally:
    """What a release has looked at, of how many, and what it wrote."""

    total: int
    seen: int = 0
    pages: int = 0
    cards: int = 0


def check(work: Work, note: str) -> None:
    """Whether a release can be asked for. Raises Refusal `forbidden`, `long`, `nothing`."""
    work.need(Right.RELEASE)
    if len(note) > LONGEST_NOTE:
        raise Refusal("long", f"A note has at most {LONGEST_NOTE} characters", ("note",), "Shorten it")
    if not changes.unreleased_count(work.session):
        raise Refusal("nothing", "Nothing is waiting to be released", (), "Change something first")


def release(work: Work, note: str) -> ReleaseRow:
    """Put all drafts live in the transaction at hand. Raises Refusal `nothing`, `long`, `busy`."""
    number = make(work, note)
    settle(work)
    return need_release(work, number)


def make(work: Work, note: str, progress: Progress = lambda _done, _total: None) -> int:
    """Render what changed, freeze the drafts and switch the shop; gives the release's number.

    It reads the drafts as they stand when it begins. `progress` is told (looked at, to look at) and may raise to stop.
    """
    work.need(Right.RELEASE)
    session = work.session
    _take_turn(work)
    check(work, note)
    keys = changes.unreleased(session)
    number = shop.shop_of(session)[2] + 1
    last = releases.get(session, number - 1)
    all_plans = plans.draft_plans(session)
    hashes = {key: all_plans.type_hash(key) for key in all_plans.defs.types}
    old = last.plans if last else {}
    changed = [key for key, digest in hashes.items() if old.get(key) != digest]
    single = _single_outside(work, keys, changed)
    counts = products.counts_by_type(session) if changed else {}
    tally = Tally(total=sum(counts.get(key, 0) for key in changed) + len(single))
    removed = _removed(work, keys)
    for batch in _batches(work, changed, single):
        progress(tally.seen, tally.total)
        _write_live(work, all_plans, batch, number, tally)
    for table in (LiveDocRow, LiveCardRow):
        releases.close_rows(session, table, removed, number)
    tally.pages += len(removed)
    _freeze(work, keys, number, lambda: progress(tally.seen, tally.total))
    releases.add(
        session,
        number=number,
        at=work.now,
        person_id=work.actor.id,
        note=note.strip(),
        things=len(keys),
        pages=tally.pages,
        cards=tally.cards,
        plans=hashes,
    )
    return number


def settle(work: Work) -> None:
    """Drop the notes of drafts that are live now."""
    changes.forget_released(work.session)


def _note_drafts(work: Work, number: int) -> None:
    """After going back: note the drafts of all that was switched."""
    keys = releases.switched_things(work.session, number)
    for start in range(0, len(keys), BATCH):
        for noun, drafts in _draft_hashes(work, keys[start : start + BATCH]).items():
            changes.mark_all(work.session, noun, drafts)


def _draft_hashes(work: Work, keys: Sequence[tuple[str, str]]) -> dict[str, dict[str, str | None]]:
    """Noun → key → hash of the draft, None when there is none."""
    found: dict[str, dict[str, str | None]] = defaultdict(dict)
    ids = [int(key) for noun, key in keys if noun == "product"]
    digests = products.hashes(work.session, ids) if ids else {}
    states = draft_states(work, [one for one in keys if one[0] != "product"])
    for noun, key in keys:
        if noun == "product":
            found[noun][key] = digests.get(int(key))
        else:
            state = states.get((noun, key))
            found[noun][key] = content_hash(state) if state is not None else None
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


def single_products(keys: Sequence[tuple[str, str]]) -> list[int]:
    """Of changed things, the products, and those that have changed settings of their own."""
    found = {int(key) for noun, key in keys if noun == "product"}
    own = {key.split("/", 1)[0] for noun, key in keys if noun == "setting"}
    found.update(int(scope.removeprefix("product:")) for scope in own if scope.startswith("product:"))
    return sorted(found)


def draft_states(work: Work, keys: Sequence[tuple[str, str]]) -> dict[tuple[str, str], dict[str, Any]]:
    """(noun, key) → state of the draft, of those things that exist."""
    by_noun: dict[str, list[str]] = defaultdict(list)
    for noun, key in keys:
        by_noun[noun].append(key)
    out = {}
    for noun, wanted in by_noun.items():
        if noun == "product":
            for product_id, stored in products.get(work.session, [int(key) for key in wanted]).items():
                out[noun, str(product_id)] = state_of(noun, stored.product)
        else:
            for key, (thing, _) in REPOS[noun].load(work.session, wanted).items():
                out[noun, key] = state_of(noun, thing)
    return out


def _removed(work: Work, keys: Sequence[tuple[str, str]]) -> list[int]:
    ids = [int(key) for noun, key in keys if noun == "product"]
    there = products.types_of(work.session, ids)
    return [one for one in ids if one not in there]


def _single_outside(work: Work, keys: Sequence[tuple[str, str]], changed: Sequence[str]) -> list[int]:
    """Products to look at one by one, of types that render as before."""
    found = products.types_of(work.session, single_products(keys))
    return [product_id for product_id, kind in found.items() if kind not in changed]


def _batches(work: Work, changed: Sequence[str], single: Sequence[int]) -> Iterator[list[Product]]:
    """Products of the types that render differently, then single ones."""
    if changed:
        yield from products.stream(work.session, changed, BATCH)
    for start in range(0, len(single), BATCH):
        yield [one.product for one in products.get(work.session, single[start : start + BATCH]).values()]


def _write_live(work: Work, all_plans: Plans, batch: Sequence[Product], number: int, tally: Tally) -> None:
    """Render a batch and write the rows whose content differs from what is live."""
    ids = [one.id for one in batch]
    own = settings_of_products(work.session, ids)
    rendered = {one.id: live_rows(all_plans, one, own.get(one.id, ())) for one in batch if one.offered}
    for place, table in enumerate((LiveDocRow, LiveCardRow)):
        live = releases.open_hashes(work.session, table, ids)
        fresh = {one: rows[place] for one, rows in rendered.items() if live.get(one) != rows[place]["hash"]}
        gone = [one for one in live if one in fresh or one not in rendered]
        releases.close_rows(work.session, table, gone, number)
        releases.add_rows(work.session, table, [{**row, "since": number} for row in fresh.values()])
        written = len({*fresh, *gone})
        if table is LiveDocRow:
            tally.pages += written
        else:
            tally.cards += written
    tally.seen += len(batch)


def live_rows(
    all_plans: Plans, this: Product, own: tuple[DisplaySetting, ...]
) -> tuple[dict[str, Any], dict[str, Any]]:
    """A product's page and card as rows that could go live, each with a hash of what shoppers would get."""
    page, card, facts = (to_json(all_plans.of_product(this, surface, own).render(this)) for surface in SURFACES)
    head = {"product_id": this.id, "slug": this.values["slug"], "title": this.title}
    doc = {**head, "type_key": this.type, "page": page, "facts": facts}
    doc["hash"] = content_hash(doc)
    shown = {**head, "types": list(all_plans.defs.chain(this.type)), "card": card}
    shown["hash"] = content_hash(shown)
    return doc, shown


def _freeze(work: Work, keys: Sequence[tuple[str, str]], number: int, beat: Callable[[], None]) -> None:
    """End the live states of changed things and freeze their drafts."""
    releases.close_things(work.session, keys, number)
    for start in range(0, len(keys), BATCH):
        beat()
        part = keys[start : start + BATCH]
        states = draft_states(work, part)
        releases.add_rows(
            work.session,
            LiveThingRow,
            [
                {"noun": noun, "key": key, "hash": content_hash(state), "state": state, "since": number}
                for (noun, key), state in states.items()
            ],
        )


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
    number = current + 1
    things, pages, cards = releases.go_back(session, to, number)
    releases.add(
        session,
        number=number,
        at=work.now,
        person_id=work.actor.id,
        note=note.strip() or f"Back to release {to}",
        things=things,
        pages=pages,
        cards=cards,
        plans=target.plans,
        back_to=to,
    )
    _note_drafts(work, number)
    settle(work)
    return need_release(work, number)
