"""What the shop's templates are given: typed, and made from render documents alone."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, NamedTuple
from urllib.parse import urlencode

from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.surfaces import Surface, addressed_surface, quick_surface
from young_fabric.core.listing.comparing import Compared, ComparedRow
from young_fabric.core.nouns.content import collections, records
from young_fabric.core.nouns.content.collections import in_order
from young_fabric.core.nouns.types import product_types
from young_fabric.core.nouns.types.product_types import ProductType, ancestry, descendants
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.pages.headings import Heading
from young_fabric.core.pages.listed import Listing, of_collection, of_record, of_type
from young_fabric.core.pages.related import without_blocks
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.web.shop.choosing import CardSwatches, Choosing


@dataclass(frozen=True)
class Link:
    """A place to go, with how many cards are there."""

    name: str
    href: str
    count: int = 0


class Around(NamedTuple):
    """What stands around every page, as HTML: links to styles and scripts, the masthead, and the foot."""

    links: str
    masthead: str
    foot: str


@dataclass(frozen=True)
class Frame:
    """What every page has: the shop, its home, whether it is a proof, and what stands around it."""

    shop: Shop
    home: str
    proof: bool
    around: Around


@dataclass(frozen=True)
class Item:
    """A product as pages lead to it: its number, title, address and stock (None when not counted), where the shop is, and what is chosen of
    it where it is led to (a query, "" for nothing)."""

    id: int
    title: str
    slug: str
    stock: int | None
    root: str
    proof: bool
    choice: str = ""

    @property
    def href(self) -> str:
        """Its page."""
        page = f"/proof/product/{self.id}" if self.proof else f"/shop/{addressed_surface().path}/{self.slug}"
        return f"{page}{self.choice}"

    def on(self, surface: Surface) -> str:
        """Its page on a surface; in the shop its own page for those that have none there."""
        if surface.addressed or not (self.proof or surface.path):
            return self.href
        page = f"/proof/surface/{surface.code}/{self.id}" if self.proof else f"/shop/{surface.path}/{self.slug}"
        return f"{page}{self.choice}"

    @property
    def quick(self) -> str:
        """Its quick look."""
        return self.on(quick_surface())

    @property
    def name(self) -> str:
        """What it is compared by: its number in the proof, its address in the shop."""
        return str(self.id) if self.proof else self.slug

    @property
    def url(self) -> str:
        """Its page's whole address in the shop."""
        return f"{self.root}/shop/{addressed_surface().path}/{self.slug}"


@dataclass(frozen=True)
class CardContext:
    """A card: its document, the product it is of, whether it is sold out, the swatches of its options, and whether something must be chosen
    before it can be put into the basket. `mark` tells cards apart that are made once; None for one that is made each time."""

    doc: RenderDoc
    item: Item
    sold_out: bool
    swatches: Sequence[CardSwatches] = ()
    chooses: bool = False
    mark: tuple[Any, ...] | None = None


Beside = Mapping[str, Sequence[CardContext]]
"""Block → cards of the other products it shows."""
NONE_BESIDE: Beside = {}


class BlockContext(NamedTuple):
    """What the blocks of a region are told besides themselves: the folder whose templates come first, the frame, and, where there is any,
    the product they are of, the cards beside it, what is chosen of it, the card they stand on, the listing they hold and the address of
    a line; `form` is what what is chosen is sent with, in a `quick` look or on a page, and `at` the address that shows what is chosen."""

    folder: str
    frame: Frame | None
    item: Item | None = None
    beside: Beside = NONE_BESIDE
    choosing: Choosing | None = None
    form: str = ""
    quick: bool = False
    card: CardContext | None = None
    shelf: ListingContext | None = None
    line_href: str = ""
    at: str = ""


@dataclass(frozen=True)
class ProductShown:
    """A product with its documents by surface, the type it is of, the cards that stand beside it on a surface, what is chosen of it, and,
    where they were asked for, its own cards."""

    item: Item
    type: str
    documents: Mapping[str, RenderDoc]
    beside: Beside
    choosing: Choosing | None = None
    cards: Sequence[CardContext] = ()

    def doc(self, surface: str) -> RenderDoc:
        """Its document on a surface, without blocks that find no others."""
        return without_blocks(self.documents[surface], [block for block, cards in self.beside.items() if not cards])


@dataclass(frozen=True)
class QuickContext:
    """A quick look at a product."""

    frame: Frame
    item: Item
    doc: RenderDoc
    beside: Beside
    choosing: Choosing | None = None

    @property
    def blocks(self) -> BlockContext:
        """What its blocks are told."""
        blocks = BlockContext("blocks", self.frame, self.item, self.beside, self.choosing, "quick-buy", quick=True)
        return blocks._replace(at=self.item.quick)


