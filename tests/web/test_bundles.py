"""Definitions as files, as the API sends and takes them."""

from __future__ import annotations

import json

from tests.web.conftest import Api


def test_definitions_go_out_as_a_download_and_come_in_after_a_plan(rosa: Api) -> None:
    response = rosa.client.get("/api/definitions.json?type=easels")
    assert response.headers["Content-Disposition"] == 'attachment; filename="easels.json"'
    bundle = json.loads(response.get_data())
    bundle["definitions"]["value_lists"]["things"][0]["values"].append({"code": "yew", "label": "Yew"})
    body = {"bundle": bundle, "from_file": False, "apply": False}
    told = rosa.send("POST", "/api/definitions/import", body).get_json()["things"]
    merged = [thing for thing in told if thing["how"] == "merged"]
    assert [(thing["noun"], thing["lines"]) for thing in merged] == [("value_list", ["1 value added: Yew"])]
    rosa.send("POST", "/api/definitions/import", {**body, "apply": True})
    values = rosa.get(f"/api/value_lists/{merged[0]['key']}")["thing"]["values"]
    assert values[-1]["code"] == "yew"
    schema = json.loads(rosa.client.get("/api/definitions/schema.json").get_data())
    assert schema["$schema"].endswith("2020-12/schema")
    assert rosa.client.get("/api/definitions.json?type=gone").status_code == 404


def test_large_files_are_taken_here_and_nowhere_else(rosa: Api) -> None:
    large = {"format": 1, "definitions": {}, "note": "x" * 2_000_000}
    assert rosa.send("POST", "/api/definitions/import", {"bundle": large}).get_json() == {"things": []}
    status, problem = rosa.refused("POST", "/api/fields", {"name": "x" * 2_000_000})
    assert (status, problem["code"]) == (413, "too_large")
    too_large = {**large, "note": "x" * (20 * 1024 * 1024)}
    status, problem = rosa.refused("POST", "/api/definitions/import", {"bundle": too_large})
    assert (status, problem["code"]) == (413, "too_large")
