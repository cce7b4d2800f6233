"""Collections through the API and in the shop; and pages kept no longer than the shop is as it was."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from flask import Flask
from sqlalchemy.orm import Session

from tests.web.conftest import Api
from young_fabric.service.acting.actors import Work
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.store.repos.kept_pages import KeptPage
from young_fabric.store.repos.shop import LiveState
from young_fabric.web.shop.kept import At, KeptPages

CHEAP = {"field": "price", "op": "lt", "typed": "10"}


def text(api: Api, path: str) -> str:
    response = api.client.get(path)
    assert response.status_code == 200, path
    return response.get_data(as_text=True)


def make(rosa: Api, name: str, **given: Any) -> dict[str, Any]:
    made: dict[str, Any] = rosa.send("POST", "/api/collections", {"name": name, **given}).get_json()
    return made


def test_from_a_name_to_its_listing(rosa: Api, stranger: Api, work: Work) -> None:
    made = make(rosa, "Under ten", condition=CHEAP)
    assert made["words"] == "Price below €10.00"
    assert made["tests"] == [{"where": [], "words": "Price below €10.00", "values": ["€10.00"], "typed": ["10.00"]}]
    assert made["products"] > 5
    assert stranger.client.get("/shop/c/under-ten").status_code == 404
    members = rosa.get("/api/collections/under_ten/members")
    assert (members["total"], members["rows"][0]["how"]) == (made["products"], "matches")
    release.release(work, "made")
    page = text(stranger, "/shop/c/under-ten")
    assert f"{made['products']} products" in page
    assert "Under ten" in text(stranger, "/shop/")
    assert text(rosa, "/proof/collection/under_ten").count("<article") == page.count("<article")


def test_members_come_in_pages(rosa: Api) -> None:
    make(rosa, "All", condition={"all": []})
    first = rosa.get("/api/collections/all/members")
    second = rosa.get(f"/api/collections/all/members?offset={first['next']}")
    ids = [row["id"] for row in (*first["rows"], *second["rows"])]
    assert (len(ids), len(set(ids)), second["next"]) == (65, 65, None)
    assert rosa.get("/api/collections/all/members?offset=1000000")["rows"] == []
    assert rosa.refused("GET", "/api/collections/all/members?offset=1000001")[0] == 422


def test_a_condition_is_looked_into_while_it_is_made(rosa: Api, lena: Api) -> None:
    fields = {field["key"]: field for field in lena.get("/api/conditions/fields")["fields"]}
    assert fields["type"]["tests"][0] == {"op": "is", "words": "is or is below", "takes": "one"}
    assert fields["ss_suits"]["control"] == "list"
    assert "unit_price" not in fields
    assert "ss_season" not in fields
    body = {"condition": {"all": [CHEAP]}, "collection": "outdoors"}
    found = rosa.send("POST", "/api/conditions/matches", body).get_json()
    assert found["count"] == found["fresh"] + sum(row["how"] == "in" for row in found["first"]) or found["count"] > 12
    status, problem = rosa.refused(
        "POST", "/api/conditions/matches", {"condition": {"any": [{"field": "price", "op": "lt", "typed": "low"}]}}
    )
    assert (status, problem["code"], problem["where"]) == (422, "number", ["any", 0, "value"])


def test_hands_order_and_values(rosa: Api) -> None:
    make(rosa, "Picked")
    done = rosa.send("POST", "/api/collections/picked/hands", {"ids": [3, 1], "to": "picked"}).get_json()
    assert done["thing"]["picked"] == [3, 1]
    rosa.send("PATCH", "/api/collections/picked", {"version": done["version"], "picked": [1, 3]})
    assert [row["id"] for row in rosa.get("/api/collections/picked/members")["rows"]] == [1, 3]
    product = rosa.get("/api/products/1")
    place = next(place for place in product["collections"] if place["key"] == "picked")
    assert (place["inside"], place["how"]) == (True, "picked")
    assert (
        rosa.refused("POST", "/api/collections/picked/hands", {"ids": [9999], "to": "picked"})[1]["code"] == "not_found"
    )
    moved = rosa.send("PUT", "/api/collections/picked/place", {"after": None}).get_json()
    assert rosa.get("/api/collections")["things"][0]["thing"]["key"] == "picked"
    values = {"version": moved["version"], "values": {"words": "Two things"}}
    told = rosa.send("PATCH", "/api/collections/picked/values", values).get_json()
    assert told["fields"][0]["value"]["shown"] == "Two things"
    pasted = rosa.send("POST", "/api/collections/picked/skus", {"text": "FE-300, X", "to": "kept_out"}).get_json()
    assert pasted == {"found": 1, "unknown": ["X"], "twice": []}
    assert rosa.get("/api/collections/picked/effect") == {"products": 2, "sets": [], "settings": []}
    assert rosa.refused("POST", "/api/collections/picked/gather")[1]["code"] == "nothing"


def test_what_will_change_tells_who_comes_and_goes(rosa: Api, work: Work) -> None:
    release.release(work, "before")
    version = rosa.get("/api/collections/outdoors")["version"]
    rosa.send("PATCH", "/api/collections/outdoors", {"version": version, "condition": CHEAP})
    thing = rosa.get("/api/pending")["things"][0]
    assert thing["key"] == "outdoors"
    assert thing["lines"][0].startswith("in it: Price below")
    come, go = (int(part.split()[0]) for part in thing["lines"][-1].split(", "))
    assert thing["surfaces"]["product_page"] == come + go > 0, "it says something, so their pages may differ"
    release.release(work, "after")
    assert rosa.get("/api/pending")["count"] == 0


def test_kept_pages_tell_what_stands(stranger: Api, work: Work) -> None:
    paint = products.search(work, products.Filters(words="Barley Ochre"), None).rows[0].product
    page = "/shop/p/barley-ochre-artist-watercolour"
    first = stranger.client.get(page)
    assert stranger.client.get(page).headers["ETag"] == first.headers["ETag"]
    products.set_stock(work, paint.id, paint.stock, 0)
    assert "Sold out" in text(stranger, page), "stock is live at once"
    assert "Sold out" in text(stranger, "/shop/c/paint")
    products.set_stock(work, paint.id, 0, 5)
    assert "Sold out" not in text(stranger, page)
    products.fill(work, paint.id, None, {"price": "1.23"})
    assert "€1.23" not in text(stranger, page)
    release.release(work, "dearer")
    assert "€1.23" in text(stranger, page)
    assert "€1.23" in text(stranger, "/shop/c/paint")


def test_what_is_not_there_is_not_kept(app: Flask, stranger: Api) -> None:
    for number in range(3):
        assert stranger.client.get(f"/shop/p/nothing-{number}").status_code == 404
    kept: KeptPages = app.extensions["kept_pages"]
    assert [at for at in kept.items() if at.address.startswith("/p/nothing")] == []


def test_no_more_is_kept_than_there_is_room_for() -> None:
    pages = KeptPages(100)

    def put(key: str, size: int) -> None:
        pages.put(At(key), KeptPage(b"x" * size, key, (), (), LiveState(1, "", "", "", None)))

    for key in "abc":
        put(key, 40)
    assert pages.get(At("a")) is None
    assert pages.get(At("c")) is not None
    put("c", 60)
    assert pages.get(At("b")) is not None, "40 and 60 fit"
    put("d", 101)
    assert [key for key in "abcd" if pages.get(At(key))] == ["b", "c"], "what never fits makes no room for itself"


def test_pages_of_a_listing_lead_on(stranger: Api, rosa: Api, work: Work, sessions: Callable[[], Session]) -> None:
    make(rosa, "Everything", condition={"all": []}, order="price")
    release.release(work, "all")
    seen: list[str] = []
    path: str | None = "/shop/c/everything"
    while path:
        page = text(stranger, path)
        seen += [part.split('"')[0] for part in page.split('data-product="')[1:]]
        path = page.split('rel="next" href="')[1].split('"')[0] if 'rel="next"' in page else None
    assert len(seen) == len(set(seen)) == 65
    assert stranger.client.get("/shop/c/everything?page=99").status_code == 200
    assert stranger.client.get("/shop/c/everything?page=999999").status_code == 200
