"""What blocks of a layout render: for each kind how a block is made ready for any product, and what it shows of one.

One more kind is one more line here, beside what can be said of it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, NamedTuple

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.phrases import Phrase, read_phrase
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.blocks import BETWEEN, BLOCK_KINDS, CONTENT, ICON_OF, LEVEL, SMALL, TITLE
from young_fabric.core.display.choices import EVERY_DEVICE
from young_fabric.core.display.layouts import Block
from young_fabric.core.display.pins import PICTURE, PINS
from young_fabric.core.display.related import ALIKE, BY, MOST, OF_TYPE, SAME
from young_fabric.core.kinds.pictures import Picture
from young_fabric.core.kinds.rich_text import plain
from young_fabric.core.kinds.shown import Copy, Paragraphs, Pinned, Related
from young_fabric.core.nouns.layouts.block_checks import parts_of, tokens_of
from young_fabric.core.pages import document
from young_fabric.core.pages.bare_texts import Bare, BareTexts
from young_fabric.core.pages.chooser import FROM, SOLD, OptionsShown, chooser_of
from young_fabric.core.pages.listed import of_type as of_type_listing
from young_fabric.core.pages.listed import same_listings

_PICTURE = Picture()
Values = Mapping[str, Any]
"""What pages read of a product, by field key: see `Plan.values`."""
Content = Callable[[Values], Any]
"""What a block shows of its own for a product's values: a node, None when there is nothing."""


class PlacedField(NamedTuple):
    """A field in a block: how its entry is made from a value, which texts' entries are known, what stands for an empty one,
    when it shows at all, and how it shows texts as they are, if it does."""

    field: str
    make: Callable[[Any], document.Entry | None]
    known: Mapping[Any, document.Entry | None]
    stand_in: document.Entry | None
    when: Callable[[Values], bool] | None = None
    bare: Bare | None = None


class BlockPlan(NamedTuple):
    """A block ready for any product: what it shows, and when; `mark` tells apart what blocks show of their own, `icon` is the
    field whose picture heads it; `bare` are the fields of texts that are made together, `others` the rest."""

    id: str
    kind: str
    heading: str
    render: Callable[[BlockPlan, Values], document.ShownBlock | None]
    entries: tuple[PlacedField, ...] = ()
    regions: tuple[RegionPlan, ...] = ()
    content: Content | None = None
    when: Callable[[Values], bool] | None = None
    devices: tuple[str, ...] = EVERY_DEVICE
    look: Mapping[str, Any] = document.NO_LOOK
    mark: Any = None
    icon: str = ""
    bare: BareTexts | None = None
    others: tuple[PlacedField, ...] = ()


class RegionPlan(NamedTuple):
    """Blocks of a region; `mixed` when some of them do not stand by themselves."""

    id: str
    blocks: tuple[BlockPlan, ...]
    mixed: bool = False


class Setting(NamedTuple):
    """What a block is made ready in: the definitions, whom for, the text of a field by key, None for one it can't say,
    and how options show."""

    defs: Definitions
    group: Group
    text_of: Callable[[str], Callable[[Values], str] | None]
    options: OptionsShown


def render_region(plan: RegionPlan, values: Values) -> document.ShownRegion | None:
    """What a region shows of a product, None when there is nothing."""
    blocks = []
    for block in plan.blocks:
        if block.when is not None and not block.when(values):
            continue
        made = block.render(block, values)
        if made is not None:
            blocks.append(_with_icon(made, values.get(block.icon)) if block.icon else made)
    if plan.mixed and blocks:
        blocks = settled(blocks)
    return document.ShownRegion(plan.id, tuple(blocks)) if blocks else None


def _with_icon(made: document.ShownBlock, value: Any) -> document.ShownBlock:
    """A block with the first picture of a value as its icon, when there is one."""
    first = value[0] if isinstance(value, list) and value else value
    if not _PICTURE.well_formed(first):
        return made
    return made._replace(look={**made.look, ICON_OF.code: first})


def settled(blocks: list[document.ShownBlock]) -> list[document.ShownBlock]:
    """Blocks of a region without titles that nothing follows, and without what stands between others where nothing is on a side."""
    kept: list[document.ShownBlock] = []
    large_needed = small_needed = True
    for block in reversed(blocks):
        weight = BLOCK_KINDS[block.kind].weight
        if weight == TITLE:
            small = block.said(LEVEL.code) == SMALL
            if small_needed if small else large_needed:
                continue
            small_needed, large_needed = True, large_needed if small else True
        elif weight == BETWEEN:
            if not kept or BLOCK_KINDS[kept[-1].kind].weight == BETWEEN:
                continue
        elif (small_needed or large_needed) and _is_content(block):
            small_needed = large_needed = False
        kept.append(block)
    while kept and BLOCK_KINDS[kept[-1].kind].weight == BETWEEN:
        kept.pop()
    return kept[::-1]


