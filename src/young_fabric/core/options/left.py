"""What is left to sell: the one reckoning that quotes, choosers, cards, structured data and baskets ask.

What is counted of a choice is its variant (or the product, where nothing makes variants), and every value and request chosen that
has stock of its own; as many can be had as there are of the one with the least.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from young_fabric.core.options.combinations import combine
from young_fabric.core.options.goods import Goods, Names
from young_fabric.core.options.offers import Given, Offer
from young_fabric.core.subjects.stock import CHOICE_STOCK, PRODUCT_STOCK, VARIANT_STOCK, StockKey


def own_stocks(offer: Offer, stocks: Mapping[str, Mapping[tuple[str, str], int]]) -> dict[tuple[str, str], int]:
    """(option, code) → pieces, of the values and requests offered. `stocks` are by option set: an option that comes in two sets
    counts in the set that offers it, and in no other."""
    return {
        named: amount
        for key, offered in offer.by_key.items()
        for named, amount in stocks.get(offered.set, {}).items()
        if named[0] == key
    }


def counted(goods: Goods, names: Names | None, given: Mapping[str, Given]) -> dict[StockKey, int]:
    """All that is counted of a choice, and how many pieces there are of each."""
    out: dict[StockKey, int] = {}
    variant = goods.variants.get(names) if names is not None else None
    if variant is not None:
        if variant.stock is not None and variant.id is not None:
            out[StockKey(VARIANT_STOCK, (variant.id,))] = variant.stock
    elif not goods.offer.axes and goods.own.stock is not None and goods.own.id is not None:
        out[StockKey(PRODUCT_STOCK, (goods.own.id,))] = goods.own.stock
    for key, code in _codes(goods, given) if goods.stocks else ():
        if (key, code) in goods.stocks:
            named = (goods.offer.by_key[key].set, key, code)
            out[StockKey(CHOICE_STOCK, named)] = goods.stocks[key, code]
    return out


def _codes(goods: Goods, given: Mapping[str, Given]) -> Iterator[tuple[str, str]]:
    for key, found in given.items():
        codes = found.value if isinstance(found.value, list) else [found.value]
        for code in codes if goods.offer.by_key[key].rules.chooses else [""]:
            yield key, str(code)


def left_of_choice(goods: Goods, names: Names | None, given: Mapping[str, Given]) -> int | None:
    """How many pieces of a choice can be had; None where nothing of it is counted."""
    found = counted(goods, names, given)
    return max(min(found.values()), 0) if found else None


def is_sold_out(goods: Goods, names: Names) -> bool:
    """Whether none is left of a combination: of its variant, or of one of its values that have stock of their own."""
    variant = goods.variants.get(names)
    if variant is not None and variant.stock is not None and variant.stock <= 0:
        return True
    return bool(goods.stocks) and any(
        not value_left(goods, key, code) for key, code in zip(goods.offer.axis_keys, names, strict=True)
    )


def value_left(goods: Goods, key: str, code: str) -> bool:
    """Whether any is left of a value (code "" of a request) by the stock it has of its own; of one that has none, always."""
    amount = goods.stocks.get((key, code))
    return amount is None or amount > 0


def nothing_left(goods: Goods) -> bool:
    """Whether none can be had however it is chosen: of no combination, or nothing of what must be chosen besides."""
    if goods.offer.axes:
        if all(is_sold_out(goods, names) for names in combinations_of(goods)):
            return True
    elif goods.own.stock is not None and goods.own.stock <= 0:
        return True
    return bool(goods.stocks) and any(
        not any(value_left(goods, key, code) for code in (offered.by_code if offered.rules.chooses else ("",)))
        for key, offered in goods.offer.fewer.items()
        if offered.option.required
    )


def combinations_of(goods: Goods) -> list[Names]:
    """The combinations there are: of its variants; all that could be made where an offer is only tried."""
    if goods.variants or not goods.tried:
        return list(goods.variants)
    return [tuple(found.values()) for found in combine(goods.offer.axes, goods.offer.left_out)]
