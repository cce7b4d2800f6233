"""The one reader of numbers as text: plain decimals, bounded by their digits, so that none costs more than its length."""

from __future__ import annotations

import re
from decimal import Decimal
from typing import Any

MOST_DIGITS = 40
_PLAIN = re.compile(r"-?[0-9]{1,40}(\.[0-9]{1,40})?")


def read_decimal(value: Any) -> Decimal | None:
    """A plain decimal, up to 40 digits before the point and as many after it; None of anything else: exponents, infinities, words."""
    return Decimal(value) if isinstance(value, str) and _PLAIN.fullmatch(value) else None
