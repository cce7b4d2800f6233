"""Every mapped table, a file per noun."""

from young_fabric.store.tables.changes import ChangeRow, UnreleasedRow
from young_fabric.store.tables.display import DisplaySettingRow
from young_fabric.store.tables.field_sets import FieldSetRow, SectionFieldRow, SectionRow
from young_fabric.store.tables.fields import FieldFillRow, FieldRow
from young_fabric.store.tables.jobs import JobRow
from young_fabric.store.tables.people import PersonRow
from young_fabric.store.tables.product_types import ProductTypeRow, TypeFieldRow, TypeNeedRow, TypeSetRow
from young_fabric.store.tables.products import PictureRow, ProductRow, StockRow
from young_fabric.store.tables.releases import LiveCardRow, LiveDocRow, LiveThingRow, ReleaseRow
from young_fabric.store.tables.shop import ShopRow
from young_fabric.store.tables.value_lists import ListValueRow, ValueListRow

__all__ = [
    "ChangeRow",
    "DisplaySettingRow",
    "FieldFillRow",
    "FieldRow",
    "FieldSetRow",
    "JobRow",
    "ListValueRow",
    "LiveCardRow",
    "LiveDocRow",
    "LiveThingRow",
    "PersonRow",
    "PictureRow",
    "ProductRow",
    "ProductTypeRow",
    "ReleaseRow",
    "SectionFieldRow",
    "SectionRow",
    "ShopRow",
    "StockRow",
    "TypeFieldRow",
    "TypeNeedRow",
    "TypeSetRow",
    "UnreleasedRow",
    "ValueListRow",
]
