"""What a property of a display setting is."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Protocol

from young_fabric.core.display.choices import Check, Choice
from young_fabric.core.display.surfaces import Surface
from young_fabric.core.kinds import Kind


class FieldSaid(Protocol):
    """What properties ask of a field."""

    @property
    def key(self) -> str:
        """What settings know it by."""

    @property
    def name(self) -> str:
        """What staff call it."""

    @property
    def rules(self) -> Kind:
        """Its kind."""

    @property
    def options(self) -> Mapping[str, Any]:
        """What it says besides, as its kind has it."""

    @property
    def formats(self) -> frozenset[str]:
        """The codes of the format properties its values go by."""

    @property
    def picked(self) -> bool:
        """Whether it is an option of which values are picked."""

    def takes(self, code: str) -> bool:
        """Whether a property can mean anything for it, wherever it stands."""

    def shown_by_default(self, surface: Surface) -> bool:
        """Whether a surface shows it unless set otherwise."""


@dataclass(frozen=True)
class Property:
    """One thing that can be set for a field on a surface.

    `control` edits it; `words` tells a value in a change, before the place; `default` is what
    holds of a kind where nothing is set; `applies` says whether it means anything for a field on a surface. `whole` ones are said of a
    surface as a whole, and of no single field; `writes` ones decide how values are written. `choices_of` gives the choices where a field decides them.
    A whole one is said of the surfaces it `stands_on`, by some `scopes` (None: by any); `together` is what is
    called what says nothing but such ones, and `means_with` whether it means anything where the others of its surface are so.
    """

    code: str
    name: str
    control: str
    check: Check
    default: Callable[[Kind, Surface], Any]
    words: Callable[[Any], str]
    choices: tuple[Choice, ...] = ()
    applies: Callable[[FieldSaid, Surface], bool] = lambda _field, _surface: True
    whole: bool = False
    writes: bool = False
    choices_of: Callable[[FieldSaid], tuple[Choice, ...]] | None = None
    stands_on: Callable[[Surface], bool] = lambda _surface: True
    scopes: frozenset[str] | None = None
    together: str = ""
    means_with: Callable[[Mapping[str, Any]], bool] = lambda _others: True

    def means(self, field: FieldSaid, surface: Surface) -> bool:
        """Whether it means anything for a field or an option on a surface."""
        return field.takes(self.code) and self.applies(field, surface)

    def offered(self, field: FieldSaid) -> tuple[Choice, ...]:
        """The choices there are for a field."""
        return self.choices if self.choices_of is None else self.choices_of(field)
