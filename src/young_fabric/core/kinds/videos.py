"""Videos elsewhere: a pasted link or embed code, of which only the address is kept."""

from __future__ import annotations

import re
from collections.abc import Mapping
from html.parser import HTMLParser
from typing import Any
from urllib.parse import parse_qs, urlsplit

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.text import clean_text
from young_fabric.core.base.wording.words import say
from young_fabric.core.kinds.base import Show, Spec, Value
from young_fabric.core.kinds.links import LONGEST_WORDS, WebLink
from young_fabric.core.kinds.shown import Videos

LONGEST_CODE = 20_000
FILES = (".mp4", ".webm", ".ogv", ".m4v")
_CODE = re.compile(r"<\s*(iframe|video|source|embed|object|blockquote|div|p|script)\b", re.IGNORECASE)
_ID = r"(?P<id>[A-Za-z0-9_-]{1,80})"
_PLAYERS: tuple[tuple[str, str, str], ...] = (
    (r"(?:www\.|m\.)?youtube\.com", rf"/(?:shorts|live|v)/{_ID}/?", "https://www.youtube-nocookie.com/embed/{id}"),
    (r"youtu\.be", rf"/{_ID}/?", "https://www.youtube-nocookie.com/embed/{id}"),
    (r"(?:www\.)?vimeo\.com", rf"/(?:channels/[^/]+/)?{_ID}/?", "https://player.vimeo.com/video/{id}"),
    (r"(?:www\.)?dailymotion\.com", rf"/video/{_ID}/?", "https://www.dailymotion.com/embed/video/{id}"),
    (r"(?P<host>[^/]+)", rf"/(?:w|videos/watch)/{_ID}/?", "https://{host}/videos/embed/{id}"),
)
"""Pages of hosts whose player stands at another address: host, path, and the player's address."""
_BY_QUERY: tuple[tuple[str, str, str, str], ...] = (
    (r"(?:www\.|m\.)?youtube\.com", "/watch", "v", "https://www.youtube-nocookie.com/embed/{id}"),
)
"""The same where the query names the video: host, path, member of the query, and the player's address."""


def plays(address: str) -> tuple[str, str]:
    """How a video plays in place: (`frame` or `file`, from which address), or (`page`, its address) where it can't."""
    parts = urlsplit(address)
    host, path = parts.hostname or "", parts.path
    if path.lower().endswith(FILES):
        return "file", address
    for known, name, member, player in _BY_QUERY:
        found = parse_qs(parts.query).get(member, [""])[0]
        if re.fullmatch(known, host) and path.rstrip("/") == name and re.fullmatch(_ID, found):
            return "frame", player.format(id=found)
    if "embed" in path.split("/") or host.startswith("player."):
        return "frame", address
    for known, form, player in _PLAYERS:
        at, there = re.fullmatch(known, host), re.fullmatch(form, path)
        if at and there:
            return "frame", player.format(id=there["id"], host=parts.netloc)
    return "page", address


class _Code(HTMLParser):
    """Reads embed code for the address of its player, the words it has for it, and text before it."""

    def __init__(self) -> None:
        super().__init__()
        self.address, self.linked, self.words, self.before = "", "", "", ""

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        given = dict(attrs)
        if tag in ("iframe", "video", "source", "embed") and not self.address:
            self.address = (given.get("src") or "").strip()
            self.words = " ".join((given.get("title") or "").split())
        elif tag == "a" and not self.linked:
            self.linked = (given.get("href") or given.get("cite") or "").strip()

    def handle_data(self, data: str) -> None:
        if not (self.address or self.linked):
            self.before += data


class Video(WebLink):
    """A video elsewhere as {words, address}, always https; nothing of it is loaded before a shopper plays it."""

    code, name, example = "video", "video link", "A wash <https://videos.example/w/wash>"
    shapes = ("video",)
    formats = ()
    label = "above"

    def read(self, text: str, spec: Spec) -> Value:
        if not _CODE.search(text):
            return self._secure(super().read(text, spec))
        if len(text) > LONGEST_CODE:
            raise Refusal(
                "long", f"{len(text):,} characters, at most {LONGEST_CODE:,} fit", help="Paste the link alone"
            )
        code = _Code()
        code.feed(clean_text(text))
        code.close()
        address = code.address or code.linked
        if not address:
            raise Refusal("link", "there is no video's address in this code", help="Paste the link of the video's page")
        words = " ".join(code.before.split()) or code.words
        address = f"https:{address}" if address.startswith("//") else address
        return self._secure(super().read(f"{words[:LONGEST_WORDS].strip()} <{address}>" if words else address, spec))

    def _secure(self, value: Value) -> Value:
        scheme, _, rest = value["address"].partition(":")
        if scheme not in ("https", "http"):
            words = f"a video can't be played from a {scheme} link"
            raise Refusal("link", words, help="Write its address, such as https://videos.example/w/wash")
        return {**value, "address": f"https:{rest}"}

    def _own_words(self, address: str) -> str:
        return (urlsplit(address).hostname or "")[:LONGEST_WORDS]

    def well_formed(self, value: Any) -> bool:
        return super().well_formed(value) and value["address"].startswith("https:")

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:  # noqa: ARG002
        def show(value: Value) -> Videos:
            words, address = value["words"], value["address"]
            how, source = plays(address)
            said = say(spec.locale, "play", words=words), say(spec.locale, "plays_from", host=urlsplit(source).netloc)
            return Videos(((words, address, how, source, *said),))

        return show

    def property_value(self, value: Value, spec: Spec, root: str) -> dict[str, Any]:  # noqa: ARG002
        return {"value": value["address"], "name": value["words"]}
