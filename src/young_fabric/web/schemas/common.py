"""What all request and response models share."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict


class Out(BaseModel):
    """A response, read off service values."""

    model_config = ConfigDict(from_attributes=True)


class In(BaseModel):
    """A request; members not known are refused."""

    model_config = ConfigDict(extra="forbid")

    def given(self) -> dict[str, Any]:
        """The members that were sent."""
        return self.model_dump(exclude_unset=True, mode="json")


class Problem(Out):
    """The one shape of errors; a clash has yours, theirs and version too."""

    code: str
    message: str
    where: list[str | int]
    help: str
    yours: Any = None
    theirs: Any = None
    version: int | None = None


class KeyPath(In):
    """A thing's key in the address."""

    key: str


class NumberPath(In):
    """A number in the address."""

    number: int


class VersionQuery(In):
    """The version that was read."""

    version: int


class Done(Out):
    """It is done."""

    done: bool = True
