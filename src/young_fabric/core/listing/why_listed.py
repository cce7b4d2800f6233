"""Why a product stands on a listing or does not: the rules that place cards, told one by one."""

from __future__ import annotations

from young_fabric.core.listing.listings import places
from young_fabric.core.nouns.content import collections, records
from young_fabric.core.nouns.content.collections import Collection
from young_fabric.core.nouns.fields.conditions import condition_words
from young_fabric.core.nouns.types import product_types
from young_fabric.core.nouns.types.product_types import type_path
from young_fabric.core.pages.listed import Listing
from young_fabric.core.pages.steps import Mend, Step, met_values
from young_fabric.core.pages.when import When
from young_fabric.core.subjects.memberships import KEPT_OUT, MATCHES, PICKED, Memberships
from young_fabric.core.subjects.products import Product

PRODUCT = "product"


def why_listed(asked: Memberships, product: Product, listing: Listing) -> tuple[Step, ...]:
    """The chain for a product on a listing: is it in the shop, and does it belong there? Ends with `shows` when it stands there."""
    steps = (_offered(product), _SAYS[listing.noun](asked, product, listing.key))
    if all(step.ok for step in steps):
        place = places(asked, product)[listing]
        where = (
            f"number {place.rank + 1} of those picked"
            if _picked(asked, product, listing)
            else "in the order of the listing"
        )
        return (*steps, Step("shows", True, f"It stands on the listing, {where}"))
    return steps


def _picked(asked: Memberships, product: Product, listing: Listing) -> bool:
    return listing.noun == collections.NOUN.code and asked.how(listing.key, product) == PICKED


def _offered(product: Product) -> Step:
    if product.offered:
        return Step("visible", True, "The product is in the shop")
    return Step(
        "visible", False, "The product is kept out of the shop", Mend("Put it in the shop", PRODUCT, str(product.id))
    )


def _of_type(asked: Memberships, product: Product, key: str) -> Step:
    types = asked.defs.types
    name = types[key].name
    if key in asked.defs.chain(product.type):
        return Step(
            "belongs", True, f"Its type is {type_path(product.type, types)}, which stands on the listing of {name}"
        )
    words = f"Its type is {type_path(product.type, types)}, and {name} lists its own and those below it"
    return Step("belongs", False, words, Mend("Change its type", PRODUCT, str(product.id)))


def _of_collection(asked: Memberships, product: Product, key: str) -> Step:
    collection: Collection = asked.defs.things[collections.NOUN.code][key]
    how = asked.how(key, product)
    name, there = collection.name, Mend("Open the collection", collections.NOUN.code, key)
    if how == PICKED:
        return Step("belongs", True, f"It was put into {name} by hand")
    if how == KEPT_OUT:
        return Step("belongs", False, f"It was kept out of {name} by hand", there)
    if collection.condition is None:
        return Step("belongs", False, f"{name} has what is put in by hand, and this was not", there)
    words = condition_words(collection.condition, asked.defs)
    if how == MATCHES:
        return Step("belongs", True, f"{name} has products of which {words}")
    when = When(collection.condition, lambda _values: False, None)
    met = met_values(asked.defs, when, asked.values(product))
    return Step("belongs", False, f"{name} has products of which {words}: {met}", there)


def _of_record(asked: Memberships, product: Product, key: str) -> Step:
    defs = asked.defs
    record = defs.things[records.NOUN.code][key]
    if not records.page_of(record, defs):
        sort = defs.things["record_type"][record.type]
        mend = Mend("Give them pages", "record_type", sort.key)
        return Step("belongs", False, f"Records of {sort.name} have no page", mend)
    target = records.NOUN.chosen.item_of(record)
    group = defs.group_of(product.type, product.collections)
    could = [field for field in defs.naming_of(group) if target in field.targets]
    for field in could:
        if any(item == key for of, item in field.items(product.values.get(field.key)) if of == target):
            return Step("belongs", True, f"Its {field.name} is {record.name}")
    if not could:
        words = f"It has no field for shoppers that could name {record.name}"
        return Step("belongs", False, words, Mend("Open its type", product_types.NOUN.code, product.type))
    names = " and ".join(field.name for field in could[:3])
    mend = Mend("Choose it there", PRODUCT, f"{product.id}/{could[0].key}")
    return Step("belongs", False, f"Its {names} is not {record.name}", mend)


_SAYS = {product_types.NOUN.code: _of_type, collections.NOUN.code: _of_collection, records.NOUN.code: _of_record}
"""How a product belongs to the listing of each noun."""
