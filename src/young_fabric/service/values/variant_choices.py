"""Variants whose value another comes to stand for: they keep their rows, what they hold and their stock, and are made of the other now.

Where a product offers one made of the other already, the next matching retires the first. Its stock stays where the live shop counts
it until the shop no longer sells it; then it is handed over (`releasing/handing_over.py`).
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.patches import backward, diff, forward
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.options.offers import Offer
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.variants import VARIANT_CHOICES, Variant
from young_fabric.service.acting.actors import Work
from young_fabric.service.planning import offering, plans
from young_fabric.service.values.variant_writer import key_of, lock, offers_of
from young_fabric.store.repos import changes
from young_fabric.store.repos import variants as rows
from young_fabric.store.repos.variants import Choosing
from young_fabric.store.tables import ChangeRow

BATCH = 1_000
Choices = Mapping[str, str]


@dataclass(frozen=True)
class ListedValue:
    """A value of a list that goes, and the one that stands for it."""

    list: str
    code: str
    into: str


def _options(defs: Definitions, value: ListedValue) -> Iterator[tuple[str, str]]:
    """(option set, option) that take the value of its list."""
    for key, options in sorted(defs.option_sets.items()):
        for option in options.options:
            if option.listed and option.list == value.list:
                yield key, option.key


def _choosing(defs: Definitions, value: ListedValue) -> list[Choosing]:
    return [
        Choosing(offering.having([key], offering.types_with(defs, key)), option, value.code, value.into)
        for key, option in _options(defs, value)
    ]


def count(work: Work, defs: Definitions, *values: ListedValue) -> tuple[int, int]:
    """(variants that are offered and made of one of some values, those of them that would meet one of the other already)."""
    return rows.count_choosing(work.session, [found for value in values for found in _choosing(defs, value)])


def put_other(work: Work, defs: Definitions, value: ListedValue, group: str) -> None:
    """Have the other value stand for one in all variants made of it. Called under `shop.lock_definitions`,
    before the option sets are written: matching finds them as they are then."""
    wanted = _choosing(defs, value)
    after = 0
    while ids := rows.ids_choosing(work.session, wanted, after, BATCH):
        after = ids[-1]
        _put_some(work, value, ids, group)


def _put_some(work: Work, value: ListedValue, ids: Sequence[int], group: str) -> None:
    stored = lock(work.session, ids)
    offers = offers_of(work, [variant.product for variant in stored.values()])
    there = offered_choices(stored.values())
    moved = []
    for number in ids:
        old = stored.get(number)
        choices = _other(offers[old.product][1], old.choices, value) if old is not None else None
        if old is not None and choices is not None and (old.product, named(choices)) not in there:
            moved.append((old, replace(old, choices=choices)))
            if not old.retired:
                there[old.product, named(choices)] = moved[-1][1]
    _write(work, offers, moved, group)


NamedChoices = tuple[tuple[str, str], ...]


def named(choices: Choices) -> NamedChoices:
    """A combination as what tells it from others."""
    return tuple(sorted(choices.items()))


def offered_choices(variants: Iterable[Variant]) -> dict[tuple[int, NamedChoices], Variant]:
    """(product, combination) → the variant that is offered so."""
    return {(variant.product, named(variant.choices)): variant for variant in variants if not variant.retired}


def _other(offer: Offer, choices: Choices, value: ListedValue) -> Choices | None:
    """Choices with the other value in place of one; None where none of them takes it of its list."""
    changed = {
        key: value.into
        for key, code in choices.items()
        if code == value.code and key in offer.by_key and offer.by_key[key].option.list == value.list
    }
    return {**choices, **changed} if changed else None


def _write(
    work: Work,
    offers: Mapping[int, tuple[Product, Offer]],
    moved: Sequence[tuple[Variant, Variant]],
    group: str,
    undoes: Callable[[Variant], int | None] = lambda _variant: None,
) -> None:
    """Write variants made of other values than before, and record it."""
    defs = plans.draft(work.session)
    rows.write_many(work.session, [new for _, new in moved], ())
    rows.note_offered(work.session, [new.product for _, new in moved])
    last = changes.last_versions(work.session, VARIANT_CHOICES, [key_of(old) for old, _ in moved]) if moved else {}
    recorded = []
    for old, new in moved:
        product, offer = offers[old.product]
        words = [_words(defs, offer, variant.choices) for variant in (old, new)]
        before, after = {"choices": dict(old.choices)}, {"choices": dict(new.choices)}
        recorded.append(
            {
                "noun": VARIANT_CHOICES,
                "key": key_of(old),
                "name": f"{product.title}: {words[0]}",
                "lines": [f"{words[0]} → {words[1]}"],
                "patch": diff(before, after) or {"in": {}},
                "format": 1,
                "version": last.get(key_of(old), 0) + 1,
                "undoes": undoes(old),
            }
        )
    changes.add_many(work.session, recorded, at=work.now, person_id=work.actor.id, group_id=group)


def _words(defs: Definitions, offer: Offer, choices: Choices) -> str:
    """A combination in words, values of lists by their labels although the option does not offer them."""

    def label(key: str, code: str) -> str:
        offered = offer.by_key.get(key)
        if offered is None or code in offered.by_code:
            return offered.label(code) if offered is not None else code
        values = defs.lists.get(offered.option.list)
        return values.by_code[code].label if values is not None and code in values.by_code else code

    ordered = [key for key in offer.by_key if key in choices] + [key for key in choices if key not in offer.by_key]
    return " · ".join(label(key, choices[key]) for key in ordered)


def undo(work: Work, run: Sequence[ChangeRow], group: str) -> None:
    """Have variants be made again of what they were made of; before the option sets are put back. Raises Refusal `undone`."""
    by_id = {int(change.key.split("/")[1]): change for change in run}
    stored = lock(work.session, list(by_id))
    offers = offers_of(work, [variant.product for variant in stored.values()])
    there = offered_choices(stored.values())
    moved = []
    for number, change in by_id.items():
        old = stored.get(number)
        was = _before(change, old.choices) if old is not None else None
        if old is None or was is None or (not old.retired and (old.product, named(was)) in there):
            words = f"{change.name} is otherwise by now, or another is made of the same"
            raise Refusal("undone", words, (), "Look at the variants of its product")
        moved.append((old, replace(old, choices=was)))
    _write(work, offers, moved, group, lambda variant: by_id[variant.id].id)


def _before(change: ChangeRow, choices: Choices) -> Choices | None:
    """The choices before a recorded change of them; None where they are others by now."""
    now = {"choices": dict(choices)}
    was = backward(now, change.patch)
    found: Choices | None = was["choices"] if forward(was, change.patch) == now else None
    return found
