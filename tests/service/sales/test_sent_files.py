"""Files that shoppers send: kept privately, re-encoded, bounded, swept, and thrown away after a month."""

from __future__ import annotations

import io
import os
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path
from threading import Thread

import pytest
from PIL import Image
from sqlalchemy import text
from sqlalchemy.orm import Session

from tests.service.sales.shopping import place, put, shopper
from tests.service.values.test_variants import give, make_product, make_set
from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting.actors import Work
from young_fabric.service.releasing import release
from young_fabric.service.sales import sent_files
from young_fabric.store.files import FilesOnDisk


def picture(width: int, height: int) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (width, height), "#446688").save(out, "PNG")
    return out.getvalue()


def swept(work: Work, store: FilesOnDisk, now: datetime) -> int:
    return sent_files.drop_unnamed(work, store, sent_files.forget(work.session, now))


def keep(work: Work, store: FilesOnDisk, name: str, content: bytes) -> str:
    found = sent_files.check(name, content)
    token = sent_files.note(work, found, sent_files.Sending("somebody"))
    sent_files.write(store, found)
    return token


def test_files_are_kept_privately_reencoded_judged_and_thrown_away_after_a_month(work: Work, tmp_path: Path) -> None:
    store, limits = FilesOnDisk(tmp_path), {"uploads": ["picture", "pdf"], "max_megabytes": "1", "min_width": 100}
    product = make_product(work, "SB-1")
    give(
        work,
        "sketchbooks",
        make_set(work, "Printed", {"key": "image", "name": "Image", "kind": "file", "limits": limits}),
    )
    release.release(work, "")
    for size, wrong in ((99, ["image"]), (100, [])):
        token = keep(shopper(work), store, "C:\\pictures\\my\u202e dog.png", picture(size, 40))
        chosen = put(work, product, 1, image=token)
        assert [problem.option for problem in chosen.quote.problems] == wrong
    assert chosen.quote.given["image"].words == "my dog.png"
    assert all(file.suffix == ".webp" for file in tmp_path.rglob("*") if file.is_file())
    assert [problem.option for problem in put(work, product, 1, image="nobody-sent-this").quote.problems] == ["image"]
    with pytest.raises(Refusal, match="not a JPEG"):
        keep(shopper(work), store, "x.png", b"MZ not a picture")
    paper = keep(shopper(work), store, "a.pdf", b"%PDF-1.4 x")
    old = replace(shopper(work), now=work.now - timedelta(days=32))
    keep(old, store, "b.pdf", b"%PDF-1.4 y")
    place(work, "40.00")
    held = len(list(tmp_path.rglob("*.webp")))
    assert swept(work, store, work.now) == 1
    assert swept(work, store, work.now + timedelta(days=sent_files.KEPT_DAYS)) == 0, "a day more is needed"
    assert swept(work, store, work.now + timedelta(days=32)) == 2
    assert len(list(tmp_path.rglob("*.webp"))) == held - 1, "that of the order stays"
    assert work.session.execute(text("SELECT count(*) FROM sent_file WHERE token = :t"), {"t": paper}).scalar() == 0


def test_what_shoppers_send_is_bounded_by_rate_and_in_all(work: Work, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sent_files, "MOST_AN_HOUR", 2)
    found = sent_files.check("a.pdf", b"%PDF-1.4 x")
    one, other = sent_files.Sending("one"), sent_files.Sending("other", 3 * len(found.content))
    for _ in range(2):
        sent_files.note(shopper(work), found, one)
    with pytest.raises(Refusal) as refused:
        sent_files.note(shopper(work), found, one)
    assert refused.value.code == "too_often"
    sent_files.note(shopper(work), found, other)
    with pytest.raises(Refusal) as refused:
        sent_files.note(shopper(work), found, other)
    assert refused.value.code == "full", "no more than fits in all"
    sent_files.note(replace(shopper(work), now=work.now + timedelta(hours=1, seconds=1)), found, one)


def test_files_that_nobody_noted_are_swept_and_noted_ones_stay(
    work: Work, sessions: Callable[[], Session], tmp_path: Path
) -> None:
    store, day = FilesOnDisk(tmp_path), 24 * 3600
    found, lost = sent_files.check("a.pdf", b"%PDF-1.4 kept"), sent_files.check("b.pdf", b"%PDF-1.4 lost")
    sent_files.note(replace(shopper(work), now=datetime.now(UTC)), found, sent_files.Sending())
    for file in (found, lost):
        sent_files.write(store, file)
    work.session.commit()
    assert sent_files.sweep(sessions, store) == 0, "what is fresh may be noted yet"
    for path in tmp_path.rglob("*.pdf"):
        os.utime(path, (path.stat().st_atime - 2 * day, path.stat().st_mtime - 2 * day))
    assert sent_files.sweep(sessions, store) == 1
    [left] = tmp_path.rglob("*.pdf")
    assert left.name.startswith(str(found.facts["file"]))


def test_the_same_file_is_written_by_many_at_once(tmp_path: Path) -> None:
    store, failed = FilesOnDisk(tmp_path), []

    def write() -> None:
        try:
            for _ in range(50):
                store.write("same.pdf", b"x" * 4096)
        except OSError as error:
            failed.append(error)

    threads = [Thread(target=write) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(60)
    assert not failed
    assert [path.name for path in tmp_path.rglob("*") if path.is_file()] == ["same.pdf"]
