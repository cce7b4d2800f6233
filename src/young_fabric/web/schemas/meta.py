"""What the studio asks once: the registries, units and the shop."""

from __future__ import annotations

from typing import Any

from young_fabric.web.schemas.common import Out


class LimitOut(Out):
    """A limit: its words, the control that edits it, whether only fields of several values have it, and whether only those of one
    value of products do."""

    code: str
    label: str
    control: str
    below: str | None
    many: bool
    alone: bool


class OptionOut(Out):
    """What fields of a kind must say besides: its words, its control, the noun it names, if any, whether fields can't be without it, and whether stored
    values stand by it."""

    code: str
    label: str
    control: str
    noun: str | None
    needed: bool
    reads: bool


class KindOut(Out):
    """A kind of field, with the limits and options it knows."""

    code: str
    name: str
    example: str
    limits: list[LimitOut]
    options: list[OptionOut]
    own_fields: bool
    takes_many: bool
    takes_default: bool
    in_rows: bool
    several: bool
    shapes: list[str]


class UnitOut(Out):
    """A unit and what it measures."""

    symbol: str
    dimension: str


class FileTypeOut(Out):
    """A sort of file for download, with the endings of its names."""

    code: str
    label: str
    endings: list[str]


class SurfaceOut(Out):
    """A place where fields render, what its documents are called, whether it is a page, on listings, or data, and how options stand there."""

    code: str
    name: str
    counted: list[str]
    addressed: bool
    listed: bool
    data: bool
    options: str
    shows_by_default: bool
    layout: str
    subject: str


class ChoiceOut(Out):
    """A value of a property and what its control calls it."""

    value: Any
    label: str


class PropertyOut(Out):
    """A property of display settings, with its control and choices."""

    code: str
    name: str
    control: str
    choices: list[ChoiceOut]


class BlockMemberOut(Out):
    """One thing that can be said of a block: `default` holds where nothing is said, `typed` are words that pages show,
    a `noun` is what must be chosen first, and fields that it names are of `kinds` (none: of any)."""

    code: str
    name: str
    control: str
    default: Any
    choices: list[ChoiceOut]
    typed: bool
    help: str
    noun: str
    kinds: list[str]
    own_fields: bool
    subjects: list[str]


class BlockKindOut(Out):
    """A kind of block: what it shows, what else people call it, where it is offered, what can be said of it, the kinds of field it takes (none: any),
    how many fields and parts it holds at most, whether a layout has one at most, on which surfaces it can stand,
    and what its words can be made (`as_field`, `as_copy`)."""

    code: str
    name: str
    help: str
    also: list[str]
    group: str
    members: list[BlockMemberOut]
    kinds: list[str]
    most_fields: int
    fewest_regions: int
    most_regions: int
    once: bool
    becomes: dict[str, str]
    surfaces: list[str]


class OptionKindOut(Out):
    """A kind of option: whether it makes variants, whether its values are chosen (several at a time), whether something can be
    chosen beforehand, the control it is given with, and the limits it knows."""

    code: str
    name: str
    makes_variants: bool
    chooses: bool
    several: bool
    default: bool
    control: str
    limits: list[LimitOut]


class SchemaPropertyOut(Out):
    """A property of structured data fields can be, with the shape a kind must have for it."""

    code: str
    label: str
    shape: str


class NounOut(Out):
    """A noun or subject: its code, the plural that addresses use, its name, and whose fields its things take in, if they do."""

    code: str
    plural: str
    name: str
    group: str
    takes: str | None = None


class IconOut(Out):
    """An icon: what it shows, and the path of its strokes on a field of 24 by 24."""

    code: str
    name: str
    path: str


class MetaOut(Out):
    """All the registries, units and the shop."""

    kinds: list[KindOut]
    units: list[UnitOut]
    file_types: list[FileTypeOut]
    schema_org: list[SchemaPropertyOut]
    icons: list[IconOut]
    surfaces: list[SurfaceOut]
    properties: list[PropertyOut]
    blocks: list[BlockKindOut]
    option_kinds: list[OptionKindOut]
    uploads: list[ChoiceOut]
    nouns: list[NounOut]
    subjects: list[NounOut]
    shop_name: str
    prefix: str
    currency: str
    locale: str
