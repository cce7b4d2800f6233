"""Counted stock: of products, of variants, and of single values of options; whose it is, and what may stand."""

from __future__ import annotations

from typing import NamedTuple

from young_fabric.core.base.errors import Refusal

PRODUCT_STOCK, VARIANT_STOCK, CHOICE_STOCK = "stock", "variant_stock", "choice_stock"
"""What has stock of its own, in the order in which it is held: products, variants, values of options (and requests)."""
LEAST_STOCK, MOST_STOCK = 0, 1_000_000_000


class StockKey(NamedTuple):
    """Whose stock it is: of which sort, and its key there: (product,), (variant,), (option set, option, code; "" of a request)."""

    sort: str
    of: tuple[int | str, ...]


def check_amount(amount: int | None) -> None:
    """Whether so many pieces can be counted, None for not counted. Raises Refusal `below`, `above` at `amount`."""
    if amount is None:
        return
    if amount < LEAST_STOCK:
        raise Refusal("below", "Stock is a whole number from 0", ("amount",), "Type 0 where nothing is there")
    if amount > MOST_STOCK:
        raise Refusal("above", f"Stock is a whole number up to {MOST_STOCK:,}", ("amount",), "Type a smaller number")