_block = tuple.__new__
"""Makes a block of its members in order, at half the time of calling it."""


def _entries(plan: BlockPlan, values: Values) -> tuple[document.Entry, ...]:
    if plan.bare is None:
        return tuple(_one_by_one(plan.entries, values))
    bare = plan.bare.entries(values.get)
    if bare is None:
        return tuple(_one_by_one(plan.entries, values))
    if not plan.others:
        return tuple(bare)
    # Those that are not bare stand among them, in the order of the fields.
    found = {entry.field: entry for entry in bare}
    found |= {entry.field: entry for entry in _one_by_one(plan.others, values)}
    return tuple([found[placed.field] for placed in plan.entries if placed.field in found])


def _one_by_one(fields: tuple[PlacedField, ...], values: Values) -> list[document.Entry]:
    value_of, unknown, entries = values.get, document.UNKNOWN, []
    for key, make, known, stand_in, when, _ in fields:
        if when is not None and not when(values):
            continue
        value = value_of(key)
        if value.__class__ is str:
            entry = known.get(value, unknown)
            if entry is unknown:
                entry = make(value)
        else:
            entry = None if value is None else make(value)
        if entry is not None:
            entries.append(entry)
        elif stand_in is not None:
            entries.append(stand_in)
    return entries


def _made(plan: BlockPlan, entries: Any = (), regions: Any = (), content: Any = None) -> document.ShownBlock:
    members = (plan.id, plan.kind, plan.heading, entries, regions, content, plan.devices, plan.look)
    return _block(document.ShownBlock, members)


def render_slot(plan: BlockPlan, values: Values) -> document.ShownBlock | None:
    """A block of fields: it stands when one has a value, or something stands for one."""
    entries = _entries(plan, values)
    return _made(plan, entries) if entries else None


def render_filled_slot(plan: BlockPlan, values: Values) -> document.ShownBlock | None:
    """A block of fields that stands only when one of them has a value."""
    entries = _entries(plan, values)
    for entry in entries:
        if entry.value is not None:
            return _made(plan, entries)
    return None


def render_parts(plan: BlockPlan, values: Values) -> document.ShownBlock | None:
    """Parts; those with nothing in them fall away."""
    inner = tuple(filter(None, (render_region(region, values) for region in plan.regions)))
    return _made(plan, regions=inner) if inner else None


def render_headed_parts(plan: BlockPlan, values: Values) -> document.ShownBlock | None:
    """Parts under a heading, which stand when something in them stands by itself."""
    made = render_parts(plan, values)
    return made if made is not None and (not plan.heading or any(map(_has_content, made.regions))) else None


def render_panels(plan: BlockPlan, values: Values) -> document.ShownBlock | None:
    """Panels: blocks under headings. One in which nothing stands by itself falls away."""
    inner = [render_region(region, values) for region in plan.regions]
    kept = [
        document.ShownRegion(region.id, tuple(block for block in region.blocks if _is_content(block)))
        for region in inner
        if region is not None
    ]
    found = tuple(region for region in kept if region.blocks)
    return _made(plan, regions=found) if found else None


def _is_content(block: document.ShownBlock) -> bool:
    if block.regions:
        return any(map(_has_content, block.regions))
    return BLOCK_KINDS[block.kind].weight == CONTENT


def _has_content(region: document.ShownRegion) -> bool:
    return any(map(_is_content, region.blocks))


def render_content(plan: BlockPlan, values: Values) -> document.ShownBlock | None:
    """A block with a node of its own."""
    content = plan.content(values) if plan.content is not None else None
    return _made(plan, content=content) if content is not None else None


def render_related(plan: BlockPlan, values: Values) -> document.ShownBlock | None:
    """Others that fields name, and where more of them stand; None when there is neither."""
    entries = tuple(entry for entry in _entries(plan, values) if entry.value is not None)
    content = plan.content(values) if plan.content is not None else None
    return _made(plan, entries, content=content) if entries or (content is not None and content.listings) else None


def render_bare(plan: BlockPlan, values: Values) -> document.ShownBlock:  # noqa: ARG001
    """A block that is all made by its partial, of what is known when the page is."""
    return _made(plan)


def ready_nothing(block: Block, setting: Setting) -> tuple[Content | None, Any]:  # noqa: ARG001
    """A block that shows nothing of its own."""
    return None, None


