"""The feed as other systems read it: pages of live products as they were with one release, or what changed since another."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.interchange.feed import FeedItem, feed_surface
from young_fabric.core.pages.document import from_json
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.planning import plans
from young_fabric.store.repos import releases, shop
from young_fabric.store.tables import LiveDocumentRow

MOST = 1_000


@dataclass(frozen=True)
class FeedPage:
    """Products of a release in order of their id as text, and where the next page begins; None when this is the last."""

    release: int
    items: list[FeedItem]
    next: str | None


@dataclass(frozen=True)
class Cursor:
    """Where a page begins: in which release, and after which product."""

    release: int
    after: str

    def __str__(self) -> str:
        return f"{self.release}.{self.after}"


def read_cursor(text: str) -> Cursor:
    """The inverse of `str` of a cursor. Raises Refusal `cursor`."""
    release, _, after = text.partition(".")
    if not (release.isascii() and release.isdecimal() and after.isascii() and after.isdecimal()) or len(text) > 24:
        raise Refusal("cursor", "This page mark can't be read", ("cursor",), "Start again at the first page")
    return Cursor(int(release), after)


def page(session: Session, cursor: Cursor | None, since: int | None, limit: int, root: str) -> FeedPage:
    """A page of the feed. All pages that follow one another are of one release.

    Raises Refusal `not_found`, `not_made`.
    """
    newest = shop.shop_of(session)[2]
    release = cursor.release if cursor else newest
    if release > newest or (since is not None and since > release):
        raise Refusal(
            "not_found", f"There is no release {max(release, since or 0)}", ("since",), "Ask for an earlier one"
        )
    after = cursor.after if cursor else ""
    surface = feed_surface().code
    if not releases.made_surface(session, surface, release):
        words = f"Release {release} was made before there was a feed: it has none"
        raise Refusal("not_made", words, (), "Make a release in the studio; what was read before still stands")
    found: Sequence[LiveDocumentRow]
    if since is None:
        found = releases.documents_with(session, surface, PRODUCT.code, release, newest, after, limit + 1)
        gone: frozenset[str] = frozenset()
    else:
        found = releases.changed_documents(session, surface, PRODUCT.code, since, release, after, limit + 1)
        gone = frozenset(row.subject_id for row in found if row.until is not None and row.until <= release)
    items = [_item(row, row.subject_id in gone, root) for row in found[:limit]]
    following = str(Cursor(release, found[limit - 1].subject_id)) if len(found) > limit else None
    return FeedPage(release, items, following)


def defs_of(session: Session, release: int) -> Definitions:
    """The definitions that the feed of a release is of: its columns are theirs, whatever was released since."""
    if release == shop.shop_of(session)[2]:
        return plans.live_plans(session).defs
    found: Definitions = plans.of_release(session, f"defs {release}", lambda: plans.plans_at(session, release).defs)
    return found


def _item(row: LiveDocumentRow, gone: bool, root: str) -> FeedItem:
    address = f"{root}/shop/p/{row.address}"
    doc = None if gone else from_json(row.document, row.format)
    return FeedItem(int(row.subject_id), row.under[0] if row.under else "", address, doc)
