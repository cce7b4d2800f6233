"""Files that shoppers send with a request: checked by what is in them, kept privately, thrown away after a month unless an order
holds them."""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Callable, Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any, Protocol

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds.file_types import FILE_TYPES, file_type_of
from young_fabric.core.nouns.option_kinds import PICTURE, UPLOAD
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.requests import LONGEST_NAME
from young_fabric.service import pictures
from young_fabric.service.actors import SHOPPER, Work
from young_fabric.service.unit import unit_of_work
from young_fabric.store.repos import baskets
from young_fabric.store.tables import SentFileRow

KEPT_DAYS = 31
BASKET_DAYS = 92
MOST_AT_ONCE = 500


class PrivateFiles(Protocol):
    """Where private files lie: bytes by name, which can be thrown away."""

    def write(self, name: str, content: bytes) -> None:
        """Keep bytes under a name."""

    def drop(self, name: str) -> None:
        """Throw the bytes of a name away, if there are any."""


def keep(work: Work, store: PrivateFiles, name: str, content: bytes) -> str:
    """Check and keep a file; pictures are re-encoded. Gives the token it is known by.

    Raises Refusal `file_size`, `file_kind`, `pixels`.
    """
    short = _plain_name(name)
    sort = file_type_of(short, content)
    width = height = 0
    if sort is not None:
        kind, kept = sort.code, content
    else:
        made = pictures.encode(short, content)
        kind, kept, width, height = PICTURE, made.original, made.width, made.height
    file, token = hashlib.sha256(kept).hexdigest(), secrets.token_urlsafe(24)
    store.write(stored_name(file, kind), kept)
    baskets.keep_sent(
        work.session,
        token=token,
        name=short,
        type=kind,
        file=file,
        bytes=len(kept),
        width=width,
        height=height,
        sent_at=work.now,
    )
    return token


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
    """Forget what is a month old and in no order, and baskets nobody used for long; gives the files nothing needs any more."""
    gone = baskets.forget_sent(session, now - timedelta(days=KEPT_DAYS), MOST_AT_ONCE)
    baskets.forget_baskets(session, now - timedelta(days=BASKET_DAYS), MOST_AT_ONCE)
    return gone


def drop(store: PrivateFiles, files: Sequence[str]) -> None:
    """Throw files away, of whatever sort they are."""
    for file in files:
        for kind in (PICTURE, *FILE_TYPES):
            store.drop(stored_name(file, kind))


def sweep(sessions: Callable[[], Session], store: PrivateFiles) -> int:
    """Forget and throw away as long as there is anything; gives how many files went. They go once it is committed that nothing
    needs them, so that a sweep that fails loses none."""
    total = 0
    while True:
        with unit_of_work(sessions, SHOPPER) as work:
            gone = forget(work.session, work.now)
        drop(store, gone)
        total += len(gone)
        if not gone:
            return total
