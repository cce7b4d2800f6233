"""Python's collector of cycles, paused while many documents are made: they are trees, and hold none for it to find."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def uncollected() -> Iterator[None]:
    """Pause the collector for a batch; what is let go is freed at once all the same. Of several pauses at once the first to
    end lets it go on."""
    was = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was:
            gc.enable()
