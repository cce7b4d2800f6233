"""Layouts that differ only in words, made one layout and a field in one step: pages say what they said, each from its value."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.cascade import EVERY, DisplaySetting, Scope, read_scope
from young_fabric.core.display.properties import LAYOUT
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.kinds.texts import LongText
from young_fabric.core.nouns.content import collections
from young_fabric.core.nouns.layouts import display_settings, layouts
from young_fabric.core.nouns.layouts.alike_layouts import AlikeLayouts, DifferingWords, alike_layouts
from young_fabric.core.nouns.layouts.display_settings import SettingKey
from young_fabric.core.nouns.layouts.layouts import Layout, arrange
from young_fabric.core.nouns.types import product_types
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.pages import proofs
from young_fabric.service.pages.layouts import uses_of
from young_fabric.service.pages.typed_words import put_instead, types_with
from young_fabric.service.planning import plans
from young_fabric.service.values import value_writer
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.service.writing import writes
from young_fabric.store.repos import definitions as stored
from young_fabric.store.repos import products, shop
from young_fabric.store.repos.products import Search

NOUN, SETTING = layouts.NOUN.code, display_settings.NOUN.code
MOST_VALUES = 2_000
BATCH = 1_000


def alike_to(work: Work, key: str) -> AlikeLayouts | None:
    """The layouts, this one first, that are the same but for words; None when there is no other. Raises Refusal."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    if key not in defs.layouts:
        raise Refusal("not_found", f"There is no layout {key[:60]}", (), "It may have been removed")
    return next((found for found in alike_layouts(defs.layouts, defs.things[NOUN]) if key in found.layouts), None)


def make_one(work: Work, key: str) -> str:
    """One layout of all that are the same but for words, and each place of words that differ a field with them as values;
    gives the key of the layout that stays. Raises Refusal."""
    work.need(Right.EDIT)
    shop.lock_definitions(work.session)
    plans.refresh(work.session)
    found = alike_to(work, key)
    if found is None:
        raise Refusal(
            "not_found", "No other layout is the same but for words", (), "They may have been changed meanwhile"
        )
    group = uuid4().hex
    shown = {name: _where(work, name) for name in found.layouts}
    for passage in found.differing:
        _make_field(work, key, passage, shown, group)
    for name in found.layouts:
        if name != key:
            _hand_over(work, name, key, shown[name], group)
    return key


def _where(work: Work, name: str) -> list[Scope]:
    return [read_scope(use.scope) for use in uses_of(work, plans.draft(work.session), name)]


def _make_field(work: Work, key: str, passage: DifferingWords, shown: dict[str, list[Scope]], group: str) -> None:
    defs = plans.draft(work.session)
    of_shop = next(
        (name for name, scopes in shown.items() if any(scope.sort.noun is None for scope in scopes if not scope.key)),
        None,
    )
    given = {"kind": LongText.code, "label": passage.name, "default": passage.words[of_shop] if of_shop else None}
    field = definitions.create(work, "field", passage.name, given, group=group).thing.key
    found = {name: _products(work, scopes, name) for name, scopes in shown.items()}
    types = {top for name in passage.words for top in types_with(work, defs.layouts[name])}
    types |= {type_key for products_of in found.values() for type_key in products_of.values()}
    said = {scope.key: passage.words[name] for name, scopes in shown.items() for scope in scopes if _is_type(scope)}
    for type_key in sorted({*types, *said}, key=lambda name: (len(defs.chain(name)), name)):
        _give(work, type_key, field, said.get(type_key), group)
    for name, ids in found.items():
        value_writer.put_many(
            work, [ValueEdit(number, None, {field: passage.words[name]}) for number in sorted(ids)], group
        )
    _show(work, defs.layouts[key], field, shown, group)
    block = next(block for block in arrange(defs.layouts, key).blocks() if block.id == passage.blocks[key])
    becomes = BLOCK_KINDS[block.kind].becomes["as_field"]
    put_instead(work, defs.layouts[key], block.said, {"kind": becomes, "takes": {"fields": [field]}}, group)


