"""Releases: what will change, putting drafts live at once, history, and going back."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from young_fabric.core.changes import describe
from young_fabric.core.definitions import Product
from young_fabric.core.display import SURFACES, DisplaySetting
from young_fabric.core.document import to_json
from young_fabric.core.errors import Refusal
from young_fabric.core.hashes import content_hash
from young_fabric.core.plans import Plans, changed_types, reached_types
from young_fabric.service import plans
from young_fabric.service.actors import Right, Work
from young_fabric.service.writes import name_of
from young_fabric.store.repos import changes, products, releases, shop
from young_fabric.store.repos.things import REPOS, settings_of_products
from young_fabric.store.states import state_of, thing_of
from young_fabric.store.tables import LiveCardRow, LiveDocRow, LiveThingRow, ReleaseRow

BATCH = 500
MOST_LISTED = 200
GROUPS = {
    "setting": "How it shows",
    "field": "What it is",
    "list": "What it is",
    "set": "What it is",
    "type": "What it is",
    "product": "Products",
}


@dataclass(frozen=True)
class PendingThing:
    """One thing that differs from what is live, in words, with how many pages and cards it touches."""

    group: str
    noun: str
    key: str
    name: str
    lines: list[str]
    pages: int
    cards: int
    example: int | None


@dataclass(frozen=True)
class Pending:
    """All that would change: how many things in all, pages and cards at most, and the things listed."""

    count: int
    pages: int
    cards: int
    things: list[PendingThing]


def pending_count(work: Work) -> int:
    """How many things differ from what is live."""
    return changes.unreleased_count(work.session)


def pending(work: Work) -> Pending:
    """What a release made now would change."""
    work.need(Right.LOOK)
    keys = changes.unreleased(work.session, limit=MOST_LISTED)
    draft, live = plans.draft_plans(work.session), plans.live_plans(work.session)
    differ = _differing(draft, live)
    counts = products.counts_by_type(work.session)
    states = _draft_states(work, keys)
    was = releases.open_things(work.session, keys=keys) if keys else {}
    things = []
    for noun, key in keys:
        before = was[noun, key][1] if (noun, key) in was else None
        after = states.get((noun, key))
        old_or_new = thing_of(noun, key, after or before or {})
        name = old_or_new.title if noun == "product" else name_of(key, old_or_new, draft.defs)
        pages, cards, example = _touched(noun, key, draft, live, differ, counts, after)
        things.append(
            PendingThing(
                GROUPS[noun], noun, key, name, describe(noun, before, after, draft.defs), pages, cards, example
            )
        )
    order = list(dict.fromkeys(GROUPS.values()))
    things.sort(key=lambda one: (order.index(one.group), -one.pages, one.name))
    pages, cards = _totals(work, differ, counts)
    return Pending(changes.unreleased_count(work.session), pages, cards, things)


def _differing(draft: Plans, live: Plans) -> Mapping[str, frozenset[str]]:
    """Surface → types that would render differently, new ones included."""
    new = frozenset(draft.defs.types.keys() - live.defs.types.keys())
    return {surface: types | new for surface, types in changed_types(live, draft).items()}


def _totals(work: Work, differ: Mapping[str, frozenset[str]], counts: Mapping[str, int]) -> tuple[int, int]:
    single = _single_products(work)
    inside = products.types_of(work.session, sorted(single))
    page_types = differ["product_page"] | differ["structured_data"]
    pages = sum(counts.get(one, 0) for one in page_types) + sum(1 for one in inside.values() if one not in page_types)
    card_types = differ["listing_card"]
    cards = sum(counts.get(one, 0) for one in card_types) + sum(1 for one in inside.values() if one not in card_types)
    return pages, cards


def _single_products(work: Work) -> set[int]:
    """Products that changed themselves, or have changed settings of their own."""
    found = {int(key) for _, key in changes.unreleased(work.session, "product")}
    for _, key in changes.unreleased(work.session, "setting"):
        if key.startswith("product:"):
            found.add(int(key.split("/", 1)[0].removeprefix("product:")))
    return found


def _draft_states(work: Work, keys: Sequence[tuple[str, str]]) -> dict[tuple[str, str], dict[str, Any]]:
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


def _touched(
    noun: str,
    key: str,
    draft: Plans,
    live: Plans,
    differ: Mapping[str, frozenset[str]],
    counts: Mapping[str, int],
    after: Mapping[str, Any] | None,
) -> tuple[int, int, int | None]:
    if noun == "product":
        return 1, 1, int(key) if after is not None else None
    if key.startswith("product:"):
        return 1, 1, int(key.split("/", 1)[0].removeprefix("product:"))
    reached = reached_types(draft, noun, key) | reached_types(live, noun, key)
    pages = reached & (differ["product_page"] | differ["structured_data"])
    cards = reached & differ["listing_card"]
    return sum(counts.get(t, 0) for t in pages), sum(counts.get(t, 0) for t in cards), None


@dataclass
class Tally:
    """What a release wrote."""

    pages: int = 0
    cards: int = 0
    rows: dict[Any, list[dict[str, Any]]] = field(default_factory=lambda: {LiveDocRow: [], LiveCardRow: []})


def release(work: Work, note: str) -> ReleaseRow:
    """Put all drafts live at once. Raises Refusal `nothing`, `long`."""
    work.need(Right.RELEASE)
    session = work.session
    if len(note) > 200:
        raise Refusal("long", "A note has at most 200 characters", ("note",), "Shorten it")
    shop.lock_definitions(session)
    keys = changes.unreleased(session)
    if not keys:
        raise Refusal("nothing", "Nothing is waiting to be released", (), "Change something first")
    number = shop.shop_of(session)[2] + 1
    last = releases.get(session, number - 1)
    all_plans = plans.draft_plans(session)
    hashes = {key: all_plans.type_hash(key) for key in all_plans.defs.types}
    old = last.plans if last else {}
    changed = [key for key, digest in hashes.items() if old.get(key) != digest]
    tally = Tally()
    removed = _removed(work)
    for batch in _touched_products(work, changed):
        _write_live(work, all_plans, batch, number, tally)
    for table in tally.rows:
        releases.close_rows(session, table, removed, number)
    tally.pages += len(removed)
    _freeze(work, keys, number)
    changes.clear_unreleased(session)
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
    shop.set_release(session, number)
    found = releases.get(session, number)
    if found is None:
        raise Refusal("not_found", "The release is gone")
    return found


def _removed(work: Work) -> list[int]:
    ids = [int(key) for _, key in changes.unreleased(work.session, "product")]
    there = products.types_of(work.session, ids)
    return [one for one in ids if one not in there]


def _touched_products(work: Work, changed: Sequence[str]) -> Iterator[list[Product]]:
    """Products of the types that render differently, then single ones of other types."""
    if changed:
        yield from products.stream(work.session, changed, BATCH)
    single = [
        pid
        for pid, kind in products.types_of(work.session, sorted(_single_products(work))).items()
        if kind not in changed
    ]
    for start in range(0, len(single), BATCH):
        yield [one.product for one in products.get(work.session, single[start : start + BATCH]).values()]


def _write_live(work: Work, all_plans: Plans, batch: Sequence[Product], number: int, tally: Tally) -> None:
    """Render a batch and write the rows whose content differs from what is live."""
    ids = [one.id for one in batch]
    own = settings_of_products(work.session, ids)
    rendered = {one.id: _rows(all_plans, one, own.get(one.id, ())) for one in batch if one.offered}
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


def _rows(all_plans: Plans, this: Product, own: tuple[DisplaySetting, ...]) -> tuple[dict[str, Any], dict[str, Any]]:
    page, card, facts = (to_json(all_plans.of_product(this, surface, own).render(this)) for surface in SURFACES)
    head = {"product_id": this.id, "slug": this.values["slug"], "title": this.title}
    doc = {**head, "type_key": this.type, "page": page, "facts": facts}
    doc["hash"] = content_hash(doc)
    shown = {**head, "types": list(all_plans.defs.chain(this.type)), "card": card}
    shown["hash"] = content_hash(shown)
    return doc, shown


def _freeze(work: Work, keys: Sequence[tuple[str, str]], number: int) -> None:
    """End the live states of changed things and freeze their drafts."""
    releases.close_things(work.session, keys, number)
    for start in range(0, len(keys), BATCH):
        part = keys[start : start + BATCH]
        states = _draft_states(work, part)
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
    """A new release with the content of an old one; drafts stay as they are. Raises Refusal."""
    work.need(Right.RELEASE)
    session = work.session
    shop.lock_definitions(session)
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
    shop.set_release(session, number)
    _remark(work, number)
    found = releases.get(session, number)
    if found is None:
        raise Refusal("not_found", "The release is gone")
    return found


def _remark(work: Work, number: int) -> None:
    """Compare the drafts of all things that a release switched with what is live now."""
    keys = releases.switched_things(work.session, number)
    live = {key: pair[0] for key, pair in releases.open_things(work.session, keys=keys).items()} if keys else {}
    for start in range(0, len(keys), BATCH):
        part = keys[start : start + BATCH]
        states = _draft_states(work, part)
        for key in part:
            state = states.get(key)
            digest = content_hash(state) if state is not None else None
            changes.mark(work.session, *key, digest != live.get(key))
