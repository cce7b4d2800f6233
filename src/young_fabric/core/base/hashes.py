"""Hashes of content, by which drafts and live states are told apart."""

from __future__ import annotations

import hashlib
import json
from typing import Any

import orjson


def content_hash(content: Any) -> str:
    """SHA-256 of JSON values, in one spelling: keys in order, no spaces, letters as they are."""
    try:
        spelled = orjson.dumps(content, default=_plain, option=orjson.OPT_SORT_KEYS)
    except TypeError:
        # Whole numbers past 64 bits, which only what was never understood holds.
        text = json.dumps(content, sort_keys=True, separators=(",", ":"), ensure_ascii=False, default=dict)
        spelled = text.encode()
    return hashlib.sha256(spelled).hexdigest()


def _plain(value: Any) -> Any:
    return list(value) if isinstance(value, tuple | frozenset) else dict(value)
