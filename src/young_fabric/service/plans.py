"""Definitions and their plans, draft and live, and the counts of live cards; kept per process by what they were read from."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Mapping
from threading import Lock

from sqlalchemy.orm import Session

from young_fabric.core.definitions import Definitions
from young_fabric.core.plans import Plans
from young_fabric.store.repos import releases, shop, things
from young_fabric.store.states import definitions_of, thing_of

_KEPT = 6
_plans: OrderedDict[tuple[str, str, int], Plans] = OrderedDict()
_counts: OrderedDict[tuple[str, int], Mapping[str, int]] = OrderedDict()
_lock = Lock()


def draft_plans(session: Session) -> Plans:
    """Plans of the definitions as they are being edited."""
    this, stamp, _ = shop.shop_of(session)
    place = (_address(session), "draft", stamp)
    found = _known(place)
    if found is None:
        loaded = {noun: repo.load(session, None) for noun, repo in things.REPOS.items()}
        found = Plans(definitions_of(this, {n: {k: pair[0] for k, pair in rows.items()} for n, rows in loaded.items()}))
        _keep(place, found)
    return found


def live_plans(session: Session) -> Plans:
    """Plans of the definitions frozen by the current release; of nothing before the first."""
    this, stamp, release = shop.shop_of(session)
    place = (_address(session), f"live {release}", stamp if release == 0 else -1)
    found = _known(place)
    if found is None:
        frozen: dict[str, dict[str, object]] = {noun: {} for noun in things.REPOS}
        for (noun, key), (_, state) in releases.open_things(session, list(things.REPOS)).items():
            if not key.startswith("product:"):
                frozen[noun][key] = thing_of(noun, key, state)
        found = Plans(definitions_of(this, frozen))
        _keep(place, found)
    return found


def live_counts(session: Session) -> Mapping[str, int]:
    """Type → live cards listed under it, counted once a release."""
    place = (_address(session), shop.shop_of(session)[2])
    with _lock:
        found = _counts.get(place)
    if found is None:
        found = releases.card_counts(session)
        with _lock:
            _counts[place] = found
            while len(_counts) > _KEPT:
                _counts.popitem(last=False)
    return found


def draft(session: Session) -> Definitions:
    """The definitions as they are being edited."""
    return draft_plans(session).defs


def forget() -> None:
    """Drop all that is kept, for whoever sets a database back to an earlier state."""
    with _lock:
        _plans.clear()
        _counts.clear()


def _address(session: Session) -> str:
    return str(session.connection().engine.url)


def _known(place: tuple[str, str, int]) -> Plans | None:
    with _lock:
        found = _plans.get(place)
        if found is not None:
            _plans.move_to_end(place)
        return found


def _keep(place: tuple[str, str, int], plans: Plans) -> None:
    with _lock:
        _plans[place] = plans
        while len(_plans) > _KEPT:
            _plans.popitem(last=False)
