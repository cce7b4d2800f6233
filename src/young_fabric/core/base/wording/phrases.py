"""Phrases: text with {key} tokens and [parts] that fall away when a token in them is empty."""

from __future__ import annotations

import re
from collections.abc import Container, Mapping
from dataclasses import dataclass

from young_fabric.core.base.errors import Refusal

_SIGN = re.compile(
    r"(?P<pair>\{\{|\}\}|\[\[|\]\])|\{(?P<key>[a-z][a-z0-9_]*)\}|(?P<sign>[{}\[\]])|(?P<text>[^{}\[\]]+)"
)


@dataclass(frozen=True, slots=True)
class _Piece:
    text: str = ""
    token: str = ""
    part: tuple[_Piece, ...] | None = None


@dataclass(frozen=True, slots=True)
class Phrase:
    """A phrase read once, filled many times. `tokens` are the keys it asks for."""

    pieces: tuple[_Piece, ...]
    tokens: frozenset[str]

    def fill(self, values: Mapping[str, str], fallback: str = "") -> str:
        """The text with tokens replaced and white space folded; `fallback` when it comes out empty."""
        return " ".join(_fill(self.pieces, values).split()) or fallback


class _Every:
    def __contains__(self, _token: object) -> bool:
        return True


EVERY_TOKEN: Container[str] = _Every()
"""Knows any token: for phrases that were read once, whatever became of what they name."""


def _empty(values: Mapping[str, str], token: str) -> bool:
    return not (values.get(token) or "").strip()


def _fill(pieces: tuple[_Piece, ...], values: Mapping[str, str]) -> str:
    out = []
    for piece in pieces:
        if piece.part is not None:
            if not any(inner.token and _empty(values, inner.token) for inner in piece.part):
                out.append(_fill(piece.part, values))
        elif piece.token:
            out.append("" if _empty(values, piece.token) else values[piece.token])
        else:
            out.append(piece.text)
    return "".join(out)


def read_phrase(text: str, known: Container[str]) -> Phrase:
    """Read a phrase. Raises Refusal `syntax`, `nested`, `unknown_token`."""
    pieces: list[_Piece] = []
    part: list[_Piece] | None = None
    tokens: set[str] = set()
    for found in _SIGN.finditer(text):
        here = pieces if part is None else part
        sign = found["sign"]
        if found["key"]:
            tokens.add(found["key"])
            here.append(_Piece(token=found["key"]))
        elif sign is None:
            here.append(_Piece(found["text"] or found["pair"][0]))
        elif sign == "[":
            if part is not None:
                raise Refusal("nested", "Square brackets can't stand in square brackets", help="Close the first one")
            part = []
        elif sign == "]" and part is not None:
            pieces.append(_Piece(part=tuple(part)))
            part = None
        else:
            raise _stray(sign)
    if part is not None:
        raise Refusal("syntax", "A [ is not closed", help="Close it with ]")
    for token in sorted(tokens):
        if token not in known:
            raise Refusal("unknown_token", f"{{{token}}} is not known", help="Use the key of a field")
    return Phrase(tuple(pieces), frozenset(tokens))


def _stray(sign: str) -> Refusal:
    if sign == "{":
        return Refusal("syntax", "A { is not closed, or holds something that is no key", help="Write {key}")
    return Refusal("syntax", f"A {sign} stands alone", help=f"Write {sign}{sign} for the sign itself")
