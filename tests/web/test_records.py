"""Records over the API and in the shop: pages, links between them, what may refer, and who may."""

from __future__ import annotations

import json

import jsonschema
import pytest

from tests.web.conftest import Api


def version(rosa: Api, path: str) -> int:
    found = rosa.get(path)["version"]
    assert isinstance(found, int)
    return found


def test_a_maker_has_a_page_that_lists_its_products_and_leads_to_those_it_works_with(stranger: Api) -> None:
    page = stranger.client.get("/shop/c/driftline-bindery").get_data(as_text=True)
    assert ">Driftline Bindery</h1>" in page
    assert "Port Callan" in page
    assert 'href="/shop/c/fen-mill"' in page
    assert page.count('<article class="card') == 6
    product = stranger.client.get("/shop/p/driftline-sketchbook-moss").get_data(as_text=True)
    assert '<a href="/shop/c/driftline-bindery">Driftline Bindery</a>' in product
    assert '"manufacturer":{"@type":"Organization","name":"Driftline Bindery"}' in product.replace(" ", "").replace(
        "DriftlineBindery", "Driftline Bindery"
    )


def test_in_the_proof_things_lead_to_one_another_in_the_proof(rosa: Api) -> None:
    number = rosa.get("/api/products?q=Driftline+Sketchbook+Moss")["rows"][0]["id"]
    page = rosa.client.get(f"/proof/product/{number}").get_data(as_text=True)
    assert 'href="/proof/record/driftline_bindery"' in page
    assert rosa.client.get("/proof/record/driftline_bindery").status_code == 200
    assert rosa.client.get("/proof/record/nobody").status_code == 404
    live = rosa.client.get(f"/proof/live/{number}").get_data(as_text=True)
    assert 'href="/shop/c/driftline-bindery"' in live


def test_products_and_collections_are_led_to_as_well(stranger: Api) -> None:
    page = stranger.client.get("/shop/p/weld-yellow-artist-watercolour").get_data(as_text=True)
    assert '<a href="/shop/p/heron-round-8">Heron Round 8</a>' in page
    book = stranger.client.get("/shop/p/wader-field-book").get_data(as_text=True)
    assert '<a href="/shop/c/for-the-field">For the field</a>' in book


def test_the_feed_gives_what_values_name_with_its_name(rosa: Api, stranger: Api) -> None:
    key = rosa.send("POST", "/api/keys", {"name": "Till"}).get_json()["key"]
    answer = stranger.client.get("/delivery/v1/feed", headers={"Authorization": f"Bearer {key}"})
    rows = [json.loads(line) for line in answer.get_data(as_text=True).splitlines()]
    makers = [row["fields"]["ss_maker"] for row in rows if "ss_maker" in row["fields"]]
    assert {"item", "name", "address"} == makers[0]["value"].keys()
    assert makers[0]["text"] == makers[0]["value"]["name"]


def test_records_are_made_filled_and_removed(rosa: Api) -> None:
    made = rosa.send("POST", "/api/records", {"name": "Reed & Rush", "type": "maker"}).get_json()
    key = made["thing"]["key"]
    assert (made["page"], made["type_name"], made["required_missing"]) == ("reed-rush", "Maker", 0)
    values = {
        "version": 1,
        "values": {"ss_maker_place": "Marl", "ss_maker_uses": ["Fen Mill"], "ss_maker_founded": "soon"},
    }
    filled = rosa.send("PATCH", f"/api/records/{key}/values", values).get_json()
    told = {row["field"]["key"]: row["value"] for row in filled["fields"]}
    assert told["ss_maker_uses"]["named"] == [{"item": "fen_mill", "name": "Fen Mill", "address": "fen-mill"}]
    assert told["ss_maker_founded"]["state"] == "wrong"
    status, problem = rosa.refused("PATCH", f"/api/records/{key}/values", {"version": 2, "values": {"title": "x"}})
    assert (status, problem["code"]) == (422, "unknown_field")
    status, problem = rosa.refused("DELETE", f"/api/records/fen_mill?version={version(rosa, '/api/records/fen_mill')}")
    assert (status, problem["code"]) == (409, "in_use")
    assert rosa.send("DELETE", f"/api/records/{key}?version=2").status_code == 200


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("POST", "/api/records", {"name": "Reed", "type": "maker"}),
        ("POST", "/api/record_types", {"name": "Guild"}),
        ("POST", "/api/shared_copies", {"name": "Care"}),
        ("PATCH", "/api/records/fen_mill/values", {"version": 1, "values": {}}),
    ],
)
def test_who_may_only_look_makes_and_fills_nothing(lena: Api, method: str, path: str, body: object) -> None:
    assert lena.refused(method, path, body)[0] == 403
    assert lena.client.get("/api/records").status_code == 200
    assert lena.client.get("/api/references/record_type?of=maker").status_code == 200
    assert lena.client.get("/api/sheet").status_code == 200


def test_records_are_listed_by_pages_and_words(rosa: Api) -> None:
    found = rosa.get("/api/records?type=maker&words=m")
    assert found["total"] == len(found["rows"])
    assert [row["thing"]["name"] for row in found["rows"]] == sorted(row["thing"]["name"] for row in found["rows"])
    assert rosa.get("/api/records?type=nothing") == {"rows": [], "total": 0, "next": None}
    assert rosa.get("/api/records?offset=1000000")["rows"] == []
    assert rosa.refused("GET", "/api/records?offset=1000001")[0] == 422
    assert rosa.refused("GET", "/api/references/value_list?of=wood")[0] == 404


def test_a_type_goes_out_as_a_schema_its_own_products_meet(rosa: Api, stranger: Api) -> None:
    schema = rosa.get("/api/product_types/brushes/schema.json")
    jsonschema.Draft202012Validator.check_schema(schema)
    assert schema["properties"]["ss_maker"] == {"title": "Maker", "type": "string", "minLength": 1}
    validator = jsonschema.Draft202012Validator(schema)
    for row in rosa.get("/api/products?type=brushes")["rows"]:
        opened = rosa.get(f"/api/products/{row['id']}")
        values = {
            at["field"]["key"]: at["value"]["value"]
            for section in opened["sections"]
            for at in section["fields"]
            if at["value"]["value"] is not None
        }
        lacking = [key for key in schema["required"] if key not in values]
        assert validator.is_valid(values) == (not lacking and row["wrong"] == 0)
    assert stranger.client.get("/api/product_types/brushes/schema.json").status_code == 401
