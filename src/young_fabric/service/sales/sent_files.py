"""Files that shoppers send with a request: checked by what is in them, kept privately, thrown away after a month unless an order
holds them."""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any, Protocol

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds.file_types import FILE_TYPES, file_type_of
from young_fabric.core.nouns.options.option_kinds import PICTURE, UPLOAD
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.requests import LONGEST_NAME
from young_fabric.service.acting.actors import SHOPPER, Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.files import pictures
from young_fabric.store.repos import baskets, shop
from young_fabric.store.tables import SentFileRow

KEPT_DAYS = 31
BASKET_DAYS = 92
MOST_AT_ONCE = 500
SMALL_SIDE = 240
"""Pixels of the longer side of a small picture."""
MOST_AN_HOUR = 60
"""How many files one address sends in an hour."""


class PrivateFiles(Protocol):
    """Where private files lie: bytes by name, which can be thrown away."""

    def write(self, name: str, content: bytes) -> None:
        """Keep bytes under a name."""

    def drop(self, name: str) -> None:
        """Throw the bytes of a name away, if there are any."""

    def lying(self, since: float) -> Iterator[list[str]]:
        """The names of what has lain there since a time (seconds of the epoch) or longer, a batch at a time."""


@dataclass(frozen=True)
class SentFile:
    """A file that was sent, checked and ready to be kept: its bytes, and what options are told of it."""

    content: bytes
    facts: Mapping[str, Any]


@dataclass(frozen=True)
class Sending:
    """Who sends (a hash that tells addresses apart), and how many bytes of files that no order holds are kept in all."""

    sender: str = ""
    most_bytes: int = 4 * 1024 * 1024 * 1024


def check(name: str, content: bytes) -> SentFile:
    """A file as it would be kept, pictures re-encoded. Raises Refusal `file_size`, `file_kind`, `pixels`."""
    short = _plain_name(name)
    sort = file_type_of(short, content)
    width = height = 0
    if sort is not None:
        kind, kept = sort.code, content
    else:
        kind = PICTURE
        kept, width, height = pictures.original(short, content)
    file = hashlib.sha256(kept).hexdigest()
    facts = {"file": file, "name": short, "type": kind, "bytes": len(kept), "width": width, "height": height}
    return SentFile(kept, facts)


def note(work: Work, found: SentFile, sending: Sending) -> str:
    """Note a file that is to be kept; gives the token it is known by. Raises Refusal `too_often`, `full`.

    Once that is committed, `write` it: what is noted and has no bytes is as if it was not sent, and what nobody noted is swept.
    """
    session = work.session
    shop.lock_name(session, f"sent {found.facts['file']}")
    if sending.sender and baskets.sent_since(session, sending.sender, work.now - timedelta(hours=1)) >= MOST_AN_HOUR:
        raise Refusal("too_often", "That were many files in a short time", (), "Wait a while, then send it again")
    if baskets.bytes_waiting(session) + len(found.content) > sending.most_bytes:
        raise Refusal("full", "There is no room for files just now", (), "Try again tomorrow, or order without one")
    token = secrets.token_urlsafe(24)
    baskets.keep_sent(session, token=token, sender=sending.sender, sent_at=work.now, **found.facts)
    return token


def write(store: PrivateFiles, found: SentFile) -> None:
    """Keep the bytes of a file that was noted."""
    store.write(stored_name(str(found.facts["file"]), str(found.facts["type"])), found.content)


def _plain_name(name: str) -> str:
    last = name.replace("\\", "/").rsplit("/", 1)[-1]
    shown = "".join(sign for sign in last if sign.isprintable()).strip()
    if not shown:
        raise Refusal(
            "file", "The file has no name", ("file",), "Give it one, then choose it again", {"case": "nameless"}
        )
    stem, dot, ending = shown.rpartition(".")
    return shown if len(shown) <= LONGEST_NAME else f"{(stem or ending)[: LONGEST_NAME - 12]}{dot}{ending[:10]}"


def stored_name(file: str, kind: str) -> str:
    """Under which name a private file lies."""
    return f"{file}.webp" if kind not in FILE_TYPES else f"{file}{FILE_TYPES[kind].endings[0]}"


def picture_of(session: Session, token: str) -> str | None:
    """Under which name a picture lies that was sent, None where the token is of none."""
    row = baskets.sent(session, [token]).get(token)
    return stored_name(row.file, row.type) if row is not None and row.type == PICTURE else None


def small_picture(path: Path) -> bytes:
    """A picture that lies at a path, small, as WebP."""
    return pictures.small(path.read_bytes(), SMALL_SIDE)


def upload_of(row: SentFileRow) -> dict[str, Any]:
    """What options are told of a file that was sent."""
    return {
        "file": row.file,
        "name": row.name,
        "type": row.type,
        "bytes": row.bytes,
        "width": row.width,
        "height": row.height,
    }


def upload_keys(offer: Offer) -> list[str]:
    """The options for which files are sent."""
    return [key for key, offered in offer.by_key.items() if offered.option.rules.control == UPLOAD]


def with_files(session: Session, offer: Offer, asked: Mapping[str, Any]) -> dict[str, Any]:
    """What was asked for with the files themselves in place of their tokens; of those thrown away nothing."""
    tokens = {key: asked[key] for key in upload_keys(offer) if isinstance(asked.get(key), str) and asked[key]}
    rows = baskets.sent(session, sorted(set(tokens.values())))
    return {**asked, **{key: upload_of(rows[token]) if token in rows else "" for key, token in tokens.items()}}


def forget(session: Session, now: datetime) -> list[str]:
    """Forget what is a month old and in no order, and baskets nobody used for long; gives what the files were kept under."""
    gone = baskets.forget_sent(session, now - timedelta(days=KEPT_DAYS), MOST_AT_ONCE)
    baskets.forget_baskets(session, now - timedelta(days=BASKET_DAYS), MOST_AT_ONCE)
    return gone


def drop_unnamed(work: Work, store: PrivateFiles, files: Sequence[str]) -> int:
    """Throw away those of some files that nobody names, of whatever sort they are; gives how many. Whoever notes one waits."""
    for file in files:
        shop.lock_name(work.session, f"sent {file}")
    gone = sorted(set(files) - baskets.files_named(work.session, files))
    for file in gone:
        for kind in (PICTURE, *FILE_TYPES):
            store.drop(stored_name(file, kind))
    return len(gone)


def sweep(sessions: Callable[[], Session], store: PrivateFiles) -> int:
    """Forget and throw away as long as there is anything; gives how many files went. They go once it is committed that nothing
    needs them, so that a sweep that fails loses none; what lies there a day and nobody names goes with them."""
    total = 0
    while True:
        with unit_of_work(sessions, SHOPPER) as work:
            gone = forget(work.session, work.now)
        if not gone:
            break
        with unit_of_work(sessions, SHOPPER) as work:
            total += drop_unnamed(work, store, gone)
    day_ago = datetime.now(UTC) - timedelta(days=1)
    for names in store.lying(day_ago.timestamp()):
        with unit_of_work(sessions, SHOPPER) as work:
            total += drop_unnamed(work, store, sorted({name.partition(".")[0] for name in names}))
    return total
