"""The one writer of what variants have of their own: a cell, a filled-down column, a pasted block, values that follow a field, an undo.

Rows are locked in order of id, merged field by field with what others did, and SKUs settled once a batch.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import replace
from uuid import uuid4

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.fields.built_in import CODE
from young_fabric.core.options.offers import Offer
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import VARIANT
from young_fabric.core.subjects.variants import Variant, fields_of_variants
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.planning.offering import Offers
from young_fabric.service.values import variants
from young_fabric.service.values.value_states import Standing, ValueEdit, merge_edits
from young_fabric.service.values.variants import Matchers
from young_fabric.store.repos import changes, shop
from young_fabric.store.repos import products as product_rows
from young_fabric.store.repos import variants as rows

BATCH = 2_000


def key_of(variant: Variant) -> str:
    """Under which key the history has a variant."""
    return f"{variant.product}/{variant.id}"


def put_many(work: Work, edits: Sequence[ValueEdit], group: str | None = None) -> None:
    """Write what variants have of their own, all or none. Raises Refusal `not_found`, `unknown_field`, `version`, Clash.

    It takes the shared lock of definitions first. What is not understood is kept as typed and marked.
    """
    work.need(Right.EDIT)
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    group = group or uuid4().hex
    ordered = sorted(edits, key=lambda edit: edit.id)
    for start in range(0, len(ordered), BATCH):
        _put_batch(work, ordered[start : start + BATCH], group)


def offers_of(work: Work, products: Sequence[int]) -> dict[int, tuple[Product, Offer]]:
    """Products with what they offer, by id."""
    offers = Offers(plans.draft(work.session))
    found = product_rows.get(work.session, sorted(set(products)))
    return {number: (record.product, offers.of(record.product)) for number, record in found.items()}


def lock(session: Session, ids: Sequence[int]) -> dict[int, Variant]:
    """Variants, and all others of their products, by id, held until the transaction ends: products first, each in order of id."""
    of = sorted({variant.product for variant in rows.get(session, ids).values()})
    product_rows.lock(session, of)
    locked = rows.of_products(session, of, lock=True)
    return {variant.id: variant for found in locked.values() for variant in found}


def _put_batch(work: Work, edits: Sequence[ValueEdit], group: str) -> None:
    stored = lock(work.session, [edit.id for edit in edits])
    offers = offers_of(work, [variant.product for variant in stored.values()])
    stands = {}
    for number in {edit.id for edit in edits} & stored.keys():
        variant = stored[number]
        name, state = name_of(*offers[variant.product], variant), VARIANT.state_of(variant)
        stands[number] = Standing(key_of(variant), name, state, variant.version)
    defs = plans.draft(work.session)
    found = merge_edits(work, VARIANT, edits, stands, fields_of_variants(defs))
    if not found:
        return
    changed = []
    for number, state, version, _ in found:
        new = replace(stored[number], values=state["values"], unread=state["unread"], version=version)
        changed.append((stored[number], new))
    _store(work, offers, changed)
    recorded = [row.change for row in found]
    changes.add_many(work.session, recorded, at=work.now, person_id=work.actor.id, group_id=group)


def name_of(product: Product, offer: Offer, variant: Variant) -> str:
    """What a variant is called among all of the shop."""
    return f"{product.title}: {offer.words_of(variant.choices)}"


def _store(work: Work, offers: Mapping[int, tuple[Product, Offer]], changed: Sequence[tuple[Variant, Variant]]) -> None:
    _check_skus(work, changed)
    matchers = Matchers(Offers(plans.draft(work.session)))
    pairs = []
    for old, new in changed:
        product, offer = offers[old.product]
        matcher = matchers.of(offer)
        pairs.append((old, new if matcher is None or new.retired else matcher.with_sku(new, product.sku)))
    variants.write(work, pairs, ())


def _check_skus(work: Work, changed: Sequence[tuple[Variant, Variant]]) -> None:
    """Whether SKUs that are typed are nobody else's. Raises Refusal `taken` with every cell that is refused."""
    typed = {new.id: str(new.values[CODE.key]) for _, new in changed if new.values.get(CODE.key)}
    wanted = [sku for old, new in changed if (sku := typed.get(new.id)) and sku != old.values.get(CODE.key)]
    mine = {new.id for _, new in changed}
    taken = rows.taken_skus(work.session, sorted(set(wanted)))
    times = Counter(typed.values())
    found = []
    for number, sku in typed.items():
        where = ("edits", number, CODE.key)
        _, variant, title = taken.get(sku, (0, None, ""))
        if sku in taken and (variant not in mine or not variant):
            found.append(Refusal("taken", f"{title} has the SKU {sku} already", where, "Type another, one nobody has"))
        elif times[sku] > 1:
            words = f"Two variants would have the SKU {sku}"
            found.append(Refusal("taken", words, where, "Type another for one of them"))
    if found:
        raise found[0].with_others(found[1:])
