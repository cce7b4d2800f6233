"""The one writer of values: any number of products locked, merged, judged, written and recorded in a few statements.

One product's edit, bulk change, import and undo are its callers.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any
from uuid import uuid4

from sqlalchemy.exc import IntegrityError

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.hashes import content_hash
from young_fabric.core.base.merge import ABSENT
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.fields.built_in import BUILT_IN, CODE, TITLE, UNIQUE
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans, referring
from young_fabric.service.values import sizes, variants
from young_fabric.service.values.existing import Existing
from young_fabric.service.values.value_states import (
    RulesOf,
    Standing,
    ValueEdit,
    bases,
    change_row,
    existing_of,
    fitting,
    merged,
    typed_into,
)
from young_fabric.store.repos import changes, fills, products, shop, stored_values
from young_fabric.store.repos import variants as variant_rows
from young_fabric.store.repos.products import ProductRecord

BATCH = 2_000


@dataclass(frozen=True)
class WrittenProduct:
    """A product as it stands after a write: None when removed. `changed` says whether anything differed."""

    id: int
    product: Product | None
    version: int
    changed: bool


def put_many(
    work: Work, edits: Sequence[ValueEdit], group: str | None = None, *, follows: bool = False
) -> list[WrittenProduct]:
    """Write many products, all or none; gives them in the order of the edits. Raises Refusal, Clash.

    It takes the shared lock of definitions first. `group` is what one undo takes back together, a fresh one unless given. What is not understood is kept as typed and marked. Rows are locked in order of id, counts settled once at the end. What
    `follows` from a change that was made is written even where a product is offered more than goes together then: a check tells it.
    """
    work.need(Right.EDIT)
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    group = group or uuid4().hex
    written: dict[int, WrittenProduct] = {}
    steps = fills.FillSteps()
    offers = _OfferChanges()
    ordered = sorted(edits, key=lambda edit: edit.id)
    for start in range(0, len(ordered), BATCH):
        batch = _put_batch(work, ordered[start : start + BATCH], group, steps, offers)
        written.update({done.id: done for done in batch})
    fills.add(work.session, steps)
    if not follows:
        sizes.check_products(work, sorted(number for number in offers.otherwise if written[number].product is not None))
    variants.match(work, sorted(number for number in offers.ids if written[number].product is not None))
    return [written[edit.id] for edit in edits]


def _put_batch(
    work: Work, edits: Sequence[ValueEdit], group: str, steps: fills.FillSteps, offers: _OfferChanges
) -> list[WrittenProduct]:
    session, draft = work.session, plans.draft_of(work.session)
    records = products.lock(session, [edit.id for edit in edits], removing=any(edit.goes for edit in edits))
    bases = _bases(work, edits, records)
    versions = _first_versions(work, edits, records)
    there = existing_of(work, draft.defs, edits, _rules_of(draft.assessor))
    _check_removed(work, draft.defs, edits, records)
    settled: list[tuple[ValueEdit, ProductRecord | None, Product | None]] = []
    for edit in edits:
        record = records.get(edit.id)
        settled.append((edit, record, _merged(work, draft.assessor, edit, record, bases.get(edit.id, ABSENT), there)))
    _check_own(work, [(edit, new) for edit, record, new in settled if new is not None and _differs(record, new)])
    out, rows, removed, recorded, notes = [], [], [], [], {}
    for edit, record, new in settled:
        old = record.product if record else None
        if not _differs(record, new):
            out.append(WrittenProduct(edit.id, old, record.version if record else 0, False))
            continue
        version = (record.version if record else versions.get(edit.id, 0)) + 1
        before = PRODUCT.state_of(old) if old else ABSENT
        after = PRODUCT.state_of(new) if new else ABSENT
        wrong: frozenset[str] = frozenset()
        digest = None
        if new is not None:
            keys = _changed_keys(old, new)
            wrong = draft.assessor.wrong(new, record.wrong if record else (), keys)
            digest = content_hash(after)
            gaps = draft.assessor.has_gaps(new, wrong)
            rows.append(products.row_of(new, version, sorted(wrong), gaps, digest))
            steps.count(new, wrong, gaps, 1)
        else:
            removed.append(edit.id)
        offers.note(edit.id, old, new)
        if record is not None:
            steps.count(record.product, record.wrong, record.gaps, -1)
        name = named.title if (named := new or old) else ""
        recorded.append(change_row(PRODUCT, str(edit.id), name, before, after, version, draft.defs, edit.undoes))
        notes[PRODUCT.code, str(edit.id)] = digest
        out.append(WrittenProduct(edit.id, new, version, True))
    _store(work, rows, removed)
    changes.add_many(session, recorded, at=work.now, person_id=work.actor.id, group_id=group)
    changes.note(session, notes)
    variant_rows.note_offered(session, removed)
    return out


@dataclass
class _OfferChanges:
    """The products that are offered other options than before, or whose SKU is another."""

    ids: set[int] = field(default_factory=set)
    otherwise: set[int] = field(default_factory=set)

    def note(self, number: int, old: Product | None, new: Product | None) -> None:
        """Look at a product before and after."""
        if new is None:
            return
        if old is None or (old.type, old.option_sets) != (new.type, new.option_sets):
            self.otherwise.add(number)
        if number in self.otherwise or (old is not None and old.sku != new.sku):
            self.ids.add(number)


def _check_removed(
    work: Work, defs: Definitions, edits: Sequence[ValueEdit], records: Mapping[int, ProductRecord]
) -> None:
    """Whether products that go are referred to by none that stay. Raises Refusal `in_use`."""
    going = {edit.id: records[edit.id].product.title for edit in edits if edit.goes and edit.id in records}
    words = referring.held_products(work.session, defs, going)
    if words is not None:
        raise Refusal("in_use", words, (), "Take it off there first")


def _differs(record: ProductRecord | None, new: Product | None) -> bool:
    if record is None or new is None:
        return not (record is None and new is None)
    return PRODUCT.state_of(record.product) != PRODUCT.state_of(new)


def _changed_keys(old: Product | None, new: Product) -> frozenset[str] | None:
    """The fields a write touches; None when all must be judged, as for a new product or another type."""
    if old is None or old.type != new.type or old.collections != new.collections:
        return None
    keys = {*old.values, *new.values, *old.unread, *new.unread}
    return frozenset(
        key for key in keys if old.values.get(key) != new.values.get(key) or old.unread.get(key) != new.unread.get(key)
    )


def _first_versions(work: Work, edits: Sequence[ValueEdit], records: Mapping[int, ProductRecord]) -> dict[int, int]:
    """The highest version that products not there ever had: versions never start again."""
    keys = [str(edit.id) for edit in edits if edit.id not in records]
    if not keys:
        return {}
    return {int(key): version for key, version in changes.last_versions(work.session, PRODUCT.code, keys).items()}


def _rules_of(assessor: Assessor) -> RulesOf:
    known = assessor.defs.all_fields
    return lambda key: assessor.rules(key) if key in known else None


def _bases(work: Work, edits: Sequence[ValueEdit], records: Mapping[int, ProductRecord]) -> dict[int, Any]:
    """The state each edit began from. Raises Refusal `not_found`, `version`."""
    found: dict[int, Any] = {}
    begun: dict[int, tuple[Standing, int | None]] = {}
    for edit in edits:
        record = records.get(edit.id)
        if edit.states is not None:
            found[edit.id] = edit.states[0]
        elif record is None:
            raise Refusal("not_found", "There is no such product", (), "It may have been removed: see the history")
        else:
            standing = Standing(str(edit.id), record.product.title, PRODUCT.state_of(record.product), record.version)
            begun[edit.id] = (standing, edit.version)
    return {**found, **bases(work, PRODUCT, begun)}


def _merged(
    work: Work, assessor: Assessor, edit: ValueEdit, record: ProductRecord | None, base: Any, there: Existing
) -> Product | None:
    """The product an edit comes to, None when it goes. Raises Refusal, Clash."""
    theirs = PRODUCT.state_of(record.product) if record else ABSENT
    within = record.product.collections if record else ()
    if edit.states:
        mine = fitting(edit.states[1], _rules_of(assessor), there)
    else:
        mine = _edited(assessor, edit, base, there, within)
    if base is not ABSENT and edit.states is None and record is not None and base == theirs:
        state: Any = mine
    else:
        name = record.product.title if record else "This product"
        holder = (str(edit.id), name, record.version if record else None)
        state = merged(work, PRODUCT, holder, base, mine, theirs)
    if state is ABSENT:
        if record is None and edit.states is not None and edit.states[1] is not ABSENT:
            raise Refusal("not_found", "There is no such product", (), "It may have been removed: see the history")
        return None
    made: Product = PRODUCT.thing_of(edit.id, state)
    old = record.product if record else None
    return replace(assessor.placed(made), stock=old.stock if old else None)


def _edited(assessor: Assessor, edit: ValueEdit, base: Any, there: Existing, collections: tuple[str, ...]) -> Any:
    """The state an edit wants, from the one it began from; `collections` are what the product is in. Raises Refusal."""
    if edit.removes:
        return ABSENT
    if edit.type is not None and edit.type not in assessor.defs.types:
        raise Refusal("not_found", f"There is no product type {edit.type}", ("type",), "Choose another")
    known = assessor.fillable(assessor.group(edit.type or base["type"], collections))
    held = {*base["values"], *base["unread"]}
    for key, typed in edit.values.items():
        if key not in known and not (key in held and typed in (None, "", [])):
            words = f"This product has no field {key[:80]}"
            raise Refusal("unknown_field", words, ("values", key), "See Compose for its type's fields")
    offered = base["offered"] if edit.offered is None else edit.offered
    state = {**base, "type": edit.type or base["type"], "offered": offered}
    return typed_into(state, edit.values, _rules_of(assessor), there)


def _check_own(work: Work, edits: Sequence[tuple[ValueEdit, Product]]) -> None:
    """Whether titles, and what no two products may share, can stand so. Raises Refusal `required`, `taken`."""
    for edit, new in edits:
        if not new.values.get(TITLE.key):
            where = ("values", TITLE.key)
            wrong = TITLE.key in new.unread
            words = "This title can't be kept" if wrong else "A product needs a title"
            raise Refusal("text" if wrong else "required", words, where, "Type what shoppers call it")
        for key in UNIQUE:
            if key in new.unread:
                words = f"This {BUILT_IN[key].label} can't be kept"
                raise Refusal("text", words, ("values", key), "Type another, or undo")
            if key not in new.values and key in edit.values and BUILT_IN[key].role == "address":
                words = f"A product needs an {BUILT_IN[key].label.lower()}"
                raise Refusal("required", words, ("values", key), "Type one, or undo")
    for key in plans.draft(work.session).unique:
        _check_own_unique(work, key, [(edit.id, new.values[key]) for edit, new in edits if key in new.values])
    for key in UNIQUE:
        _check_unique(work, key, [(edit.id, new.values[key]) for edit, new in edits if key in new.values])


def _check_own_unique(work: Work, key: str, wanted: Sequence[tuple[int, Any]]) -> None:
    """Whether no two products would have one value for a field of the shop's own. Raises Refusal `taken`."""
    given = {number: value for number, value in wanted if isinstance(value, str)}
    if not given:
        return
    stored_values.hold_values(work.session, key, list(given.values()))
    name = plans.draft(work.session).fields[key].name
    seen: dict[str, int] = {}
    for number, value in given.items():
        if seen.setdefault(value, number) != number:
            raise Refusal("taken", f"Two products would have the {name} {value[:60]}", ("values", key), "Type another")
    for value, number, title in stored_values.holders(work.session, key, list(seen)):
        if number != seen[value] and number not in given:
            words = f"{title} has the {name} {value[:60]} already"
            raise Refusal("taken", words, ("values", key), "Type another, one no product has")


