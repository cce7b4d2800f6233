"""Keeping the collections of products in step with definitions: at once for up to 2,000 products, by a job beyond.

A product's own write places it itself. Until a job is done, its collections are noted as not yet gathered: nothing is
released meanwhile, and whoever stopped the job can ask for it anew.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.definitions import Definitions
from young_fabric.core.nouns.product_types import descendants
from young_fabric.core.subjects.memberships import Memberships
from young_fabric.service import judging, plans
from young_fabric.service.actors import Right, Work
from young_fabric.service.judging import BATCH, MOST_AT_ONCE
from young_fabric.store.repos import gathering, jobs, products, shop

GATHER = "memberships"


def regather(work: Work, before: Definitions, after: Definitions) -> None:
    """Put products into the collections they are in after a change of definitions, at once or by a job."""
    old, new = Memberships(before), Memberships(after)
    keys = new.differ_in(old)
    if not keys:
        return
    by_hand = sorted(_by_hand(before, after, keys))
    asked = [key for key in keys if _asks_otherwise(before, after, key)]
    wanted = _wanted(new, asked, by_hand)
    if products.count_where(work.session, wanted, MOST_AT_ONCE + 1) > MOST_AT_ONCE:
        ask(work, asked, by_hand)
        return
    ids = products.ids_where(work.session, wanted, 0, MOST_AT_ONCE)
    judging.reassess(work.session, plans.draft_of(work.session).assessor, ids, ())
    # All that these ask for was looked at under the lock: what an earlier job left undone is done.
    gone = [key for key in keys if key not in after.things["collection"]]
    gathering.settle(work.session, [*asked, *gone], shop.shop_of(work.session)[1])


def _by_hand(before: Definitions, after: Definitions, keys: Sequence[str]) -> set[int]:
    """The products that hands put in, took out or kept out."""
    found: set[int] = set()
    for key in keys:
        old, new = before.things["collection"].get(key), after.things["collection"].get(key)
        for member in ("picked", "kept_out"):
            found |= set(getattr(old, member, ())) ^ set(getattr(new, member, ()))
    return found


def _asks_otherwise(before: Definitions, after: Definitions, key: str) -> bool:
    """Whether other products may meet a collection's condition than did."""
    old, new = before.things["collection"].get(key), after.things["collection"].get(key)
    if old is None or new is None or old.condition != new.condition:
        return (old.condition if old else None) is not None or (new.condition if new else None) is not None
    if new.condition is None:
        return False
    tops = {*before.types, *after.types}
    return any(_below(before, top) != _below(after, top) for top in tops)


def _below(defs: Definitions, top: str) -> frozenset[str]:
    return descendants(top, defs.types)


def _wanted(memberships: Memberships, asked: Sequence[str], by_hand: Sequence[int]) -> Any:
    things = memberships.defs.things["collection"]
    narrowings = [memberships.narrowing(things[key].condition) for key in asked if key in things]
    return products.concerned(asked, narrowings, by_hand)


def ask(work: Work, keys: Sequence[str], by_hand: Sequence[int] = ()) -> None:
    """Have the products of some collections gathered by a job."""
    stamp = shop.shop_of(work.session)[1]
    gathering.note(work.session, keys, stamp)
    args = {"collections": list(keys), "ids": list(by_hand), "stamp": stamp}
    work.asked.append(jobs.add(work.session, GATHER, work.actor.id, None, args, work.now))


def gather_again(work: Work, key: str) -> None:
    """Have a collection's products gathered whose job was stopped or failed. Raises Refusal `busy`, `nothing`."""
    work.need(Right.EDIT)
    if key not in gathering.open_keys(work.session):
        raise Refusal("nothing", "Its products are all gathered", (), "Nothing needs doing")
    if any(key in job.args.get("collections", ()) for job in jobs.open_of(work.session, GATHER)):
        raise Refusal("busy", "Its products are being gathered just now", (), "Wait until it is done, or stop it")
    ask(work, [key])


def take_statistics(work: Work, moved: int) -> None:
    """After many products moved, have the planner know in which collections they are."""
    if moved >= MOST_AT_ONCE:
        products.take_statistics(work.session)


def total(work: Work, args: Mapping[str, Any]) -> int:
    """How many products a job has to look at."""
    made = plans.draft_of(work.session).assessor.memberships
    return products.count_where(work.session, _wanted(made, args["collections"], args["ids"]))


def gather_batch(work: Work, args: Mapping[str, Any], after: int) -> tuple[int, int, int]:
    """Place the next products, by the definitions as they are now; gives (last id, how many, how many moved)."""
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    assessor = plans.draft_of(work.session).assessor
    wanted = _wanted(assessor.memberships, args["collections"], args["ids"])
    ids = products.ids_where(work.session, wanted, after, BATCH)
    if not ids:
        gathering.settle(work.session, args["collections"], args["stamp"])
        return after, 0, 0
    return ids[-1], len(ids), judging.reassess(work.session, assessor, ids, ())
