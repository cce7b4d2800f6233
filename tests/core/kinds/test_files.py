"""Files for download: told by what is in them, judged by sort and size, shown with both."""

from __future__ import annotations

import io
import zipfile
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds import KINDS, Spec, StoredFile
from young_fabric.core.kinds.file_types import file_type_of
from young_fabric.core.kinds.files import LONGEST_WORDS, size_words
from young_fabric.core.kinds.limits import MOST_MEGABYTES, check_limits

FILE = KINDS["file"]
SHEET = {"file": "a" * 64, "words": "Safety sheet", "type": "pdf", "bytes": 1_200_000}
PDF = b"%PDF-1.4\n%%EOF"


def archive(*names: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for name in names:
            made.writestr(name, "x")
    return out.getvalue()


@pytest.mark.parametrize(
    ("name", "content", "sort"),
    [
        ("Sheet.PDF", PDF, "pdf"),
        ("sheet.pdf", b"<html>", None),
        ("sheet.html", PDF, None),
        ("sheet", PDF, None),
        ("a.csv", "ä;b\r\n1;2\r\n".encode(), "csv"),
        ("a.txt", b"\xff\xfe", None),
        ("a.txt", b"a\x00b", None),
        ("a.zip", archive("a.txt"), "zip"),
        ("a.zip", b"PK\x03\x04 no archive", None),
        ("a.xlsx", archive("[Content_Types].xml", "xl/workbook.xml"), "xlsx"),
        ("a.docx", archive("[Content_Types].xml", "xl/workbook.xml"), None),
        ("a.docx", archive("[Content_Types].xml", "word/document.xml"), "docx"),
        ("a.docx", archive("[Content_Types].xml", "word/document.xml", "word/vbaProject.bin"), None),
        ("a.svg", b"<svg/>", None),
        ("a.exe", b"MZ", None),
    ],
)
def test_name_and_content_must_agree(name: str, content: bytes, sort: str | None) -> None:
    found = file_type_of(name, content)
    assert (found.code if found else None) == sort


@given(st.binary(max_size=60), st.sampled_from(["a.pdf", "a.zip", "a.docx", "a.txt", "", "."]))
def test_no_content_makes_it_raise(content: bytes, name: str) -> None:
    file_type_of(name, content)


@pytest.mark.parametrize(
    ("changes", "limits", "code"),
    [
        ({}, {}, None),
        ({}, {"types": ["pdf", "csv"], "max_megabytes": "1.2"}, None),
        ({"bytes": 1_200_001}, {"max_megabytes": "1.2"}, "file_size"),
        ({}, {"types": ["csv", "zip"]}, "file_kind"),
        ({"words": "w" * LONGEST_WORDS}, {}, None),
        ({"words": "w" * (LONGEST_WORDS + 1)}, {}, "shape"),
        ({"words": " "}, {}, "shape"),
        ({"type": "exe"}, {}, "shape"),
        ({"type": ["pdf"]}, {}, "shape"),
        ({"file": "../../etc/passwd"}, {}, "shape"),
        ({"bytes": True}, {}, "shape"),
        ({"more": 1}, {}, "shape"),
    ],
)
def test_files_are_judged(changes: dict[str, Any], limits: dict[str, Any], code: str | None) -> None:
    wrong = FILE.judge(Spec(limits))({**SHEET, **changes})
    assert (wrong.code if wrong else None) == code


@pytest.mark.parametrize(
    ("limits", "code"),
    [
        ({"types": ["pdf"]}, None),
        ({"types": []}, "file_kind"),
        ({"types": ["exe"]}, "file_kind"),
        ({"types": "pdf"}, "file_kind"),
        ({"max_megabytes": str(MOST_MEGABYTES)}, None),
        ({"max_megabytes": f"{MOST_MEGABYTES}.1"}, "above"),
        ({"max_megabytes": "0"}, "number"),
        ({"max_megabytes": 2}, "number"),
    ],
)
def test_limits_of_files_are_checked(limits: dict[str, Any], code: str | None) -> None:
    try:
        check_limits(limits, FILE.limits, FILE.name)
    except Refusal as refusal:
        assert refusal.code == code
        assert refusal.where[0] == "limits"
    else:
        assert code is None


def test_what_is_kept_tells_sort_and_size_and_not_the_sender() -> None:
    stored = {"a" * 64: StoredFile("csv", 12), "b" * 64: StoredFile("picture", 12, 3, 4)}
    assert FILE.with_files(SHEET, stored, Spec()) == {**SHEET, "type": "csv", "bytes": 12}
    for file in ("b" * 64, "c" * 64):
        with pytest.raises(Refusal) as caught:
            FILE.with_files({**SHEET, "file": file}, stored, Spec())
        assert caught.value.code == "file_gone"
    picture = {"file": "a" * 64, "alt": "", "width": 1, "height": 1}
    with pytest.raises(Refusal):
        KINDS["picture"].with_files(picture, stored, Spec())


def test_files_show_their_words_sort_and_size() -> None:
    show = FILE.shower(Spec(locale="de"), {})
    node = FILE.together([show(SHEET), show({**SHEET, "words": "Table", "type": "csv", "bytes": 1})])
    assert node.plain == "Safety sheet, Table"
    assert [detail for _, _, detail in node.files] == ["PDF, 1,2\u00a0MB", "CSV, 1\u00a0kB"]
    assert FILE.from_text(FILE.to_text(SHEET, Spec()), Spec()) == SHEET
    assert size_words(999_499, "en") == "999\u00a0kB"


@pytest.mark.parametrize(
    "text", ["", "x", f"{'a' * 64} pdf 12", f"{'a' * 64} exe 12 Words", f"{'A' * 64} pdf 12 Words"]
)
def test_text_that_names_no_file_is_refused(text: str) -> None:
    with pytest.raises(Refusal) as caught:
        FILE.from_text(text, Spec())
    assert caught.value.code == "file"
