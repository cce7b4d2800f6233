"""How many values a field holds."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from young_fabric.core.base.errors import Refusal

MOST = 200
"""Values that any field can hold."""


def check_count(count: int, limits: Mapping[str, Any]) -> Refusal | None:
    """`few` or `many` when a count of values is outside its limits."""
    least, most = limits.get("min_count"), limits.get("max_count")
    if least is not None and count < least:
        return Refusal(
            "few", f"{count}, at least {least} are needed", help="Add more", facts={"count": count, "least": least}
        )
    if most is not None and count > most:
        return Refusal(
            "many", f"{count}, at most {most} are allowed", help="Take some off", facts={"count": count, "most": most}
        )
    return None
