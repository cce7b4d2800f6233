"""Files for download: kept by content up to a size, and by those who may."""

from __future__ import annotations

from pathlib import Path

import pytest

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting.actors import Work
from young_fabric.service.files import files
from young_fabric.service.files.files import MOST_BYTES
from young_fabric.store.files import FilesOnDisk


def test_the_largest_file_is_kept_and_one_byte_more_is_not(work: Work, tmp_path: Path) -> None:
    store = FilesOnDisk(tmp_path)
    kept = files.upload(work, store, "a.txt", b"x" * MOST_BYTES)
    found = files.download(work.session, store, kept.file)
    assert found.path.stat().st_size == MOST_BYTES
    assert (found.name, found.media) == ("a.txt", "text/plain")
    with pytest.raises(Refusal) as caught:
        files.upload(work, store, "a.txt", b"x" * (MOST_BYTES + 1))
    assert caught.value.code == "file_size"


def test_a_file_whose_bytes_are_gone_is_not_found(work: Work, tmp_path: Path) -> None:
    kept = files.upload(work, FilesOnDisk(tmp_path), "a.txt", b"x")
    with pytest.raises(Refusal) as caught:
        files.download(work.session, FilesOnDisk(tmp_path / "elsewhere"), kept.file)
    assert caught.value.code == "not_found"


def test_who_may_only_look_keeps_nothing(looking: Work, tmp_path: Path) -> None:
    with pytest.raises(Refusal) as caught:
        files.upload(looking, FilesOnDisk(tmp_path), "a.txt", b"x")
    assert caught.value.code == "forbidden"
    assert not list(tmp_path.iterdir())
