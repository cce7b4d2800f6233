"""The demo's layouts, each made by edits of the one it builds on, and what shows on its other surfaces."""

from __future__ import annotations

from collections.abc import Callable

from young_fabric.core.display.cascade import read_scope
from young_fabric.demo.catalogue import read
from young_fabric.service import definitions, layouts
from young_fabric.service.actors import Work


def arrange(work: Work, own: Callable[[str], str]) -> None:
    """Make the layouts, choose them, and say what shows where."""
    data = read("layouts.toml")
    for row in data["layouts"]:
        definitions.create(work, "layout", row["name"], {"key": row["key"], "base": row["base"]})
        layouts.edit(work, row["key"], row["edits"])
    for row in data["settings"]:
        definitions.display(work, read_scope(row["scope"]), own(row["field"]), row["surface"], row["set"], None)
