"""Options as settings speak of them: known by their set and key, shown where a surface has options."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from young_fabric.core.display.option_properties import OPTION_PROPERTIES
from young_fabric.core.display.surfaces import Surface
from young_fabric.core.kinds import KINDS, Kind
from young_fabric.core.nouns.base import Known
from young_fabric.core.nouns.options.option_kinds import PICK
from young_fabric.core.nouns.options.options import Option

_SAID = frozenset({"shown", *(prop.code for prop in OPTION_PROPERTIES)})


@dataclass(frozen=True)
class SaidOption:
    """An option of a set, as what properties are said of."""

    set: str
    option: Option

    @property
    def key(self) -> str:
        """What settings know it by: its set and itself, with a dot between, which no field's key has."""
        return f"{self.set}.{self.option.key}"

    @property
    def name(self) -> str:
        """What it is called."""
        return self.option.name

    @property
    def rules(self) -> Kind:
        """The kind by which what is given is read."""
        return KINDS[self.option.rules.kind]

    @property
    def options(self) -> Mapping[str, Any]:
        """Nothing that its kind asks for."""
        return {}

    @property
    def formats(self) -> frozenset[str]:
        """No format of values."""
        return frozenset()

    @property
    def picked(self) -> bool:
        """Whether values are picked of it."""
        return self.option.rules.control == PICK

    def takes(self, code: str) -> bool:
        """Whether a property can mean anything for it."""
        return code in _SAID

    def shown_by_default(self, surface: Surface) -> bool:
        """Options show wherever a surface has any."""
        return bool(surface.options)


def is_option_key(key: str) -> bool:
    """Whether settings mean an option by a key, rather than a field."""
    return "." in key


def set_of_option_key(key: str) -> str:
    """The option set of an option that settings mean."""
    return key.partition(".")[0]


def said_option(defs: Known, key: str) -> SaidOption | None:
    """The option that settings mean by a key, None when it is gone."""
    name, _, option = key.partition(".")
    found = defs.option_sets.get(name)
    return next((said for said in options_of_set(found) if said.option.key == option), None) if found else None


def options_of_set(options: Any) -> Iterator[SaidOption]:
    """The options of a set, in order."""
    return (SaidOption(options.key, option) for option in options.options)
