"""What all request and response models share: one layer that lets nothing through that can't be stored."""

from __future__ import annotations

from collections.abc import Hashable
from copy import deepcopy
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, model_validator

DEEPEST = 40
MOST_64 = 2**63 - 1
Id = Annotated[int, Field(ge=1, le=2**31 - 1)]
"""The number of a product, job, release, session or change."""
Version = Annotated[int, Field(ge=1, le=2**31 - 1)]
"""The version of a thing that was read."""
Key = Annotated[str, Field(min_length=1, max_length=200)]
"""The key of a thing."""


_SCHEMAS: dict[Hashable, dict[str, Any]] = {}


class Described(BaseModel):
    """A model whose schema is worked out once for each way it is asked for: every route tells those of all its answers."""

    @classmethod
    def model_json_schema(cls, *args: Any, **asked: Any) -> dict[str, Any]:
        """Its JSON Schema, as `BaseModel` has it."""
        key = (cls, args, tuple(asked.items()))
        if key not in _SCHEMAS:
            _SCHEMAS[key] = super().model_json_schema(*args, **asked)
        return deepcopy(_SCHEMAS[key])


class Out(Described):
    """A response, read off service values."""

    model_config = ConfigDict(from_attributes=True)


class In(Described):
    """A request; members not known are refused, and so is what can't be stored."""

    model_config = ConfigDict(extra="forbid")

    @model_validator(mode="before")
    @classmethod
    def storable(cls, data: Any) -> Any:
        """Refuse text and numbers that no database holds."""
        wrong = unstorable(data)
        if wrong:
            raise ValueError(wrong)
        return data

    def given(self) -> dict[str, Any]:
        """The members that were sent."""
        return self.model_dump(exclude_unset=True, mode="json")


def unstorable(value: Any, depth: int = 0) -> str | None:
    """Why JSON can't be stored: control characters, halves of characters, huge numbers, too deep; None when it can."""
    if depth > DEEPEST:
        return f"nested more than {DEEPEST} deep"
    if isinstance(value, str):
        if "\x00" in value:
            return "holds a control character (U+0000)"
        if any("\ud800" <= char <= "\udfff" for char in value):
            return "holds half a character (a lone surrogate)"
        return None
    if isinstance(value, bool) or value is None:
        return None
    if isinstance(value, int | float):
        return None if abs(value) <= MOST_64 else "a number too large to keep"
    if isinstance(value, dict):
        return next((why for pair in value.items() for part in pair if (why := unstorable(part, depth + 1))), None)
    if isinstance(value, list | tuple):
        return next((why for item in value if (why := unstorable(item, depth + 1))), None)
    return None


class OtherProblem(Out):
    """What else is wrong, at another place of what was sent."""

    message: str
    where: list[str | int]
    help: str


class Problem(Out):
    """The one shape of errors, `also` what is wrong at other places; a clash has yours, theirs, version, the paths that clash, and what each side did in words too."""

    code: str
    message: str
    where: list[str | int]
    help: str
    also: list[OtherProblem] = []
    yours: Any = None
    theirs: Any = None
    version: int | None = None
    clashes: list[list[str | int]] = []
    your_lines: list[str] = []
    their_lines: list[str] = []


class KeyPath(In):
    """A thing's key in the address."""

    key: Key


class NumberPath(In):
    """A number in the address."""

    number: Id


class VersionQuery(In):
    """The version that was read."""

    version: Version


class Done(Out):
    """What was asked is done."""

    done: bool = True
