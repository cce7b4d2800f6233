"""All that a live page of a product is made from, by one statement: one reader, one state."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

import orjson

from young_fabric.core.base.shop import Shop
from young_fabric.core.display.cascade import DisplaySetting
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.variants import OFFERED
from young_fabric.store.glances import Glance
from young_fabric.store.repos import releases
from young_fabric.store.repos.shop import NO_SHOP, LiveState

Frozen = Mapping[tuple[str, str], tuple[int, Any]]
"""(noun, key) → (format, state) of what is live of some products."""

# Asked of the driver as it stands: a page made anew is this statement and little else.
_PAGE = f"""
WITH found AS MATERIALIZED (
  SELECT surface, subject_id, card, title, address, under, document, format FROM live_document
  WHERE until IS NULL AND address = %(address)s AND surface = ANY(%(surfaces)s) AND subject = '{PRODUCT.code}'
), frozen AS (
  SELECT noun, key, format, state FROM live_thing
  WHERE until IS NULL AND noun IN ('{PRODUCT.code}', '{OFFERED}', '{releases.HELD}')
  AND key = ANY(ARRAY(SELECT subject_id FROM found))
  UNION ALL SELECT noun, key, format, state FROM live_thing WHERE {releases.OWN_SETTINGS}
  AND {releases.START} = ANY(ARRAY(SELECT '{PRODUCT.code}:' || subject_id || '/' FROM found))
)
SELECT shop.name, shop.prefix, shop.currency, shop.locale, shop.title_order, shop.stamp,
  (SELECT coalesce(max(number), 0) FROM release),
  (SELECT jsonb_agg(jsonb_build_array(noun, key, format, state)) FROM frozen),
  (SELECT jsonb_object_agg(product_id, amount) FROM stock
   WHERE product_id = ANY(ARRAY(SELECT subject_id::int FROM found)) AND amount IS NOT NULL),
  (SELECT jsonb_object_agg(v.id, s.amount) FROM variant AS v JOIN variant_stock AS s ON s.variant_id = v.id
   WHERE v.product_id = ANY(ARRAY(SELECT subject_id::int FROM found)) AND s.amount IS NOT NULL),
  found.surface, found.subject_id, found.title, found.address, found.under, found.document, found.format
FROM shop LEFT JOIN found ON true ORDER BY found.card
"""  # noqa: S608


class LiveDocument(NamedTuple):
    """What a surface shows of a product, as released: see `LiveDocumentRow`."""

    surface: str
    subject_id: str
    title: str
    address: str | None
    under: list[str]
    document: dict[str, Any]
    format: int


class LivePage(NamedTuple):
    """The documents at an address, what is frozen of their product with the settings said for it alone, the state of the shop, its own
    stock told, and the shop's row as `repos.shop` keeps it (None: there is no shop)."""

    documents: list[LiveDocument]
    frozen: Frozen
    own: Mapping[int, tuple[DisplaySetting, ...]]
    state: LiveState
    shop: tuple[Shop, int, int] | None


def at(glance: Glance, surfaces: Sequence[str], address: str) -> LivePage:
    """What is live on some surfaces of the product whose page is at an address; documents in the order of the surfaces."""
    rows = glance.execute(_PAGE, {"address": address, "surfaces": list(surfaces)}).fetchall()
    if not rows:
        return LivePage([], {}, {}, NO_SHOP, None)
    first = rows[0]
    state = LiveState(first[6], first[0], first[2], first[3], first[8], first[9])
    documents = [
        LiveDocument(row[10], row[11], row[12], row[13], row[14], orjson.loads(row[15]), row[16])
        for row in rows
        if row[10] is not None
    ]
    documents.sort(key=lambda document: surfaces.index(document.surface))
    frozen, own = releases.parted(first[7] or ())
    return LivePage(documents, frozen, own, state, (Shop(*first[:5]), first[5], first[6]))
