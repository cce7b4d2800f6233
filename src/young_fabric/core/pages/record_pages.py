"""Pages of records: a record read as what holds values, so that its page is made by the same chain as a product's."""

from __future__ import annotations

from young_fabric.core.nouns.content.records import Record
from young_fabric.core.nouns.fields.built_in import TITLE
from young_fabric.core.subjects.product_labels import Names
from young_fabric.core.subjects.products import Product

NO_PRODUCT = 0
"""The number in documents that are of no product."""


def values_of(record: Record, names: Names) -> Product:
    """What pages read of a record: its name as title, and its values, with names in place of keys."""
    known = names.defs.fields_of_thing("record", record)
    cells = {key: record.filled[key] for key in known if key in record.filled}
    good = {key: names.put_in(known[key], value) for key, (sort, value) in cells.items() if sort == "value"}
    typed = {key: value for key, (sort, value) in cells.items() if sort != "value"}
    return Product(NO_PRODUCT, record.type, {TITLE.key: record.name, **good}, typed)
