"""Why a block of a layout shows or does not show for a product: panels, columns, words and shared copy as well as slots."""

from __future__ import annotations

from collections.abc import Mapping

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.blocks import BLOCK_KINDS, COPY
from young_fabric.core.display.choices import EVERY_DEVICE
from young_fabric.core.display.layouts import Block
from young_fabric.core.nouns.layouts import layouts
from young_fabric.core.nouns.layouts.block_checks import tokens_of
from young_fabric.core.nouns.layouts.display_settings import field_called
from young_fabric.core.pages import document
from young_fabric.core.pages.plan import Plan
from young_fabric.core.pages.steps import Mend, Step, block_name, mend_block, step_block, step_device, step_slot
from young_fabric.core.pages.why import Asked, step_visible, why

SOME = 3
Shown = Mapping[str, document.ShownBlock]
"""The blocks that a document holds, by id."""


def why_block(defs: Definitions, plan: Plan, asked: Asked, block_id: str, device: str = "") -> tuple[Step, ...]:
    """The chain for one block, on a `device` or, "", on any. It ends with `shows` when the document holds the block, for a product in the shop."""
    visible = step_visible(defs, plan, asked)
    holding = plan.holding.get(block_id)
    if holding is None:
        mend = Mend("Add it there", layouts.NOUN.code, plan.layout.key)
        return (visible, Step("slot", False, f"The layout {plan.layout.name} has no such block", mend))
    block = holding.chain[-1]
    values = plan.values(asked.product)
    shown = {found.id: found for found in plan.render(asked.product).blocks()}
    stands = step_block(defs, [holding], values, plan.layout)
    steps = (
        visible,
        step_slot(defs, plan.layout, plan.chosen, (block_id,)),
        stands,
        _content(defs, plan, asked, block, shown) if stands.ok else Step("content", None, "What is in it is not asked"),
        step_device(plan.layout, [holding], EVERY_DEVICE, None, device),
    )
    if all(step.ok for step in steps):
        return (*steps, Step("shows", True, f"{block_name(block)} shows on the {plan.surface.name}"))
    return steps


def _content(defs: Definitions, plan: Plan, asked: Asked, block: Block, shown: Shown) -> Step:
    """Whether there is anything in a block to show."""
    kind = BLOCK_KINDS.get(block.kind)
    if kind is not None and kind.takes_fields:
        return _fields(defs, plan, asked, block, shown)
    if block.regions:
        return _parts(plan, block, shown)
    if block.id in shown:
        return Step("content", True, _words_of_copy(defs, plan, block) or "It has something to show")
    tokens = [field_called(defs, key) for key in tokens_of(block.said)]
    words = "There is nothing in it to show"
    if tokens:
        words += f": what its words hold is empty ({', '.join(tokens[:SOME])})"
    return Step("content", False, words, mend_block("Change it", plan.layout, block))


def _fields(defs: Definitions, plan: Plan, asked: Asked, block: Block, shown: Shown) -> Step:
    taken = [key for key, entry in plan.entries.items() if block.id in entry.blocks]
    there = {entry.field for entry in shown[block.id].entries} if block.id in shown else set()
    names = [field_called(defs, key) for key in taken if key in there]
    if block.id in shown:
        more = f" and {len(names) - SOME} more" if len(names) > SOME else ""
        return Step(
            "content", True, f"It shows {', '.join(names[:SOME])}{more}" if names else "It has something to show"
        )
    if not taken:
        mend = mend_block("Change what it takes", plan.layout, block)
        return Step("content", False, "It takes no field that is here", mend)
    failed = {key: next(step for step in why(defs, plan, asked, key) if step.ok is not True) for key in taken}
    nearest = next((key for key, step in failed.items() if step.name == "value"), taken[0])
    words = f"None of the {len(taken)} fields it takes shows" if len(taken) > 1 else "The field it takes does not show"
    step = failed[nearest]
    return Step("content", False, f"{words}; {field_called(defs, nearest)}: {step.text}", step.mend)


def _parts(plan: Plan, block: Block, shown: Shown) -> Step:
    inner = [other for other, within in plan.layout.walk() if block in within]
    names = [block_name(other) for other in inner if other.id in shown]
    if block.id in shown:
        return Step("content", True, f"In it shows {', '.join(names[:SOME])}" if names else "It has something to show")
    words = f"None of the {len(inner)} blocks in it shows" if inner else "There is no block in it"
    return Step("content", False, words, mend_block("Put something in it", plan.layout, block))


def _words_of_copy(defs: Definitions, plan: Plan, block: Block) -> str:
    """Which shared copy it shows, and whose words of it."""
    copy = defs.things[COPY.noun].get(str(block.said.get(COPY.code)))
    standing = copy.words_for(plan.group.collections) if copy is not None else None
    if copy is None or standing is None:
        return ""
    noun, key = standing[1]
    by = "" if noun == COPY.noun else f", in the words of {defs.things[noun][key].name}"
    return f"It shows the shared copy {copy.name}{by}"
