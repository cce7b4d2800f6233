"""Stock of what was merged into something else, handed over once the shop no longer sells it under its old name.

A list reads a value that was merged by the one that stands for it, so that what is left under the old code tells where it belongs.
Nothing is taken from what the live shop still counts: an older release that products stand by, or drafts not yet released.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from uuid import uuid4

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.options.option_sets import LISTS, OPTION_SETS
from young_fabric.core.options.offers import Offer, offer_of
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.stock import CHOICE_STOCK, MOST_STOCK, VARIANT_STOCK, StockKey
from young_fabric.core.subjects.variants import Variant
from young_fabric.service.acting.actors import Actor, Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.values import stocks, variant_writer
from young_fabric.service.values.stocks import StockEdit
from young_fabric.service.values.variant_choices import named, offered_choices
from young_fabric.store.repos import changes, releases, variants
from young_fabric.store.repos import stocks as stock_rows

BATCH = 1_000


@dataclass(frozen=True)
class Merged:
    """An option that takes from a list, and the codes that are merged into others of it: code → what stands for it."""

    set: str
    option: str
    list: str
    codes: Mapping[str, str]

    def stands_for(self, variant: Variant, offer: Offer) -> str | None:
        """What stands for the value a variant is made of, where its product takes the option from the list."""
        offered = offer.by_key.get(self.option)
        mine = offered is not None and offered.option.listed and offered.option.list == self.list
        return self.codes.get(variant.choices.get(self.option, "")) if mine else None


def hand_over(work: Work, person_id: int) -> None:
    """Hand over what the release of a person left under the codes of merged values. Rows are locked as orders lock them."""
    work = replace(work, actor=Actor(person_id, "", frozenset({Right.EDIT})))
    defs, group = plans.draft(work.session), uuid4().hex
    for merged in _merged(work, defs):
        after = 0
        while ids := variants.stranded(work.session, merged.option, sorted(merged.codes), after, BATCH):
            after = ids[-1]
            stocks.put(work, _of_variants(work, merged, ids), group)
    stocks.put(work, list(_of_values(work, defs)), group)


def _merged(work: Work, defs: Definitions) -> Iterator[Merged]:
    """Options whose list has merged values, where both are live as they are."""
    waiting = set(changes.unreleased(work.session, (LISTS, OPTION_SETS)))
    for key, options in sorted(defs.option_sets.items()):
        for option in options.options:
            values = defs.lists.get(option.list) if option.listed else None
            if values is None or {(LISTS, values.key), (OPTION_SETS, key)} & waiting:
                continue
            codes = _codes(values)
            if codes:
                yield Merged(key, option.key, values.key, codes)


def _codes(values: ValueList) -> dict[str, str]:
    """Code that is no longer in a list → the value that is read by it."""
    return {name: value.code for value in values.values for name in value.synonyms if name not in values.by_code}


def _of_variants(work: Work, merged: Merged, ids: Sequence[int]) -> list[StockEdit]:
    """The stock of retired variants as part of that of what is offered in their place, where that is counted."""
    stored = variant_writer.lock(work.session, ids)
    offers = variant_writer.offers_of(work, [variant.product for variant in stored.values()])
    there = offered_choices(stored.values())
    pairs = []
    for number in ids:
        old = stored.get(number)
        code = merged.stands_for(old, offers[old.product][1]) if old is not None else None
        meets = there.get((old.product, named({**old.choices, merged.option: code}))) if old and code else None
        if old is not None and meets is not None and meets.stock is not None:
            pairs.append((old, meets))
    # Held before it is reckoned with, so that no sale comes between.
    left = stock_rows.hold(work.session, VARIANT_STOCK, sorted({(variant.id,) for pair in pairs for variant in pair}))
    edits = []
    for old, meets in pairs:
        had, have = left.get((old.id,)), left.get((meets.id,))
        if had and have is not None:
            edits += [_edit(offers, old, had, 0), _edit(offers, meets, have, min(had + have, MOST_STOCK))]
            left[old.id,], left[meets.id,] = 0, min(had + have, MOST_STOCK)
    return edits


def _edit(offers: Mapping[int, tuple[Product, Offer]], variant: Variant, expected: int, amount: int) -> StockEdit:
    name = variant_writer.name_of(*offers[variant.product], variant)
    return StockEdit(StockKey(VARIANT_STOCK, (variant.id,)), variant_writer.key_of(variant), name, expected, amount)


def _of_values(work: Work, defs: Definitions) -> Iterator[StockEdit]:
    """The stock values have of their own as that of those that stand for them. None is touched while products stand by an older
    release."""
    if releases.open_keys(work.session, releases.HELD):
        return
    known = {(merged.set, merged.option): merged.codes for merged in _merged(work, defs)}
    counted = variants.choice_stocks(work.session, sorted({key for key, _ in known}))
    wanted = [
        (key, option, code, codes[code])
        for (key, option), codes in known.items()
        for of, code in sorted(counted.get(key, {}))
        if of == option and code in codes
    ]
    keys = sorted({(key, option, name) for key, option, *names in wanted for name in names})
    left = stock_rows.hold(work.session, CHOICE_STOCK, keys)
    for key, option, code, into in wanted:
        had, have = left.get((key, option, code)), left.get((key, option, into))
        offered = offer_of([defs.option_sets[key]], defs).by_key[option]
        if had is None or into not in offered.by_code:
            continue
        left[key, option, into] = together = min(had + (have or 0), MOST_STOCK)
        for name, expected, amount in ((code, had, None), (into, have, together)):
            words = f"{defs.option_sets[key].name}, {offered.option.name}: {offered.label(name)}"
            of_value = StockKey(CHOICE_STOCK, (key, option, name))
            yield StockEdit(of_value, f"{key}/{option}/{name}", words, expected, amount)
