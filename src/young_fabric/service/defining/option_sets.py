"""Use cases of option sets: all with how many products have them, copies, the products offered one, and stock of its values."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.fields.conditions import condition_words
from young_fabric.core.nouns.lists.list_reading import ListReading, paste
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.options.effects import Effect
from young_fabric.core.nouns.options.option_sets import NOUN, OptionSet
from young_fabric.core.nouns.options.options import OptionValue
from young_fabric.core.nouns.types.product_types import type_path
from young_fabric.core.options.offers import OfferClash
from young_fabric.core.subjects.gatherers import GATHERERS
from young_fabric.core.subjects.memberships import MATCHES, PICKED
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.stock import CHOICE_STOCK, StockKey
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.planning import offering, plans
from young_fabric.service.planning.offering import Offers
from young_fabric.service.products.collection_members import ToldTest, tests_in_words
from young_fabric.service.values import stocks
from young_fabric.service.values.stocks import StockEdit, amounts_of
from young_fabric.service.writing import writes
from young_fabric.store.repos import fills, gathering, products, shop, variants
from young_fabric.store.tables import ChangeRow

PAGE = 50
BY_TYPE = "type"


@dataclass(frozen=True)
class OptionSetUse:
    """An option set with the types that take it, how many products are offered it, whether all products are gathered and their variants matched,
    and its condition in words and as it is typed."""

    thing: OptionSet
    version: int
    types: tuple[str, ...]
    products: int
    gathered: bool
    words: str
    tests: list[ToldTest]


def overview(work: Work, only: str | None = None) -> list[OptionSetUse]:
    """All option sets (or one), by name."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    defs = draft.defs
    counts = offering.counts(work.session, defs, fills.counts_by_type(work.session)) if defs.option_sets else {}
    waiting, matching = gathering.open_keys(work.session), variants.unmatched(work.session)
    chosen = [thing for key, thing in defs.option_sets.items() if only in (None, key)]
    return [
        OptionSetUse(
            thing,
            draft.loaded.versions[NOUN.code, thing.key],
            tuple(sorted(key for key, of in defs.types.items() if thing.key in of.option_sets)),
            counts.get(thing.key, 0),
            not matching and GATHERERS[NOUN.code].note(thing.key) not in waiting,
            condition_words(thing.condition, defs) if thing.condition is not None else "",
            tests_in_words(thing.condition, defs),
        )
        for thing in sorted(chosen, key=lambda thing: (thing.name.casefold(), thing.key))
    ]


@dataclass(frozen=True)
class OfferedProduct:
    """A product that is offered an option set: how it got it, in a word and in words, its variants, and what clashes there."""

    product: Product
    how: str
    reason: str
    variants: int
    clashes: tuple[OfferClash, ...]


@dataclass(frozen=True)
class OfferedProducts:
    """Some products that are offered a set, by id, how many there are in all, and where to go on."""

    rows: list[OfferedProduct]
    total: int
    next: int | None


def offered(work: Work, key: str, after: int = 0) -> OfferedProducts:
    """The products that are offered an option set, each with how it got it. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    thing: OptionSet = writes.need_current(work, NOUN.code, key).thing
    draft = plans.draft_of(work.session)
    defs, offers = draft.defs, Offers(draft.defs)
    wanted = offering.having([key], offering.types_with(defs, key))
    ids = products.ids_where(work.session, wanted, after, PAGE + 1)
    shown = ids[:PAGE]
    found, made = products.get(work.session, shown), variants.counts(work.session, shown)
    rows = []
    for number in shown:
        product = found[number].product
        how, reason = _how(work, defs, offers, thing, product)
        rows.append(OfferedProduct(product, how, reason, made.get(number, 0), offers.of(product).clashes))
    total = offering.counts(work.session, defs, fills.counts_by_type(work.session)).get(key, 0)
    return OfferedProducts(rows, total, shown[-1] if len(ids) > PAGE else None)


def _how(work: Work, defs: Definitions, offers: Offers, thing: OptionSet, product: Product) -> tuple[str, str]:
    if thing.key in offers.of_type(product.type):
        giver = next(of for of in defs.chain(product.type) if thing.key in defs.types[of].option_sets)
        return BY_TYPE, f"of {type_path(giver, defs.types)}"
    how = plans.draft_of(work.session).assessor.gathering[NOUN.code].how(thing.key, product)
    if how == PICKED:
        return PICKED, "put in by hand"
    return MATCHES, condition_words(thing.condition, defs)[:160] if thing.condition is not None else "just now no more"


@dataclass(frozen=True)
class ReadOption:
    """What pasted values of an option came to, and the set as it stands then, with its version."""

    reading: ListReading
    version: int


def paste_values(work: Work, key: str, option: str, text: str, version: int, apply: bool) -> ReadOption:
    """Read pasted names, codes and colours as values of an option's own, and write them when asked to. Raises Refusal, Clash."""
    work.need(Right.LOOK if not apply else Right.EDIT)
    thing: OptionSet = writes.need_current(work, NOUN.code, key).thing
    found = next((other for other in thing.options if other.key == option), None)
    if found is None or found.listed or not found.rules.chooses:
        raise Refusal("unknown_option", "This option has no values of its own", ("option",), "Open it anew")
    own = ValueList("own", found.name, tuple(ListValue(at.code, at.label, swatch=at.swatch) for at in found.values))
    reading = paste(own, text)
    effects = found.effects
    values = tuple(
        OptionValue(at.code, at.label, at.swatch, effects.get(at.code, Effect())) for at in reading.result.values
    )
    if not apply or reading.result == own:
        return ReadOption(reading, version)
    options = [replace(other, values=values) if other.key == option else other for other in thing.options]
    written = definitions.change(work, NOUN.code, key, version, {"options": [state_of(other) for other in options]})
    return ReadOption(reading, written.version)


def put_stock(
    work: Work,
    key: str,
    option: str,
    code: str,
    expected: int | None,
    amount: int | None,
    *,
    group: str | None = None,
    undoes: int | None = None,
) -> None:
    """Put the stock a value of an option (code "" of a request) has of its own, None to count none; live at once.

    `expected` is what was read. Raises Refusal, Clash.
    """
    work.need(Right.EDIT)
    shop.hold_definitions(work.session)
    thing: OptionSet = writes.need_current(work, NOUN.code, key).thing
    found = next((other for other in thing.options if other.key == option), None)
    if found is None:
        raise Refusal("unknown_option", f"There is no option {option[:60]}", ("option",), "It may have been taken away")
    offered_option = Offers(plans.draft(work.session)).of_sets((key,)).by_key[option]
    if code and code not in offered_option.by_code and undoes is None:
        raise Refusal(
            "unknown_value", f"{found.name} has no value {code[:60]}", ("code",), "It may have been taken off"
        )
    name = f"{thing.name}: {offered_option.label(code) if code else found.name}"
    of = StockKey(CHOICE_STOCK, (key, option, code))
    stocks.put(work, [StockEdit(of, f"{key}/{option}/{code}", name, expected, amount, undoes)], group)


def undo_stocks(work: Work, run: Sequence[ChangeRow], group: str) -> None:
    """Take back changes of stock that values have of their own. Raises Refusal, Clash."""
    for change in run:
        key, option, code = change.key.split("/")
        was, now = amounts_of(change)
        put_stock(work, key, option, code, now, was, group=group, undoes=change.id)


def stocks_of(work: Work, keys: Sequence[str]) -> Mapping[str, Mapping[tuple[str, str], int]]:
    """Option set → (option, code) → the stock that values have of their own."""
    return variants.choice_stocks(work.session, keys)
