"""What is wrong or worth a look in where fields stand on pages: each finding with the place to mend it."""

from __future__ import annotations

from collections.abc import Iterable

from young_fabric.core.base.contrast import contrast as contrast_of
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.blocks import BLOCK_KINDS, PICTURES_AS
from young_fabric.core.display.grounds import ground_of
from young_fabric.core.display.layouts import Arrangement, Block
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.nouns.layouts import layouts
from young_fabric.core.nouns.layouts.alike_layouts import alike_layouts
from young_fabric.core.nouns.layouts.block_checks import tokens_of
from young_fabric.core.nouns.layouts.layouts import arrange
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.pages.steps import block_name
from young_fabric.service.acting.findings import Check
from young_fabric.service.planning.survey import Checking
from young_fabric.store.repos import fills

LAYOUT = layouts.NOUN.code
MOST_NAMED = 4
FAINT = 1.25
"""The contrast from which on a swatch is told from its ground."""


def _named(defs: Definitions, keys: Iterable[str]) -> str:
    names = sorted(defs.all_fields[key].name for key in keys if key in defs.all_fields)
    more = len(names) - MOST_NAMED
    return ", ".join(names[:MOST_NAMED]) + (f" and {more} more" if more > 0 else "")


def _on(defs: Definitions, page: tuple[str, str]) -> str:
    layout = defs.layouts.get(page[1])
    return f"the {SURFACES[page[0]].name}, laid out as {layout.name if layout is not None else page[1]}"


def no_slot(looking: Checking) -> Iterable[Check]:
    """Fields that are to show on a surface, whose layout has no place for them."""
    for page, keys in sorted(looking.survey.slotless.items()):
        text = f"{_named(looking.defs, keys)}: to be shown on {_on(looking.defs, page)}, which has no place for it"
        yield Check("no_slot", "wrong", text, len(keys), (LAYOUT, page[1]))


def two_slots(looking: Checking) -> Iterable[Check]:
    """Fields that several slots of one layout name."""
    for page, keys in sorted(looking.survey.doubled.items()):
        text = f"{_named(looking.defs, keys)}: more than once on {_on(looking.defs, page)}"
        yield Check("two_slots", "look", text, len(keys), (LAYOUT, page[1]))


def contrast(looking: Checking) -> Iterable[Check]:
    """Colours of lists that show without their names, on a ground they can hardly be told from."""
    for (key, block_id), names in sorted(looking.survey.coloured.items()):
        layout = looking.survey.layouts[key]
        chain = next((*within, block) for block, within in layout.walk() if block.id == block_id)
        for name in sorted(names):
            faint = _faint(looking, name, ground_of(chain).colour)
            if faint:
                more = f" and {len(faint) - MOST_NAMED} more" if len(faint) > MOST_NAMED else ""
                field = looking.defs.all_fields[name].name
                where = f"in {block_name(chain[-1])} of {layout.name}"
                text = f"{', '.join(faint[:MOST_NAMED])}{more} of {field}: swatches without names, hardly seen {where}"
                yield Check("contrast", "look", text, len(faint), (LAYOUT, key))


def _faint(looking: Checking, name: str, ground: str) -> list[str]:
    """The values of a field's list whose colours all hardly differ from a ground."""
    choices = looking.defs.spec(looking.defs.all_fields[name]).choices
    values = choices.values if isinstance(choices, ValueList) else ()
    return [
        value.label
        for value in values
        if value.swatch.colours
        and not value.swatch.picture
        and all(contrast_of(colour, ground) < FAINT for colour in value.swatch.colours)
    ]


def alike(looking: Checking) -> Iterable[Check]:
    """Layouts that are the same but for words."""
    for found in alike_layouts(looking.defs.layouts, looking.defs.things[LAYOUT]):
        names = ", ".join(looking.defs.layouts[key].name for key in found.layouts[:MOST_NAMED])
        passages = len(found.differing)
        could = f"one layout and {'a field' if passages == 1 else f'{passages} fields'}" if passages else "one layout"
        text = (
            f"{names}: the same but for words, they could be {could}" if passages else f"{names}: the same throughout"
        )
        yield Check("alike_layouts", "look", text, len(found.layouts), (LAYOUT, found.layouts[0]))


