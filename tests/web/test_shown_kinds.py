"""Kinds from their field to the page: what is filled shows, and nothing comes from elsewhere unasked."""

from __future__ import annotations

from typing import Any

import pytest

from tests.web.conftest import Api


def fill(rosa: Api, field: dict[str, Any], typed: Any) -> tuple[dict[str, Any], str]:
    """What an easel has for a new field once it is filled, and its page."""
    key = rosa.send("POST", "/api/fields", field).get_json()["thing"]["key"]
    easels = rosa.get("/api/product_types/easels")
    changes = {"version": easels["version"], "fields": [*easels["thing"]["fields"], key]}
    assert rosa.send("PATCH", "/api/product_types/easels", changes).status_code == 200
    number = rosa.get("/api/products?q=Groyne%20Studio")["rows"][0]["id"]
    body = {"version": rosa.get(f"/api/products/{number}")["version"], "values": {key: typed}}
    kept = rosa.send("PATCH", f"/api/products/{number}", body).get_json()
    at = next(field for section in kept["sections"] for field in section["fields"] if field["field"]["key"] == key)
    return at["value"], rosa.client.get(f"/proof/product/{number}").get_data(as_text=True)


def test_a_video_is_a_link_until_it_is_pressed(rosa: Api) -> None:
    code = '<iframe src="//videos.example/embed/1?a=b" title="Folding <it>" onload="x()"></iframe><script>x()</script>'
    value, page = fill(rosa, {"name": "Film", "kind": "video"}, code)
    assert value["value"] == {"words": "Folding <it>", "address": "https://videos.example/embed/1?a=b"}
    address = "https://videos.example/embed/1?a=b"
    assert f'<a class="still" href="{address}" rel="noopener" data-plays="frame" data-source="{address}">' in page
    assert "Play: Folding &lt;it&gt;" in page
    assert "from videos.example" in page
    assert "<iframe" not in page
    assert "onload" not in page


@pytest.mark.parametrize("path", ["/shop/", "/proof/product/1", "/api/meta", "/studio/"])
def test_only_pages_of_the_shop_may_hold_a_player(rosa: Api, path: str) -> None:
    with rosa.client.get(path) as answer:
        policy = answer.headers["Content-Security-Policy"]
    assert ("frame-src" in policy) == path.startswith(("/shop", "/proof"))
    assert "script-src 'self';" in policy


def test_a_rating_shows_in_words_and_as_a_share(rosa: Api) -> None:
    value, page = fill(rosa, {"name": "Trial", "kind": "rating"}, "4.6/5 (1,280)")
    assert value["value"] == {"value": "4.6", "out_of": "5", "count": 1280}
    assert "4.6 of 5" in page
    assert "1,280 ratings" in page
    assert 'width="46.0"' in page


@pytest.mark.parametrize(("writing", "shown"), [("plain", "1871"), ("grouped", "1,871"), (None, "1,871")])
def test_a_year_is_written_as_one_when_its_field_says_so(rosa: Api, writing: str | None, shown: str) -> None:
    field = {"name": "Founded", "kind": "whole", "limits": {"max": "2026"}}
    if writing:
        field["options"] = {"writing": writing}
    value, page = fill(rosa, field, "1871")
    assert value["typed"] == shown
    assert f"<dd>{shown}" in page
    wrong, _ = fill(rosa, {**field, "name": "Founded again"}, "2027")
    assert ("2,026" in wrong["message"]) != (writing == "plain")


def test_a_way_of_writing_that_is_none_is_refused_at_its_place(rosa: Api) -> None:
    answer = rosa.send("POST", "/api/fields", {"name": "Odd", "kind": "whole", "options": {"writing": "roman"}})
    assert (answer.status_code, answer.get_json()["code"]) == (422, "writing")
    assert answer.get_json()["where"] == ["options", "writing"]


def test_how_a_filled_number_is_written_can_be_changed_and_shows_at_once(rosa: Api) -> None:
    use = next(row for row in rosa.get("/api/fields")["things"] if row["thing"]["key"] == "ss_maker_since")
    assert use["filled"] > 0
    asked = {"changes": {"options": {"writing": "grouped"}}}
    touched = rosa.send("POST", "/api/fields/ss_maker_since/consequences", asked).get_json()
    assert touched["surfaces"], "pages that show it differ"
    body = {"version": use["version"], "options": {"writing": "grouped"}}
    assert rosa.send("PATCH", "/api/fields/ss_maker_since", body).status_code == 200
    number = next(row["id"] for row in rosa.get("/api/products?q=Tideline%20Cold")["rows"])
    fields = [at for section in rosa.get(f"/api/products/{number}")["sections"] for at in section["fields"]]
    assert next(at["value"]["typed"] for at in fields if at["field"]["key"] == "ss_maker_since") == "1,871"


def test_the_unit_of_a_filled_measure_is_changed_with_its_values(rosa: Api) -> None:
    use = next(row for row in rosa.get("/api/fields")["things"] if row["thing"]["key"] == "ss_paper_weight")
    body = {"version": use["version"], "options": {"unit": "kg/m²"}, "limits": {}}
    asked = {"changes": {name: value for name, value in body.items() if name != "version"}}
    effects = rosa.send("POST", "/api/fields/ss_paper_weight/consequences", asked).get_json()["effects"]
    assert (effects["changed"], effects["lost"], effects["wrong"]) == (20, 0, 0)
    assert effects["examples"][0]["how"] == "changed"
    assert rosa.send("PATCH", "/api/fields/ss_paper_weight", body).status_code == 200
    number = next(row["id"] for row in rosa.get("/api/products?q=Tideline%20Cold")["rows"])
    fields = [at for section in rosa.get(f"/api/products/{number}")["sections"] for at in section["fields"]]
    typed = next(at["value"]["typed"] for at in fields if at["field"]["key"] == "ss_paper_weight")
    assert typed.endswith("kg/m²")


def test_what_is_wrong_is_exported_and_kinds_that_fit_are_told(rosa: Api) -> None:
    fits = rosa.get("/api/fields/ss_maker_since/fits")
    assert fits["looked"] == fits["kinds"]["whole"] == fits["kinds"]["text"] > 0
    assert fits["kinds"]["date"] == 0
    assert "one_of" not in fits["kinds"], "it asks for a list first"
    response = rosa.client.get("/api/fields/ss_paper_weight/wrong.csv")
    lines = response.get_data(as_text=True).splitlines()
    assert lines[0] == "id,sku,title,ss_paper_weight,reason"
    assert len(lines) == 2, "one paper is too heavy in the demo"
    assert "850 g/m²" in lines[1]
    assert rosa.client.get("/api/fields/gone/wrong.csv").status_code == 404
