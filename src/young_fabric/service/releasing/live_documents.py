"""What goes live of products: their documents on every surface and their frozen states, written by batches."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.base.collector import uncollected
from young_fabric.core.base.hashes import listed_hash, spelled
from young_fabric.core.display.cascade import DisplaySetting
from young_fabric.core.display.surfaces import listed_surface, product_surfaces
from young_fabric.core.listing.cards import MADE_FOR, Cards, documents_on
from young_fabric.core.nouns.fields.built_in import ADDRESS
from young_fabric.core.pages.document import FORMAT, to_json
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.variants import OFFERED
from young_fabric.service.acting.actors import Work
from young_fabric.service.pages import proofs
from young_fabric.service.pages.proofs import OwnSettings
from young_fabric.service.planning import plans
from young_fabric.service.releasing import placing
from young_fabric.service.releasing.holding import HoldingBack
from young_fabric.service.releasing.release_batches import Batch
from young_fabric.service.values import value_states
from young_fabric.store.repos import releases, variants
from young_fabric.store.repos.releases import DocumentKey

MOST_HELD_BACK = 50
Documents = dict[DocumentKey, dict[str, Any]]


@dataclass
class Tally:
    """How much of the work is done, of how much, and what was written by surface.

    `held_back` are the first products that had to stay as they were, with their titles and why; `left` counts the
    changed ones among all of those.
    """

    total: int
    done: int = 0
    written: Counter[str] = field(default_factory=Counter)
    held_back: list[tuple[int, str, str]] = field(default_factory=list)
    left: int = 0


def live_documents(made: Plans, product: Product, own: Sequence[DisplaySetting]) -> Documents:
    """The document of a product with names in its values, on each surface as it could go live, with a hash of what readers get."""
    address, under = product.values.get(ADDRESS.key), list(made.defs.chain(product.type))
    head = [spelled(part) for part in (FORMAT, address, product.title, under)]
    out: Documents = {}
    for code, surface in product_surfaces().items():
        for key, (card, found) in documents_on(made.of_product(product, code, own), product, MADE_FOR).items():
            document, title = spelled(to_json(found)), card.title or product.title
            out[code, str(product.id), key] = {
                "surface": code,
                "subject_id": str(product.id),
                "card": key,
                "address": address,
                "title": title,
                "listed": surface.listed,
                "under": under,
                "document": document,
                "format": FORMAT,
                "hash": listed_hash([*head, document] if title == product.title else [*head, spelled(title), document]),
            }
    return out


def cards_of(
    session: Session, draft: plans.Draft, found: Sequence[Product], shown: Mapping[int, Product], own: OwnSettings
) -> dict[int, Cards]:
    """Product → the cards it can have; what can be chosen of it is looked up where that decides and is not among those `shown`."""
    surface = listed_surface().code
    fans = {
        product.id: draft.plans.of_product(product, surface, own.get(str(product.id), ())).fans for product in found
    }
    lacking = [product for product in found if fans[product.id] and product.id not in shown and product.offered]
    more = {product.id: product for product in draft.showing.of(session, lacking)} if lacking else {}
    return {
        product.id: Cards(fans[product.id], shown.get(product.id) or more.get(product.id) or product)
        for product in found
    }


class LiveWriter:
    """Puts products live with one release, batch by batch; `finish` writes what is left.

    The documents of a batch are sent to the database while those of the next are rendered, so that both work at once.
    """

    def __init__(self, work: Work, draft: plans.Draft, placer: placing.Placer, number: int, tally: Tally) -> None:
        self._work, self._session = work, work.session
        self._draft, self._placer, self._number, self._tally = draft, placer, number, tally
        self._first = number == 1
        self._waiting: Sequence[Mapping[str, Any]] = ()
        self._holding = HoldingBack(self._session, draft.assessor, draft.showing.offers)
        self._held = frozenset(releases.open_keys(self._session, releases.HELD))

    def put(self, batch: Batch) -> None:
        """Render, place and freeze what differs of a batch, and end what is gone."""
        self._end(batch.gone)
        self._placer.take_out(batch.gone)
        rendered = batch.products if batch.whole else self._placer.moved(batch.products)
        own = proofs.own_settings(self._work, [product.id for product in batch.products])
        held, shown = self._render(rendered, own)
        standing = [product for product in batch.products if product.id not in held]
        self._placer.place(standing, cards_of(self._session, self._draft, standing, shown, own))
        self._freeze([product for product in standing if product.id in batch.changed])
        self._tally.left += len(held & batch.changed)
        self._tally.done += batch.work

    def finish(self) -> None:
        """Write the documents that wait."""
        releases.add_documents(self._session, PRODUCT.code, self._waiting, self._number)
        self._waiting = ()

    def _render(self, found: Sequence[Product], own: OwnSettings) -> tuple[frozenset[int], dict[int, Product]]:
        """Render products, have documents that differ wait to be written, end those they follow; gives those held back, and the others as
        pages show them."""
        reasons = self._holding.reasons([product for product in found if product.offered])
        held = [(product.id, product.title, reasons[product.id]) for product in found if product.id in reasons]
        self._tally.held_back += held[: MOST_HELD_BACK - len(self._tally.held_back)]
        standing = [product for product in found if product.id not in reasons]
        self._hold(list(reasons), [product.id for product in standing])
        ids = [product.id for product in standing]
        live = {} if self._first else releases.open_hashes(self._session, PRODUCT.code, ids)
        rendered: Documents = {}
        shown = self._draft.showing.of(self._session, standing)
        rendering = (
            rendered.update(live_documents(self._draft.plans, product, own.get(str(product.id), ())))
            for product in shown
            if product.offered
        )
        beside = _beside(self._waiting, rendering, len(product_surfaces()))
        with uncollected():
            releases.add_documents(self._session, PRODUCT.code, beside, self._number)
        fresh = {key: row for key, row in rendered.items() if live.get(key) != row["hash"]}
        gone = [key for key in live if key in fresh or key not in rendered]
        releases.end_documents(self._session, PRODUCT.code, gone, self._number)
        self._waiting = list(fresh.values())
        self._tally.written.update(Counter(key[0] for key in {*fresh, *gone}))
        return frozenset(product_id for product_id, _, _ in held), {product.id: product for product in shown}

    def _hold(self, held: Sequence[int], standing: Sequence[int]) -> None:
        """Note that live products stay by the definitions they were put live by; those that go live again by the new ones."""
        going = [(releases.HELD, str(number)) for number in standing if str(number) in self._held]
        releases.close_things(self._session, going, self._number)
        fresh = [str(number) for number in held if str(number) not in self._held]
        live = releases.open_keys(self._session, PRODUCT.code, fresh) if fresh else []
        by = {"by": self._number - 1}
        releases.add_things(self._session, [releases.frozen(releases.HELD, key, 1, by, self._number) for key in live])

    def _freeze(self, found: Sequence[Product]) -> None:
        """End the live states of products that go live, and freeze their drafts, with what is offered of them."""
        ids = [product.id for product in found]
        variants.freeze_offered(self._session, ids, self._number, first=self._first)
        keys = [(PRODUCT.code, str(product.id)) for product in found]
        if not self._first:
            releases.close_things(self._session, keys, self._number)
        states = [PRODUCT.state_of(product) for product in found]
        rows = [
            releases.frozen(*key, value_states.FORMAT, state, self._number)
            for key, state in zip(keys, states, strict=True)
        ]
        releases.add_things(self._session, rows)

    def _end(self, gone: Sequence[int]) -> None:
        """End the documents and the live states of products that are gone."""
        if gone:
            live = releases.open_hashes(self._session, PRODUCT.code, gone)
            self._tally.written.update(Counter(surface for surface, _, _ in live))
            releases.close_documents(self._session, PRODUCT.code, gone, self._number)
            keys = [(noun, str(product_id)) for noun in (PRODUCT.code, OFFERED, releases.HELD) for product_id in gone]
            releases.close_things(self._session, keys, self._number)


def _beside(rows: Iterable[Mapping[str, Any]], steps: Iterator[None], each: int) -> Iterator[Mapping[str, Any]]:
    """Rows, with a step of other work done after every few; then the steps that are left."""
    for count, row in enumerate(rows):
        yield row
        if count % each == 0:
            next(steps, None)
    for _ in steps:
        pass
