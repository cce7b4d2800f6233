"""The definitions of a whole shop, read from a file beside: no database, and the same whatever becomes of the demo."""

from __future__ import annotations

import json
from copy import deepcopy
from pathlib import Path
from typing import Any

from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.store.states import thing_of

STATES: dict[str, dict[str, Any]] = json.loads(Path(__file__).with_name("saltmarsh.json").read_text())
SALTMARSH = Definitions(
    Shop("Saltmarsh Studio Supply", "ss_", "EUR", "en"),
    {noun: {key: thing_of(noun, state) for key, state in things.items()} for noun, things in STATES.items()},
)


def state(noun: str, key: str, *puts: tuple[str, Any]) -> dict[str, Any]:
    """A thing's state with some parts of it another, each by its path, such as `options/0/name`."""
    made = deepcopy(STATES[noun][key])
    for path, value in puts:
        *way, last = path.split("/")
        at: Any = made
        for step in way:
            at = at[int(step)] if isinstance(at, list) else at[step]
        at[int(last) if isinstance(at, list) else last] = value
    return made


def having(*changed: tuple[str, dict[str, Any]]) -> Definitions:
    """The shop with some things otherwise, by noun and state."""
    defs = SALTMARSH
    for noun, made in changed:
        defs = defs.having(noun, made["key"], thing_of(noun, made))
    return defs
