"""Many rows written at once by COPY, the quickest way into a table."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import lru_cache
from itertools import chain
from types import MappingProxyType
from typing import Any

import orjson
from psycopg import sql
from psycopg.types.array import ListDumper
from sqlalchemy.orm import Session

EMPTY: Mapping[str, Any] = MappingProxyType({})


def copy_rows(
    session: Session,
    table: str,
    types: Mapping[str, str],
    rows: Iterable[Mapping[str, Any]],
    shared: Mapping[str, Any] = EMPTY,
) -> None:
    """Write rows into a table; `types` are PostgreSQL's of the columns written, `shared` columns the same in all rows.

    JSON and lists of text are given as values. Raises IntegrityError's like of the driver: only for rows nothing else
    writes.
    """
    left = iter(rows)
    first = next(left, None)
    if first is None:
        return
    names = [*(name for name in types if name not in shared), *shared]
    statement = sql.SQL("COPY {} ({}) FROM STDIN").format(
        sql.Identifier(table), sql.SQL(", ").join(map(sql.Identifier, names))
    )
    spelling = [(name, _SPELLED.get(types[name])) for name in names if name not in shared]
    ends = list(shared.values())
    connection: Any = session.connection().connection.driver_connection
    with connection.cursor() as cursor, cursor.copy(statement) as copy:
        copy.set_types(["text" if types[name] in _SPELLED else types[name] for name in names])
        for row in chain([first], left):
            copy.write_row([row[name] if spell is None else spell(row[name]) for name, spell in spelling] + ends)


def _json(value: Any) -> str:
    """JSON as text; bytes are spelled already."""
    return (value if isinstance(value, bytes) else orjson.dumps(value)).decode()


def _list(value: Sequence[str] | None) -> str | None:
    return None if value is None else _array(tuple(value))


@lru_cache(1024)
def _array(value: tuple[str, ...]) -> str:
    """A list of text as PostgreSQL reads it; one list stands in very many rows."""
    return bytes(ListDumper(list).dump(list(value)) or b"{}").decode()


_SPELLED: Mapping[str, Callable[[Any], str | None]] = {"json": _json, "jsonb": _json, "text[]": _list}
"""Types whose values are given to the database as text, and how."""
