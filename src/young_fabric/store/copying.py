"""Many rows written at once by COPY, the quickest way into a table."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from itertools import chain
from typing import Any

import orjson
from psycopg import sql
from sqlalchemy.orm import Session


def copy_rows(session: Session, table: str, types: Mapping[str, str], rows: Iterable[Mapping[str, Any]]) -> None:
    """Write rows into a table; `types` are PostgreSQL's of the columns written, JSON given as values.

    Raises IntegrityError's like of the driver: only for rows nothing else writes.
    """
    left = iter(rows)
    first = next(left, None)
    if first is None:
        return
    names = sql.SQL(", ").join(map(sql.Identifier, types))
    statement = sql.SQL("COPY {} ({}) FROM STDIN").format(sql.Identifier(table), names)
    json = {name for name, kind in types.items() if kind.startswith("json")}
    connection: Any = session.connection().connection.driver_connection
    with connection.cursor() as cursor, cursor.copy(statement) as copy:
        copy.set_types(["text" if name in json else kind for name, kind in types.items()])
        for row in chain([first], left):
            copy.write_row([_text(row[name]) if name in json else row[name] for name in types])


def _text(value: Any) -> str:
    """JSON as text; bytes are spelled already."""
    return (value if isinstance(value, bytes) else orjson.dumps(value)).decode()
