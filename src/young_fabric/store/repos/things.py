"""Reading and writing definitions: each noun's rows as core things, all by one interface."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from sqlalchemy import case, delete, insert, select, update
from sqlalchemy.orm import Session

from young_fabric.core.definitions import setting_key
from young_fabric.core.display import DisplaySetting, Scope
from young_fabric.core.field_sets import FieldSet, Section
from young_fabric.core.fields import Field
from young_fabric.core.kinds import Limits
from young_fabric.core.product_types import ProductType
from young_fabric.core.value_lists import ListValue, ValueList
from young_fabric.store import tables as t

Loaded = dict[str, tuple[Any, int]]
"""Key → (thing, version)."""


@dataclass(frozen=True)
class Repo:
    """How one noun is read (all, or those with the keys) and written."""

    load: Callable[[Session, list[str] | None], Loaded]
    write: Callable[[Session, Any, int], None]
    remove: Callable[[Session, str], None]


def _picked(statement: Any, column: Any, keys: list[str] | None) -> Any:
    return statement if keys is None else statement.where(column.in_(keys))


def _load_lists(session: Session, keys: list[str] | None) -> Loaded:
    values: dict[str, list[ListValue]] = defaultdict(list)
    v = t.ListValueRow
    for row in session.scalars(_picked(select(v), v.list_key, keys).order_by(v.list_key, v.position)):
        values[row.list_key].append(ListValue(row.code, row.label, tuple(row.synonyms), row.retired))
    heads = session.scalars(_picked(select(t.ValueListRow), t.ValueListRow.key, keys).order_by(t.ValueListRow.name))
    return {h.key: (ValueList(h.key, h.name, tuple(values[h.key])), h.version) for h in heads}


def _write_list(session: Session, this: ValueList, version: int) -> None:
    _head(session, t.ValueListRow, {"key": this.key, "name": this.name}, version)
    session.execute(delete(t.ListValueRow).where(t.ListValueRow.list_key == this.key))
    _insert(
        session,
        t.ListValueRow,
        [
            {
                "list_key": this.key,
                "code": v.code,
                "label": v.label,
                "synonyms": list(v.synonyms),
                "retired": v.retired,
                "position": place,
            }
            for place, v in enumerate(this.values)
        ],
    )


def _load_fields(session: Session, keys: list[str] | None) -> Loaded:
    rows = session.scalars(_picked(select(t.FieldRow), t.FieldRow.key, keys).order_by(t.FieldRow.name))
    return {r.key: (_field(r), r.version) for r in rows}


def _field(r: t.FieldRow) -> Field:
    return Field(
        r.key,
        r.name,
        r.label,
        r.kind,
        r.many,
        r.unit,
        r.list_key,
        Limits(**r.limits),
        r.need,  # type: ignore[arg-type]
        r.audience,  # type: ignore[arg-type]
        r.help,
        r.example,
        r.default_value,
    )


def _write_field(session: Session, this: Field, version: int) -> None:
    _head(
        session,
        t.FieldRow,
        {
            "key": this.key,
            "name": this.name,
            "label": this.label,
            "kind": this.kind,
            "many": this.many,
            "unit": this.unit,
            "list_key": this.list,
            "limits": dict(this.limits.given()),
            "need": this.need,
            "audience": this.audience,
            "help": this.help,
            "example": this.example,
            "default_value": this.default,
        },
        version,
    )


def _load_sets(session: Session, keys: list[str] | None) -> Loaded:
    inside: dict[tuple[str, str], list[str]] = defaultdict(list)
    f = t.SectionFieldRow
    for row in session.scalars(_picked(select(f), f.set_key, keys).order_by(f.set_key, f.section_key, f.position)):
        inside[row.set_key, row.section_key].append(row.field_key)
    sections: dict[str, list[Section]] = defaultdict(list)
    s = t.SectionRow
    for one in session.scalars(_picked(select(s), s.set_key, keys).order_by(s.set_key, s.position)):
        sections[one.set_key].append(Section(one.key, one.name, tuple(inside[one.set_key, one.key])))
    heads = session.scalars(_picked(select(t.FieldSetRow), t.FieldSetRow.key, keys).order_by(t.FieldSetRow.name))
    return {h.key: (FieldSet(h.key, h.name, tuple(sections[h.key])), h.version) for h in heads}


def _write_set(session: Session, this: FieldSet, version: int) -> None:
    _head(session, t.FieldSetRow, {"key": this.key, "name": this.name}, version)
    session.execute(delete(t.SectionRow).where(t.SectionRow.set_key == this.key))
    _insert(
        session,
        t.SectionRow,
        [
            {"set_key": this.key, "key": s.key, "name": s.name, "position": place}
            for place, s in enumerate(this.sections)
        ],
    )
    _insert(
        session,
        t.SectionFieldRow,
        [
            {"set_key": this.key, "section_key": s.key, "field_key": key, "position": place}
            for s in this.sections
            for place, key in enumerate(s.fields)
        ],
    )


def _load_types(session: Session, keys: list[str] | None) -> Loaded:
    sets: dict[str, list[str]] = defaultdict(list)
    for a in session.scalars(
        _picked(select(t.TypeSetRow), t.TypeSetRow.type_key, keys).order_by(t.TypeSetRow.position)
    ):
        sets[a.type_key].append(a.set_key)
    fields: dict[str, list[str]] = defaultdict(list)
    f = t.TypeFieldRow
    for b in session.scalars(_picked(select(f), f.type_key, keys).order_by(f.position)):
        fields[b.type_key].append(b.field_key)
    needs: dict[str, dict[str, Any]] = defaultdict(dict)
    n = t.TypeNeedRow
    for c in session.scalars(_picked(select(n), n.type_key, keys).order_by(n.field_key)):
        needs[c.type_key][c.field_key] = c.need
    p = t.ProductTypeRow
    heads = session.scalars(_picked(select(p), p.key, keys).order_by(p.name))
    return {
        h.key: (
            ProductType(h.key, h.name, h.parent, h.slug, tuple(sets[h.key]), tuple(fields[h.key]), dict(needs[h.key])),
            h.version,
        )
        for h in heads
    }


def _write_type(session: Session, this: ProductType, version: int) -> None:
    head = {"key": this.key, "name": this.name, "parent": this.parent, "slug": this.slug}
    _head(session, t.ProductTypeRow, head, version)
    for table in (t.TypeSetRow, t.TypeFieldRow, t.TypeNeedRow):
        session.execute(delete(table).where(table.type_key == this.key))
    _insert(
        session,
        t.TypeSetRow,
        [{"type_key": this.key, "set_key": key, "position": place} for place, key in enumerate(this.sets)],
    )
    _insert(
        session,
        t.TypeFieldRow,
        [{"type_key": this.key, "field_key": key, "position": place} for place, key in enumerate(this.fields)],
    )
    _insert(
        session,
        t.TypeNeedRow,
        [{"type_key": this.key, "field_key": key, "need": need} for key, need in this.needs.items()],
    )


def _setting(row: t.DisplaySettingRow) -> DisplaySetting:
    return DisplaySetting(Scope(row.scope_kind, row.scope_key), row.field, row.surface, row.properties)


def _load_settings(session: Session, keys: list[str] | None) -> Loaded:
    d = t.DisplaySettingRow
    if keys is None:
        rows = session.scalars(select(d).where(d.scope_kind != "product"))
    else:
        rows = session.scalars(select(d).where(_setting_key_column().in_(keys)))
    return {setting_key(_setting(row)): (_setting(row), row.version) for row in rows}


def _setting_key_column() -> Any:
    d = t.DisplaySettingRow
    scope = case((d.scope_kind == "shop", "shop"), else_=d.scope_kind + ":" + d.scope_key)
    return scope + "/" + d.field + "/" + d.surface


def settings_of_products(session: Session, ids: list[int]) -> dict[int, tuple[DisplaySetting, ...]]:
    """The settings said for single products."""
    d = t.DisplaySettingRow
    found: dict[int, list[DisplaySetting]] = defaultdict(list)
    wanted = select(d).where(d.scope_kind == "product", d.scope_key.in_([str(one) for one in ids]))
    for row in session.scalars(wanted.order_by(d.field, d.surface)):
        found[int(row.scope_key)].append(_setting(row))
    return {key: tuple(rows) for key, rows in found.items()}


def _write_setting(session: Session, this: DisplaySetting, version: int) -> None:
    key = {"scope_kind": this.scope.kind, "scope_key": this.scope.key, "field": this.field, "surface": this.surface}
    _head(session, t.DisplaySettingRow, {**key, "properties": dict(this.set)}, version, tuple(key))


def _remove_setting(session: Session, key: str) -> None:
    session.execute(delete(t.DisplaySettingRow).where(_setting_key_column() == key))


def _head(session: Session, table: Any, row: dict[str, Any], version: int, keys: tuple[str, ...] = ("key",)) -> None:
    values = {**row, "version": version}
    found = session.execute(
        update(table)
        .where(*[getattr(table, key) == row[key] for key in keys])
        .values(values)
        .execution_options(synchronize_session=False)
    )
    if not found.rowcount:  # type: ignore[attr-defined]
        session.execute(insert(table).values(values))


def _insert(session: Session, table: Any, rows: list[dict[str, Any]]) -> None:
    if rows:
        session.execute(insert(table), rows)


def _remover(table: Any) -> Callable[[Session, str], None]:
    def remove(session: Session, key: str) -> None:
        session.execute(delete(table).where(table.key == key))

    return remove


REPOS: Mapping[str, Repo] = {
    "list": Repo(_load_lists, _write_list, _remover(t.ValueListRow)),
    "field": Repo(_load_fields, _write_field, _remover(t.FieldRow)),
    "set": Repo(_load_sets, _write_set, _remover(t.FieldSetRow)),
    "type": Repo(_load_types, _write_type, _remover(t.ProductTypeRow)),
    "setting": Repo(_load_settings, _write_setting, _remove_setting),
}
