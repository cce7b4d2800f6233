"""Option sets that each make a sound number of variants, and too many together: refused where they meet on a product."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.types.product_types import type_path
from young_fabric.core.options.combinations import size_of
from young_fabric.core.options.offers import Offer
from young_fabric.service.acting.actors import Work
from young_fabric.service.planning import plans
from young_fabric.service.planning.offering import Offered, Offers
from young_fabric.store.repos import products


def check_definitions(
    work: Work, before: Definitions, after: Definitions, sets: Iterable[str], types: Iterable[str]
) -> None:
    """Whether sets that differ, and those of types that have others, go together wherever they meet; what grew too large before may
    shrink. Raises Refusal `too_many`."""
    old, new = Offers(before), Offers(after)
    found: list[Offered] = [(key, ()) for key in types if key in after.types]
    found += products.kinds_of_offers(work.session, sorted(sets), sorted(types))
    for type_key, more in found:
        if type_key not in after.types:
            continue
        keys = new.sets(type_key, more)
        size = size_of(new.of_sets(keys).axes)
        was = size_of(old.of_sets(old.sets(type_key, more)).axes) if type_key in before.types else 0
        if new.of_sets(keys).too_many is not None and size > was:
            raise _refusal(f"on products of {type_path(type_key, after.types)}", new.of_sets(keys), keys, after)


def check_products(work: Work, ids: Sequence[int]) -> None:
    """Whether what some products are offered now goes together. Raises Refusal `too_many`, naming the first where it does not."""
    defs = plans.draft(work.session)
    if not ids or not defs.option_sets:
        return
    offers = Offers(defs)
    for _, record in sorted(products.get(work.session, ids).items()):
        keys = offers.sets(record.product.type, record.product.option_sets)
        if offers.of_sets(keys).too_many is not None:
            raise _refusal(f"on {record.product.title}", offers.of_sets(keys), keys, defs)


def _refusal(where: str, offer: Offer, keys: Sequence[str], defs: Definitions) -> Refusal:
    makers = [key for key in keys if any(offer.by_key[axis].set == key for axis in offer.axis_keys)]
    names = " and ".join(defs.option_sets[key].name for key in makers)
    too_many = offer.too_many
    words = f"{names} {where}: {too_many.message if too_many is not None else 'too many combinations'}"
    return Refusal("too_many", words, (), "Take values or one of the sets off there, or let an option be a request")
