"""Keeping what products are gathered into (collections, option sets they are offered, and more) in step with definitions: at once for up to 2,000 products, by a job beyond.

A product's own write places it itself. Until a job is done, its collections are noted as not yet gathered: nothing is
released meanwhile, and whoever stopped the job can ask for it anew.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.types.product_types import descendants
from young_fabric.core.subjects.gatherers import GATHERERS
from young_fabric.core.subjects.memberships import Memberships
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.values import judging, sizes, variants
from young_fabric.service.values.judging import BATCH, MOST_AT_ONCE
from young_fabric.store.repos import gathering, jobs, products, shop

GATHER = "memberships"
Keys = Mapping[str, Sequence[str]]
"""Noun → keys of its things."""


def _notes(keys: Keys) -> list[str]:
    return [GATHERERS[noun].note(key) for noun, found in keys.items() for key in found]


def regather(work: Work, before: Definitions, after: Definitions) -> None:
    """Put products into what gathers them after a change of definitions, at
    once or by a job. Called under `shop.lock_definitions`."""
    differ = {noun: Memberships(after, noun).differ_in(Memberships(before, noun)) for noun in GATHERERS}
    if not any(differ.values()):
        return
    by_hand = sorted({number for noun, keys in differ.items() for number in _by_hand(before, after, noun, keys)})
    asked = {noun: [key for key in keys if _asks_otherwise(before, after, noun, key)] for noun, keys in differ.items()}
    wanted = _wanted(after, asked, by_hand)
    if products.count_where(work.session, wanted, MOST_AT_ONCE + 1) > MOST_AT_ONCE:
        ask(work, asked, by_hand)
        return
    ids = products.ids_where(work.session, wanted, 0, MOST_AT_ONCE)
    moved = judging.reassess(work.session, plans.draft_of(work.session).assessor, ids, ())
    sizes.check_products(work, moved.offered)
    variants.match(work, moved.offered)
    # All that these ask for was looked at under the lock: what an earlier job left undone is done.
    gone = {noun: [key for key in keys if key not in after.things[noun]] for noun, keys in differ.items()}
    gathering.settle(work.session, [*_notes(asked), *_notes(gone)], shop.shop_of(work.session)[1])


def _by_hand(before: Definitions, after: Definitions, noun: str, keys: Sequence[str]) -> set[int]:
    """The products that hands put in, took out or kept out."""
    found: set[int] = set()
    for key in keys:
        old, new = before.things[noun].get(key), after.things[noun].get(key)
        for member in ("picked", "kept_out"):
            found |= set(getattr(old, member, ())) ^ set(getattr(new, member, ()))
    return found


def _asks_otherwise(before: Definitions, after: Definitions, noun: str, key: str) -> bool:
    """Whether other products may meet a thing's condition than did."""
    old, new = before.things[noun].get(key), after.things[noun].get(key)
    if old is None or new is None or old.condition != new.condition:
        return (old.condition if old else None) is not None or (new.condition if new else None) is not None
    if new.condition is None:
        return False
    tops = {*before.types, *after.types}
    return any(_below(before, top) != _below(after, top) for top in tops)


def _below(defs: Definitions, top: str) -> frozenset[str]:
    return descendants(top, defs.types)


def _wanted(defs: Definitions, asked: Keys, by_hand: Sequence[int]) -> Any:
    parts = [products.concerned((), (), by_hand)]
    for noun, keys in asked.items():
        made = Memberships(defs, noun)
        narrowings = [made.narrowing(defs.things[noun][key].condition) for key in keys if key in defs.things[noun]]
        parts.append(products.concerned(keys, narrowings, (), noun))
    return products.any_of(parts)


def ask(work: Work, keys: Keys, by_hand: Sequence[int] = ()) -> None:
    """Have the products of some things gathered by a job."""
    stamp = shop.shop_of(work.session)[1]
    gathering.note(work.session, _notes(keys), stamp)
    args = {"keys": {noun: list(found) for noun, found in keys.items()}, "ids": list(by_hand), "stamp": stamp}
    work.asked.append(jobs.add(work.session, GATHER, work.actor.id, None, args, work.now))


def gather_again(work: Work, noun: str, key: str) -> None:
    """Have a thing's products gathered whose job was stopped or failed. Raises Refusal `busy`, `nothing`."""
    work.need(Right.EDIT)
    if GATHERERS[noun].note(key) not in gathering.open_keys(work.session):
        raise Refusal("nothing", "Its products are all gathered", (), "Nothing needs doing")
    if any(key in _asked_of(job.args).get(noun, ()) for job in jobs.open_of(work.session, GATHER)):
        raise Refusal("busy", "Its products are being gathered just now", (), "Wait until it is done, or stop it")
    ask(work, {noun: [key]})


def take_statistics(work: Work, moved: int) -> None:
    """After many products moved, have the planner know in which collections they are."""
    if moved >= MOST_AT_ONCE:
        products.take_statistics(work.session)


def _asked_of(args: Mapping[str, Any]) -> Keys:
    """Noun → keys a job was asked for; of what was asked before all were asked alike, those of the members of products."""
    named: Keys = args.get("keys", {})
    return named or {noun: args.get(gatherer.member, ()) for noun, gatherer in GATHERERS.items()}


def total(work: Work, args: Mapping[str, Any]) -> int:
    """How many products a job has to look at."""
    return products.count_where(work.session, _wanted(plans.draft(work.session), _asked_of(args), args["ids"]))


def gather_batch(work: Work, args: Mapping[str, Any], after: int) -> tuple[int, int, int]:
    """Place the next products, by the definitions as they are now; gives (last id, how many, how many moved)."""
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    assessor = plans.draft_of(work.session).assessor
    wanted = _wanted(assessor.defs, _asked_of(args), args["ids"])
    ids = products.ids_where(work.session, wanted, after, BATCH)
    if not ids:
        gathering.settle(work.session, _notes(_asked_of(args)), args["stamp"])
        return after, 0, 0
    moved = judging.reassess(work.session, assessor, ids, ())
    variants.match(work, moved.offered)
    return ids[-1], len(ids), moved.count
