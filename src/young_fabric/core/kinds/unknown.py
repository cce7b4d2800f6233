"""A kind that this version does not know: what is stored of it is left as it is, unread, and nothing of it shows."""

from __future__ import annotations

from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds.base import Judge, Kind, Spec, Value


class Unknown(Kind):
    """Stands for a kind of a later version."""

    code = "unknown"
    name = "something this version does not know"
    own_fields = False
    takes_many = False
    takes_default = False
    in_rows = False
    recurs = False

    def __init__(self, code: str) -> None:
        self.asked = code

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        """Nothing can be typed."""
        words = f"There is no kind “{self.asked[:40]}” here"
        raise Refusal("kind", words, (), "Run the version of Young Fabric that has it")

    def well_formed(self, value: Any) -> bool:
        """Whatever is stored stays."""
        return value is not None

    def judge(self, spec: Spec) -> Judge:  # noqa: ARG002
        """Nothing is told wrong of what is not read."""
        return lambda _value: None

    def to_text(self, value: Value, spec: Spec) -> str:  # noqa: ARG002
        """Nothing of it can be told."""
        return ""
