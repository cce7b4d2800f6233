"""What is sent while one chooses: kept, priced and refused at once; a refused choice stays on its page."""

from __future__ import annotations

import io
import re
from urllib.parse import quote

from PIL import Image

from tests.web.conftest import Api
from tests.web.test_basket import OWN, TUBES, html, number, send

CANVAS = "spinnaker-linen-canvas-50-70"
PRINT = "print"


def picture(width: int, height: int) -> tuple[io.BytesIO, str]:
    out = io.BytesIO()
    Image.new("RGB", (width, height), "#446688").save(out, "PNG")
    out.seek(0)
    return out, "our dog.png"


def option_of(page: str) -> str:
    found = re.search(r'<input type="file"[^>]* name="([^"]+)"', page)
    assert found is not None
    return found[1]


def sent(api: Api, form: dict[str, object], **headers: str) -> tuple[int, dict[str, object]]:
    answer = api.client.post("/shop/sent", data=form, headers=headers or OWN, content_type="multipart/form-data")
    return answer.status_code, answer.get_json(silent=True) or {}


def test_a_picture_is_kept_priced_and_shown_before_it_is_ordered(stranger: Api) -> None:
    product, key = number(stranger, CANVAS), option_of(html(stranger, f"/shop/p/{CANVAS}"))
    status, answer = sent(stranger, {".product": product, key: picture(1600, 1200)})
    token = str(dict(answer["tokens"])[key])  # type: ignore[call-overload]
    assert status == 200
    page = html(stranger, f"/shop/p/{CANVAS}?{key}={quote(token)}")
    assert "our dog.png is kept" in page
    assert f'src="/shop/sent/{token}"' in page
    assert re.search(r"Your picture, printed on it: our dog\.png.*?<dd>€19\.00</dd>", page, re.DOTALL)
    small = stranger.client.get(f"/shop/sent/{token}")
    with Image.open(io.BytesIO(small.get_data())) as shown:
        assert (shown.format, shown.size) == ("WEBP", (240, 180))
    assert small.headers["Cache-Control"].startswith("private")
    assert stranger.client.get("/shop/sent/nobody-sent-this").status_code == 404
    assert stranger.client.get("/shop/sent/\u00e9").status_code == 404


def test_what_can_not_be_used_is_told_at_once(stranger: Api) -> None:
    product, key = number(stranger, CANVAS), option_of(html(stranger, f"/shop/p/{CANVAS}"))
    status, answer = sent(stranger, {".product": product, key: (io.BytesIO(b"no picture"), "notes.png")})
    assert (status, answer["option"]) == (422, key)
    assert "is not a JPEG, PNG or WebP picture" in str(answer["words"])
    assert sent(stranger, {".product": product, key: picture(10, 10)}, **{"Sec-Fetch-Site": "cross-site"})[0] == 403
    assert sent(stranger, {".product": "999999", key: picture(10, 10)})[0] == 404
    # What only this option refuses is told by its page.
    token = dict(sent(stranger, {".product": product, key: picture(1599, 1200)})[1]["tokens"])[key]  # type: ignore[call-overload]
    page = html(stranger, f"/shop/p/{CANVAS}?{key}={quote(str(token))}")
    assert re.search(r'<p class="wrong"[^>]*>[^<]*1,?600', page)


def test_a_refused_choice_stays_on_its_page_with_the_first_wrong_place_marked(stranger: Api) -> None:
    page = html(stranger, f"/shop/p/{TUBES}")
    assert f'action="/shop/p/{TUBES}#wrong"' in page
    assert "maxlength" not in page, "what is too long is told, never cut"
    assert 'data-letters="18"' in page
    form = {".product": number(stranger), "colour": "fen-green", "tube_name": "x" * 19}
    status, page = send(stranger, f"/shop/p/{TUBES}", form)
    assert (status, page.count('id="wrong"')) == (422, 1)
    assert re.search(r'<fieldset class="option" id="wrong" data-option="tube_size"', page)
    answer = stranger.client.post(f"/shop/p/{TUBES}", data={**form, "tube_name": "", "tube_size": "t15"}, headers=OWN)
    assert (answer.status_code, answer.headers["Location"]) == (303, "/shop/basket#main")


def test_the_sum_says_how_it_comes_about(stranger: Api) -> None:
    asked = "colour=fen-green&tube_size=t15&tube_name=Anna&.quantity=3"
    page = re.sub(r"\s+", " ", html(stranger, f"/shop/p/{TUBES}?{asked}"))
    assert re.search(r"<dt>Total <small>3 × €[\d.]+ \+ €[\d.]+ once</small></dt>", page)
    one = html(stranger, f"/shop/p/{TUBES}?{asked.replace('=3', '=1')}")
    assert "<dt>Total</dt>" in one
