"""Variants as core values: of many products at once, written in a few statements; their stock, and which SKUs are taken."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import and_, bindparam, delete, func, literal, or_, select, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.dialects.postgresql import insert as upsert
from sqlalchemy.orm import Session, aliased

from young_fabric.core.subjects.variants import OFFERED, Variant
from young_fabric.store.tables import ChoiceStockRow, ProductRow, TakenSkuRow, UnmatchedRow, VariantRow, VariantStockRow

V = VariantRow
_ROWS = (
    "jsonb_to_recordset(:rows) AS r(id int, product_id int, position int, choices jsonb, fields jsonb, unread jsonb, "
    "sku text, retired boolean, version int)"
)
_UPDATE = text(
    "UPDATE variant AS v SET product_id = r.product_id, position = r.position, choices = r.choices, fields = r.fields, "  # noqa: S608
    f"unread = r.unread, sku = r.sku, retired = r.retired, version = r.version FROM {_ROWS} WHERE v.id = r.id"
).bindparams(bindparam("rows", type_=JSONB()))
_INSERT = text(
    "INSERT INTO variant (product_id, former_product, position, choices, fields, unread, sku, retired, version) "  # noqa: S608
    "SELECT product_id, product_id, position, choices, fields, unread, sku, retired, version "
    f"FROM {_ROWS}"
).bindparams(bindparam("rows", type_=JSONB()))


_COLUMNS = (
    V.id,
    V.position,
    V.choices,
    V.fields,
    V.unread,
    V.sku,
    V.retired,
    V.version,
    func.coalesce(V.product_id, V.former_product),
)


def _of_columns(row: Sequence[Any]) -> Variant:
    return Variant(row[0], row[8], row[1], row[2], row[3], row[4], row[5], row[6], row[7], row[9])


def of_products(
    session: Session, ids: Sequence[int], *, lock: bool = False, retired: bool = True
) -> dict[int, list[Variant]]:
    """Product → its variants in order of position, those not offered last; also those that stood apart since a product was removed.

    With `lock` they are held until the transaction ends, always taken in one order.
    """
    wanted = or_(
        V.product_id == func.any(list(ids)), and_(V.product_id.is_(None), V.former_product == func.any(list(ids)))
    )
    if not retired:
        wanted = and_(V.product_id == func.any(list(ids)), V.retired.is_(False))
    if lock:
        session.execute(select(V.id).where(wanted).order_by(V.id).with_for_update(key_share=True))
    query = (
        select(*_COLUMNS, VariantStockRow.amount)
        .outerjoin(VariantStockRow, VariantStockRow.variant_id == V.id)
        .where(wanted)
        .order_by(V.retired, V.position, V.id)
    )
    out: dict[int, list[Variant]] = defaultdict(list)
    for row in session.execute(query):
        variant = _of_columns(row)
        out[variant.product].append(variant)
    return dict(out)


def get(session: Session, ids: Sequence[int]) -> dict[int, Variant]:
    """Variants by id, with their stock."""
    query = (
        select(*_COLUMNS, VariantStockRow.amount)
        .outerjoin(VariantStockRow, VariantStockRow.variant_id == V.id)
        .where(V.id == func.any(list(ids)), V.product_id.is_not(None))
    )
    return {row[0]: _of_columns(row) for row in session.execute(query)}


@dataclass(frozen=True)
class Choosing:
    """Variants of some products (an SQL condition) made of one value of an option, which another is to stand for."""

    products: Any
    option: str
    code: str
    into: str

    @property
    def where(self) -> Any:
        """The same of the rows."""
        of = select(ProductRow.id).where(self.products)
        return and_(V.choices.contains({self.option: self.code}), V.product_id.in_(of))

    @property
    def meeting(self) -> Any:
        """Those whose product offers one already with the other value."""
        other = aliased(V)
        same = V.choices.op("||")(literal({self.option: self.into}, JSONB()))
        found = select(other.id).where(
            other.product_id == V.product_id, other.retired.is_(False), other.choices == same
        )
        return and_(self.where, V.retired.is_(False), found.exists())


def count_choosing(session: Session, found: Sequence[Choosing]) -> tuple[int, int]:
    """(variants that are offered and made of any of some values, those of them that would meet one that is offered already)."""
    count = select(func.count()).select_from(V)
    made = and_(V.retired.is_(False), or_(*[choosing.where for choosing in found], text("false")))
    meeting = or_(*[choosing.meeting for choosing in found], text("false"))
    return int(session.scalar(count.where(made)) or 0), int(session.scalar(count.where(meeting)) or 0)


def ids_choosing(session: Session, found: Sequence[Choosing], after: int, limit: int) -> list[int]:
    """The next variants made of any of some values, retired ones too, by id."""
    wanted = or_(*[choosing.where for choosing in found], text("false"))
    return list(session.scalars(select(V.id).where(wanted, V.id > after).order_by(V.id).limit(limit)))


# Stock of what the live shop still sells stays where it counts it, so what a live state offers is left out.
_STRANDED = text(
    "SELECT v.id FROM variant AS v JOIN variant_stock AS s ON s.variant_id = v.id AND s.amount > 0 WHERE v.retired "
    "AND v.product_id IS NOT NULL AND v.id > :after AND v.choices ->> CAST(:option AS text) = ANY(CAST(:codes AS text[])) "
    "AND NOT EXISTS (SELECT FROM live_thing AS t WHERE t.noun = CAST(:noun AS text) AND t.key = v.product_id::text AND t.until IS NULL "
    "AND t.state -> 'variants' @> jsonb_build_array(jsonb_build_object('id', v.id))) ORDER BY v.id LIMIT :most"
)


def stranded(session: Session, option: str, codes: Sequence[str], after: int, most: int) -> list[int]:
    """The next variants that are retired, here and in the live shop, made of any of some values, with counted stock, by id."""
    given = {"option": option, "codes": list(codes), "after": after, "most": most, "noun": OFFERED}
    return list(session.scalars(_STRANDED, given)) if codes else []


def _row(variant: Variant) -> dict[str, Any]:
    return {
        "id": variant.id,
        "product_id": variant.product,
        "position": variant.position,
        "choices": dict(variant.choices),
        "fields": dict(variant.values),
        "unread": dict(variant.unread),
        "sku": variant.sku,
        "retired": variant.retired,
        "version": variant.version,
    }


def write_many(session: Session, changed: Sequence[Variant], added: Sequence[Variant]) -> None:
    """Write variants: those that give a combination or SKU up before those that take it. Raises IntegrityError."""
    retired = [variant for variant in changed if variant.retired]
    offered = [variant for variant in changed if not variant.retired]
    for variants in (retired, offered):
        if variants:
            session.execute(_UPDATE, {"rows": list(map(_row, variants))})
    if added:
        session.execute(_INSERT, {"rows": list(map(_row, added))})


# The hash is of the rows as they are, so that telling what differs builds no states; nothing is computed that is not asked for.
_OF_SOME = """
SELECT p.id, jsonb_build_object('sets', to_jsonb(p.option_sets), 'variants', coalesce(
  (SELECT jsonb_agg(jsonb_build_object('id', v.id, 'position', v.position, 'choices', v.choices, 'values', v.fields,
    'unread', v.unread, 'sku', v.sku) ORDER BY v.position, v.id)
   FROM variant AS v WHERE v.product_id = p.id AND NOT v.retired), '[]')) AS state,
 md5(p.option_sets::text || coalesce(
  (SELECT string_agg(concat_ws('|', v.id, v.position, v.choices, v.fields, v.unread, v.sku), ';' ORDER BY v.position, v.id)
   FROM variant AS v WHERE v.product_id = p.id AND NOT v.retired), '')) AS hash
