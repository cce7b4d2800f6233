"""Counted stock of whatever has it: one row a holder, locked by whoever changes it, and never deleted while its holder stands.

Studio and orders lock the same rows, in one order: sort by sort, by key. An amount of NULL is of what is not counted.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from sqlalchemy import TextClause, bindparam, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from young_fabric.core.subjects.stock import CHOICE_STOCK, PRODUCT_STOCK, VARIANT_STOCK, StockKey

Of = tuple[int | str, ...]
"""The key of a holder within its sort."""


@dataclass(frozen=True)
class StockTable:
    """A table of stock: its key columns with their types."""

    name: str
    key: tuple[tuple[str, str], ...]

    @property
    def _columns(self) -> str:
        return ", ".join(name for name, _ in self.key)

    @property
    def _rows(self) -> str:
        columns = ", ".join(f"{name} {kind}" for name, kind in self.key)
        return f"jsonb_to_recordset(:rows) AS r({columns}, amount int)"

    @property
    def _same(self) -> str:
        return " AND ".join(f"s.{name} = r.{name}" for name, _ in self.key)

    def _text(self, statement: str) -> TextClause:
        return text(statement).bindparams(bindparam("rows", type_=JSONB()))

    @cached_property
    def add(self) -> TextClause:
        """Makes the rows that are lacking, counting nothing."""
        return self._text(
            f"INSERT INTO {self.name} ({self._columns}) SELECT {self._columns} FROM {self._rows} ORDER BY {self._columns} "  # noqa: S608
            "ON CONFLICT DO NOTHING"
        )

    @cached_property
    def lock(self) -> TextClause:
        """Gives the rows there are, held until the transaction ends."""
        columns = ", ".join(f"s.{name}" for name, _ in self.key)
        return self._text(
            f"SELECT {columns}, s.amount FROM {self.name} AS s JOIN {self._rows} ON {self._same} ORDER BY {columns} FOR UPDATE OF s"  # noqa: S608
        )

    @cached_property
    def read(self) -> TextClause:
        """Gives the rows there are."""
        columns = ", ".join(f"s.{name}" for name, _ in self.key)
        return self._text(f"SELECT {columns}, s.amount FROM {self.name} AS s JOIN {self._rows} ON {self._same}")  # noqa: S608

    @cached_property
    def put(self) -> TextClause:
        """Puts amounts."""
        return self._text(f"UPDATE {self.name} AS s SET amount = r.amount FROM {self._rows} WHERE {self._same}")  # noqa: S608

    @cached_property
    def take(self) -> TextClause:
        """Takes pieces away."""
        return self._text(
            f"UPDATE {self.name} AS s SET amount = s.amount - r.amount FROM {self._rows} WHERE {self._same}"  # noqa: S608
        )

    def rows(self, amounts: Mapping[Of, int | None]) -> list[dict[str, Any]]:
        """Keys with amounts as the statements take them."""
        names = [name for name, _ in self.key]
        return [{**dict(zip(names, of, strict=True)), "amount": amount} for of, amount in amounts.items()]


TABLES: Mapping[str, StockTable] = {
    PRODUCT_STOCK: StockTable("stock", (("product_id", "int"),)),
    VARIANT_STOCK: StockTable("variant_stock", (("variant_id", "int"),)),
    CHOICE_STOCK: StockTable("choice_stock", (("set_key", "text"), ("option", "text"), ("code", "text"))),
}
"""Where stock of each sort stands, in the order in which rows are held."""


def read(session: Session, sort: str, keys: Iterable[Of]) -> dict[Of, int]:
    """Key → pieces, of those that are counted; nothing is held."""
    return {of: amount for of, amount in _ask(session, sort, "read", keys).items() if amount is not None}


def hold(session: Session, sort: str, keys: Sequence[Of]) -> dict[Of, int | None]:
    """Key → pieces (None: not counted), held until the transaction ends. Raises IntegrityError where the holder is gone."""
    table = TABLES[sort]
    if keys:
        session.execute(table.add, {"rows": table.rows(dict.fromkeys(keys))})
    return _ask(session, sort, "lock", keys)


def put(session: Session, sort: str, amounts: Mapping[Of, int | None]) -> None:
    """Put the stock of holders whose rows are held."""
    table = TABLES[sort]
    if amounts:
        session.execute(table.put, {"rows": table.rows(amounts)})


def take(session: Session, needs: Mapping[StockKey, int]) -> bool:
    """Take pieces away, all or nothing; whether there were enough of all. What is no longer counted, or gone, is not enough."""
    wanted: dict[str, dict[Of, int]] = defaultdict(dict)
    for key, pieces in needs.items():
        wanted[key.sort][key.of] = pieces
    for sort in TABLES:
        held = _ask(session, sort, "lock", wanted[sort]) if wanted[sort] else {}
        if any((held.get(of) or 0) < pieces for of, pieces in wanted[sort].items()):
            return False
    for sort, table in TABLES.items():
        if wanted[sort]:
            session.execute(table.take, {"rows": table.rows(wanted[sort])})
    return True


def _ask(session: Session, sort: str, statement: str, keys: Iterable[Of]) -> dict[Of, int | None]:
    table = TABLES[sort]
    rows = table.rows(dict.fromkeys(keys))
    found = session.execute(getattr(table, statement), {"rows": rows}) if rows else ()
    return {tuple(row[:-1]): row[-1] for row in found}
