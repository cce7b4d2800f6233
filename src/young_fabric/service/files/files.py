"""Files for download: checked by what is in them, kept under the hash of it."""

from __future__ import annotations

import hashlib
import re
from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Protocol

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds.file_types import FILE_TYPES, FileType, file_type_of
from young_fabric.core.kinds.files import MEGABYTE
from young_fabric.core.kinds.limits import MOST_MEGABYTES
from young_fabric.service.acting.actors import Actor, Right, Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.files.pictures import Files
from young_fabric.store.repos import files as rows
from young_fabric.store.repos import shop

MOST_BYTES = MOST_MEGABYTES * MEGABYTE


@dataclass(frozen=True)
class KeptFile:
    """A file as kept, with the name it came with."""

    file: str
    name: str
    type: str
    bytes: int


@dataclass(frozen=True)
class Download:
    """A file to be sent: where its bytes lie, what it is called, and its media type."""

    path: Path
    name: str
    media: str


def upload(work: Work, store: Files, name: str, content: bytes) -> KeptFile:
    """Check and keep a file. Raises Refusal `file_size`, `file_kind`."""
    work.need(Right.EDIT)
    return keep(work, store, name, content, _checked(name, content))


def keep(work: Work, store: Files, name: str, content: bytes, sort: FileType) -> KeptFile:
    """Keep a file of a known sort under the hash of what is in it, without asking for a right."""
    file = hashlib.sha256(content).hexdigest()
    shop.lock_name(work.session, f"file {file}")
    if store.path(_stored(file)) is None:
        store.write(_stored(file), content)
    rows.keep(work.session, file, name[:200], sort.code, len(content))
    return KeptFile(file, name, sort.code, len(content))


def download(session: Session, store: Files, file: str) -> Download:
    """A kept file, for anybody who has its address. Raises Refusal `not_found`."""
    row = rows.get(session, file)
    path = store.path(_stored(file)) if row is not None else None
    sort = FILE_TYPES.get(row.type) if row is not None else None
    if row is None or path is None or sort is None:
        raise Refusal("not_found", "There is no such file", (), "It may have been taken away")
    return Download(path, row.name, sort.media)


class SweptFiles(Protocol):
    """Where files lie that can be thrown away."""

    def drop(self, name: str) -> None:
        """Throw the bytes of a name away, if there are any."""

    def lying(self, since: float) -> Iterator[list[str]]:
        """The names of what has lain there since a time (seconds of the epoch) or longer, a batch at a time."""


def sweep(sessions: Callable[[], Session], store: SweptFiles) -> int:
    """Throw away pictures and files that have lain there for a day and that nobody noted: uploads that broke off. Gives how many."""
    total = 0
    for names in store.lying((datetime.now(UTC) - timedelta(days=1)).timestamp()):
        by_file: dict[str, list[str]] = defaultdict(list)
        for name in names:
            by_file[re.split(r"[-.]", name)[0]].append(name)
        with unit_of_work(sessions, Actor(0, "worker", frozenset())) as work:
            for file in sorted(by_file):
                shop.lock_name(work.session, f"file {file}")
            for file in sorted(by_file.keys() - rows.noted(work.session, sorted(by_file))):
                for name in by_file[file]:
                    store.drop(name)
                    total += 1
    return total


def _stored(file: str) -> str:
    return f"{file}.download"


def _checked(name: str, content: bytes) -> FileType:
    if len(content) > MOST_BYTES:
        words = f"{name} is larger than {MOST_MEGABYTES} MB"
        raise Refusal(
            "file_size",
            words,
            ("file",),
            "Save it smaller, or in parts",
            {"case": "kept", "name": name, "most": MOST_MEGABYTES},
        )
    found = file_type_of(name, content)
    if found is None:
        labels = ", ".join(sort.label for sort in FILE_TYPES.values())
        words = f"{name} is no file of a sort that is kept, or not what its name says"
        raise Refusal(
            "file_kind", words, ("file",), f"Kept are {labels}", {"case": "kept", "name": name, "kinds": labels}
        )
    return found
