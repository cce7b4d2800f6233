"""What the storm knows: what was acknowledged, what was met that must not be, and how much was done."""

from __future__ import annotations

import threading
import time
from collections import Counter
from dataclasses import dataclass, field

MOST_TOLD = 40


@dataclass
class Book:
    """Shared by all who take part; everything in it is under one lock."""

    seed: int
    counts: Counter[str] = field(default_factory=Counter)
    statuses: Counter[str] = field(default_factory=Counter)
    findings: list[str] = field(default_factory=list)
    writes: dict[tuple[str, str, int], str] = field(default_factory=dict)
    """(noun, key, version) → what an answer said was written."""
    orders: list[str] = field(default_factory=list)
    """Addresses of orders that were answered."""
    begun: float = field(default_factory=time.monotonic)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def count(self, what: str, by: int = 1) -> None:
        with self._lock:
            self.counts[what] += by

    def status(self, who: str, status: int) -> None:
        with self._lock:
            self.statuses[f"{who} {status}"] += 1

    def find(self, words: str) -> None:
        """Something that must not be."""
        with self._lock:
            self.findings.append(f"{time.monotonic() - self.begun:7.1f} s  {words}")

    def wrote(self, noun: str, key: str, version: int, what: str) -> None:
        with self._lock:
            self.writes[noun, key, version] = what

    def ordered(self, address: str) -> None:
        with self._lock:
            self.orders.append(address)
            self.counts["orders"] += 1
