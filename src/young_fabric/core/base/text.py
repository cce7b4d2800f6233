"""Text as it is kept and compared, and the keys, codes and addresses made from it."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Container, Iterable

from young_fabric.core.base.errors import Refusal

KEY = re.compile("[a-z][a-z0-9_]{0,59}")
CODE = re.compile("[a-z0-9][a-z0-9_-]{0,59}")
ADDRESS = re.compile("[a-z0-9]+(-[a-z0-9]+)*")


def clean_text(text: str) -> str:
    """Text in NFC, trimmed, line ends as newline. Raises Refusal `text` on control characters."""
    text = unicodedata.normalize("NFC", text.replace("\r\n", "\n").replace("\r", "\n")).strip()
    if not text.isprintable():
        for char in text:
            if char not in "\t\n" and unicodedata.category(char) in ("Cc", "Cs"):
                raise Refusal(
                    "text", f"holds a control character (U+{ord(char):04X})", help="Paste it as plain text, or type it"
                )
    return text


def fold(text: str) -> str:
    """Text as compared: composed, trimmed, without regard to case."""
    return unicodedata.normalize("NFC", text).strip().casefold()


def check_key(key: str) -> None:
    """The one rule for keys of whatever people define. Raises Refusal `key`."""
    if not KEY.fullmatch(key):
        raise Refusal(
            "key",
            f"“{key[:60]}” can't be a key",
            ("key",),
            "Begin with a small letter, then small letters, digits and underscores, at most 60",
        )


def make_key(name: str, prefix: str = "", taken: Container[str] = ()) -> str:
    """A key from a name, with the shop's prefix, numbered when taken."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    body = re.sub(r"[^a-z0-9]+", "_", plain).strip("_")[:40] or "unnamed"
    base = f"{prefix}{body}"
    if not base[0].isalpha():
        base = f"f_{base}"
    key, number = base, 2
    while key in taken:
        key, number = f"{base}_{number}", number + 1
    return key


def make_code(label: str, taken: Iterable[str] = ()) -> str:
    """A code or address from a label: plain letters, digits and hyphens, numbered when taken."""
    plain = unicodedata.normalize("NFKD", label).encode("ascii", "ignore").decode().lower()
    base = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:50] or "value"
    used, code, number = set(taken), base, 2
    while code in used:
        code, number = f"{base}-{number}", number + 1
    return code