def _check_unique(work: Work, key: str, wanted: Sequence[tuple[int, Any]]) -> None:
    seen: dict[Any, int] = {}
    name = BUILT_IN[key].label
    for product_id, value in wanted:
        if seen.setdefault(value, product_id) != product_id:
            raise Refusal("taken", f"Two products would have the {name} {value}", ("values", key), "Type another")
    writing = {product_id for product_id, _ in wanted}
    found = products.holders(work.session, key, [str(value) for value in seen])
    if BUILT_IN[key].role == CODE.role:
        found |= _variants_with(work, [str(value) for value in seen], writing)
    for value, (holder, title) in found.items():
        if holder != seen.get(value) and holder not in writing:
            words = f"{title} has the {name} {value} already"
            raise Refusal("taken", words, ("values", key), "Type another, one no product has")


def _variants_with(work: Work, skus: Sequence[str], writing: set[int]) -> dict[str, tuple[int, str]]:
    """SKU → (no product, title) of the variants that have them, those of products being written left out."""
    taken = variant_rows.taken_skus(work.session, skus)
    return {
        sku: (0, f"A variant of {title}")
        for sku, (product, variant, title) in taken.items()
        if variant and product not in writing
    }


_CONSTRAINTS = {
    "uq_product_sku": ("taken", "Another product got this SKU meanwhile", ("values", "sku")),
    "pk_taken_sku": ("taken", "Another product or variant has this SKU already", ("values", "sku")),
    "uq_product_slug": ("taken", "Another product got this address meanwhile", ("values", "slug")),
    "fk_product_type": ("not_found", "The product type was removed meanwhile", ("type",)),
}


def _store(work: Work, rows: Sequence[Mapping[str, Any]], removed: Sequence[int]) -> None:
    try:
        products.write_many(work.session, rows)
        if removed:
            products.remove(work.session, removed)
    except IntegrityError as error:
        found = re.search("|".join(_CONSTRAINTS), str(error.orig))
        if found is None:
            raise
        code, words, where = _CONSTRAINTS[found[0]]
        raise Refusal(code, words, where, "Choose another, then try again") from error
