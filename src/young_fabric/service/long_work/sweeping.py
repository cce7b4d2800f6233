"""Seeing now and then to files and to pages that are kept: what is old or named by nobody goes, documents of orders that were not
written are."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta

from sqlalchemy.orm import Session

from young_fabric.service.acting.actors import SHOPPER
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.files import files
from young_fabric.service.sales import orders, sent_files
from young_fabric.store.files import FilesOnDisk
from young_fabric.store.repos import kept_pages, news

LATE = timedelta(minutes=1)
"""An order that old, whose document is not written, was placed by a process that is gone."""

HEARD_BY_ALL = timedelta(minutes=15)
"""News that old is asked for by nobody: a process that was not asked for so long begins anew."""


@dataclass(frozen=True)
class Stores:
    """Where files lie: those of the studio, those that shoppers sent, and documents of orders."""

    files: FilesOnDisk
    sent: FilesOnDisk
    orders: FilesOnDisk


def sweep(sessions: Callable[[], Session], stores: Stores) -> int:
    """See to all of them; gives how many files went."""
    while True:
        with unit_of_work(sessions, SHOPPER) as work:
            kept_pages.sweep(work.session)
            news.sweep(work.session, work.now - HEARD_BY_ALL)
            if not orders.write_documents(work, stores.orders, work.now - LATE):
                break
    return sent_files.sweep(sessions, stores.sent) + files.sweep(sessions, stores.files)
