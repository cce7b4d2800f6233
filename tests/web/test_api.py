"""The API: sessions, the one error shape, versions, and a field's way from definition to shop."""

from __future__ import annotations

import io
import json
import re

import pytest
from flask import Flask
from PIL import Image

from tests.web.conftest import Api
from young_fabric.demo.load import PEOPLE


def product_id(api: Api, words: str) -> int:
    return int(api.get(f"/api/products?q={words}")["rows"][0]["id"])


def test_signing_in_and_out(stranger: Api) -> None:
    assert stranger.get("/api/session")["name"] is None
    status, problem = stranger.refused("POST", "/api/session", {"email": PEOPLE[0][0], "password": "wrong"})
    assert (status, problem["code"]) == (401, "sign_in")
    status, problem = stranger.refused("POST", "/api/session", {"email": "nobody@x.example", "password": "wrong"})
    assert (status, problem["code"]) == (401, "sign_in"), "an unknown address is told no differently"
    stranger.sign_in()
    assert stranger.get("/api/session")["rights"] == ["edit", "look", "release"]
    stranger.send("DELETE", "/api/session")
    assert stranger.client.get("/api/fields").status_code == 401


def test_the_session_cookie_is_kept_from_scripts_and_other_sites(stranger: Api) -> None:
    response = stranger.client.get("/api/session")
    stranger.client.delete_cookie("young_fabric")
    cookie = stranger.client.get("/api/session").headers["Set-Cookie"]
    assert "HttpOnly" in cookie
    assert "SameSite=Lax" in cookie
    assert response.headers["X-Content-Type-Options"] == "nosniff"
    assert "frame-ancestors 'self'" in response.headers["Content-Security-Policy"]


def test_trying_passwords_is_slowed(stranger: Api) -> None:
    codes = [
        stranger.refused("POST", "/api/session", {"email": "a@b.example", "password": "x"})[1]["code"] for _ in range(7)
    ]
    assert codes == ["sign_in"] * 5 + ["too_often"] * 2


def test_a_new_password_ends_other_sessions(app: Flask) -> None:
    here, there = Api(app.test_client()).sign_in(), Api(app.test_client()).sign_in()
    old = PEOPLE[0][2]
    assert (
        here.refused("POST", "/api/session/password", {"old": "wrong", "new": "long-enough-1"})[1]["code"] == "sign_in"
    )
    assert here.refused("POST", "/api/session/password", {"old": old, "new": "short"})[1]["code"] == "short"
    assert here.send("POST", "/api/session/password", {"old": old, "new": "long-enough-1"}).status_code == 200
    assert here.client.get("/api/fields").status_code == 200
    assert there.client.get("/api/fields").status_code == 401


def test_a_forged_cookie_is_nobody(app: Flask) -> None:
    client = app.test_client()
    with client.session_transaction() as session:
        session["_user_id"] = "1.99"
        session["_fresh"] = True
    assert client.get("/api/fields").status_code == 401


def test_writes_without_the_token_are_refused(rosa: Api) -> None:
    response = rosa.client.post("/api/fields", json={"name": "Sly"})
    assert (response.status_code, response.get_json()["code"]) == (403, "csrf")
    status, problem = rosa.refused("POST", "/api/fields", {"name": "Sly"}, headers={"X-CSRF-Token": "guess"})
    assert (status, problem["code"]) == (403, "csrf")


