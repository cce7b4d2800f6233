"""Files on disk: bytes by name, written whole or not at all."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path
from tempfile import NamedTemporaryFile

PARTIAL = ".part"
BATCH = 200


class FilesOnDisk:
    """Files in folders named after the first two signs of their name."""

    def __init__(self, root: Path) -> None:
        self.root = root

    def _path(self, name: str) -> Path:
        return self.root / name[:2] / name

    def write(self, name: str, content: bytes) -> None:
        """Keep bytes under a name: under one of their own until they are whole, however many write the same."""
        path = self._path(name)
        path.parent.mkdir(parents=True, exist_ok=True)
        with NamedTemporaryFile(dir=path.parent, suffix=PARTIAL, delete=False) as partial:
            try:
                partial.write(content)
                partial.flush()
                os.fchmod(partial.fileno(), 0o644)
                Path(partial.name).replace(path)
            except BaseException:
                Path(partial.name).unlink(missing_ok=True)
                raise

    def path(self, name: str) -> Path | None:
        """Where the bytes of a name can be read, None when there are none."""
        path = self._path(name)
        return path if path.is_file() else None

    def drop(self, name: str) -> None:
        """Throw the bytes of a name away, if there are any."""
        self._path(name).unlink(missing_ok=True)

    def lying(self, since: float) -> Iterator[list[str]]:
        """The names of what has lain there since a time (seconds of the epoch) or longer, a batch at a time; what was never
        finished is thrown away by the way."""
        batch: list[str] = []
        for name in self._old(since):
            batch.append(name)
            if len(batch) == BATCH:
                yield batch
                batch = []
        if batch:
            yield batch

    def _old(self, since: float) -> Iterator[str]:
        for folder in sorted(self.root.glob("??")):
            for entry in os.scandir(folder):
                if not entry.is_file() or entry.stat().st_mtime > since:
                    continue
                if entry.name.endswith(PARTIAL):
                    Path(entry.path).unlink(missing_ok=True)
                else:
                    yield entry.name
