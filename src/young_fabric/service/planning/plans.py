"""Definitions and their plans, draft and live, and the counts of live cards; kept per process by what they were read from.

A transaction reads the definitions once: all it does goes by one state of them, but for what it writes itself.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.base.memory import Memory
from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.plans import PlanCache, Plans
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.service.planning.showing import Showing
from young_fabric.store.base import database_of
from young_fabric.store.repos import definitions, fills, listings, product_groups, releases, shop
from young_fabric.store.repos.definitions import LoadedDefinitions
from young_fabric.store.repos.listings import ListingPart
from young_fabric.store.states import thing_of

_KEPT = 4
MOST_LISTINGS = 500
_DRAFT, _DIRTY, _OWN = "draft", "wrote definitions", "own definitions"


@dataclass(frozen=True)
class Draft:
    """The definitions as they are being edited, with all that is made from them."""

    loaded: LoadedDefinitions
    plans: Plans
    assessor: Assessor

    @property
    def defs(self) -> Definitions:
        """The definitions."""
        return self.loaded.defs

    @cached_property
    def showing(self) -> Showing:
        """What puts into products all that pages show of them besides their own values."""
        return Showing(self.defs)


_cache = PlanCache()
_drafts: Memory[tuple[str, int], Draft] = Memory(_KEPT)
_live: Memory[tuple[str, int], Plans] = Memory(_KEPT)
_counts: Memory[tuple[str, int], Mapping[str, int]] = Memory(_KEPT)
_parts: Memory[tuple[str, int, str], Sequence[ListingPart]] = Memory(MOST_LISTINGS)
_made: Memory[tuple[str, int, Shop, str], Any] = Memory(2 * _KEPT)
_STORES: tuple[Memory[Any, Any], ...] = (_drafts, _live, _counts, _parts, _made)
Kept = tuple[Mapping[Any, Any], ...]
"""All that is kept at a moment, but for plans, which are found by what they were made from."""


def draft_of(session: Session) -> Draft:
    """The draft as this transaction sees it."""
    found: Draft | None = session.info.get(_DRAFT)
    if found is None:
        found = session.info[_DRAFT] = _read_draft(session)
    return found


def refresh(session: Session, *, wrote: bool = False) -> None:
    """Have the draft read anew: after waiting for a lock, or after this transaction wrote definitions."""
    session.info.pop(_DRAFT, None)
    if wrote:
        session.info[_DIRTY] = True


def _read_draft(session: Session) -> Draft:
    address = database_of(session)
    _, stamp, _ = shop.shop_of(session)
    found = _drafts.get((address, stamp))
    older = [draft for (name, number), draft in _drafts.items().items() if name == address and number < stamp]
    if found is not None:
        return found
    own: LoadedDefinitions | None = session.info.get(_OWN)
    bases = [draft.loaded for draft in older] + ([own] if own is not None and own.stamp < stamp else [])
    loaded = definitions.load_all(session, max(bases, key=lambda base: base.stamp, default=None))
    made = Draft(loaded, Plans(loaded.defs, _cache, "draft"), Assessor(loaded.defs))
    # What a transaction wrote itself may yet be taken back: nobody else begins from it.
    if session.info.get(_DIRTY):
        session.info[_OWN] = loaded
    else:
        _drafts.put((address, loaded.stamp), made)
    return made


def draft_plans(session: Session) -> Plans:
    """Plans of the definitions as they are being edited."""
    return draft_of(session).plans


def draft(session: Session) -> Definitions:
    """The definitions as they are being edited."""
    return draft_of(session).defs


def live_plans(session: Session) -> Plans:
    """Plans of the definitions frozen by the current release; of nothing before the first."""
    shop_now, _, release = shop.shop_of(session)
    address = database_of(session)
    found = _live.get((address, release))
    if found is not None and found.defs.shop == shop_now:
        return found
    frozen = releases.open_things(session, list(NOUNS)) if release else {}
    made = Plans(Definitions(shop_now, _read_frozen(frozen)), _cache, "live")
    _live.put((address, release), made)
    return made


def plans_at(session: Session, release: int) -> Plans:
    """Plans of the definitions frozen by an earlier release: what products that were held back since stand by."""
    frozen = releases.things_at(session, list(NOUNS), release)
    return Plans(Definitions(shop.shop_of(session)[0], _read_frozen(frozen)), _cache, f"live at {release}")


def _read_frozen(rows: Mapping[tuple[str, str], tuple[int, dict[str, Any]]]) -> dict[str, dict[str, Any]]:
    """Noun → key → thing of those that are said of more than one subject."""
    frozen: dict[str, dict[str, Any]] = {noun: {} for noun in NOUNS}
    for (noun, key), (written, state) in rows.items():
        if NOUNS[noun].bearing.subject_of_key(key) is None:
            frozen[noun][key] = thing_of(noun, state, written)
    return frozen


def live_counts(session: Session) -> Mapping[str, int]:
    """Listing → live cards in it, read once a release."""
    key = (database_of(session), shop.shop_of(session)[2])
    found = _counts.get(key)
    if found is None:
        found = listings.totals(session)
        _counts.put(key, found)
    return found


def of_release(session: Session, name: str, make: Callable[[], Any]) -> Any:
    """What is made by a name of the current release and the shop's own words, worked out once for each."""
    shop_now, _, release = shop.shop_of(session)
    key = (database_of(session), release, shop_now, name)
    found = _made.get(key)
    if found is None:
        found = make()
        _made.put(key, found)
    return found


def live_parts(session: Session, listing: str) -> Sequence[ListingPart]:
    """The parts of a live listing, read once a release."""
    key = (database_of(session), shop.shop_of(session)[2], listing)
    found = _parts.get(key)
    if found is None:
        found = listings.parts(session, listing)
        _parts.put(key, found)
    return found


def group_counts(
    session: Session, defs: Definitions, having: str | None = None, speaking: frozenset[str] | None = None
) -> dict[Group, int]:
    """Products of each group, all or those with a value for a field, good or wrong; with `speaking` those collections tell groups apart."""
    out: dict[Group, int] = {}
    kept = fills.by_group(session, [having]).get(having, {}) if having is not None else {}
    held = {group: sum(count) for group, count in kept.items()}
    found = fills.counts_by_group(session) if having is None else held
    for (type_key, collections), count in found.items():
        group = defs.group_of(type_key, collections, speaking)
        out[group] = out.get(group, 0) + count
    return out


def stored_groups(session: Session, defs: Definitions) -> dict[Group, list[tuple[str, tuple[str, ...]]]]:
    """Group → the (type, collections) of products that make it up."""
    out: dict[Group, list[tuple[str, tuple[str, ...]]]] = {}
    for key in product_groups.groups(session):
        out.setdefault(defs.group_of(*key), []).append(key)
    return out


def kept() -> Kept:
    """All that is kept now, for `set_back`."""
    return tuple(store.items() for store in _STORES)


def set_back(to: Kept = ()) -> None:
    """Keep what was kept once, and nothing else: for whoever sets a database back to how it was then, or makes another."""
    for at, store in enumerate(_STORES):
        store.set_to(to[at] if to else {})


def forget() -> None:
    """Drop all that is kept, plans too: for whoever changes what definitions can be."""
    set_back()
    _cache.clear()
