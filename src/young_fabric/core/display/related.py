"""Related products: which others a page shows, those a field names first."""

from __future__ import annotations

from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.block_members import Member, chosen
from young_fabric.core.display.choices import Choice, among

MOST_SAME = 3
NAMED, OF_TYPE, ALIKE = "named", "type", "same"

BY = chosen(
    "by",
    "Which",
    (Choice(OF_TYPE, "of the same type"), Choice(ALIKE, "with the same values"), Choice(NAMED, "only those named")),
)
_NUMBERS = tuple(Choice(number, str(number)) for number in (4, 8, 12))
MOST = Member("most", "At most", "choice", among(_NUMBERS), 4, _NUMBERS)


def _check_same(value: Any) -> Refusal | None:
    if not isinstance(value, list | tuple) or not all(isinstance(key, str) for key in value):
        return Refusal("shape", "Fields are a list of keys", help="Choose them anew")
    if len(value) > MOST_SAME or len(set(value)) < len(value):
        return Refusal("too_many", f"At most {MOST_SAME} fields can be asked, each once", help="Take one off")
    return None


SAME = Member(
    "same", "With the same", "field_keys", _check_same, (), names_fields=True, own_fields=True, help="all of them"
)
