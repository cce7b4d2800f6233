"""Every mapped table."""

from young_fabric.store.tables.baskets import BasketLineRow, BasketRow, SentFileRow, ShopOrderRow
from young_fabric.store.tables.changes import ChangeRow, UnreleasedRow
from young_fabric.store.tables.definitions import DefinitionRow, ReferenceRow
from young_fabric.store.tables.fields import FieldFillRow
from young_fabric.store.tables.gathering import GatheringRow
from young_fabric.store.tables.jobs import JobRow
from young_fabric.store.tables.kept_pages import KeptPageRow
from young_fabric.store.tables.keys import ApiKeyRow
from young_fabric.store.tables.listings import ListedCardRow, ListingPartRow
from young_fabric.store.tables.news import NewsRow, PresenceRow
from young_fabric.store.tables.people import PersonRow, SignInSessionRow, SignInTryRow
from young_fabric.store.tables.products import KeptFileRow, PictureRow, ProductRow, StockRow
from young_fabric.store.tables.releases import LiveDocumentRow, LiveThingRow, ReleaseRow
from young_fabric.store.tables.shop import ShopRow
from young_fabric.store.tables.variants import ChoiceStockRow, TakenSkuRow, UnmatchedRow, VariantRow, VariantStockRow

__all__ = [
    "ApiKeyRow",
    "BasketLineRow",
    "BasketRow",
    "ChangeRow",
    "ChoiceStockRow",
    "DefinitionRow",
    "FieldFillRow",
    "GatheringRow",
    "JobRow",
    "KeptFileRow",
    "KeptPageRow",
    "ListedCardRow",
    "ListingPartRow",
    "LiveDocumentRow",
    "LiveThingRow",
    "NewsRow",
    "PersonRow",
    "PictureRow",
    "PresenceRow",
    "ProductRow",
    "ReferenceRow",
    "ReleaseRow",
    "SentFileRow",
    "ShopOrderRow",
    "ShopRow",
    "SignInSessionRow",
    "SignInTryRow",
    "StockRow",
    "TakenSkuRow",
    "UnmatchedRow",
    "UnreleasedRow",
    "VariantRow",
    "VariantStockRow",
]
