"""How many documents a change of definitions alone makes differ: counted one by one where few could, at most otherwise."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy import and_

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.listing.cards import MADE_FOR, Card, documents_on
from young_fabric.core.nouns.layouts import display_settings
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.document import RenderDoc, to_json
from young_fabric.core.pages.plan import Plan
from young_fabric.core.pages.plans import Plans, changed_groups
from young_fabric.core.subjects.converting import reading_of
from young_fabric.core.subjects.memberships import Memberships
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Work
from young_fabric.service.foreseeing.bounds import Bounds, bounds_of, told_apart
from young_fabric.service.foreseeing.touched import fields_that_differ, touched_documents
from young_fabric.service.planning import plans
from young_fabric.service.planning.naming import referring_documents, renamed_referrers
from young_fabric.service.planning.offering import offered_documents, offers_that_differ, reoffered
from young_fabric.service.planning.showing import Showing
from young_fabric.store.repos import definitions, product_groups, products

MOST_RENDERED = 120
"""So many products are rendered before and after to count the documents that differ."""
MOST_GROUPS = 200
SETTING = display_settings.NOUN.code
Thing = tuple[str, str]
Differ = Mapping[str, frozenset[Group]]


@dataclass(frozen=True)
class Counted:
    """Documents that differ by surface; not `exact` where there are no more than so many."""

    surfaces: Mapping[str, int]
    exact: bool
    products: Mapping[int, tuple[str, ...]] = field(default_factory=dict)
    """Product that differs → surfaces, where they were counted one by one."""


def counted(
    work: Work,
    before: Plans,
    after: Plans,
    keys: Sequence[Thing],
    counts: Mapping[Group, int],
    groups: Iterable[Group] | None = None,
    bounds: Bounds | None = None,
) -> Counted:
    """The documents of products that differ between two sets of definitions, which differ by the things of `keys`. `groups`, of those
    of `counts`, are all that read one of them; `bounds` are known where others were counted by them before."""
    differ = changed_groups(before, after, counts if groups is None else groups, surfaces_borne_on(keys))
    bounds = bounds or bounds_of(work, before, after, counts)
    touched = touched_documents(work, before, after, differ, bounds)
    called = referring_documents(work.session, before.defs, after, keys).values()
    offered = offered_documents(work.session, before.defs, after.defs, keys).values()
    most = {
        code: sum(touched.get(code, {}).values())
        + bounds.of_products(code, sum(found.get(code, 0) for found in (*called, *offered)))
        for code in product_surfaces()
    }
    if not any(most.values()):
        return Counted(most, True)
    if not _comparable(before.defs, after.defs, keys):
        return Counted(most, False)
    ids = _few(work, before, after, keys, differ)
    return (
        Counted(most, False)
        if ids is None
        else _one_by_one(work, before, after, ids, [code for code in most if most[code]])
    )


def surfaces_borne_on(keys: Sequence[Thing]) -> list[str] | None:
    """The surfaces that some things have a bearing on; None for all of them."""
    found = [NOUNS[noun].bearing.surface_of_key(key) for noun, key in keys]
    return [code for code in found if code is not None] if None not in found else None


def _comparable(before: Definitions, after: Definitions, keys: Sequence[Thing]) -> bool:
    """Whether products are the same by both: no value is read otherwise, no product gathered or offered otherwise."""
    gathering = [key for noun, key in keys if NOUNS[noun].bearing.gathers]
    if gathering:
        old, new = Memberships(before), Memberships(after)
        if any(old.mark(key) != new.mark(key) for key in gathering):
            return False
    if any(NOUNS[noun].bearing.offers for noun, _ in keys) and any(offers_that_differ(before, after)):
        return False
    both = ((old, after.fields[key]) for key, old in before.fields.items() if key in after.fields)
    return all(old is new or reading_of(old) == reading_of(new) for old, new in both)


def _few(work: Work, before: Plans, after: Plans, keys: Sequence[Thing], differ: Differ) -> list[int] | None:
    """The products whose documents may differ; None where they are many."""
    wanted = products.any_of_some(
        [
            _in_groups(work, before, after, differ),
            renamed_referrers(work.session, list(keys), before.defs, after.defs),
            reoffered(before.defs, after.defs),
        ]
    )
    if wanted is None:
        return []
    ids = products.ids_where(work.session, wanted, 0, MOST_RENDERED + 1)
    return ids if len(ids) <= MOST_RENDERED else None


def _in_groups(work: Work, before: Plans, after: Plans, differ: Differ) -> Any:
    """Products of the groups that differ; of those that differ only in fields, the ones with a value. None for none."""
    speaking = told_apart(before, after)
    whole: set[Group] = set()
    by_field: dict[Group, set[str]] = {}
    for surface, groups in differ.items():
        for group in groups:
            fields = fields_that_differ(before, after, group, surface)
            if fields is None or any(fields.values()):
                whole.add(group)
            else:
                by_field.setdefault(group, set()).update(fields)
    pairs: dict[Group, list[tuple[str, tuple[str, ...]]]] = {}
    for pair in product_groups.groups(work.session):
        group = before.defs.group_of(*pair, speaking)
        if group in whole or group in by_field:
            pairs.setdefault(group, []).append(pair)
    if sum(map(len, pairs.values())) > MOST_GROUPS:
        return products.every()
    parts = []
    for group, found in pairs.items():
        within = product_groups.in_groups(found)
        held = products.any_of([products.has(key) for key in sorted(by_field.get(group, ()))])
        parts.append(within if group in whole else and_(within, held))
    return products.any_of_some(parts)


def _one_by_one(work: Work, before: Plans, after: Plans, ids: Sequence[int], surfaces: Sequence[str]) -> Counted:
    found = [record.product for record in products.get(work.session, ids).values()]
    return compared(work, before, after, [(product, product) for product in found], surfaces)


def compared(
    work: Work, before: Plans, after: Plans, pairs: Sequence[tuple[Product, Product]], surfaces: Sequence[str]
) -> Counted:
    """The documents of products that differ, each rendered as it was by what was and as it is by what is: a query for all."""
    pairs = [(old, new) for old, new in pairs if old.offered]
    own = definitions.of_subjects(work.session, SETTING, PRODUCT.code, [old.id for old, _ in pairs])
    shown = [
        Showing(made.defs).of(work.session, [pair[at] for pair in pairs]) for at, made in enumerate((before, after))
    ]
    count: Counter[str] = Counter()
    differing: dict[int, tuple[str, ...]] = {}
    for (product, _), was, now in zip(pairs, *shown, strict=True):
        moved = before.defs.chain(product.type) != after.defs.chain(product.type)
        settings = own.get(str(product.id), ())
        differ = {code: _differing(before, after, code, settings, was, now, moved=moved) for code in surfaces}
        count.update(differ)
        codes = tuple(code for code in surfaces if differ[code])
        if codes:
            differing[product.id] = codes
    return Counted({code: count[code] for code in product_surfaces()}, True, differing)


def said_alone(work: Work, written: Sequence[tuple[str, str, Any | None]]) -> dict[str, int]:
    """The documents that differ, by surface, by settings said for single products: (noun, key, setting or None for none)."""
    by_product: dict[int, dict[str, Any]] = {}
    for noun, key, setting in written:
        subject = NOUNS[noun].bearing.subject_of_key(key)
        if subject is not None and subject[0] == PRODUCT.code:
            by_product.setdefault(int(subject[1]), {})[key] = setting
    made = plans.draft_plans(work.session)
    found = [record.product for record in products.get(work.session, list(by_product)).values()]
    own = definitions.of_subjects(work.session, SETTING, PRODUCT.code, [product.id for product in found])
    key_of = NOUNS[SETTING].calling.key_of
    out = dict.fromkeys(product_surfaces(), 0)
    for product, shown in zip(found, Showing(made.defs).of(work.session, found), strict=True):
        had = {key_of(setting): setting for setting in own.get(str(product.id), ())}
        has = {key: setting for key, setting in {**had, **by_product[product.id]}.items() if setting is not None}
        for code in out if product.offered else ():
            old, new = (made.of_product(product, code, tuple(settings.values())) for settings in (had, has))
            out[code] += _documents_differing((old, shown), (new, shown))
    return out


def _differing(
    before: Plans, after: Plans, code: str, settings: Any, was: Product, now: Product, *, moved: bool
) -> int:
    """How many documents of a product on a surface differ; all of one that `moved` do."""
    old, new = ((made.of_product(of, code, settings), of) for made, of in ((before, was), (after, now)))
    return _documents_differing(old, new, moved=moved)


def _documents_differing(before: tuple[Plan, Product], after: tuple[Plan, Product], *, moved: bool = False) -> int:
    """How many documents differ of a product by a plan, and of one by another, those that come and go among them."""
    old, new = (documents_on(plan, product, MADE_FOR) for plan, product in (before, after))
    return sum(moved or key not in old or key not in new or _differ(old[key], new[key]) for key in {**old, **new})


def _differ(old: tuple[Card, RenderDoc], new: tuple[Card, RenderDoc]) -> bool:
    return old[1] != new[1] and to_json(old[1]) != to_json(new[1])
