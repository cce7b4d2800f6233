"""A web link from its field to the live page."""

from __future__ import annotations

from tests.web.conftest import Api

HOST = "https://saltmarsh.example"


def test_links_are_filled_shown_and_given_as_data(rosa: Api) -> None:
    rosa.send("POST", "/api/fields", {"name": "Guides", "kind": "web_link", "many": True})
    easels = rosa.get("/api/product_types/easels")
    changes = {"version": easels["version"], "fields": ["ss_guides"]}
    assert rosa.send("PATCH", "/api/product_types/easels", changes).status_code == 200
    found = rosa.get("/api/products?q=Groyne%20Studio")["rows"][0]
    easel = rosa.get(f"/api/products/{found['id']}")
    links = [f'Set <up> & "fold" <{HOST}/a?b=c&d>', "javascript:alert(1)"]
    body = {"version": easel["version"], "values": {"ss_guides": links}}
    kept = rosa.send("PATCH", f"/api/products/{found['id']}", body).get_json()
    at = next(
        field for section in kept["sections"] for field in section["fields"] if field["field"]["key"] == "ss_guides"
    )
    assert (at["value"]["state"], at["value"]["code"], at["value"]["faults"][0]["at"]) == ("wrong", "link", [1])
    page = rosa.client.get(f"/proof/product/{found['id']}").get_data(as_text=True)
    assert 'class="away"' not in page, "half of it is no link, so it is kept as typed and marked"
    body = {"version": kept["version"], "values": {"ss_guides": links[:1]}}
    rosa.send("PATCH", f"/api/products/{found['id']}", body)
    page = rosa.client.get(f"/proof/product/{found['id']}").get_data(as_text=True)
    shown = f'<a class="away" href="{HOST}/a?b=c&amp;d" rel="noopener">Set &lt;up&gt; &amp; &#34;fold&#34;</a>'
    assert shown in page
    assert f'"value":"{HOST}/a?b=c' in page.replace(" ", "")
