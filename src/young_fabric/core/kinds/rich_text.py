"""Rich text: paragraphs, lists, headings, links and emphasis, kept as clean HTML and as nothing else."""

from __future__ import annotations

import html
import re
from collections.abc import Mapping
from functools import lru_cache
from typing import Any, ClassVar

import nh3
import re2

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.text import clean_text
from young_fabric.core.kinds.base import Judge, Kind, Show, Spec, Value
from young_fabric.core.kinds.limits import LONGEST, SHORTEST
from young_fabric.core.kinds.links import SCHEMES
from young_fabric.core.kinds.shown import Rich

LONGEST_RICH_TEXT = 50_000
"""Characters of text, and four times as many with its tags."""
BLOCKS = ("p", "h4", "ul", "ol", "blockquote")
TAGS = frozenset({*BLOCKS, "li", "br", "strong", "em", "u", "s", "sub", "sup", "a"})
_AS = {"b": "strong", "i": "em", "del": "s", "strike": "s", **{f"h{level}": "h4" for level in (1, 2, 3, 5, 6)}}
_RENAMED = re.compile(rf"(</?)({'|'.join(_AS)})(?=[\s/>])", re.IGNORECASE)
_TAGGED = re.compile(r"</?[a-z][^<>]*>|<!--", re.IGNORECASE)
_ENDS = re.compile(r"</(?:p|h4|li|blockquote)>\n*|<br>", re.IGNORECASE)
_NOTHING = re2.compile(r"(?:<(?:p|h4|ul|ol|blockquote)>(?:\s|&nbsp;|<br>)*</(?:p|h4|ul|ol|blockquote)>\s*)+$")
"""Empty blocks at the end of clean HTML, found in linear time however many there are."""


@lru_cache(4096)
def cleaned(text: str) -> str:
    """HTML with nothing in it but TAGS and links of safe schemes; what is cleaned stays as it is."""
    return nh3.clean(
        text,
        tags=set(TAGS),
        attributes={"a": {"href"}},
        url_schemes=set(SCHEMES),
        link_rel="noopener",
        clean_content_tags={"script", "style", "title", "textarea", "select"},
    )


def plain(text: str) -> str:
    """The text of clean HTML, a line a paragraph, heading or point."""
    lines = nh3.clean(_ENDS.sub("\n", text), tags=set())
    return html.unescape(lines).replace("\u00a0", " ").strip()


class RichText(Kind):
    """Rich text as clean HTML: `cleaned` gives it back as it is."""

    code, name, example = "rich_text", "rich text", "<p>Soak <strong>ten minutes</strong>, then blot.</p>"
    shapes: ClassVar[tuple[str, ...]] = ("text",)
    limits = (SHORTEST, LONGEST)
    comparison = "presence"
    takes_many = False
    takes_default = False
    recurs = False
    label = "above"

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        typed = clean_text(text)
        if len(typed) > 4 * LONGEST_RICH_TEXT:
            raise Refusal(
                "long", f"{len(typed):,} characters with their tags", help="Shorten it, or paste it as plain text"
            )
        if not _TAGGED.search(typed):
            parts = [part.replace("\n", "<br>") for part in html.escape(typed, quote=False).split("\n\n")]
            typed = "".join(f"<p>{part}</p>" for part in parts if part.strip())
        clean = cleaned(_RENAMED.sub(lambda found: found[1] + _AS[found[2].lower()], typed)).strip()
        clean = _NOTHING.sub("", clean).strip()
        if not plain(clean):
            return None
        return clean if clean.startswith(tuple(f"<{tag}>" for tag in BLOCKS)) else cleaned(f"<p>{clean}</p>")

    def well_formed(self, value: Any) -> bool:
        if not isinstance(value, str) or not value or len(value) > 4 * LONGEST_RICH_TEXT:
            return False
        try:
            return cleaned(value) == value
        except UnicodeEncodeError:
            return False

    def checker(self, spec: Spec) -> Judge:
        least = spec.limits.get("min_length") or 0
        most = min(spec.limits.get("max_length", LONGEST_RICH_TEXT), LONGEST_RICH_TEXT)

        def check(value: Value) -> Refusal | None:
            length = len(plain(value))
            if length < least:
                return Refusal("short", f"{length} characters, at least {least} are needed", help="Write a little more")
            if length > most:
                return Refusal("long", f"{length:,} characters, at most {most:,} fit", help="Shorten it")
            return None

        return check

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        return lambda value: Rich(value, plain(value))

    def json_schema(self, spec: Spec) -> dict[str, Any]:
        lengths = {limit.code: spec.limits[limit.code] for limit in self.limits if limit.code in spec.limits}
        made: dict[str, Any] = {"type": "string", "format": RichText.code, "contentMediaType": "text/html"}
        return {**made, "x-text": lengths} if lengths else made

    def together(self, nodes: list[Any]) -> Any:
        return nodes[0]

    def to_text(self, value: Value, spec: Spec) -> str:  # noqa: ARG002
        return str(value)

    def words(self, value: Value) -> str:
        return super().words(plain(value) if self.well_formed(value) else value)
