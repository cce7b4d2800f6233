"""Pictures: stored files with words for those who can't see them."""

from __future__ import annotations

import re

from young_fabric.core.errors import Refusal
from young_fabric.core.kinds.base import Kind, Spec, Value

_FILE = re.compile("[0-9a-f]{64}")


class Picture(Kind):
    """One picture as {file, alt, width, height}: `file` is the SHA-256 of the stored original, sizes in pixels."""

    code, name = "picture", "picture"
    limits = ("min_width", "min_height")
    label = "above"

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        raise Refusal("picture", "a picture can't be typed", help="Choose a file, or drop one here")

    def check(self, value: Value, spec: Spec) -> Refusal | None:
        for side in ("width", "height"):
            least = getattr(spec.limits, f"min_{side}")
            if least is not None and value[side] < least:
                return Refusal(
                    "small", f"{value[side]} px, the {side} must be at least {least} px", help="Upload a larger one"
                )
        return None

    def well_formed(self, value: Value) -> bool:
        return (
            isinstance(value, dict)
            and set(value) == {"file", "alt", "width", "height"}
            and isinstance(value["file"], str)
            and _FILE.fullmatch(value["file"]) is not None
            and isinstance(value["alt"], str)
            and len(value["alt"]) <= 300
            and all(isinstance(value[side], int) and value[side] > 0 for side in ("width", "height"))
        )

    def show(self, value: Value, spec: Spec) -> str:  # noqa: ARG002
        return str(value["alt"])
