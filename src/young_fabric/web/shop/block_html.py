"""Blocks and nodes of documents as HTML: each kind of block and each node has a template that defines one macro, `show`.

Macros are called straight from here: including a template for each block would copy all that the page knows, each time.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable
from itertools import groupby
from operator import attrgetter
from typing import Any

from flask import current_app, g
from jinja2 import Environment
from markupsafe import Markup, escape

from young_fabric.core.pages.document import Entry, ShownBlock, ShownRegion
from young_fabric.web.shop.contexts import BlockContext
from young_fabric.web.shop.marks import look, on

Show = Callable[..., Markup]
MOST_FACTS, LONGEST_FACT = 16_384, 400
"""So many entries are remembered as HTML, none of them longer than so many signs."""
_LABEL_AT = attrgetter("label_at")


def rendered(template: str, **given: Any) -> str:
    """A template of the shop, which is told what it is given and nothing of the request."""
    return current_app.jinja_env.get_template(template).render(given)


class BlockHtml:
    """The macros of an environment by what they show, looked for once; its public methods are filters of the templates."""

    def __init__(self, environment: Environment) -> None:
        self._environment = environment
        self._of_blocks: dict[tuple[str, str], Show] = {}
        self._of_nodes: dict[str, Show] = {}
        self._facts: dict[Hashable, Markup] = {}

    def install(self) -> None:
        """Give the templates `region|blocks(page)`, `block|inside(page, panel)`, `block|facts`, `entry|value` and `node|html`."""
        for put in (self.blocks, self.inside, self.facts, self.value, self.html):
            self._environment.filters[put.__name__] = put

    def blocks(self, region: ShownRegion, page: BlockContext) -> Markup:
        """The blocks of a region one under the other, each in what the studio finds it by."""
        parts = [
            f'<div class="part part-{escape(block.kind)}{on(block)}{escape(look(block))}" data-part="{escape(block.id)}">'
            f"{self.inside(block, page, panel=False)}</div>"
            for block in region.blocks
        ]
        return Markup("".join(parts))  # noqa: S704

    def inside(self, block: ShownBlock, page: BlockContext, *, panel: bool = True) -> Markup:
        """What a block shows, as its folder has it; as a `panel`, which has its heading outside. Nothing for a kind not known."""
        key = (page.folder, block.kind)
        show = self._of_blocks.get(key)
        if show is None:
            show = self._of_blocks[key] = self._show(f"{page.folder}/{block.kind}.html", f"blocks/{block.kind}.html")
        return show(block, page, panel)

    def html(self, node: Any) -> Markup:
        """A node, nothing for one not known."""
        show = self._of_nodes.get(node.tag)
        if show is None:
            show = self._of_nodes[node.tag] = self._show(f"shown/{node.tag}.html")
        return show(node)

    def facts(self, block: ShownBlock) -> Markup:
        """The entries of a block, in runs of those whose labels stand alike."""
        around = bool(g.get("proof")), str(g.get("locale"))
        runs = [
            (label_at, [self._fact(entry, block, around) for entry in run])
            for label_at, run in groupby(block.entries, _LABEL_AT)
        ]
        return self._part("facts")(runs)

    def _fact(self, entry: Entry, block: ShownBlock, around: tuple[bool, str]) -> Markup:
        """An entry with its label; a short one is made once for all pages it stands on."""
        key = (*entry[:4], entry.devices, block.id, around)
        try:
            found = self._facts.get(key)
        except TypeError:
            return self._part("fact")(entry, block)
        if found is None:
            found = self._part("fact")(entry, block)
            if len(self._facts) >= MOST_FACTS:
                self._facts.clear()
            if len(found) <= LONGEST_FACT:
                self._facts[key] = found
        return found

    def value(self, entry: Entry) -> Markup:
        """What an entry shows."""
        node = entry.shown
        return escape(node.text) if getattr(node, "bare", False) else self.html(node)

    def _part(self, name: str) -> Show:
        found: Show = getattr(self._environment.get_template("_parts.html").module, name)
        return found

    def _show(self, *names: str) -> Show:
        found: Show = self._environment.select_template([*names, "_none.html"]).module.show  # type: ignore[attr-defined]
        return found
