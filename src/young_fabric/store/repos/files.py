"""Kept files: pictures, and files for download."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from young_fabric.core.kinds import StoredFile
from young_fabric.store.tables import KeptFileRow, PictureRow

F = KeptFileRow
P = PictureRow


def stored(session: Session, names: Sequence[str]) -> dict[str, StoredFile]:
    """What is kept under some names, of whatever sort."""
    if not names:
        return {}
    wanted = list(names)
    files = session.execute(select(F.file, F.type, F.bytes).where(F.file == func.any(wanted)))
    found = {row[0]: StoredFile(row[1], row[2]) for row in files}
    pictures = session.execute(select(P.file, P.bytes, P.width, P.height).where(P.file == func.any(wanted)))
    return found | {row[0]: StoredFile("picture", *row[1:]) for row in pictures}


def get(session: Session, file: str) -> KeptFileRow | None:
    """A file for download."""
    return session.get(F, file)


def keep(session: Session, file: str, name: str, sort: str, size: int) -> None:
    """Note a file; one that is there stays as it is."""
    session.execute(insert(F).values(file=file, name=name, type=sort, bytes=size).on_conflict_do_nothing())


def noted(session: Session, files: Sequence[str]) -> set[str]:
    """Those of some files that are noted, as pictures or for download."""
    wanted = func.any(list(files))
    pictures = session.scalars(select(P.file).where(P.file == wanted))
    return {*pictures, *session.scalars(select(F.file).where(F.file == wanted))}
