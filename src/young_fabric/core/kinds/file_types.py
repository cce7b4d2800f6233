"""The sorts of files a shop keeps for download, told by what is in them, never by their name alone."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable, Mapping
from dataclasses import dataclass

MOST_MEMBERS = 5_000


@dataclass(frozen=True)
class FileType:
    """A sort of file: its label, the endings of its name, its media type (RFC 6838), and whether bytes are of it."""

    code: str
    label: str
    endings: tuple[str, ...]
    media: str
    holds: Callable[[bytes], bool]


def _members(content: bytes) -> frozenset[str]:
    """The names in a ZIP archive, none where it is no archive that can be read."""
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            names = archive.namelist()
    except (zipfile.BadZipFile, ValueError, OSError, NotImplementedError):
        return frozenset()
    return frozenset(names if len(names) <= MOST_MEMBERS else ())


def _document(folder: str) -> Callable[[bytes], bool]:
    """Whether bytes are an Office Open XML document (ISO/IEC 29500) with its parts in a folder, and no macros in it."""

    def holds(content: bytes) -> bool:
        names = _members(content)
        parts = "[Content_Types].xml" in names and any(name.startswith(folder) for name in names)
        return parts and not any(name.casefold().endswith(".bin") and "vba" in name.casefold() for name in names)

    return holds


def _is_text(content: bytes) -> bool:
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return False
    return not any(char < " " and char not in "\t\n\r\f" for char in text)


FILE_TYPES: Mapping[str, FileType] = {
    sort.code: sort
    for sort in (
        FileType("pdf", "PDF", (".pdf",), "application/pdf", lambda content: content.startswith(b"%PDF-")),
        FileType("text", "text", (".txt", ".md"), "text/plain", _is_text),
        FileType("csv", "CSV", (".csv",), "text/csv", _is_text),
        FileType(
            "docx",
            "text document",
            (".docx",),
            "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
            _document("word/"),
        ),
        FileType(
            "xlsx",
            "spreadsheet",
            (".xlsx",),
            "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
            _document("xl/"),
        ),
        FileType("zip", "ZIP", (".zip",), "application/zip", lambda content: bool(_members(content))),
    )
}
"""Every sort by its code."""


def file_type_of(name: str, content: bytes) -> FileType | None:
    """The sort that a file's name says and its content is; None where the two do not agree on any."""
    ending = f".{name.rsplit('.', 1)[-1].casefold()}" if "." in name else ""
    return next((sort for sort in FILE_TYPES.values() if ending in sort.endings and sort.holds(content)), None)
