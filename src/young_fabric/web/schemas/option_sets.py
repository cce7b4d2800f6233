"""Option sets, trying them, and what products offer, as the API takes and sends them."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field as Member

from young_fabric.core.nouns.lists.list_values import Swatch
from young_fabric.core.nouns.options.option_sets import OptionSet
from young_fabric.web.schemas.collections import ToldTestOut
from young_fabric.web.schemas.common import Id, In, Key, Out, Version
from young_fabric.web.schemas.nouns import SkippedOut, ThingOut

Amounts = dict[str, str]
"""Figure (price, weight, cost) → what a choice does to it, in words that can be typed again."""


class OptionSetOut(ThingOut):
    """An option set with the types that take it, how many products are offered it, and whether these and their variants are all in
    step. `effect_words` say what choices do, by option and code ("" of the option itself)."""

    thing: OptionSet
    types: list[str]
    products: int
    gathered: bool
    words: str
    tests: list[ToldTestOut]
    effect_words: dict[str, dict[str, Amounts]]
    stocks: dict[str, dict[str, int]]


class PasteIn(In):
    """Values of an option as pasted lines: names, codes and colours; `apply` writes them, else they are only read."""

    option: Key
    text: Annotated[str, Member(max_length=200_000)]
    version: Version
    apply: bool = False


class PastedOut(Out):
    """What pasted values come to: labels of those added and changed, lines skipped, and the version of the set after it."""

    added: list[str]
    changed: list[str]
    skipped: list[SkippedOut]
    version: int


class TrySetIn(In):
    """An option set as it would be, tried: on a product (None: one that has it), with what is chosen by option, for so many
    pieces; `base` stands for a price where there is none."""

    changes: dict[str, Any] = {}
    product: Id | None = None
    choices: dict[str, Any] = {}
    quantity: Annotated[int, Member(ge=1, le=100_000)] = 1
    base: Annotated[str, Member(max_length=40)] | None = None


class ToldProblem(Out):
    """Something wrong, in plain words with a way to mend it; at an option, or of the line as a whole ("")."""

    option: str
    code: str
    message: str
    help: str


class TriedValueOut(Out):
    """A value that can be chosen: how it stands to what is chosen of the others (offered, sold_out, left_out), and why."""

    code: str
    label: str
    swatch: Swatch
    state: str
    words: str
    effect: str


class TriedOptionOut(Out):
    """An option as shoppers meet it, with what was given for it, in words."""

    set: str
    key: str
    name: str
    kind: str
    control: str
    makes_variants: bool
    description: str
    required: bool
    chooses: bool
    several: bool
    given: Any
    words: str
    values: list[TriedValueOut]


class QuoteLineOut(Out):
    """One effect on the price: what was chosen, what it does, and what it comes to; `charge` is each or once."""

    option: str
    name: str
    chosen: str
    does: str
    amount: str
    charge: str


class QuoteOut(Out):
    """What a line costs, in words of the locale; None where it can't be told. `based_on` is the choice that makes the base."""

    quantity: int
    base: str | None
    based_on: str
    lines: list[QuoteLineOut]
    each: str | None
    once: str | None
    total: str | None
    unit_price: str | None
    weight: str | None
    cost: str | None
    margin: str | None
    sku: str
    available: int | None
    problems: list[ToldProblem]


class ClashOut(Out):
    """Two sets that can't stand on one product as they are."""

    code: str
    words: str
    sets: list[str]
    option: str


class TriedSetOut(Out):
    """An option set tried. `cells` tell each combination in order: in, out (sold out) or left (left out); `formula` how many
    variants there are."""

    product: int | None
    title: str
    options: list[TriedOptionOut]
    quote: QuoteOut
    formula: str
    count: int
    cells: list[str]
    clashes: list[ClashOut]
    wrong: ToldProblem | None


class OfferedProductOut(Out):
    """A product that is offered a set: how it got it, in a word (type, picked, matches) and in words."""

    id: int
    title: str
    sku: str
    type_name: str
    picture: str | None
    how: str
    reason: str
    variants: int
    clashes: list[ClashOut]


class OfferedProductsOut(Out):
    """Some products that are offered a set, and where to go on."""

    rows: list[OfferedProductOut]
    total: int
    next: int | None


class OfferedQuery(In):
    """After which product."""

    after: Annotated[int, Member(ge=0, lt=2**31)] = 0


class RemarkOut(Out):
    """Something to know of a value's swatch: no_swatch, pale or alike (to `other`), in words."""

    option: str
    value: str
    code: str
    words: str
    other: str
    sides: list[list[str]]


class RemarksOut(Out):
    """All there is to know of swatches."""

    remarks: list[RemarkOut]


class FoundColourOut(Out):
    """A colour of a picture, and what share of the thing shown it covers, from 0 to 1."""

    colour: str
    share: float


class PictureColoursOut(Out):
    """The colours of what a stored picture shows, the largest first."""

    file: str
    colours: list[FoundColourOut]


class ProductColoursOut(Out):
    """The colours of a product's pictures."""

    pictures: list[PictureColoursOut]


class ChoiceStockIn(In):
    """The stock that a value of an option (code "" of a request) has of its own (None to count none), and what was read of it."""

    option: Key
    code: Annotated[str, Member(max_length=60)]
    expected: int | None
    amount: Annotated[int, Member(ge=0, le=1_000_000_000)] | None
