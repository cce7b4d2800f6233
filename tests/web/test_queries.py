"""How many statements a question takes: as many for a few rows as for many."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

import pytest
from sqlalchemy import Engine, event

from tests.web.conftest import Api


@contextmanager
def statements(engine: Engine) -> Iterator[list[str]]:
    sent: list[str] = []

    def note(_connection: object, _cursor: object, statement: str, *_rest: object) -> None:
        if not statement.startswith(("SAVEPOINT", "RELEASE", "ROLLBACK")):
            sent.append(statement)

    event.listen(engine, "before_cursor_execute", note)
    try:
        yield sent
    finally:
        event.remove(engine, "before_cursor_execute", note)


def sent_by(engine: Engine, api: Api, path: str) -> list[str]:
    api.get(path)
    with statements(engine) as sent:
        api.get(path)
    return sent


@pytest.mark.parametrize(
    ("few", "many"),
    [
        ("/api/products?type=brushes", "/api/products"),
        ("/api/products?q=Heron", "/api/products?q=e"),
        ("/api/products?gaps=true&type=sketchbooks", "/api/products?gaps=true"),
        ("/api/find?q=Heron", "/api/find?q=e"),
        ("/api/collections/lightfast/members", "/api/collections/small_change/members"),
        ("/api/weave?scope=collection:first_box", "/api/weave?scope=collection:small_change"),
        ("/api/weave?scope=type:easels", "/api/weave?scope=type:watercolour"),
        ("/api/changes?noun=field&key=ss_wood", "/api/changes"),
        ("/api/records?words=fen", "/api/records"),
        ("/api/references/record_type?of=maker&words=fen", "/api/references/record_type?of=maker"),
        ("/api/references/product?words=Heron", "/api/references/product?words=e"),
        ("/api/records/callan_joinery/uses", "/api/records/fen_mill/uses"),
        ("/api/shared_copies/brush_care/places", "/api/shared_copies/colour_care/places"),
    ],
)
def test_a_list_takes_as_many_statements_for_few_rows_as_for_many(
    engine: Engine, rosa: Api, few: str, many: str
) -> None:
    a_few, a_lot = sent_by(engine, rosa, few), sent_by(engine, rosa, many)
    assert a_few
    assert len(a_lot) == len(a_few), "\n".join(a_lot)


@pytest.mark.parametrize(
    "path",
    [
        "/api/pending",
        "/api/checks",
        "/api/counts",
        "/api/fields",
        "/api/product_types",
        "/api/field_sets",
        "/api/collections",
    ],
)
def test_questions_of_the_whole_shop_take_as_many_after_many_changes(engine: Engine, rosa: Api, path: str) -> None:
    before = sent_by(engine, rosa, path)
    rows = rosa.get("/api/products")["rows"]
    for row in rows[:12]:
        version = rosa.get(f"/api/products/{row['id']}")["version"]
        body = {"version": version, "values": {"price": "7.77"}}
        assert rosa.send("PATCH", f"/api/products/{row['id']}", body).status_code == 200
    for name in ("Alpha", "Beta", "Gamma"):
        assert rosa.send("POST", "/api/fields", {"name": name}).status_code == 200
    assert len(sent_by(engine, rosa, path)) == len(before)


def test_lists_narrowed_by_one_thing_never_count_products(engine: Engine, rosa: Api) -> None:
    for path in ("", "?type=paper", "?gaps=true", "?lacking=ss_fibre", "?wrong=ss_paper_weight"):
        counting = [sent for sent in sent_by(engine, rosa, f"/api/products{path}") if "count(*)" in sent]
        assert counting == [], path
