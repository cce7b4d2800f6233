"""Value lists, starter fields and housekeeping as the API has them."""

from __future__ import annotations

from typing import Any

from tests.web.conftest import Api


def version(api: Api, key: str) -> int:
    return int(api.get(f"/api/value_lists/{key}")["version"])


def test_a_list_goes_out_as_csv_and_comes_in_again(rosa: Api) -> None:
    response = rosa.client.get("/api/value_lists/pigments/table.csv")
    assert response.headers["Content-Disposition"] == 'attachment; filename="pigments.csv"'
    text = response.get_data(as_text=True)
    assert text.splitlines()[0] == "code,label,also,retired,colours,picture,short,note,link"
    body = {"version": version(rosa, "pigments"), "text": text, "apply": False}
    same = rosa.send("POST", "/api/value_lists/pigments/table", body).get_json()
    assert (same["added"], same["changed"]) == ([], [])
    changed = {**body, "text": "code,note,colours\npb29,Deep,#112233 #445566\nnew-one,,\n", "apply": True}
    done = rosa.send("POST", "/api/value_lists/pigments/table", changed).get_json()
    assert [value["code"] for value in done["changed"]] == ["pb29"]
    assert done["changed"][0]["swatch"]["colours"] == ["#112233", "#445566"]
    assert done["added"][0]["label"] == "new-one"
    status, problem = rosa.refused("POST", "/api/value_lists/pigments/table", {**body, "text": "a,b\n1,2"})
    assert (status, problem["code"]) == (422, "table")


def test_values_are_used_merged_and_parted(rosa: Api) -> None:
    uses = {use["code"]: use["held"] for use in rosa.get("/api/value_lists/suits/usage")["values"]}
    assert uses["etching"][0]["name"] == "products"
    asked: dict[str, Any] = {"codes": ["etching"], "into": "ink"}
    told = rosa.send("POST", "/api/value_lists/suits/merge", asked).get_json()
    assert (told["held"], told["made"], told["meeting"], told["job"]) == (uses["etching"], 0, 0, None)
    assert version(rosa, "suits") == 1, "nothing is written"
    rosa.send("POST", "/api/value_lists/suits/merge", {**asked, "apply": True})
    codes = {value["code"] for value in rosa.get("/api/value_lists/suits")["thing"]["values"]}
    assert "etching" not in codes
    rosa.send("POST", "/api/undo", {})
    assert {use["code"]: use["held"] for use in rosa.get("/api/value_lists/suits/usage")["values"]} == uses


def test_a_swatch_needs_a_picture_the_shop_has(rosa: Api) -> None:
    wood = rosa.get("/api/value_lists/wood")
    values = [{**value, "swatch": {"picture": "a" * 64}} for value in wood["thing"]["values"]]
    body = {"version": wood["version"], "values": values}
    status, problem = rosa.refused("PATCH", "/api/value_lists/wood", body)
    assert (status, problem["code"], problem["where"]) == (422, "picture_gone", ["values", 0, "swatch", "picture"])


def test_a_look_shows_in_the_shop_and_a_value_may_lead_somewhere(rosa: Api) -> None:
    wood = rosa.get("/api/value_lists/wood")
    look = {"swatch": {"colours": ["#c8a26a", "#8a6a3a"]}, "note": "<oiled>", "link": "https://a.example/w?a=1&b=2"}
    values = [{**value, **look} for value in wood["thing"]["values"]]
    assert (
        rosa.send("PATCH", "/api/value_lists/wood", {"version": wood["version"], "values": values}).status_code == 200
    )
    number = rosa.get("/api/products?q=Groyne%20Studio")["rows"][0]["id"]
    page = rosa.client.get(f"/proof/product/{number}").get_data(as_text=True)
    assert 'viewBox="0 0 2 1"' in page
    assert 'fill="#8a6a3a"' in page
    assert "<small>&lt;oiled&gt;</small>" in page
    assert 'href="https://a.example/w?a=1&amp;b=2"' in page


def test_starters_are_told_and_added(rosa: Api) -> None:
    rows = {row["key"]: row for row in rosa.get("/api/fields/starters")["fields"]}
    assert (rows["width"]["kind"], rows["width"]["schema_org"]) == ("measure, cm", "width")
    assert rows["maker"]["there"] == "ss_maker"
    body = {"keys": ["width", "washing"], "into": {"noun": "product_type", "key": "easels"}}
    assert rosa.send("POST", "/api/fields/starters", body).get_json()["keys"] == ["ss_width", "ss_washing"]
    status, problem = rosa.refused("POST", "/api/fields/starters", {"keys": ["width"]})
    assert (status, problem["code"], problem["where"][:2]) == (422, "taken", ["keys", "width"])
    assert rosa.refused("POST", "/api/fields/starters", {"keys": []})[0] == 422


def test_two_fields_defined_twice_are_found_and_merged(rosa: Api) -> None:
    found = rosa.get("/api/housekeeping")["findings"]
    twice = next(finding for finding in found if finding["sort"] == "alike")
    assert (twice["key"], twice["other"]) == ("ss_weight_of_paper", "ss_paper_weight")
    told = rosa.send("POST", f"/api/fields/{twice['key']}/merge", {"into": twice["other"]}).get_json()
    assert (told["moves"], told["differ"], told["definitions"]) == (0, {"count": 0, "name": "products"}, [])
    rosa.send("POST", f"/api/fields/{twice['key']}/merge", {"into": twice["other"], "apply": True})
    assert "alike" not in {finding["sort"] for finding in rosa.get("/api/housekeeping")["findings"]}


def test_things_are_copied_and_several_removed(rosa: Api) -> None:
    made = rosa.send("POST", "/api/value_lists/suits/copy", {}).get_json()
    assert made["thing"]["name"].endswith(", copy")
    thing = {"noun": "value_list", "key": made["thing"]["key"], "version": made["version"]}
    found = rosa.send("POST", "/api/removal/consequences", {"things": [thing]}).get_json()
    assert (found["products"], found["exact"]) == (0, True)
    rosa.send("POST", "/api/removal", {"things": [thing]})
    assert rosa.refused("POST", "/api/removal", {"things": [thing]})[0] in (404, 409)
    assert rosa.refused("POST", "/api/removal", {"things": []})[0] == 422
    assert rosa.refused("POST", "/api/removal", {"things": [thing] * 501})[0] == 422
    nothing = {"things": [{**thing, "noun": "nothing"}]}
    assert rosa.refused("POST", "/api/removal/consequences", nothing)[1]["code"] == "not_found"


def test_hands_are_told_before_they_are_laid_on(rosa: Api) -> None:
    rosa.send("POST", "/api/collections", {"name": "By hand"})
    asked = {"ids": [1], "to": "picked"}
    found = rosa.send("POST", "/api/collections/by_hand/hands/consequences", asked).get_json()
    assert found["products"] == 1
    found = rosa.send(
        "POST", "/api/collections/by_hand/hands/consequences", {"text": "NONE-1", "to": "picked"}
    ).get_json()
    assert found["products"] == 0
    assert rosa.get("/api/collections/by_hand")["thing"]["picked"] == []
