"""The demo's layouts, each made by edits of the one it builds on, and what shows on its other surfaces."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from young_fabric.core.display.cascade import read_scope
from young_fabric.demo.catalogue import read
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.pages import layouts


def arrange(work: Work, own: Callable[[str], str]) -> None:
    """Make the layouts, choose them, and say what shows where."""
    data = read("layouts.toml")
    for row in data["layouts"]:
        definitions.create(work, "layout", row["name"], {"key": row["key"], "base": row["base"]})
        layouts.edit(work, row["key"], row["edits"])
    for row in data["settings"]:
        definitions.display(work, read_scope(row["scope"]), own(row["field"]), row["surface"], row["set"], None)


def pin(work: Work, draw: Callable[[str, str, str], Mapping[str, Any]]) -> None:
    """Put the pictures with pins on their layouts; `draw` makes one of a sort, a colour and the words for it."""
    for row in read("layouts.toml")["pinned"]:
        picture = draw(row["picture"][0], row["picture"][1], row["alt"])
        block = {"kind": "pins", "heading": row["heading"], "picture": picture, "pins": row["pins"]}
        layouts.edit(
            work, row["layout"], [{"op": "add", "block": block, "region": row["region"], "after": row["after"]}]
        )
