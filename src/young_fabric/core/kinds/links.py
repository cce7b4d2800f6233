"""Links to pages elsewhere."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any, ClassVar
from unicodedata import is_normalized
from urllib.parse import urlsplit

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.text import clean_text
from young_fabric.core.kinds.base import Kind, Show, Spec, Value, object_schema
from young_fabric.core.kinds.shown import Links, gathered

SCHEMES = ("https", "http", "mailto", "tel")
LONGEST_ADDRESS = 2_000
LONGEST_WORDS = 200
_WRITTEN = re.compile(r"(?P<words>.*?)\s*<(?P<address>[^<>]*)>", re.DOTALL)
_BARE = re.compile(r"[a-z0-9-]+(\.[a-z0-9-]+)+([/?#]\S*)?", re.IGNORECASE)
_SIGNS = re.compile(r"[^\x00-\x20\x7f<>\"\\^`{|}]+")
"""What an address is written with: RFC 3986, and letters of other scripts as browsers show them (RFC 3987)."""


def address_of(text: str) -> str:
    """A typed address, with its scheme. Raises Refusal `link`."""
    address = text.strip()
    if not address:
        raise Refusal(
            "link", "the link leads nowhere yet", help="Write its address, such as https://saltmarsh.example/care"
        )
    if _BARE.fullmatch(address):
        address = f"https://{address}"
    if not is_address(address):
        words = f"“{address[:60]}” is not an address that can be linked to"
        raise Refusal("link", words, help="Write it whole, such as https://saltmarsh.example/care")
    scheme, _, rest = address.partition(":")
    return f"{scheme.lower()}:{rest}"


def is_address(value: Any) -> bool:
    """Whether any JSON value is an address of a safe scheme that leads somewhere; never raises."""
    if not isinstance(value, str) or len(value) > LONGEST_ADDRESS or _SIGNS.fullmatch(value) is None:
        return False
    try:
        parts = urlsplit(value)
        host, there = parts.hostname, parts.port
    except ValueError:
        return False
    if parts.scheme not in SCHEMES:
        return False
    if parts.scheme in ("https", "http"):
        return bool(host) and "@" not in parts.netloc and there != 0
    return bool(parts.path) and not parts.netloc


class WebLink(Kind):
    """A link as {words, address}; only schemes that open a page, a letter or a call."""

    code, name, example = "web_link", "web link", "Care guide <https://saltmarsh.example/care>"
    shapes: ClassVar[tuple[str, ...]] = ("url",)
    formats: ClassVar[tuple[str, ...]] = ("link_words",)
    formats_of_many: ClassVar[tuple[str, ...]] = ("item_order",)
    comparison = "presence"
    takes_default = False

    def read(self, text: str, spec: Spec) -> Value:  # noqa: ARG002
        typed = clean_text(text)
        found = _WRITTEN.fullmatch(typed)
        address = address_of(found["address"] if found else typed)
        words = " ".join(found["words"].split()) if found else ""
        if len(words) > LONGEST_WORDS:
            raise Refusal("long", f"{len(words):,} characters, at most {LONGEST_WORDS} fit", help="Shorten the words")
        return {"words": words or self._own_words(address), "address": address}

    def _own_words(self, address: str) -> str:
        return address.partition(":")[2].lstrip("/").rstrip("/")[:LONGEST_WORDS]

    def well_formed(self, value: Any) -> bool:
        return (
            isinstance(value, dict)
            and len(value) == 2
            and is_address(value.get("address"))
            and isinstance(value.get("words"), str)
            and 0 < len(value["words"]) <= LONGEST_WORDS
            and value["words"].isprintable()
            and all(text == " ".join(text.split()) and is_normalized("NFC", text) for text in value.values())
        )

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        own = properties.get("link_words")
        return lambda value: Links(((own or value["words"], value["address"]),))

    def together(self, nodes: list[Any]) -> Any:
        return gathered(nodes)

    def to_text(self, value: Value, spec: Spec) -> str:  # noqa: ARG002
        return f"{value['words']} <{value['address']}>"

    def json_schema(self, spec: Spec) -> dict[str, Any]:  # noqa: ARG002
        words = {"type": "string", "minLength": 1, "maxLength": LONGEST_WORDS}
        address = {"type": "string", "format": "iri", "maxLength": LONGEST_ADDRESS}
        return {**object_schema({"words": words, "address": address}), "format": self.code}

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": value["address"]}

    def words(self, value: Value) -> str:
        return f"“{value['words']}”" if self.well_formed(value) else super().words(value)
