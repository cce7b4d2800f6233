"""What a live page is made from: one statement brings what several do, and a page is made by few."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

import pytest
from sqlalchemy import event, text
from sqlalchemy.orm import Session

from tests.service.sales.shopping import count, offered
from young_fabric.core.display.cascade import Scope
from young_fabric.core.display.surfaces import addressed_surface, data_surface
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.releasing import release
from young_fabric.service.sales import selling
from young_fabric.store.base import STANDS_STILL
from young_fabric.store.glances import of_session
from young_fabric.store.repos import live_pages, releases, shop

SURFACES = (addressed_surface().code, data_surface().code)


@pytest.fixture
def sold(work: Work) -> int:
    """A product with options, counted variants, stock and a setting of its own, live."""
    product = offered(work)
    count(work, product, 3, None, 0)
    definitions.display(work, Scope("product", str(product)), "ss_binding", "product_page", {"shown": False}, None)
    work.session.execute(text("INSERT INTO stock (product_id, amount) VALUES (:id, 7)"), {"id": product})
    release.release(work, "")
    return product


@contextmanager
def statements(session: Session) -> Iterator[list[str]]:
    found: list[str] = []

    def note(_connection: object, _cursor: object, statement: str, *_rest: object) -> None:
        found.append(statement)

    event.listen(session.get_bind(), "before_cursor_execute", note)
    try:
        yield found
    finally:
        event.remove(session.get_bind(), "before_cursor_execute", note)


def test_one_statement_brings_what_several_do(work: Work, sold: int) -> None:
    session = work.session
    addresses = session.execute(
        text("SELECT subject_id, address FROM live_document WHERE until IS NULL AND surface = :surface"),
        {"surface": SURFACES[0]},
    ).all()
    assert str(sold) in {row.subject_id for row in addresses}
    assert len(addresses) > 50
    for number, address in addresses:
        page = live_pages.at(of_session(session), SURFACES, address)
        rows = releases.documents_of(session, "product", number)
        by_surface = {row.surface: row for row in rows}
        assert [document.surface for document in page.documents] == [code for code in SURFACES if code in by_surface]
        for document in page.documents:
            row = by_surface[document.surface]
            assert document == tuple(getattr(row, name) for name in document._fields)
        assert (page.frozen, page.own) == releases.frozen_products(session, [int(number)])
        assert page.state == shop.live_state(session, [int(number)])
    assert live_pages.at(of_session(session), SURFACES, "nowhere")[:4] == ([], {}, {}, shop.live_state(session, []))


def test_what_was_read_of_a_product_is_not_read_again(work: Work, sold: int) -> None:
    session = work.session
    session.info[STANDS_STILL] = True
    address = releases.documents_on(session, SURFACES[0], "product", [str(sold)])[str(sold)].address
    assert address is not None
    selling.live_goods(session, [sold])
    shop_before = session.info.pop("shop")
    with statements(session) as found:
        page = live_pages.at(of_session(session), SURFACES, address)
        assert page.shop == shop_before
        shop.keep(session, page.shop)
        goods = selling.live_goods(session, [sold], (), page)
        assert shop.shop_of(session)[2] == goods.state.release
    assert goods == selling.live_goods(session, [sold])
    # Values of options may have stock of their own, which is asked for once the sets are known.
    assert len(found) == 1
