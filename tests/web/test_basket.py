"""The basket over HTTP: forms from the shop's own pages alone, each shopper their own, and nothing reckoned by a browser."""

from __future__ import annotations

import io
import re

import pytest
from sqlalchemy import Connection, text

from tests.web.conftest import Api
from young_fabric.service.planning import plans

OWN = {"Sec-Fetch-Site": "same-origin"}
TUBES = "saltmarsh-artist-watercolour-by-the-tube"


def html(api: Api, path: str, status: int = 200) -> str:
    answer = api.client.get(path)
    assert answer.status_code == status, path
    return str(answer.get_data(as_text=True))


def number(api: Api, slug: str = TUBES) -> str:
    found = re.search(r'name="\.product" value="(\d+)"', html(api, f"/shop/p/{slug}"))
    assert found is not None
    return found[1]


def send(api: Api, path: str, form: dict[str, object], **headers: str) -> tuple[int, str]:
    answer = api.client.post(path, data=form, headers=headers or OWN, content_type="multipart/form-data")
    return answer.status_code, str(answer.get_data(as_text=True))


def test_forms_come_from_the_shop_itself(stranger: Api) -> None:
    form = {".product": number(stranger), "colour": "fen-green", "tube_size": "t15"}
    for headers in (
        {"Sec-Fetch-Site": "cross-site"},
        {"Sec-Fetch-Site": "same-site"},
        {"Origin": "https://elsewhere.example"},
    ):
        assert send(stranger, "/shop/basket", dict(form), **headers)[0] == 403
    assert send(stranger, "/shop/basket", dict(form), Origin="http://localhost")[0] == 303
    assert "Fen Green" in html(stranger, "/shop/basket")


def test_what_is_missing_is_told_at_its_place_and_nothing_is_lost(stranger: Api) -> None:
    form = {".product": number(stranger), "colour": "fen-green", "tube_name": "x" * 19, ".quantity": "3"}
    status, page = send(stranger, "/shop/basket", form)
    assert status == 422
    assert "Choose Tube size" in page
    assert f'value="{"x" * 19}"' in page
    assert re.search(r'name="\.quantity"[^>]*value="3"', page)
    assert re.search(r'value="fen-green"[^>]* checked', page)
    for quantity in ("0", "10000", "-1", "two", "1.5", ""):
        assert (
            send(stranger, "/shop/basket", {**form, "tube_name": "", "tube_size": "t15", ".quantity": quantity})[0]
            == 422
        )
    assert "Nothing is in the basket" in html(stranger, "/shop/basket")


def test_cards_and_pages_tell_the_price_of_what_is_left(stranger: Api, connection: Connection) -> None:
    def price(path: str) -> str:
        page = html(stranger, path)
        found = re.search(r'<div class="price">(.*?)</div>', page, re.DOTALL)
        assert found is not None
        return " ".join(re.sub(r"<[^>]+>", " ", found[1]).split())

    product = number(stranger)
    for path in (f"/shop/cards?ids={product}", f"/shop/p/{TUBES}", f"/shop/q/{TUBES}"):
        assert price(path).startswith("from €4.90")
    compared = f"/shop/compare?p={TUBES}"
    assert "€4.90" in html(stranger, compared)
    connection.execute(
        text(
            "INSERT INTO variant_stock SELECT id, 0 FROM variant WHERE product_id = :product AND choices->>'tube_size' = 't5'"
            " ON CONFLICT (variant_id) DO UPDATE SET amount = 0"
        ),
        {"product": int(product)},
    )
    for path in (f"/shop/cards?ids={product}", f"/shop/p/{TUBES}", f"/shop/q/{TUBES}"):
        assert price(path).startswith("from €9.80")
    assert "€4.90" not in html(stranger, compared)
    assert "€9.80" in html(stranger, compared)


def test_prices_a_browser_sends_count_for_nothing(stranger: Api) -> None:
    form = {
        ".product": number(stranger),
        "colour": "fen-green",
        "tube_size": "t15",
        "price": "0.01",
        "total": "0.01",
        "each": "0",
    }
    assert send(stranger, "/shop/basket", form)[0] == 303
    assert "€9.80" in html(stranger, "/shop/basket")
    status, page = send(stranger, "/shop/checkout", {"name": "Wren", "total": "0.01"})
    assert status == 422
    assert "A price changed meanwhile" in page
    assert 'name="total" value="9.80"' in page
    status, page = send(stranger, "/shop/checkout", {"name": "Wren", "total": "9.80"})
    assert status == 303


