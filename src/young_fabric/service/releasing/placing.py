"""Placing what goes live: which listings cards stand in and where, put beside the documents of a release."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator, Mapping, Sequence

from sqlalchemy.orm import Session

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.listing.cards import Cards
from young_fabric.core.listing.listings import place_mark, places
from young_fabric.core.nouns.content import collections
from young_fabric.core.pages.listed import of_collection, read_listing
from young_fabric.core.subjects.memberships import Memberships
from young_fabric.core.subjects.products import Product
from young_fabric.store.repos import fills, listings, products
from young_fabric.store.repos.listings import CardPlace


def relisted(live: Definitions, asked: Memberships) -> list[str]:
    """The collections in which others stand, or in another order, than by what is live."""
    before = Memberships(live)
    noun = collections.NOUN.code
    keys = {*live.things[noun], *asked.defs.things[noun]}
    return sorted(key for key in keys if before.mark(key) != asked.mark(key))


class Placer:
    """Puts the cards of products in their listings for one release, and counts the listings at the end."""

    def __init__(self, session: Session, asked: Memberships, release: int) -> None:
        self._session, self._asked, self._release = session, asked, release
        self._first = release == 1
        self._steps = listings.ListingSteps()

    def place(self, found: Sequence[Product], cards: Mapping[int, Cards]) -> None:
        """Put products where they stand now, each with its cards there; those not offered stand nowhere."""
        wanted: dict[CardPlace, dict[str, object]] = {}
        for product in found:
            for listing, place in places(self._asked, product).items() if product.offered else ():
                for position, card in enumerate(cards[product.id].on(listing)):
                    key = CardPlace(str(listing), product.id, card.key)
                    mark = place_mark(place, position)
                    wanted[key] = {**key._asdict(), **place._asdict(), "position": position, "hash": mark}
        ids = [product.id for product in found]
        there = {} if self._first else listings.open_places(self._session, ids)
        gone = [key for key, digest in there.items() if key not in wanted or wanted[key]["hash"] != digest]
        fresh = [row for key, row in wanted.items() if there.get(key) != row["hash"]]
        self._put(gone, fresh)

    def take_out(self, ids: Sequence[int]) -> None:
        """Take products out of every listing."""
        self._put(list(listings.open_places(self._session, ids)) if ids else [], [])

    def _put(self, gone: Sequence[CardPlace], fresh: Sequence[dict[str, object]]) -> None:
        self._steps.take(listings.put(self._session, gone, fresh, self._release))

    def moved(self, found: Sequence[Product]) -> list[Product]:
        """Those in other collections than their live cards stand in."""
        noun = collections.NOUN.code
        there: dict[int, set[str]] = defaultdict(set)
        for key in listings.open_places(self._session, [product.id for product in found]):
            listing = read_listing(key.listing)
            if listing.noun == noun:
                there[key.product_id].add(listing.key)
        return [product for product in found if product.offered and there[product.id] != set(product.collections)]

    def settle(self) -> None:
        """Count the parts of the listings that changed."""
        listings.settle(self._session, self._steps, self._asked.defs.shop.collation)


def stream_relisted(
    session: Session, keys: Sequence[str], batch: int, rest_of: Callable[[Mapping[int, fills.GroupKey]], list[int]]
) -> Iterator[list[Product]]:
    """The products in some collections, and those with live cards there, by id; `rest_of` leaves out those seen to."""
    if not keys:
        return
    live = [str(of_collection(key)) for key in keys]
    after = 0
    while True:
        there = products.ids_where(session, products.concerned(keys, [], []), after, batch)
        were = listings.products_in(session, live, after, batch)
        ids = sorted({*there, *were})[:batch]
        if not ids:
            return
        rest = sorted(rest_of(products.groups_of(session, ids)))
        if rest:
            found = products.get(session, rest)
            yield [found[number].product for number in rest]
        after = ids[-1]
