"""Refusals: every way the rules say no, with a code that tests, files and screens can rely on."""

from __future__ import annotations

from collections.abc import Mapping


class Refusal(Exception):
    """A rule that was not met.

    `code` is stable and listed in docs/errors.md, `message` says what is wrong in plain words, `where`
    is the path to the place (names and positions), `help` says how to mend it. `facts` are what shoppers are told of it in the
    words of their language, its "case" being which of several words of one code.
    """

    def __init__(
        self,
        code: str,
        message: str = "",
        where: tuple[str | int, ...] = (),
        help: str = "",
        facts: Mapping[str, object] | None = None,
    ) -> None:
        super().__init__(message or code)
        self.code = code
        self.message = message or code
        self.where = where
        self.help = help
        self.facts = facts or {}

    def at(self, *where: str | int) -> Refusal:
        """The same refusal at a place further in."""
        return Refusal(self.code, self.message, (*where, *self.where), self.help, self.facts)
