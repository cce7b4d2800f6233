"""Hashes of content, by which drafts and live states are told apart."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable
from typing import Any

import orjson


def spelled(content: Any) -> bytes:
    """JSON values in one spelling: keys in order, no spaces, letters as they are."""
    try:
        return orjson.dumps(content, default=_plain, option=orjson.OPT_SORT_KEYS)
    except TypeError:
        # Whole numbers past 64 bits, which only what was never understood holds.
        text = json.dumps(content, sort_keys=True, separators=(",", ":"), ensure_ascii=False, default=dict)
        return text.encode()


def content_hash(content: Any) -> str:
    """SHA-256 of JSON values in their one spelling."""
    return hashlib.sha256(spelled(content)).hexdigest()


def listed_hash(parts: Iterable[bytes]) -> str:
    """BLAKE2b of a list, given by the spellings of its items: quicker than SHA-256 where there is much to read."""
    return hashlib.blake2b(b"[" + b",".join(parts) + b"]", digest_size=32).hexdigest()


def _plain(value: Any) -> Any:
    return list(value) if isinstance(value, tuple | frozenset) else dict(value)