@pytest.mark.parametrize(
    ("method", "path", "body", "status", "code", "where"),
    [
        ("POST", "/api/fields", {"name": "A", "colour": 1}, 422, "unknown_key", ["colour"]),
        ("POST", "/api/fields", {"nam": "A"}, 422, "shape", ["name"]),
        ("POST", "/api/fields", {"name": ""}, 422, "required", ["name"]),
        ("POST", "/api/fields", {"name": "A", "kind": "spell"}, 422, "kind", ["kind"]),
        ("PATCH", "/api/fields/ss_none", {"version": 1, "name": "A"}, 404, "not_found", []),
        ("PATCH", "/api/fields/ss_hair", {"version": 99, "name": "A"}, 422, "version", ["version"]),
        ("PATCH", "/api/fields/ss_hair", {"version": -1, "name": "A"}, 422, "shape", ["version"]),
        ("DELETE", "/api/fields/ss_hair?version=-1", None, 422, "shape", ["version"]),
        ("POST", "/api/value_lists", {"name": "A", "key": "a/b"}, 422, "key", ["key"]),
        ("POST", "/api/product_types", {"name": "A", "key": "product:1"}, 422, "key", ["key"]),
        ("POST", "/api/field_sets", {"name": "A", "key": "x" * 61}, 422, "key", ["key"]),
        (
            "PATCH",
            "/api/fields/ss_binder",
            {"version": 1, "limits": {"pattern": "("}},
            422,
            "pattern_syntax",
            ["limits", "pattern"],
        ),
        ("DELETE", "/api/fields/ss_hair?version=1", None, 409, "in_use", []),
        ("PATCH", "/api/product_types/oil", {"version": 1, "parent": "oil"}, 422, "loop", ["parent"]),
        ("PATCH", "/api/product_types/oil", {"version": 1, "slug": "paint"}, 422, "taken", ["slug"]),
        (
            "PATCH",
            "/api/field_sets/origin",
            {"version": 1, "sections": [{"key": "a", "name": "A", "fields": ["x"]}]},
            422,
            "unknown_field",
            ["sections", 0, "fields", 0],
        ),
        (
            "PATCH",
            "/api/display_settings",
            {"scope": "moon", "field": "title", "surface": "*", "set": {"shown": True}},
            422,
            "scope",
            ["scope"],
        ),
        (
            "PATCH",
            "/api/display_settings",
            {"scope": "type:gone", "field": "title", "surface": "*", "set": {"shown": True}},
            404,
            "not_found",
            ["scope"],
        ),
        (
            "PATCH",
            "/api/display_settings",
            {"scope": "shop", "field": "title", "surface": "*", "set": {"glow": 1}},
            422,
            "unknown_property",
            ["set", "glow"],
        ),
        ("PATCH", "/api/fields/ss_hair", {"version": 1, "colour": "red"}, 422, "unknown_key", ["colour"]),
        ("PATCH", "/api/fields/ss_hair", {"version": 1, "limits": {"glow": 1}}, 422, "limit", ["limits", "glow"]),
        (
            "PATCH",
            "/api/value_lists/wood",
            {"version": 1, "values": [{"code": "ash", "label": "Ash", "glow": 1}]},
            422,
            "unknown_key",
            ["values", 0, "glow"],
        ),
        ("POST", "/api/products", {"type": "gone", "title": "A"}, 404, "not_found", ["type"]),
        ("GET", "/api/products?cursor=zzz", None, 422, "cursor", ["cursor"]),
        ("GET", "/api/products/999999", None, 404, "not_found", []),
        ("GET", "/api/why?product=1&field=nothing", None, 404, "not_found", ["field"]),
        ("GET", "/api/why?product=1&field=title&surface=moon", None, 422, "unknown_surface", ["surface"]),
        ("GET", "/api/why?product=1&field=title&device=watch", None, 422, "unknown_device", ["device"]),
        ("GET", "/api/why/block?product=1&block=title&device=watch", None, 422, "unknown_device", ["device"]),
        ("GET", "/api/missing?product=1&device=watch", None, 422, "unknown_device", ["device"]),
        ("POST", "/api/changes/999999/undo", None, 404, "not_found", []),
        ("POST", "/api/releases/9/back", {}, 404, "not_found", []),
        ("POST", "/api/moons/x/consequences", {}, 404, "not_found", []),
        ("GET", "/api/nowhere", None, 404, "not_found", []),
        ("PUT", "/api/fields", {}, 405, "method", []),
    ],
)
def test_bad_input_gets_its_clear_answer(
    rosa: Api, method: str, path: str, body: object, status: int, code: str, where: list[object]
) -> None:
    found, problem = rosa.refused(method, path, body)
    assert (found, problem["code"], problem["where"]) == (status, code, where)
    assert problem["message"]


