"""The command line: commands do what they say, and tell what is wrong in one line."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

import pytest
from sqlalchemy import Engine, text

from young_fabric import cli
from young_fabric.config import Settings, settings
from young_fabric.service.acting.people import sign_in
from young_fabric.store.base import make_sessions


@pytest.fixture
def here(own_engine: Engine, monkeypatch: pytest.MonkeyPatch) -> Engine:
    """The environment of a shop on a database of its own."""
    monkeypatch.setenv("DATABASE_URL", own_engine.url.render_as_string(hide_password=False).replace("+psycopg", ""))
    settings.cache_clear()
    return own_engine


def run(monkeypatch: pytest.MonkeyPatch, *words: str) -> None:
    monkeypatch.setattr(sys, "argv", ["young-fabric", *words])
    cli.main()


def test_a_person_is_added_and_can_sign_in(
    here: Engine, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    run(
        monkeypatch, "user", "nell@saltmarsh.example", "Nell Sand", "--rights", "look,edit", "--password", "heron-heron"
    )
    assert capsys.readouterr().out == "Nell Sand may now look,edit.\n"
    with make_sessions(here)() as session:
        assert sign_in(session, "nell@saltmarsh.example", "heron-heron").rights == ["look", "edit"]


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("user", "nell@saltmarsh.example", "Nell", "--password", "short"), "at least 10 characters"),
        (("user", "rosa@saltmarsh.example", "Rosa", "--password", "long-enough-now"), "is there already"),
        (("user", "a@b.example", "A", "--rights", "rule", "--password", "long-enough-now"), "look, edit and release"),
    ],
)
def test_what_is_wrong_is_told_in_one_line(
    here: Engine, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str], words: tuple[str, ...], says: str
) -> None:
    with pytest.raises(SystemExit) as caught:
        run(monkeypatch, *words)
    found = capsys.readouterr().err
    assert caught.value.code == 1
    assert says in found
    assert found.count("\n") == 1


def test_a_database_up_to_date_stays_so(
    here: Engine, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    run(monkeypatch, "db")
    run(monkeypatch, "db")
    assert capsys.readouterr().out == "The database is up to date.\n" * 2
    run(monkeypatch, "seed", "--products", "3")
    assert capsys.readouterr().out == "3 products added, 68 in all.\n"
    with here.begin() as connection:
        connection.execute(text("UPDATE field_fill SET filled = -15 WHERE field_key = 'ss_wood'"))
        connection.execute(text("UPDATE product SET wrong = '{price}' WHERE id = 1"))
    run(monkeypatch, "recount")
    assert capsys.readouterr().out.splitlines() == [
        "1 products had other marks or collections than their values deserve",
        "price on watercolour+first_box+lightfast+outdoors+small_change was counted as 4 good and -1 wrong, is 3 good and 0 wrong",
        "ss_wood on easels was counted as -15 good and 0 wrong, is 1 good and 0 wrong",
        "ss_wood on easels+outdoors was counted as -15 good and 0 wrong, is 3 good and 0 wrong",
    ]
    run(monkeypatch, "recount")
    assert capsys.readouterr().out == "All that is kept is as it should be.\n"


def test_the_api_is_described(here: Engine, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    run(monkeypatch, "openapi", str(tmp_path / "api.json"))
    found = json.loads((tmp_path / "api.json").read_text())
    assert found["openapi"].startswith("3.")
    assert "/api/products/{number}" in found["paths"]
    assert set(found["components"]["schemas"]["JobOut"]["required"]) >= {"state", "done", "total"}


def test_commands_are_asked_for_by_name() -> None:
    found = subprocess.run(
        [sys.executable, "-m", "young_fabric.cli", "fly"], capture_output=True, text=True, check=False
    )
    assert found.returncode == 2
    assert "invalid choice" in found.stderr


@pytest.mark.parametrize(
    ("given", "address"),
    [
        ("postgresql://u:p@h:1/n", "postgresql+psycopg://u:p@h:1/n"),
        ("postgresql://h/postgresql://n", "postgresql+psycopg://h/postgresql://n"),
    ],
)
def test_an_address_gets_its_driver(given: str, address: str) -> None:
    made = Settings(DATABASE_URL=given, secret="x" * 32)  # type: ignore[arg-type]
    assert made.sqlalchemy_url == address
    assert "x" * 32 not in repr(made)
