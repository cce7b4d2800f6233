"""A worker for a browser test's server: forked off a process that has everything imported."""

from __future__ import annotations

import multiprocessing
import os
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import young_fabric.jobs.queue
import young_fabric.service.long_work.sweeping  # noqa: F401
from young_fabric import cli

_WORKERS = multiprocessing.get_context("forkserver")
_WORKERS.set_forkserver_preload([__name__])


def _work(url: str, files: str) -> None:
    os.environ.update(DATABASE_URL=url, FABRIC_FILES=files)
    quiet = os.open(os.devnull, os.O_WRONLY)
    for stream in (sys.stdout, sys.stderr):
        os.dup2(quiet, stream.fileno())
    sys.argv = ["young-fabric", "work"]
    cli.main()


@contextmanager
def working(url: str, files: Path) -> Iterator[None]:
    """A worker on a database, by libpq's address, until it is done with."""
    worker = _WORKERS.Process(target=_work, args=(url, str(files)), daemon=True)
    worker.start()
    try:
        yield
    finally:
        worker.terminate()
        worker.join(60)
