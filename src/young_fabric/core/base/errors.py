"""Refusals: every way the rules say no, with a code that tests, files and screens can rely on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence


class Refusal(Exception):
    """A rule that was not met.

    `code` is stable and listed in docs/errors.md, `message` says what is wrong in plain words, `where`
    is the path to the place (names and positions), `help` says how to mend it. `facts` are what shoppers are told of it in the
    words of their language, its "case" being which of several words of one code. `also` are refusals at other places of the same whole.
    """

    def __init__(
        self,
        code: str,
        message: str = "",
        where: tuple[str | int, ...] = (),
        help: str = "",
        facts: Mapping[str, object] | None = None,
        also: Sequence[Refusal] = (),
    ) -> None:
        super().__init__(message or code)
        self.code = code
        self.message = message or code
        self.where = where
        self.help = help
        self.facts = facts or {}
        self.also = tuple(also)

    def at(self, *where: str | int) -> Refusal:
        """The same refusal at a place further in."""
        also = [other.at(*where) for other in self.also]
        return Refusal(self.code, self.message, (*where, *self.where), self.help, self.facts, also)

    def with_others(self, others: Sequence[Refusal]) -> Refusal:
        """The same refusal with those at other places."""
        return Refusal(self.code, self.message, self.where, self.help, self.facts, others)
