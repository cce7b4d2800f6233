"""Pictures: stored files with words for those who can't see them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.counting import counted
from young_fabric.core.kinds.base import (
    FILE_NAME,
    Judge,
    Kind,
    Show,
    Spec,
    StoredFile,
    Value,
    names_file,
    object_schema,
)
from young_fabric.core.kinds.limits import LEAST_HEIGHT, LEAST_WIDTH
from young_fabric.core.kinds.shown import Pictures, gathered

_MEMBERS = frozenset({"file", "alt", "width", "height"})
LONGEST_SIDE = 100_000


class Picture(Kind):
    """One picture as {file, alt, width, height}: `file` is the SHA-256 of the stored original, sizes in pixels."""

    code, name = "picture", "picture"
    shapes = ("image",)
    formats = ("pictures_as", "crop")
    formats_of_many = ("item_order",)
    limits = (LEAST_WIDTH, LEAST_HEIGHT)
    comparison = "presence"
    takes_default = False
    recurs = False
    label = "above"

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        raise Refusal("picture", "a picture can't be typed", help="Choose a file, or drop one here")

    def checker(self, spec: Spec) -> Judge:
        least = {side: spec.limits.get(f"min_{side}") or 0 for side in ("width", "height")}

        def check(value: Value) -> Refusal | None:
            for side, pixels in least.items():
                if value[side] < pixels:
                    words = f"{value[side]} px, the {side} must be at least {pixels} px"
                    return Refusal("small", words, help="Upload a larger one")
            return None

        return check

    def well_formed(self, value: Any) -> bool:
        return (
            isinstance(value, dict)
            and value.keys() == _MEMBERS
            and names_file(value["file"])
            and isinstance(value["alt"], str)
            and len(value["alt"]) <= 300
            and all(type(value[side]) is int and 0 < value[side] <= LONGEST_SIDE for side in ("width", "height"))
        )

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        how, crop = properties.get("pictures_as") or "strip", properties.get("crop") or ""
        return lambda value: Pictures((value,), how, crop)

    def together(self, nodes: list[Any]) -> Any:
        return gathered(nodes)

    def typed(self, value: Value, spec: Spec) -> Any:  # noqa: ARG002
        return value

    def to_text(self, value: Value, spec: Spec) -> str:  # noqa: ARG002
        return f"{value['file']} {value['alt']}".strip()

    def from_text(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        file, _, alt = text.strip().partition(" ")
        if not names_file(file):
            raise Refusal("picture", f"“{file[:40]}” is not a stored picture", help="Upload the picture first")
        return {"file": file, "alt": alt.strip(), "width": 1, "height": 1}

    def json_schema(self, spec: Spec) -> dict[str, Any]:
        members: dict[str, Any] = {"file": FILE_NAME, "alt": {"type": "string", "maxLength": 300}}
        for side in ("width", "height"):
            least = max(1, spec.limits.get(f"min_{side}") or 0)
            members[side] = {"type": "integer", "minimum": least, "maximum": LONGEST_SIDE}
        return object_schema(members)

    def words(self, value: Value) -> str:
        return "a picture" if isinstance(value, dict) and "file" in value else super().words(value)

    def words_of(self, values: list[Value]) -> str:
        return counted(len(values), "picture")

    def files(self, value: Value, spec: Spec) -> tuple[str, ...]:  # noqa: ARG002
        return (value["file"],)

    def with_files(self, value: Value, stored: Mapping[str, StoredFile], spec: Spec) -> Value:  # noqa: ARG002
        found = stored.get(value["file"])
        if found is None or not found.width:
            raise Refusal("picture_gone", "There is no such picture", help="Upload it again")
        return {**value, "width": found.width, "height": found.height}

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": f"{root}/files/{value['file']}-1600.webp"}
