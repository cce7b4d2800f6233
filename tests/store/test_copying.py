"""Rows written by COPY come back as they were, whatever signs they hold."""

from __future__ import annotations

from typing import Any

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sqlalchemy import select
from sqlalchemy.orm import Session

from young_fabric.store.repos import releases
from young_fabric.store.tables import LiveDocumentRow

TEXT = st.text(st.characters(exclude_characters="\x00", exclude_categories=("Cs",)), max_size=12) | st.sampled_from(
    ["\\N", "\\.", "a\tb", "c\nd", "e\rf", '"', "{}", "\\", "\\\\n", "NULL", ""]
)
JSON = st.recursive(
    TEXT | st.none() | st.booleans() | st.integers(-(2**53), 2**53),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(TEXT, inner, max_size=3),
    max_leaves=6,
)
NUMBER = 977_000


@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(TEXT, st.none() | TEXT, st.lists(TEXT, max_size=3), st.dictionaries(TEXT, JSON, max_size=3), st.booleans())
def test_a_row_reads_back(
    session: Session, title: str, address: str | None, under: list[str], document: dict[str, Any], listed: bool
) -> None:
    with session.begin_nested() as nested:
        row = {"surface": "x", "subject_id": str(NUMBER), "card": "", "address": address, "title": title, "format": 2}
        more = {"listed": listed, "under": under, "document": document, "hash": "h"}
        releases.add_documents(session, "product", [{**row, **more}], 900)
        query = select(LiveDocumentRow).where(LiveDocumentRow.subject_id == str(NUMBER))
        found = session.scalars(query.execution_options(populate_existing=True)).one()
        told = (found.title, found.address, found.under, found.document, found.listed, found.since)
        assert told == (title, address, under, document, listed, 900)
        session.expunge_all()
        nested.rollback()