@dataclass(frozen=True)
class SurfaceContext:
    """A product on a surface of which nothing but its blocks is shown."""

    frame: Frame
    item: Item
    doc: RenderDoc
    beside: Beside
    at: str
    choosing: Choosing | None = None

    @property
    def blocks(self) -> BlockContext:
        """What its blocks are told."""
        return BlockContext("blocks", self.frame, self.item, self.beside, self.choosing, "buy", at=self.at)


@dataclass(frozen=True)
class CompareContext:
    """Products side by side; with `only`, rows that are the same are left out."""

    frame: Frame
    items: Sequence[Item]
    comparison: Compared
    only: bool
    path: str

    def href(self, out: Item | None = None, *, only: bool | None = None) -> str:
        """The same comparison without a product, or with other rows."""
        names = [("p", item.name) for item in self.items if item is not out]
        shown = self.only if only is None else only
        return f"{self.path}?{urlencode([*names, *([('only', 'differs')] if shown else [])])}"

    def blocks(self, item: Item) -> BlockContext:
        """What the blocks above a product are told."""
        return BlockContext("cards", self.frame, item)

    @property
    def rows(self) -> Sequence[ComparedRow]:
        """The rows that show."""
        return [row for row in self.comparison.rows if not (self.only and row.same)]


@dataclass(frozen=True)
class PageContext:
    """A product page."""

    frame: Frame
    title: str
    doc: RenderDoc
    trail: Sequence[Link]
    item: Item
    json_ld: Mapping[str, Any]
    beside: Beside
    choosing: Choosing | None = None

    @property
    def blocks(self) -> BlockContext:
        """What its blocks are told."""
        return BlockContext("blocks", self.frame, self.item, self.beside, self.choosing, "buy", at=self.item.href)


@dataclass(frozen=True)
class ListingContext:
    """A listing: its heading, what it tells of itself, its parts, cards, and the pages before and after."""

    frame: Frame
    title: str
    trail: Sequence[Link]
    parts: Sequence[Link]
    cards: Sequence[CardContext]
    total: int
    before: str | None
    after: str | None
    heading: Heading | None = None


@dataclass(frozen=True)
class HomeListing:
    """A listing on the home page, with its first cards."""

    link: Link
    cards: Sequence[CardContext]


PROOFS = {
    product_types.NOUN.code: "type",
    collections.NOUN.code: "collection",
    records.NOUN.code: "record",
    PRODUCT.code: "product",
}
"""What the proof's addresses call the pages of a noun or subject."""


@dataclass(frozen=True)
class Ways:
    """The way to every listing of some definitions, with how many cards are in each."""

    defs: Definitions
    counts: Mapping[Listing, int]
    proof: bool
    around: dict[bool, Around] = field(default_factory=dict, compare=False, repr=False)
    """What stands around pages, by whether the studio looks on, made once."""

    def link(self, listing: Listing) -> Link:
        """A link to a listing."""
        thing = self.defs.things[listing.noun][listing.key]
        href = f"/proof/{PROOFS[listing.noun]}/{listing.key}" if self.proof else f"/shop/c/{thing.slug}"
        return Link(thing.name, href, self.counts.get(listing, 0))

    def tops(self) -> list[Listing]:
        """The listings the home page and the way around show: top types by name, then collections in their order."""
        types = sorted((top for top in self.defs.types.values() if top.parent is None), key=lambda top: top.name)
        found = [of_type(top.key) for top in types]
        found += [of_collection(thing.key) for thing in in_order(self.defs)]
        return [listing for listing in found if self.counts.get(listing)]

    def parts(self, type_key: str) -> list[Link]:
        """The types right below one that have cards."""
        below = sorted((t for t in self.defs.types.values() if t.parent == type_key), key=lambda child: child.name)
        return [link for link in (self.link(of_type(child.key)) for child in below) if link.count]

    def trail(self, type_key: str) -> list[Link]:
        """The types a product is of, from the top down."""
        chain = [key for key in reversed(ancestry(type_key, self.defs.types)) if key in self.defs.types]
        return [self.link(of_type(key)) for key in chain]

    def at(self, slug: str) -> Listing | None:
        """The listing at an address."""
        return self._by_slug.get(slug)

    @cached_property
    def _by_slug(self) -> Mapping[str, Listing]:
        found = {
            record.slug: of_record(key)
            for key, record in self.defs.things[records.NOUN.code].items()
            if records.page_of(record, self.defs)
        }
        for noun in (product_types.NOUN.code, collections.NOUN.code):
            found |= {thing.slug: Listing(noun, key) for key, thing in self.defs.things[noun].items()}
        return found


def below(counts: Mapping[str, int], types: Mapping[str, ProductType]) -> dict[Listing, int]:
    """Counts per type summed over all below it, by listing."""
    return {of_type(key): sum(counts.get(inner, 0) for inner in descendants(key, types)) for key in types}
