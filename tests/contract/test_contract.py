"""What holds for the whole: every route guarded, every code listed, limits of size kept."""

from __future__ import annotations

import gzip
import json
import re
from pathlib import Path

import pytest
from flask import Flask

from tests.web.conftest import Api, app, lena, rosa, stranger, wired  # noqa: F401
from young_fabric.config import settings
from young_fabric.service.acting.actors import Right
from young_fabric.service.long_work.job_kinds import JOB_KINDS
from young_fabric.web.auth import PUBLIC, SAFE, SHOPPER

ROOT = Path(__file__).parents[2]
OPEN_TO_ALL = {
    "sending.small",
    "session.session_get",
    "session.session_sign_in",
    "shop.home",
    "shop.listing",
    "shop.compare",
    "shop.saved",
    "shop.cards",
    "shop.product",
    "shop.anything",
    "basket.show",
    "basket.checkout",
    "basket.ordered",
    "root",
    "studio",
    "healthz",
    "openapi_json",
    "picture",
    "download",
}


def routes(app: Flask) -> list[tuple[str, str, str]]:  # noqa: F811
    out = []
    for rule in app.url_map.iter_rules():
        if rule.endpoint != "static":
            path = re.sub(r"<(?:int|id):\w+>", "1", rule.rule)
            out += [
                (rule.endpoint, method, re.sub(r"<[^>]+>", "x", path))
                for method in (rule.methods or set()) - {"HEAD", "OPTIONS"}
            ]
    return out


OPEN_TO_SHOPPERS = {"sending.send", "basket.add", "basket.change", "basket.take_note", "basket.order"}
"""Forms of the shop, taken from its own pages alone."""


def test_no_route_is_open_by_accident(app: Flask, stranger: Api) -> None:  # noqa: F811
    for endpoint, method, path in routes(app):
        who = app.view_functions[endpoint].allowed_to  # type: ignore[attr-defined]
        assert (who == PUBLIC) == (endpoint in OPEN_TO_ALL), endpoint
        if who == PUBLIC:
            continue
        if who == SHOPPER:
            assert endpoint in OPEN_TO_SHOPPERS, endpoint
            for origin in (None, "https://elsewhere.example", "null"):
                sent = stranger.client.open(path, method=method, headers={"Origin": origin} if origin else {})
                assert sent.status_code == 403, (endpoint, origin)
                assert "does not come from the shop" in sent.get_data(as_text=True), (endpoint, origin)
            continue
        response = stranger.send(method, path, {} if method not in SAFE else None)
        assert response.status_code in (302, 401), (endpoint, method, response.status_code)


def test_who_may_only_look_changes_nothing(app: Flask, lena: Api) -> None:  # noqa: F811
    bodies = {"POST": {}, "PATCH": {}, "PUT": {}, "DELETE": None}
    for endpoint, method, path in routes(app):
        who = app.view_functions[endpoint].allowed_to  # type: ignore[attr-defined]
        if who in (Right.EDIT, Right.RELEASE):
            response = lena.send(method, path, bodies[method])
            assert (response.status_code, response.get_json()["code"]) == (403, "forbidden"), endpoint
        elif method not in SAFE and who == Right.LOOK:
            assert endpoint.rsplit(".", 1)[1] in {
                "session_sign_out",
                "session_end",
                "session_password",
                "job_stop",
                "jobs_ask",
                "fields_try",
                "matches",
                "things_consequences",
                "things_effects",
                "things_hands_consequences",
                "removal_consequences",
                "settings_consequences",
                "settings_several_consequences",
                "layouts_preview",
                "try_it",
            }, f"{endpoint} writes and asks only for the right to look"


def test_who_may_only_look_asks_for_no_job(lena: Api) -> None:  # noqa: F811
    for kind, job in JOB_KINDS.items():
        if job.asked is not None:
            status, problem = lena.refused("POST", "/api/jobs", {"kind": kind})
            assert (status, problem["code"]) == (403, "forbidden")


def test_every_code_a_refusal_can_have_is_listed() -> None:
    used: set[str] = set()
    for path in (ROOT / "src").rglob("*.py"):
        source = path.read_text()
        used |= set(re.findall(r'Refusal\(\s*"([a-z_]+)"', source))
        used |= set(re.findall(r'^    \d{3}: \("([a-z_]+)"', source, re.MULTILINE))
    used |= {"clash", "shape", "unknown_key", "unknown_field_set"}
    listed = set(re.findall(r"^\| `([a-z_]+)`", (ROOT / "docs/errors.md").read_text(), re.MULTILINE))
    assert used == listed


def test_every_setting_is_documented() -> None:
    words = (ROOT / "docs/operating.md").read_text()
    for name in (
        "DATABASE_URL",
        "FABRIC_SECRET",
        "FABRIC_FILES",
        "FABRIC_SECURE_COOKIES",
        "FABRIC_POOL",
        "FABRIC_SIGN_INS_PER_MINUTE",
        "FABRIC_SHOP_ADDRESS",
        "FABRIC_TRUSTED_PROXIES",
    ):
        assert f"`{name}`" in words


def test_unknown_and_missing_settings_stop_the_start(monkeypatch: pytest.MonkeyPatch) -> None:
    settings.cache_clear()
    monkeypatch.setenv("FABRIC_COLOUR", "blue")
    with pytest.raises(ValueError, match="FABRIC_COLOUR"):
        settings()
    monkeypatch.delenv("FABRIC_COLOUR")
    monkeypatch.delenv("FABRIC_SECRET")
    with pytest.raises(ValueError, match="secret"):
        settings()
    settings.cache_clear()


def test_the_studio_opens_with_at_most_250_kb_of_script() -> None:
    built = ROOT / "src/young_fabric/web/static/built"
    manifest = json.loads((built / "manifest.json").read_text())
    wanted, first = ["index.html", "studio/features/define/fields/FieldsView.tsx"], set()
    while wanted:
        entry = manifest[wanted.pop()]
        if entry["file"] not in first:
            first.add(entry["file"])
            wanted += entry.get("imports", [])
    size = sum(len(gzip.compress((built / name).read_bytes())) for name in first if name.endswith(".js"))
    assert size <= 250_000, size


def test_pages_name_only_our_own_hosts() -> None:
    built = ROOT / "src/young_fabric/web/static/built"
    for path in [*built.rglob("*.css"), built / "index.html", *(ROOT / "src").rglob("*.html")]:
        assert not re.search(r"(?:src|href|url\()\W{0,2}https?://", path.read_text()), path