FROM product AS p WHERE p.id = ANY(CAST(:ids AS int[])) AND (p.option_sets <> '{}' OR EXISTS (
  SELECT FROM variant AS v WHERE v.product_id = p.id AND NOT v.retired)) OFFSET 0
"""
_NOTE = text(
    "INSERT INTO unreleased (noun, key, hash) SELECT CAST(:noun AS text), asked.id::text, o.hash FROM unnest(CAST(:ids AS int[])) AS asked(id) "  # noqa: S608
    f"LEFT JOIN ({_OF_SOME}) AS o ON o.id = asked.id WHERE o.hash IS NOT NULL OR EXISTS (SELECT 1 FROM unreleased AS u "
    "WHERE u.noun = CAST(:noun AS text) AND u.key = asked.id::text) OR EXISTS (SELECT 1 FROM live_thing AS t WHERE t.noun = CAST(:noun AS text) "
    "AND t.key = asked.id::text AND t.until IS NULL) ORDER BY asked.id ON CONFLICT (noun, key) DO UPDATE SET hash = excluded.hash"
)
_OFFERED_NOW = text(_OF_SOME)
_FREEZE = text(
    "INSERT INTO live_thing (noun, key, format, hash, state, since) "  # noqa: S608
    f"SELECT CAST(:noun AS text), o.id::text, 1, o.hash, o.state, :release FROM ({_OF_SOME}) AS o WHERE NOT EXISTS (SELECT 1 "
    "FROM live_thing AS t WHERE t.noun = CAST(:noun AS text) AND t.key = o.id::text AND t.until IS NULL)"
)
_END = text(
    "UPDATE live_thing AS t SET until = :release WHERE t.until IS NULL AND t.noun = CAST(:noun AS text) AND t.key = ANY(CAST(:keys AS text[])) "  # noqa: S608
    f"AND NOT EXISTS (SELECT 1 FROM ({_OF_SOME}) AS o WHERE o.id::text = t.key AND o.hash = t.hash)"
)


def note_offered(session: Session, ids: Sequence[int]) -> None:
    """Note the drafts of what is offered of some products, for the next release; also of those that are gone."""
    if ids:
        session.execute(_NOTE, {"noun": OFFERED, "ids": sorted(set(ids))})


def offered_states(session: Session, ids: Sequence[int]) -> dict[int, tuple[str, dict[str, Any]]]:
    """Product → (hash, state) of what is offered of it in the draft, of those of which anything is."""
    rows = session.execute(_OFFERED_NOW, {"ids": list(ids)}) if ids else ()
    return {row.id: (row.hash, row.state) for row in rows}


def freeze_offered(session: Session, ids: Sequence[int], release: int, *, first: bool) -> None:
    """End what is live of what is offered of some products and differs, and freeze it as it is."""
    if not first:
        keys = [str(number) for number in ids]
        session.execute(_END, {"noun": OFFERED, "ids": list(ids), "keys": keys, "release": release})
    session.execute(_FREEZE, {"noun": OFFERED, "ids": list(ids), "release": release})


def taken_skus(session: Session, skus: Sequence[str]) -> dict[str, tuple[int, int, str]]:
    """SKU → (product, variant or 0, title of the product) of those taken."""
    taken = TakenSkuRow
    query = (
        select(taken.sku, ProductRow.id, func.coalesce(taken.variant_id, 0), ProductRow.title)
        .outerjoin(V, V.id == taken.variant_id)
        .join(ProductRow, ProductRow.id == func.coalesce(taken.product_id, V.product_id))
        .where(taken.sku == func.any(list(skus)))
    )
    return {row[0]: (row[1], row[2], row[3]) for row in session.execute(query)} if skus else {}


def without_sku(session: Session, most: int) -> dict[tuple[str, tuple[str, ...]], list[int]]:
    """(type, option sets by condition or by hand) → products with offered variants that go by the product's own SKU, up to so many."""
    product = ProductRow
    ids = func.array_agg(product.id.distinct())
    query = (
        select(product.type_key, product.option_sets, ids)
        .join(V, V.product_id == product.id)
        .where(V.sku.is_(None), V.retired.is_(False))
        .group_by(product.type_key, product.option_sets)
    )
    return {(row[0], tuple(row[1])): sorted(row[2])[:most] for row in session.execute(query)}


