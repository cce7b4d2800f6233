"""What is remembered, within bounds: the one way to keep what was worked out, for as many threads as like."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Mapping
from threading import Lock
from typing import Generic, TypeVar

from cachetools import Cache, LRUCache, RRCache

K = TypeVar("K", bound=Hashable)
V = TypeVar("V")


class Memory(Generic[K, V]):
    """Values by key, up to `most` (by count, or by what `size` says of each): those longest not asked for go first.

    With `at_random` any may go instead, so that going over more than fit finds most of them again the next time.
    """

    def __init__(self, most: int, size: Callable[[V], int] | None = None, *, at_random: bool = False) -> None:
        self._lock = Lock()
        self._kept: Cache[K, V] = (RRCache if at_random else LRUCache)(most, getsizeof=size)

    def get(self, key: K) -> V | None:
        """What is kept under a key."""
        with self._lock:
            return self._kept.get(key)

    def put(self, key: K, value: V) -> None:
        """Keep a value; one that is larger than all that fits is not kept."""
        with self._lock:
            try:
                self._kept[key] = value
            except ValueError:
                self._kept.pop(key, None)

    def of(self, key: K, make: Callable[[], V]) -> V:
        """What is kept under a key, made where nothing is."""
        found = self.get(key)
        if found is None:
            found = make()
            self.put(key, found)
        return found

    def items(self) -> dict[K, V]:
        """All that is kept at this moment."""
        with self._lock:
            return dict(self._kept.items())

    def set_to(self, items: Mapping[K, V]) -> None:
        """Keep these, and nothing else."""
        with self._lock:
            self._kept.clear()
            self._kept.update(items)

    def clear(self) -> None:
        """Let all go."""
        self.set_to({})

    def __len__(self) -> int:
        with self._lock:
            return len(self._kept)