def test_baskets_are_their_shoppers_own(stranger: Api, rosa: Api) -> None:
    form = {".product": number(stranger), "colour": "fen-green", "tube_size": "t15"}
    send(stranger, "/shop/basket", form)
    line = re.search(r'action="/shop/basket/(\d+)"', html(stranger, "/shop/basket"))
    assert line is not None
    assert "Nothing is in the basket" in html(rosa, "/shop/basket")
    assert send(rosa, f"/shop/basket/{line[1]}", {"out": "1"})[0] == 303, "no basket, nothing to change"
    send(rosa, "/shop/basket", dict(form))
    assert send(rosa, f"/shop/basket/{line[1]}", {"out": "1"})[0] == 404
    assert send(stranger, f"/shop/basket/{line[1]}", {".quantity": "x"})[0] == 422
    assert send(stranger, f"/shop/basket/{line[1]}", {"out": "1"})[0] == 303
    assert "Nothing is in the basket" in html(stranger, "/shop/basket")
    html(stranger, "/shop/order/somebody-elses", 404)


@pytest.mark.parametrize("product", ["", "0", "x", "99999999999", "999999"])
def test_what_is_no_product_is_said_so(stranger: Api, product: str) -> None:
    assert send(stranger, "/shop/basket", {".product": product})[0] == 404


def test_what_has_no_price_can_not_be_put_into_the_basket(rosa: Api) -> None:
    button = re.compile(r'<button type="submit" class="main"[^>]*>')
    product = number(rosa)
    [found] = button.findall(html(rosa, f"/shop/p/{TUBES}?colour=fen-green&tube_size=t15"))
    assert "disabled" not in found
    version = rosa.get(f"/api/products/{product}")["version"]
    body = {"version": version, "values": {"price": ""}}
    assert rosa.send("PATCH", f"/api/products/{product}", body).status_code == 200
    assert rosa.send("POST", "/api/releases", {"note": ""}).status_code == 200
    [found] = button.findall(html(rosa, f"/shop/p/{TUBES}"))
    assert "disabled" not in found, "a size with a price of its own may yet be chosen"
    page = html(rosa, f"/shop/p/{TUBES}?colour=fen-green&tube_size=t15")
    assert "disabled" in button.findall(page)[0]
    assert "This can't be ordered at the moment" in page.replace("&#39;", "'")
    assert "disabled" not in button.findall(html(rosa, f"/shop/p/{TUBES}?colour=lemon-light&tube_size=t5"))[0]


def test_files_are_taken_for_what_they_are_and_at_no_address(stranger: Api) -> None:
    listed = re.findall(r'href="/shop/p/([^"?]+)"', html(stranger, "/shop/c/canvas"))
    slug = next(name for name in dict.fromkeys(listed) if 'type="file"' in html(stranger, f"/shop/p/{name}"))
    status, page = send(
        stranger,
        "/shop/basket",
        {".product": number(stranger, slug), "printed_picture": (io.BytesIO(b"<svg/>"), "a.png")},
    )
    assert status == 422
    assert "is not a JPEG, PNG or WebP picture" in page


def test_an_address_opens_the_same_choice_and_odd_ones_break_nothing(stranger: Api) -> None:
    page = html(stranger, f"/shop/p/{TUBES}?colour=fen-green&tube_size=t37")
    assert re.search(r'value="fen-green"[^>]* checked', page)
    assert "€21.40" in page
    assert "ProductGroup" in page
    assert "data-usual" not in page
    for query in (
        "colour=x",
        "colour=%00",
        "colour=fen-green&colour=peat",
        "tube_name=" + "x" * 3000,
        ".quantity=99999",
        "=&&?",
    ):
        assert stranger.client.get(f"/shop/p/{TUBES}?{query}").status_code in (200, 404), query
    assert "37 ml is not made in Peat" in html(stranger, f"/shop/p/{TUBES}?colour=peat&tube_size=t37")


def test_what_is_chosen_beforehand_can_be_unchosen_in_an_address(rosa: Api) -> None:
    held = rosa.get("/api/option_sets/easel_woods")
    options = held["thing"]["options"]
    options[0]["default"] = "oak"
    body = {"version": held["version"], "options": options}
    assert rosa.send("PATCH", "/api/option_sets/easel_woods", body).status_code == 200
    assert rosa.send("POST", "/api/releases", {"note": ""}).status_code == 200
    chosen = re.compile(r'value="oak"[^>]* checked')
    for query, found in (
        ("", True),
        ("?easel_wood=", False),
        ("?easel_wood=walnut", False),
        ("?easel_wood=gone", False),
    ):
        page = html(rosa, f"/shop/p/estuary-easel{query}")
        assert page.count("data-usual") == 1
        assert bool(chosen.search(page)) is found, query


def test_a_german_shop_refuses_in_german(stranger: Api, connection: Connection) -> None:
    product = number(stranger)
    connection.execute(text("UPDATE shop SET locale = 'de'"))
    plans.set_back()
    form = {".product": product, "colour": "fen-green", "tube_name": "x" * 19}
    status, page = send(stranger, "/shop/basket", form)
    assert status == 422
    assert "Wählen Sie Tube size" in page
    assert "19 Zeichen, höchstens 18 passen. Kürzen Sie es" in page
    assert "37 ml gibt es nicht mit Kelp" in html(stranger, f"/shop/p/{TUBES}?tube_size=t37")
    plans.set_back()