def test_too_much_text_and_broken_json_are_refused(rosa: Api) -> None:
    number = product_id(rosa, "Fen+Etching+300")
    status, problem = rosa.refused(
        "PATCH", f"/api/products/{number}", {"version": 1, "values": {"description": "x" * 10_000_000}}
    )
    assert (status, problem["code"]) == (413, "too_large")
    response = rosa.client.post(
        "/api/fields", data="{", content_type="application/json", headers={"X-CSRF-Token": rosa.csrf}
    )
    assert response.status_code in (400, 422)
    assert response.get_json()["code"] in ("bad_request", "shape")


def test_a_long_text_is_kept_and_marked(rosa: Api) -> None:
    number = product_id(rosa, "Fen+Etching+300")
    version = rosa.get(f"/api/products/{number}")["version"]
    done = rosa.send(
        "PATCH", f"/api/products/{number}", {"version": version, "values": {"ss_dampening": "x" * 400}}
    ).get_json()
    value = next(f["value"] for s in done["sections"] for f in s["fields"] if f["field"]["key"] == "ss_dampening")
    assert (value["code"], len(value["typed"])) == ("long", 400)


def test_a_clash_gives_both_states_and_the_version_to_write_over(rosa: Api) -> None:
    use = next(row for row in rosa.get("/api/fields")["things"] if row["thing"]["key"] == "ss_hair")
    assert rosa.send("PATCH", "/api/fields/ss_hair", {"version": use["version"], "label": "Tuft"}).status_code == 200
    status, problem = rosa.refused("PATCH", "/api/fields/ss_hair", {"version": use["version"], "label": "Bristle"})
    assert (status, problem["yours"]["label"], problem["theirs"]["label"]) == (409, "Bristle", "Tuft")
    assert (
        rosa.send("PATCH", "/api/fields/ss_hair", {"version": problem["version"], "label": "Bristle"}).status_code
        == 200
    )


def test_pictures_are_uploaded_checked_and_served(rosa: Api) -> None:
    out = io.BytesIO()
    Image.new("RGB", (800, 600), (200, 30, 60)).save(out, "PNG")
    kept = rosa.client.post(
        "/api/pictures", data={"file": (io.BytesIO(out.getvalue()), "red.png")}, headers={"X-CSRF-Token": rosa.csrf}
    ).get_json()
    served = rosa.client.get(f"/files/{kept['file']}-160.webp")
    assert served.mimetype == "image/webp"
    assert "immutable" in served.headers["Cache-Control"]
    served.close()
    bad = rosa.client.post(
        "/api/pictures", data={"file": (io.BytesIO(b"<svg/>"), "x.svg")}, headers={"X-CSRF-Token": rosa.csrf}
    )
    assert (bad.status_code, bad.get_json()["code"]) == (422, "file_kind")
    for name in ("nothing.webp", "..%2f..%2fetc%2fpasswd", kept["file"]):
        assert rosa.client.get(f"/files/{name}").status_code == 404


def test_pasting_a_list_tells_first(rosa: Api) -> None:
    body = {"version": 1, "text": "Elm\nYew;yew;Taxus", "apply": False}
    read = rosa.send("POST", "/api/value_lists/wood/paste", body).get_json()
    assert [value["label"] for value in read["added"]] == ["Yew"]
    assert read["skipped"] == [{"line": 1, "text": "Elm", "reason": "already in the list"}]
    assert "yew" not in json.dumps(rosa.get("/api/value_lists"))
    version = read["version"]
    done = rosa.send("POST", "/api/value_lists/wood/paste", {**body, "version": version, "apply": True}).get_json()
    assert done["list"]["values"][-1]["synonyms"] == ["Taxus"]


