"""The kinds of block a layout is made of: a registry, so that one more is a line here, what it renders, and a partial.

How each renders is said beside the pages; each has a partial of its own name in the shop's templates.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.registry import Registry
from young_fabric.core.display.block_members import (
    COMMON,
    HEADING,
    ICON,
    REGIONS,
    TAKES,
    WIDTHS,
    Member,
    check_key,
    chosen,
)
from young_fabric.core.display.choices import Choice, short_text
from young_fabric.core.display.pins import PICTURE, PINS
from young_fabric.core.display.related import BY, MOST, SAME
from young_fabric.core.display.surfaces import CHOSEN, CHOSEN_FROM, PRODUCTS, RECORDS, SWATCHES, Surface
from young_fabric.core.kinds.base import Kind
from young_fabric.core.kinds.numbers import Money, UnitPrice
from young_fabric.core.kinds.pictures import Picture
from young_fabric.core.kinds.ratings import Rating
from young_fabric.core.kinds.references import ToProduct
from young_fabric.core.kinds.rich_text import RichText
from young_fabric.core.kinds.shared_words import SharedWords
from young_fabric.core.kinds.texts import LongText, Text
from young_fabric.core.kinds.videos import Video

LONGEST_WORDS = 4_000
CONTENT, TITLE, BETWEEN, LIGHT = "content", "title", "between", "light"
"""What a block weighs in its region: content stands, and has what is around it stand; a title stands when content follows;
what is between stands between others; a light one stands, and has nothing else stand."""


@dataclass(frozen=True)
class BlockKind:
    """A kind of block. `help` says what it shows; `group` heads it where blocks are chosen; `also` is what else people call it.

    Those with a number of `most_fields` are slots, which take fields of `kinds` (none: of any); a new one takes `fields`.
    `becomes` says which kinds show its words once
    they are a field or shared copy. `fewest_regions` and `most_regions` are how many parts it holds. A layout has `once` ones at most once. `filled` ones
    stand only when a field has a value, `alone` slots also without fields; the fields of `in_rows` ones are rows where products are compared; the blocks
    in `panels` ones are panels; `paged` ones stand on pages, and on nothing smaller; it stands on pages of its `subjects`, and where `options`
    are named only where options stand so; `chooses` ones show the options themselves.
    """

    code: str
    name: str
    help: str
    group: str
    members: tuple[Member, ...] = ()
    most_fields: int = 0
    kinds: tuple[type[Kind], ...] = ()
    fields: tuple[str, ...] = ()
    fewest_regions: int = 0
    most_regions: int = 0
    once: bool = False
    filled: bool = False
    alone: bool = False
    paged: bool = False
    subjects: tuple[str, ...] = (PRODUCTS, RECORDS)
    in_rows: bool = False
    panels: bool = False
    options: tuple[str, ...] = ()
    chooses: bool = False
    weight: str = CONTENT
    begins: Mapping[str, Any] = field(default_factory=dict)
    becomes: Mapping[str, str] = field(default_factory=dict)
    also: tuple[str, ...] = ()

    @property
    def takes_fields(self) -> bool:
        """Whether it is a slot."""
        return self.most_fields > 0

    def all_members(self) -> tuple[Member, ...]:
        """All that can be said of a block of this kind."""
        slot = (TAKES,) if self.takes_fields else ()
        held = (REGIONS,) if self.most_regions else ()
        return (*slot, *held, *self.members, *COMMON)

    def stands_on(self, surface: Surface) -> bool:
        """Whether layouts of a surface can have it."""
        fits = not self.options or surface.options in self.options
        return fits and surface.subject in self.subjects and (surface.paged or not self.paged)

    def takes_kind(self, kind: Kind) -> bool:
        """Whether fields of a kind can stand in it."""
        return not self.kinds or isinstance(kind, self.kinds)


PICTURES_AS = chosen(
    "as",
    "Pictures as",
    (
        Choice("strip", "large, with a strip below"),
        Choice("slider", "slider"),
        Choice("grid", "grid"),
        Choice("one", "the first alone"),
    ),
)
CROP = chosen(
    "crop",
    "Cut to",
    (
        Choice("", "nothing cut off"),
        Choice("square", "square"),
        Choice("wide", "4 to 3"),
        Choice("tall", "3 to 4"),
        Choice("film", "16 to 9"),
    ),
)
PANELS_AS = chosen("as", "Panels as", (Choice("tabs", "tabs"), Choice("accordion", "accordion")))
WORDS = Member("words", "Words", "phrases", short_text(LONGEST_WORDS, lines=True), "", typed=True)
SMALL = "small"
LEVEL = chosen("level", "Size", (Choice("large", "large"), Choice(SMALL, "small")))


def _check_copy(value: Any) -> Refusal | None:
    if isinstance(value, str) and value:
        return None
    return Refusal("copy", "Choose the shared copy it shows", help="Choose one, or make one")


COPY = Member("copy", "Shared copy", "shared_copy", _check_copy, noun="shared_copy")
ICON_OF = Member(
    "icon_of",
    "Icon from",
    "field_key",
    check_key,
    "",
    help="the first picture of a field",
    names_fields=True,
    kinds=(Picture,),
)
HEADED = (HEADING, ICON, ICON_OF)
_TEXTS: tuple[type[Kind], ...] = (Text, LongText, RichText, SharedWords)
_PRODUCT, _PARTS, _WORDS = "Of the product", "To arrange with", "Words and more"

_KNOWN: dict[str, BlockKind] = {
    kind.code: kind
    for kind in (
        BlockKind(
            "title",
            "title",
            "What the product is called",
            _PRODUCT,
            most_fields=1,
            kinds=(Text,),
            fields=("title",),
            once=True,
            filled=True,
            also=("name",),
        ),
        BlockKind(
            "pictures",
            "pictures",
            "Its pictures, in their proportions or cut",
            _PRODUCT,
            (PICTURES_AS, CROP),
            most_fields=4,
            kinds=(Picture,),
            fields=("pictures",),
            filled=True,
            also=("picture", "image", "images", "photo", "gallery", "slider", "zoom"),
        ),
        BlockKind(
            "price",
            "price",
            "What it costs, with the unit price if no other place has it",
            _PRODUCT,
            most_fields=2,
            kinds=(Money, UnitPrice),
            fields=("price", "unit_price"),
            once=True,
            filled=True,
            subjects=(PRODUCTS,),
            also=("cost", "amount"),
        ),
        BlockKind(
            "unit_price",
            "unit price",
            "The price of a reference quantity, by itself",
            _PRODUCT,
            most_fields=1,
            kinds=(UnitPrice,),
            fields=("unit_price",),
            once=True,
            filled=True,
            subjects=(PRODUCTS,),
            also=("base price", "price per litre"),
        ),
        BlockKind(
            "stock",
            "stock",
            "In stock, few left or sold out, as it is right now",
            _PRODUCT,
            once=True,
            weight=LIGHT,
            subjects=(PRODUCTS,),
            also=("availability", "in stock", "sold out"),
        ),
        BlockKind(
            "options",
            "options",
            "What shoppers can choose; on cards swatches that lead there, in the basket what was chosen",
            _PRODUCT,
            once=True,
            options=(CHOSEN_FROM, SWATCHES, CHOSEN),
            chooses=True,
            subjects=(PRODUCTS,),
            also=("variants", "choices", "swatches", "sizes"),
        ),
        BlockKind(
            "to_basket",
            "add to basket",
            "How many, what they come to, and into the basket",
            _PRODUCT,
            once=True,
            options=(CHOSEN_FROM, SWATCHES),
            weight=LIGHT,
            subjects=(PRODUCTS,),
            also=("cart", "buy", "quantity", "order"),
        ),
        BlockKind(
            "text",
            "short description",
            "Text in full width, without a label",
            _PRODUCT,
            HEADED,
            most_fields=4,
            kinds=_TEXTS,
            fields=("description",),
            filled=True,
            also=("description", "rich text", "html"),
        ),
        BlockKind(
            "field",
            "single field",
            "One field by itself",
            _PRODUCT,
            HEADED,
            most_fields=1,
            in_rows=True,
            also=("attribute", "metafield", "custom field", "value"),
        ),
        BlockKind(
            "fields",
            "fields",
            "Fields of sets, or all that no other place has",
            _PRODUCT,
            HEADED,
            most_fields=300,
            in_rows=True,
            begins={"takes": {"rest": True}, "heading": "Details"},
            also=("table", "specifications", "specs", "details", "facts", "attributes"),
        ),
        BlockKind(
            "rating",
            "rating",
            "Stars and how many rated",
            _PRODUCT,
            HEADED,
            most_fields=2,
            kinds=(Rating,),
            filled=True,
            also=("stars", "reviews"),
        ),
        BlockKind(
            "video",
            "video",
            "A film that plays when asked to",
            _PRODUCT,
            HEADED,
            most_fields=4,
            kinds=(Video,),
            filled=True,
            also=("film", "player"),
        ),
        BlockKind(
            "related",
            "related products",
            "Cards of others: those its fields name, then of the same type or with the same values",
            _PRODUCT,
            (*HEADED, BY, SAME, MOST),
            most_fields=4,
            kinds=(ToProduct,),
            alone=True,
            paged=True,
            begins={"heading": "Goes with it"},
            subjects=(PRODUCTS,),
            also=("recommended", "cross-sell", "similar", "cards"),
        ),
        BlockKind(
            "referrers",
            "products that name it",
            "Cards of the products that refer to the record, by pages",
            _PRODUCT,
            HEADED[:2],
            once=True,
            weight=LIGHT,
            subjects=(RECORDS,),
            also=("products of it", "backlinks"),
        ),
        BlockKind(
            "columns",
            "columns",
            "Parts side by side",
            _PARTS,
            (WIDTHS,),
            fewest_regions=2,
            most_regions=4,
            also=("grid", "side by side", "two columns"),
        ),
        BlockKind(
            "panels",
            "panels",
            "Parts under headings, as tabs or an accordion",
            _PARTS,
            (PANELS_AS,),
            fewest_regions=1,
            most_regions=1,
            panels=True,
            also=("tabs", "accordion", "fold"),
        ),
        BlockKind(
            "section",
            "section",
            "Blocks together, under a heading or none",
            _PARTS,
            HEADED,
            fewest_regions=1,
            most_regions=1,
            also=("group", "box", "container"),
        ),
        BlockKind(
            "divider", "divider", "A line between blocks", _PARTS, weight=BETWEEN, also=("line", "rule", "separator")
        ),
        BlockKind(
            "heading",
            "heading",
            "Words above what follows",
            _WORDS,
            (WORDS, LEVEL),
            weight=TITLE,
            also=("headline", "title", "h2"),
        ),
        BlockKind(
            "words",
            "words",
            "Text with values of fields in it",
            _WORDS,
            (WORDS, *HEADED),
            becomes={"as_field": "text", "as_copy": "copy"},
            also=("text", "paragraph", "copy", "html"),
        ),
        BlockKind(
            "pins",
            "picture with pins",
            "A picture with places on it, each with words and a link",
            _WORDS,
            (PICTURE, PINS, *HEADED),
            also=("hotspots", "image map", "lookbook"),
        ),
        BlockKind(
            "copy",
            "shared copy",
            "Words that are written once for many pages",
            _WORDS,
            (COPY, *HEADED),
            also=("snippet", "shared words", "reusable text"),
        ),
        BlockKind(
            "share",
            "share links",
            "The page's address to send on, by mail or to copy",
            _WORDS,
            (HEADING,),
            once=True,
            weight=LIGHT,
            also=("social", "send", "mail"),
        ),
        BlockKind(
            "closer",
            "quick look and compare",
            "Ways to see more of it from its card",
            _WORDS,
            once=True,
            weight=LIGHT,
            subjects=(PRODUCTS,),
            also=("zoom in", "preview"),
        ),
        BlockKind(
            "save",
            "save for later",
            "Keeps the product in this browser",
            _WORDS,
            once=True,
            weight=LIGHT,
            subjects=(PRODUCTS,),
            also=("wish list", "favourites", "bookmark", "remember"),
        ),
    )
}
BLOCK_KINDS: Registry[BlockKind] = Registry(
    _KNOWN, lambda code: BlockKind(code, "block this version does not know", "It shows nothing", _WORDS)
)
"""Every kind of block by its code."""