def ready_words(block: Block, setting: Setting) -> tuple[Content | None, Any]:
    """Words with values of fields in them: each paragraph a phrase, those that come out empty left out."""
    words = block.said.get("words")
    texts = {key: setting.text_of(key) for key in tokens_of(block.said)}
    phrases: list[Phrase] = []
    for part in parts_of(words) if isinstance(words, str) else ():
        try:
            phrases.append(read_phrase(part, texts))
        except Refusal:
            continue

    def content(values: Values) -> Paragraphs | None:
        said = {key: text(values) for key, text in texts.items() if text is not None}
        found = tuple((filled,) for phrase in phrases if (filled := phrase.fill(said)))
        return Paragraphs(found) if found else None

    return content, words


def ready_copy(block: Block, setting: Setting) -> tuple[Content | None, Any]:
    """The words of a shared copy, as they are for products of a group."""
    found = setting.defs.things["shared_copy"].get(str(block.said.get("copy")))
    standing = found.words_for(setting.group.collections) if found is not None else None
    if found is None or standing is None:
        return None, None
    node = Copy(found.title if not block.heading else "", found.icon, standing[0], plain(standing[0]))
    return (lambda _values: node), list(node)


def ready_options(block: Block, setting: Setting) -> tuple[Content | None, Any]:  # noqa: ARG001
    """How the options of a product stand: each as it is set; none where nothing can be chosen."""
    asked = setting.options
    return (lambda values: chooser_of(values.get(SOLD), asked)), asked.mark


def render_priced(plan: BlockPlan, values: Values) -> document.ShownBlock | None:
    """A block of prices, which says so when variants cost more than the cheapest."""
    made = render_filled_slot(plan, values)
    sold = values.get(SOLD)
    if made is None or sold is None or not sold.differ:
        return made
    return made._replace(look={**made.look, FROM: True})


def ready_pins(block: Block, setting: Setting) -> tuple[Content | None, Any]:  # noqa: ARG001
    """A picture with its pins; none without a picture."""
    picture, pins = block.said.get(PICTURE.code), block.said.get(PINS.code) or ()
    if not picture:
        return None, None
    node = Pinned(
        dict(picture), tuple((pin["x"], pin["y"], tuple(pin["words"].split("\n")), pin["link"]) for pin in pins)
    )
    return (lambda _values: node), [dict(picture), list(map(list, node.pins))]


def ready_related(block: Block, setting: Setting) -> tuple[Content | None, Any]:
    """Where others stand: in the listing of the type, or in those of what a product has the same of each asked field."""
    how, most = block.said.get(BY.code, BY.default), block.said.get(MOST.code, MOST.default)
    known = setting.defs.all_fields
    asked = [known[key] for key in SAME.fields(block.said.get(SAME.code)) if key in known and key in setting.defs.alike]
    of_type = ((str(of_type_listing(setting.group.type)),),)

    def content(values: Values) -> Related | None:
        if how == OF_TYPE:
            return Related(of_type, (), most)
        if how != ALIKE or not asked:
            return Related((), (), most)
        found = tuple(tuple(map(str, same_listings(field, values.get(field.key)))) for field in asked)
        return Related(found if all(found) else (), tuple(field.key for field in asked), most)

    return content, [how, most, [field.key for field in asked], setting.group.type]


class Renderer(NamedTuple):
    """How a kind of block renders, and how it is made ready."""

    render: Callable[[BlockPlan, Values], document.ShownBlock | None]
    ready: Callable[[Block, Setting], tuple[Content | None, Any]] = ready_nothing


RENDERERS: dict[str, Renderer] = {
    **{
        code: Renderer(render_filled_slot if kind.filled else render_slot)
        for code, kind in BLOCK_KINDS.items()
        if kind.takes_fields
    },
    "price": Renderer(render_priced),
    "options": Renderer(render_content, ready_options),
    "to_basket": Renderer(render_bare),
    "columns": Renderer(render_parts),
    "section": Renderer(render_headed_parts),
    "panels": Renderer(render_panels),
    "related": Renderer(render_related, ready_related),
    "pins": Renderer(render_content, ready_pins),
    "referrers": Renderer(render_bare),
    "divider": Renderer(render_bare),
    "stock": Renderer(render_bare),
    "share": Renderer(render_bare),
    "save": Renderer(render_bare),
    "closer": Renderer(render_bare),
    "heading": Renderer(render_content, ready_words),
    "words": Renderer(render_content, ready_words),
    "copy": Renderer(render_content, ready_copy),
}
"""How each kind of block renders, by its code."""
