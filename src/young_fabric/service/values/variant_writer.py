"""The one writer of what variants have of their own: a cell, a filled-down column, a pasted block, values that follow a field, an undo.

Rows are locked in order of id, merged field by field with what others did, and SKUs settled once a batch.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any
from uuid import uuid4

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.fields.built_in import CODE
from young_fabric.core.options.offers import Offer
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import VARIANT
from young_fabric.core.subjects.values import FieldRules
from young_fabric.core.subjects.variants import Variant, fields_of_variants
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.planning.offering import Offers
from young_fabric.service.values import variants
from young_fabric.service.values.value_states import (
    Standing,
    ValueEdit,
    bases,
    change_row,
    existing_of,
    fitting,
    merged,
    typed_into,
)
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
    _Batch(work, stored, offers_of(work, [variant.product for variant in stored.values()]), edits).put(group)


class _Batch:
    """Edits of variants whose rows are locked, written and recorded together."""

    def __init__(
        self,
        work: Work,
        stored: Mapping[int, Variant],
        offers: Mapping[int, tuple[Product, Offer]],
        edits: Sequence[ValueEdit],
    ) -> None:
        self._work, self._stored, self._offers, self._edits = work, stored, offers, edits
        self._defs = plans.draft(work.session)
        known = fields_of_variants(self._defs)
        self._rules = {key: FieldRules(field, self._defs.spec(field)) for key, field in known.items()}
        self._there = existing_of(work, self._defs, edits, self._rules.get)

    def put(self, group: str) -> None:
        """Merge, write and record all of it. Raises Refusal, Clash."""
        for edit in self._edits:
            if edit.id not in self._stored:
                raise Refusal("not_found", "There is no such variant", (), "It may have been retired: look again")
        base = self._bases()
        changed, recorded = [], []
        for edit in self._edits:
            old = self._stored[edit.id]
            before = VARIANT.state_of(old)
            after = self._merged(edit, base.get(edit.id), before)
            if after == before:
                continue
            new = replace(old, values=after["values"], unread=after["unread"], version=old.version + 1)
            changed.append((old, new))
            name = self._name(old)
            recorded.append(change_row(VARIANT, key_of(old), name, before, after, new.version, self._defs, edit.undoes))
        if changed:
            self._store(changed)
            changes.add_many(
                self._work.session, recorded, at=self._work.now, person_id=self._work.actor.id, group_id=group
            )

    def _bases(self) -> dict[int, Any]:
        begun = {}
        for edit in self._edits:
            if edit.states is None:
                old = self._stored[edit.id]
                begun[edit.id] = (Standing(key_of(old), VARIANT.name, VARIANT.state_of(old), old.version), edit.version)
        return bases(self._work, VARIANT.code, begun)

    def _merged(self, edit: ValueEdit, base: Any, theirs: Any) -> Any:
        old = self._stored[edit.id]
        if edit.states is not None:
            base, mine = edit.states[0], fitting(edit.states[1], self._rules.get, self._there)
        else:
            mine = typed_into(base, edit.values, self._need_rules, self._there)
        return merged(self._name(old), base, mine, theirs, old.version)

    def _need_rules(self, key: str) -> FieldRules:
        if key not in self._rules:
            raise Refusal("unknown_field", f"Variants have no field {key[:80]}", ("values", key), "Look again")
        return self._rules[key]

    def _name(self, variant: Variant) -> str:
        product, offer = self._offers[variant.product]
        return f"{product.title}: {offer.words_of(variant.choices)}"

    def _store(self, changed: Sequence[tuple[Variant, Variant]]) -> None:
        self._check_skus(changed)
        matchers = Matchers(Offers(self._defs))
        pairs = []
        for old, new in changed:
            product, offer = self._offers[old.product]
            matcher = matchers.of(offer)
            pairs.append((old, new if matcher is None or new.retired else matcher.with_sku(new, product.sku)))
        variants.write(self._work, pairs, ())

    def _check_skus(self, changed: Sequence[tuple[Variant, Variant]]) -> None:
        """Whether SKUs that are typed are nobody else's. Raises Refusal `taken`."""
        wanted = {
            str(new.values[CODE.key]): new
            for old, new in changed
            if new.values.get(CODE.key) and new.values.get(CODE.key) != old.values.get(CODE.key)
        }
        mine = {new.id for _, new in changed}
        for sku, (_, variant, title) in rows.taken_skus(self._work.session, sorted(wanted)).items():
            if variant not in mine or not variant:
                where = ("values", CODE.key)
                raise Refusal("taken", f"{title} has the SKU {sku} already", where, "Type another, one nobody has")
        typed = Counter(str(new.values[CODE.key]) for _, new in changed if new.values.get(CODE.key))
        twice = next((sku for sku, times in typed.items() if times > 1), None)
        if twice is not None:
            where = ("values", CODE.key)
            raise Refusal("taken", f"Two variants would have the SKU {twice}", where, "Type another for one of them")