def test_consequences_write_nothing(lena: Api) -> None:
    touched = lena.send(
        "POST", "/api/fields/ss_paper_weight/consequences", {"changes": {"limits": {"max": "250"}}}
    ).get_json()
    assert touched["effects"]["wrong"] == 5
    removed = lena.send("POST", "/api/field_sets/origin/consequences", {"remove": True}).get_json()
    assert removed["surfaces"]["product_page"] == 61
    touched = lena.send(
        "POST",
        "/api/display_settings/consequences",
        {"scope": "type:paint", "field": "ss_granul", "surface": "product_page", "set": {"shown": False}},
    ).get_json()
    assert touched["surfaces"]["product_page"] == 22


def test_the_whole_way_from_a_name_to_the_shop(rosa: Api) -> None:
    field = rosa.send(
        "POST", "/api/fields", {"name": "Drying time", "kind": "measure", "options": {"unit": "min"}}
    ).get_json()
    key = field["thing"]["key"]
    new_set = rosa.send("POST", "/api/field_sets", {"name": "Studio notes"}).get_json()
    rosa.send(
        "PATCH",
        f"/api/field_sets/{new_set['thing']['key']}",
        {"version": 1, "sections": [{"key": "main", "name": "Notes", "fields": [key]}]},
    )
    kind = next(row for row in rosa.get("/api/product_types")["things"] if row["thing"]["key"] == "gouache")
    rosa.send(
        "PATCH",
        "/api/product_types/gouache",
        {"version": kind["version"], "sets": [*kind["thing"]["sets"], new_set["thing"]["key"]]},
    )
    number = product_id(rosa, "Ebb+Gouache+Brick")
    product = rosa.get(f"/api/products/{number}")
    rosa.send("PATCH", f"/api/products/{number}", {"version": product["version"], "values": {key: "0.5 h"}})
    proof = rosa.client.get(f"/proof/product/{number}").get_data(as_text=True)
    assert "30\u00a0min" in proof
    shop = "/shop/p/ebb-gouache-brick"
    assert "30\u00a0min" not in rosa.client.get(shop).get_data(as_text=True)
    why = rosa.get(f"/api/why?product={number}&field={key}&surface=listing_card")
    failed = next(step for step in why["steps"] if step["ok"] is False)
    assert (failed["name"], failed["mend"]["noun"]) == ("shown", "display_setting")
    assert failed["mend"]["says"] == {"shown": True}
    rosa.send(
        "PATCH",
        "/api/display_settings",
        {"scope": "type:gouache", "field": key, "surface": "listing_card", "set": {"shown": True}},
    )
    assert rosa.get(f"/api/why?product={number}&field={key}&surface=listing_card")["shows"]
    check_widths(rosa, number, key)
    asked = rosa.send("POST", "/api/releases", {"note": "Drying times"}).get_json()
    done = rosa.get(f"/api/jobs/{asked['id']}")
    assert (asked["state"], done["state"]) == ("waiting", "done")
    assert done["result"]["counts"]["product_page"] >= 1
    assert "30\u00a0min" in rosa.client.get(shop).get_data(as_text=True)
    assert "30\u00a0min" in rosa.client.get("/shop/c/gouache").get_data(as_text=True)
    rosa.send("POST", f"/api/releases/{done['result']['number'] - 1}/back", {})
    assert "30\u00a0min" not in rosa.client.get(shop).get_data(as_text=True)


def check_widths(rosa: Api, number: int, key: str) -> None:
    """What a width does not show is missing there alone, with the place to mend it."""
    cell = {"scope": "type:gouache", "field": key, "surface": "listing_card"}
    version = rosa.get(f"/api/weave/cell?scope=type:gouache&field={key}&surface=listing_card")["version"]
    set_cell = rosa.send("PATCH", "/api/display_settings", {**cell, "set": {"devices": ["tablet"]}, "version": version})
    asked = f"product={number}&surface=listing_card"
    on = {code: rosa.get(f"/api/why?{asked}&field={key}&device={code}") for code in ("tablet", "phone")}
    assert [on[code]["shows"] for code in ("tablet", "phone")] == [True, False]
    failed = next(step for step in on["phone"]["steps"] if step["ok"] is False)
    assert (failed["name"], failed["text"]) == ("device", "On tablet only, not on phone")
    assert failed["mend"]["key"] == f"type:gouache/{key}/listing_card"
    missing = {
        code: [field["key"] for field in rosa.get(f"/api/missing?{asked}&device={code}")["missing"]]
        for code in ("tablet", "phone")
    }
    assert [key in missing[code] for code in ("tablet", "phone")] == [False, True]
    back = {**cell, "set": {"devices": None}, "version": set_cell.get_json()["version"]}
    rosa.send("PATCH", "/api/display_settings", back)


