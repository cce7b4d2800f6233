"""Hashes of content, by which drafts and live states are told apart."""

from __future__ import annotations

import hashlib
import json
from typing import Any


def content_hash(content: Any) -> str:
    """SHA-256 of JSON values, in one spelling."""
    text = json.dumps(content, sort_keys=True, separators=(",", ":"), ensure_ascii=False, default=dict)
    return hashlib.sha256(text.encode()).hexdigest()
