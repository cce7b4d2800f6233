"""Who does something, and what they may do."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal


class Right(StrEnum):
    """What a person may do; each is given on its own."""

    LOOK = "look"
    EDIT = "edit"
    RELEASE = "release"


WORDS = {Right.LOOK: "look into the studio", Right.EDIT: "change things", Right.RELEASE: "release"}


@dataclass(frozen=True)
class Actor:
    """The person a use case is done for."""

    id: int
    name: str
    rights: frozenset[Right]


SHOPPER = Actor(0, "A shopper", frozenset())
"""For whom baskets are changed and orders placed: anybody, who may do nothing else."""


@dataclass(frozen=True)
class Work:
    """What every use case is given: the session, who asks, and what time it is.

    `asked` collects the ids of jobs to hand to the worker once all is committed.
    """

    session: Session
    actor: Actor
    now: datetime
    asked: list[int] = field(default_factory=list)

    def need(self, right: Right) -> None:
        """Raises Refusal `forbidden` when the actor lacks the right."""
        if right not in self.actor.rights:
            raise Refusal("forbidden", f"You may not {WORDS[right]}", help="Ask someone who may, or for the right")


class Clash(Refusal):
    """Two people changed one thing to different ends: `yours` is what was to be written, `theirs` what stands now.

    `version` is that of theirs, None when it is gone; `clashes` are the paths where the two differ. `by` is who wrote theirs, and
    `lines` say what you and they made of what both began from.
    """

    def __init__(
        self,
        name: str,
        yours: Any,
        theirs: Any,
        version: int | None,
        clashes: Sequence[Sequence[Any]] = (),
        *,
        by: str = "someone else",
        lines: tuple[Sequence[str], Sequence[str]] = ((), ()),
    ) -> None:
        super().__init__(
            "clash",
            f"{name} was changed by {by} in the meantime",
            (),
            "Look at both, then keep theirs or write yours over it",
        )
        self.yours, self.theirs, self.version = yours, theirs, version
        self.clashes = [list(path) for path in clashes]
        self.your_lines, self.their_lines = list(lines[0]), list(lines[1])
