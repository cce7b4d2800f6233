"""SKUs put together of a product's own and the parts that choices add."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache
from typing import Literal

from young_fabric.core.base.errors import Refusal

Policy = Literal["keep", "extend", "replace"]
LONGEST = 64
_LEFT_OUT = re.compile(r"[^A-Z0-9._/-]")


@lru_cache(maxsize=4096)
def clean_part(part: str) -> str:
    """A part as it stands in a SKU: upper case, without what no SKU has."""
    return _LEFT_OUT.sub("", part.upper())


def make_sku(base: str, policy: Policy, parts: Iterable[str], separator: str) -> str:
    """A SKU: the product's (`keep`), with parts after it (`extend`), or of the parts alone where there are any (`replace`).

    Raises Refusal `too_long`.
    """
    cleaned = [part for part in map(clean_part, parts) if part]
    if policy == "keep" or not cleaned:
        return _checked(base)
    return _checked(separator.join([base, *cleaned] if policy == "extend" and base else cleaned))


def _checked(sku: str) -> str:
    if len(sku) > LONGEST:
        words = f"{sku[:30]}… has {len(sku)} characters, a SKU has at most {LONGEST}"
        raise Refusal("too_long", words, (), "Shorten its parts")
    return sku
