"""Releases held against each other over HTTP, and pages as they were."""

from __future__ import annotations

from tests.service.releasing.test_comparing import changed_twice
from tests.web.conftest import Api
from young_fabric.service.acting.actors import Work


def test_a_page_is_shown_as_it_was(rosa: Api, work: Work) -> None:
    easel = changed_twice(work)
    work.session.commit()
    pages = [rosa.client.get(f"/proof/at/{number}/product_page/{easel}").get_data(as_text=True) for number in (2, 3)]
    assert ["Easel, oiled" in page for page in pages] == [False, True]
    assert rosa.client.get("/proof/at/2/moon/1").status_code == 422
    answer = rosa.get("/api/releases/between?before=2&after=3")
    assert (answer["count"], answer["differing"]["whole"]) == (2, True)
    for wrong in ("before=2&after=2", "before=2&after=99", "before=-1&after=2"):
        assert rosa.client.get(f"/api/releases/between?{wrong}").status_code in (404, 422)