def counts(session: Session, ids: Sequence[int]) -> dict[int, int]:
    """Product → variants that are offered."""
    query = (
        select(V.product_id, func.count())
        .where(V.product_id == func.any(list(ids)), V.retired.is_(False))
        .group_by(V.product_id)
    )
    return dict(session.execute(query).all())  # type: ignore[arg-type]


def count(session: Session, product_id: int) -> int:
    """How many variants a product has, retired ones too."""
    return int(session.scalar(select(func.count()).select_from(V).where(V.product_id == product_id)) or 0)


def choice_stocks(session: Session, sets: Sequence[str]) -> dict[str, dict[tuple[str, str], int]]:
    """Option set → (option, code) → pieces, of the values that have stock of their own."""
    row = ChoiceStockRow
    out: dict[str, dict[tuple[str, str], int]] = defaultdict(dict)
    query = select(row.set_key, row.option, row.code, row.amount).where(
        row.set_key == func.any(list(sets)), row.amount.is_not(None)
    )
    for key, option, code, amount in session.execute(query) if sets else ():
        out[key][option, code] = amount or 0
    return dict(out)


def note_unmatched(session: Session, keys: Sequence[str], stamp: int) -> None:
    """Note option sets whose products' variants are yet to be matched since the definitions had a stamp."""
    if keys:
        query = upsert(UnmatchedRow).values([{"option_set": key, "stamp": stamp} for key in sorted(keys)])
        session.execute(
            query.on_conflict_do_update(index_elements=["option_set"], set_={"stamp": query.excluded.stamp})
        )


def unmatched(session: Session) -> frozenset[str]:
    """The option sets with variants yet to be matched."""
    return frozenset(session.scalars(select(UnmatchedRow.option_set)))


def unread_fields(session: Session) -> list[tuple[str, int, int]]:
    """(field, offered variants with something not understood for it, one of their products)."""
    keys = func.jsonb_object_keys(V.unread).label("key")
    found = select(keys, V.product_id.label("product")).where(V.unread != {}, V.retired.is_(False)).subquery()
    query = select(found.c.key, func.count(), func.min(found.c.product)).group_by(found.c.key).order_by(found.c.key)
    return [(row[0], row[1], row[2]) for row in session.execute(query)]


def clear_unmatched(session: Session) -> None:
    """Say that all variants are matched."""
    session.execute(delete(UnmatchedRow).execution_options(synchronize_session=False))


def having_any() -> Any:
    """Products with variants that are offered."""
    return ProductRow.id.in_(select(V.product_id).where(V.retired.is_(False), V.product_id.is_not(None)))


def settle_matched(session: Session, keys: Sequence[str], stamp: int) -> None:
    """Say that variants of option sets are matched as definitions had it at a stamp."""
    gone = delete(UnmatchedRow).where(UnmatchedRow.option_set == func.any(list(keys)), UnmatchedRow.stamp <= stamp)
    session.execute(gone.execution_options(synchronize_session=False))
