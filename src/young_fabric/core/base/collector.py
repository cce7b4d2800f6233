"""Python's collector of cycles: seldom asked, and paused while many documents are made, which are trees and hold none for it to find."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager

SELDOM = (50_000, 20, 50)
"""How many objects more than before have it look: Python's own 700 looks so often that it takes a fifth of the time in which plans are made."""


def seldom_collected() -> None:
    """Have a process that has begun look for cycles seldom, and never again through what stands by now."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(*SELDOM)


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
