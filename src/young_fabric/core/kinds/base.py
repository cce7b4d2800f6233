"""What a kind of field is: it reads typed text, checks stored values against limits, and writes them out."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, ClassVar

from young_fabric.core.errors import Refusal
from young_fabric.core.shapes import STRICT
from young_fabric.core.value_lists import ValueList

Value = Any
"""A canonical stored value: str, bool, list of them, or a mapping such as {amount, unit}."""


@dataclass(frozen=True)
class Limits:
    """Checks on values; what is None is not checked. Numbers are plain decimal strings."""

    __pydantic_config__ = STRICT
    required: bool = False
    min: str | None = None
    max: str | None = None
    decimals: int | None = None
    min_length: int | None = None
    max_length: int | None = None
    pattern: str | None = None
    min_count: int | None = None
    max_count: int | None = None
    min_width: int | None = None
    min_height: int | None = None

    def given(self) -> Mapping[str, Any]:
        """The limits that are set, by name."""
        return {name: value for name, value in vars(self).items() if value is not None and value is not False}


@dataclass(frozen=True)
class Spec:
    """All a kind must know to read, check and show a value: limits, unit, value list, locale, currency."""

    limits: Limits = field(default_factory=Limits)
    unit: str | None = None
    values: ValueList | None = None
    locale: str = "en"
    currency: str = "EUR"


class Kind(ABC):
    """A kind of field. Values are canonical: what `read` gives and the store holds."""

    code: ClassVar[str]
    name: ClassVar[str]
    example: ClassVar[str] = ""
    limits: ClassVar[tuple[str, ...]] = ()
    own_fields: ClassVar[bool] = True
    takes_unit: ClassVar[bool] = False
    takes_list: ClassVar[bool] = False
    takes_many: ClassVar[bool] = True
    label: ClassVar[str] = "beside"

    @abstractmethod
    def read(self, text: str, spec: Spec) -> Value:
        """Typed text as a value, limits not yet looked at. Raises Refusal with a code of the rules."""

    def check(self, value: Value, spec: Spec) -> Refusal | None:  # noqa: ARG002
        """The first limit a well-formed value breaks."""
        return None

    def well_formed(self, value: Value) -> bool:
        """Whether a stored value has this kind's shape."""
        return isinstance(value, str) and value != ""

    def show(self, value: Value, spec: Spec) -> str:  # noqa: ARG002
        """The value as shoppers read it."""
        return str(value)

    def bind(self, spec: Spec) -> Callable[[Value], str | None]:
        """Judging and showing for one spec, for many values: the text shown, None for a value that is not good."""
        well_formed, check, show = self.well_formed, self.check, self.show

        def shown(value: Value) -> str | None:
            return show(value, spec) if well_formed(value) and check(value, spec) is None else None

        return shown

    def typed(self, value: Value, spec: Spec) -> str:
        """The value as a person would type it: `read` of it gives the value again."""
        return self.show(value, spec)


def needs_value(spec: Spec) -> Refusal | None:
    """The refusal of an empty value where one is required."""
    if spec.limits.required:
        return Refusal("required", "not filled", help="Type a value")
    return None
