"""Shared words: the words of a shared copy, or a product's own in their place."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, ClassVar

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds.base import KindOption, Show, Spec, Value
from young_fabric.core.kinds.rich_text import RichText, plain
from young_fabric.core.kinds.shown import Copy


class SharedWords(RichText):
    """Words under the title of a shared copy: what a product holds are its own; without any the copy's stand."""

    code, name, example = "shared_words", "shared copy", "<p>Rinse in <strong>cold</strong> water.</p>"
    shapes: ClassVar[tuple[str, ...]] = ()
    in_rows = False
    recurs = True
    label = "hidden"
    options = (
        KindOption(
            "copy",
            "shared copy",
            "shared_copy",
            lambda given: (
                None
                if isinstance(given, str) and given
                else Refusal("copy", "Choose the shared copy whose words stand here", help="Choose one, or make one")
            ),
            "Choose the shared copy whose words stand here",
            "shared_copy",
            reads=False,
            chooses=True,
        ),
    )

    def standing(self, choices: Any, collections: Sequence[str]) -> tuple[Value, tuple[str, str]] | None:
        return None if choices is None else choices.words_for(collections)

    def containing(self, options: Mapping[str, Any], target: tuple[str, str], item: Any) -> tuple[Any, ...]:  # noqa: ARG002
        return ()

    def paths(self, options: Mapping[str, Any], target: tuple[str, str]) -> tuple[str, ...]:  # noqa: ARG002
        return ()

    def with_items(self, value: Value, options: Any, target: Any, items: Any) -> Value:  # noqa: ARG002
        return value

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        title, icon = spec.choices.looks if spec.choices is not None else ("", "")
        return lambda value: Copy(title, icon, value, plain(value))