def _is_type(scope: Scope) -> bool:
    return scope.sort.noun == product_types.NOUN.code


def _give(work: Work, type_key: str, field: str, words: str | None, group: str) -> None:
    """A type with a field, where it does not have it from above, and words as its default."""
    defs = plans.draft(work.session)
    current = writes.need_current(work, product_types.NOUN.code, type_key)
    changes: dict[str, Any] = {}
    if not any(effective.field.key == field for effective in defs.effective(type_key)):
        changes["fields"] = [*current.thing.fields, field]
    if words is not None:
        changes["own"] = {**{name: vars(by) for name, by in current.thing.own.items()}, field: {"default": words}}
    if changes:
        definitions.change(work, product_types.NOUN.code, type_key, current.version, changes, group=group)


def _products(work: Work, scopes: Sequence[Scope], name: str) -> dict[int, str]:
    """The products, with their types, that have a layout by a collection, or for themselves. Raises Refusal `too_many`."""
    made, found = plans.draft_plans(work.session), dict[int, str]()
    surface = made.defs.layouts[name].surface
    single = [int(scope.key) for scope in scopes if scope.sort.subject == PRODUCT.code]
    found |= {number: record.product.type for number, record in products.get(work.session, single).items()}
    for scope in scopes:
        if scope.sort.noun == collections.NOUN.code:
            for product, own in _all_in(work, scope.key):
                chosen = made.of_product(product, surface, own).chosen
                if (chosen.origin, chosen.value) == (str(scope), name):
                    found[product.id] = product.type
    if len(found) > MOST_VALUES:
        help_ = "Choose the layout for their types instead, which gives them the words as a default"
        raise Refusal("too_many", f"More than {MOST_VALUES:,} products would each be given the words", (), help_)
    return found


def _all_in(work: Work, collection: str) -> Iterator[tuple[Product, Sequence[DisplaySetting]]]:
    wanted, after = products.both(*products.conditions_of(Search(collection=collection))), 0
    while rows := products.stream_where(work.session, wanted, after, BATCH):
        own = proofs.own_settings(work, [product.id for product in rows])
        yield from ((product, own.get(str(product.id), ())) for product in rows)
        after = rows[-1].id


def _show(work: Work, layout: Layout, field: str, shown: dict[str, list[Scope]], group: str) -> None:
    """Show a field exactly where the layout is in force, said by whoever chooses a layout of the surface, and on no other."""
    defs = plans.draft(work.session)
    scopes = {
        str(setting.scope): setting.set[LAYOUT.code] in shown
        for setting in defs.settings.values()
        if setting.surface == layout.surface and LAYOUT.code in setting.set
    }
    scopes |= {str(scope): True for chosen in shown.values() for scope in chosen}
    for text, on in ({str(Scope("shop")): False} | scopes).items():
        set_here = {"shown": on, **({"label": "hidden"} if text == str(Scope("shop")) else {})}
        definitions.display(work, read_scope(text), field, layout.surface, set_here, None, group)
    for code in [code for code in product_surfaces() if code != layout.surface]:
        definitions.display(work, Scope("shop"), field, code, {"shown": False}, None, group)


def _hand_over(work: Work, name: str, key: str, scopes: Sequence[Scope], group: str) -> None:
    """Another layout in place of one, wherever that was chosen; then it goes."""
    surface = plans.draft(work.session).layouts[key].surface
    for scope in scopes:
        setting = str(SettingKey(scope, EVERY, surface))
        version = stored.versions_of(work.session, SETTING, [setting]).get(setting)
        definitions.display(work, scope, EVERY, surface, {LAYOUT.code: key}, version, group)
    definitions.remove(work, NOUN, name, writes.need_current(work, NOUN, name).version, group)
