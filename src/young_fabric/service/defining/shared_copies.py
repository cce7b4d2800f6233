"""Use cases of shared copy: where each shows, and which products and collections keep words of their own."""

from __future__ import annotations

from dataclasses import dataclass

from young_fabric.core.base.differences import Piece, differences
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds.rich_text import plain
from young_fabric.core.nouns.content.shared_copies import NOUN, SharedCopy
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.writing import writes
from young_fabric.store.repos import fills, products
from young_fabric.store.repos.products import Search

MOST_TOLD = 50


@dataclass(frozen=True)
class CopyField:
    """A field that shows a shared copy, and the types whose products have it."""

    key: str
    name: str
    types: list[str]


@dataclass(frozen=True)
class CopyUse:
    """A shared copy with the fields that show it, and how many products have words of their own."""

    thing: SharedCopy
    version: int
    fields: list[CopyField]
    own_products: int


def overview(work: Work, only: str | None = None) -> list[CopyUse]:
    """All shared copies (or one) by name."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    defs, counts = draft.defs, fills.by_type(work.session)
    out = []
    for key, copy in sorted(defs.things[NOUN.code].items(), key=lambda pair: pair[1].name.casefold()):
        if only in (None, key):
            own = sum(
                count.filled + count.wrong
                for field in _fields(defs, key)
                for count in counts.get(field.key, {}).values()
            )
            shown = [_copy_field(defs, field) for field in _fields(defs, key)]
            out.append(CopyUse(copy, draft.loaded.versions[NOUN.code, key], shown, own))
    return out


def _fields(defs: Definitions, key: str) -> list[Field]:
    return [field for field in defs.product_fields.values() if key in field.named(NOUN.code)]


def _copy_field(defs: Definitions, field: Field) -> CopyField:
    types = sorted(defs.holders[field.key].types) if field.key in defs.holders else []
    return CopyField(field.key, field.name, [defs.types[of].name for of in types])


@dataclass(frozen=True)
class OwnWords:
    """A collection or product (noun or subject, key) that keeps its own words, and how they differ from the shared ones."""

    noun: str
    key: str
    name: str
    differs: tuple[Piece, ...]


def own_words(work: Work, key: str) -> list[OwnWords]:
    """Which places keep their own words: all collections, and the first products by title. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    copy: SharedCopy = writes.need_current(work, NOUN.code, key).thing
    defs = plans.draft(work.session)
    shared, named = plain(copy.words), defs.things["collection"]
    out = [
        OwnWords("collection", of, named[of].name, differences(shared, plain(words)))
        for of, words in copy.own.items()
        if of in named
    ]
    keys = [field.key for field in _fields(defs, key)]
    if keys:
        wanted = Search(also=products.any_of([products.has(name) for name in keys]))
        for record in products.page(work.session, wanted, None, MOST_TOLD, collation=defs.shop.collation):
            found = record.product
            words = next(plain(str(found.values[name])) for name in keys if name in found.values)
            out.append(OwnWords("product", str(found.id), found.title, differences(shared, words)))
    return out