def labels_twice(looking: Checking) -> Iterable[Check]:
    """Fields that stand on one page under one label."""
    for page, keys in sorted(looking.survey.labels.items()):
        text = f"{_named(looking.defs, keys)}: under one label on {_on(looking.defs, page)}"
        yield Check("labels_twice", "look", text, len(keys), ("weave", min(keys)))


def never_filled(looking: Checking) -> Iterable[Check]:
    """Fields that pages have a place for, and no product a value of."""
    own = [key for key in looking.survey.placed if key in looking.defs.fields]
    held = fills.held_by(looking.work.session, own)
    for key in sorted(own, key=lambda key: looking.defs.fields[key].name):
        field = looking.defs.fields[key]
        if not held.get(key) and key not in looking.survey.standing:
            yield Check(
                "never_filled", "look", f"{field.name} has a place on pages, and no product has it", 1, ("lacking", key)
            )


def empty_panels(looking: Checking) -> Iterable[Check]:
    """Panels of a shop's own fields alone, none of which any product has a value of."""
    panels = [
        (layout, block)
        for layout in looking.survey.layouts.values()
        for block, within in layout.walk()
        if within
        and within[-1].kind in BLOCK_KINDS
        and BLOCK_KINDS[within[-1].kind].panels
        and _of_fields(looking, block)
    ]
    held = fills.held_by(looking.work.session, {key for _, block in panels for key in block.takes.fields})
    for layout, block in panels:
        if not any(held.get(key) for key in block.takes.fields):
            text = f"The panel {block.heading or block.id} of {layout.name} is empty: no product has what it shows"
            yield Check("empty_panels", "look", text, 1, (LAYOUT, layout.key))


def _of_fields(looking: Checking, block: Block) -> bool:
    """Whether a block shows named fields of the shop's own and nothing else."""
    takes = block.takes
    own = bool(takes.fields) and all(key in looking.defs.fields for key in takes.fields)
    return own and not (takes.sets or takes.sections or takes.rest)


def alone(looking: Checking) -> Iterable[Check]:
    """Blocks of a shop's own layouts that show one picture of fields that may hold several."""
    for key in looking.defs.things[LAYOUT]:
        layout = looking.survey.layouts.get(key)
        for block in layout.blocks() if layout is not None else ():
            fields = [looking.defs.all_fields.get(name) for name in block.takes.fields]
            many = [field.name for field in fields if field is not None and field.many]
            if many and _shows_one(block):
                text = (
                    f"{', '.join(many)}: several pictures, of which {block.heading or block.id} shows the first alone"
                )
                yield Check("alone", "look", text, 1, (LAYOUT, key))


def _shows_one(block: Block) -> bool:
    kind = BLOCK_KINDS.get(block.kind)
    return kind is not None and PICTURES_AS in kind.members and block.said.get(PICTURES_AS.code) == "one"


def unsaid(looking: Checking) -> Iterable[Check]:
    """Words in layouts that name fields which no product with the layout has."""
    for layout in looking.survey.layouts.values():
        said = looking.survey.words[layout.key]
        missing = sorted({key for block in layout.blocks() for key in tokens_of(block.said)} - said)
        if missing:
            names = ", ".join(f"{{{key}}}" for key in missing)
            text = f"{names} in the words of {layout.name}: no product with this layout has it"
            yield Check("unsaid", "look", text, len(missing), (LAYOUT, layout.key))


def lost_steps(looking: Checking) -> Iterable[Check]:
    """Layouts with steps that no longer fit what they build on."""
    for key, layout in sorted(looking.defs.things[LAYOUT].items()):
        lost = _arranged(looking.defs, key).lost
        if lost:
            what = "step no longer fits" if len(lost) == 1 else "steps no longer fit"
            yield Check("lost_steps", "look", f"{layout.name}: {len(lost)} {what} its base", len(lost), (LAYOUT, key))


def _arranged(defs: Definitions, key: str) -> Arrangement:
    return arrange(defs.layouts, key)
