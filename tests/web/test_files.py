"""Files for download: sent, checked, kept by content, and served as a download whatever they are."""

from __future__ import annotations

import io
from typing import Any

import pytest

from tests.web.conftest import Api
from tests.web.test_shown_kinds import fill

PDF = b"%PDF-1.4\n%%EOF"


def send(api: Api, name: str, content: bytes) -> Any:
    data = {"file": (io.BytesIO(content), name)}
    return api.client.post("/api/files", data=data, headers={"X-CSRF-Token": api.csrf})


def test_a_file_goes_from_the_studio_to_the_shop(rosa: Api) -> None:
    kept = send(rosa, "folder/Safety sheet.pdf", PDF).get_json()
    assert (kept["name"], kept["type"], kept["bytes"]) == ("Safety sheet.pdf", "pdf", len(PDF))
    again = send(rosa, "other.pdf", PDF).get_json()
    assert again["file"] == kept["file"], "kept by what is in it"
    typed = [{"file": kept["file"], "words": "Safety <sheet>", "type": "zip", "bytes": 5}]
    value, page = fill(rosa, {"name": "Sheets", "kind": "file", "many": True}, typed)
    assert value["value"] == [{**typed[0], "type": "pdf", "bytes": len(PDF)}], "what is stored says what it is"
    assert f'<a class="away" href="/downloads/{kept["file"]}" download>Safety &lt;sheet&gt;</a>' in page
    with rosa.client.get(f"/downloads/{kept['file']}") as served:
        assert served.data == PDF
        assert served.headers["Content-Disposition"] == 'attachment; filename="Safety sheet.pdf"'
        assert served.headers["Content-Type"] == "application/pdf"
        assert served.headers["X-Content-Type-Options"] == "nosniff"


@pytest.mark.parametrize(
    ("name", "content", "code"), [("a.html", b"<script>", "file_kind"), ("a.pdf", b"<script>", "file_kind")]
)
def test_what_is_not_kept_is_refused_with_a_way_on(rosa: Api, name: str, content: bytes, code: str) -> None:
    answer = send(rosa, name, content)
    assert (answer.status_code, answer.get_json()["code"]) == (422, code)
    assert answer.get_json()["help"]


@pytest.mark.parametrize("file", ["a" * 64, "x", "..%2f..%2fetc%2fpasswd"])
def test_what_is_not_there_is_not_found(rosa: Api, file: str) -> None:
    assert rosa.client.get(f"/downloads/{file}").status_code == 404


def test_a_file_that_is_not_there_is_refused_at_its_field(rosa: Api) -> None:
    gone = {"file": "c" * 64, "words": "Gone", "type": "pdf", "bytes": 5}
    fill(rosa, {"name": "Plan", "kind": "file"}, None)
    number = rosa.get("/api/products?q=Groyne%20Studio")["rows"][0]["id"]
    body = {"version": rosa.get(f"/api/products/{number}")["version"], "values": {"ss_plan": gone}}
    status, problem = rosa.refused("PATCH", f"/api/products/{number}", body)
    assert (status, problem["code"], problem["where"]) == (422, "file_gone", ["values", "ss_plan"])


def test_who_may_only_look_sends_no_file(lena: Api) -> None:
    assert send(lena, "a.pdf", PDF).status_code == 403
