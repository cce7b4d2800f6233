"""Refusals: every way the rules say no, with a code that tests, files and screens can rely on."""

from __future__ import annotations


class Refusal(Exception):
    """A rule that was not met.

    `code` is stable and listed in docs/errors.md, `message` says what is wrong in plain words, `where`
    is the path to the place (names and positions), `help` says how to mend it.
    """

    def __init__(self, code: str, message: str = "", where: tuple[str | int, ...] = (), help: str = "") -> None:
        super().__init__(message or code)
        self.code = code
        self.message = message or code
        self.where = where
        self.help = help

    def at(self, *where: str | int) -> Refusal:
        """The same refusal at a place further in."""
        return Refusal(self.code, self.message, (*where, *self.where), self.help)