def test_shop_pages_tell_machines_too_and_stock_is_live_at_once(rosa: Api, stranger: Api) -> None:
    page = stranger.client.get("/shop/p/ultramarine-deep-artist-watercolour").get_data(as_text=True)
    found = re.search(r'<script type="application/ld\+json">(.*?)</script>', page, re.DOTALL)
    assert found
    data = json.loads(found[1])
    assert (data["@type"], data["sku"], data["offers"]["price"]) == ("Product", "SAW-ULD-15", "9.8")
    assert data["offers"]["availability"].endswith("InStock")
    assert {"Hue", "Opacity"} <= {prop["name"] for prop in data["additionalProperty"]}
    assert "#20309a" not in page.replace(found[0], ""), "what is for other systems is not on the page"
    assert "Series 1" not in page
    number = product_id(rosa, "Ultramarine")
    assert rosa.send("PUT", f"/api/products/{number}/stock", {"expected": 31, "amount": 0}).status_code == 200
    assert "Sold out" in stranger.client.get("/shop/p/ultramarine-deep-artist-watercolour").get_data(as_text=True)


@pytest.mark.parametrize("path", ["/shop/p/nothing", "/shop/c/nothing", "/shop/else/where"])
def test_the_shop_has_a_page_for_what_is_not_there(stranger: Api, path: str) -> None:
    response = stranger.client.get(path)
    assert response.status_code == 404
    assert "To all collections" in response.get_data(as_text=True)


def test_listings_come_in_pages(stranger: Api) -> None:
    first = stranger.client.get("/shop/c/paint").get_data(as_text=True)
    assert first.count("<article") == 24
    assert 'rel="next"' in first
    second = stranger.client.get("/shop/c/paint?page=2").get_data(as_text=True)
    assert second.count("<article") == 5
    assert stranger.client.get("/shop/c/paint?page=-3").status_code == 200


def test_text_is_never_markup(rosa: Api) -> None:
    number = product_id(rosa, "Fen+Etching+300")
    version = rosa.get(f"/api/products/{number}")["version"]
    rosa.send(
        "PATCH", f"/api/products/{number}", {"version": version, "values": {"description": "<script>alert(1)</script>"}}
    )
    page = rosa.client.get(f"/proof/product/{number}").get_data(as_text=True)
    assert "<script>alert" not in page
    assert "&lt;script&gt;alert" in page


def test_health_and_redirects(stranger: Api) -> None:
    assert stranger.client.get("/healthz").get_json() == {"ok": True}
    assert stranger.client.get("/").headers["Location"] == "/shop/"
    assert stranger.client.get("/proof/product/1").headers["Location"] == "/studio/?next=/proof/product/1"


def test_a_release_that_can_not_be_handed_over_is_told_and_does_not_block(app: Flask, rosa: Api) -> None:
    asked = app.extensions["ask"]

    def deaf(_: int) -> None:
        raise ConnectionError("no queue")

    app.extensions["ask"] = deaf
    assert rosa.send("POST", "/api/releases", {"note": ""}).status_code == 200
    job = rosa.get("/api/counts")["job"]
    assert job["state"] == "waiting", "the worker finds it sooner or later"
    assert rosa.send("POST", f"/api/jobs/{job['id']}/stop").get_json()["state"] == "stopped"
    app.extensions["ask"] = asked
    number = rosa.send("POST", "/api/releases", {"note": ""}).get_json()["id"]
    assert rosa.get(f"/api/jobs/{number}")["state"] == "done"
    assert rosa.get("/api/counts")["unreleased"] == 0
    assert rosa.refused("POST", f"/api/jobs/{number + 1}/stop")[0] == 404
