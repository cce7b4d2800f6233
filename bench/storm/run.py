"""The storm: `bin/storm [MINUTES] [--seed N]`. Prints figures and findings; ends with 1 when there is a finding."""

from __future__ import annotations

import argparse
import json
import os
import random
import secrets
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import holds
from book import MOST_TOLD, Book
from people import Client, Gone, Merchandiser, Shopper, until
from processes import ROOT, Cluster, Process, free_port, wait_for
from requests_made import Generator, described

import shop

WRITERS, SHOPPERS = 4, 4
KILL_EVERY = (12.0, 28.0)
"""Seconds between kills, at random."""
SETTLE = 300
"""Seconds that jobs have to come to their end when all is quiet."""


class Storm:
    """All that takes part, from one seed."""

    def __init__(self, minutes: float, seed: int, folder: Path) -> None:
        self.minutes, self.folder = minutes, folder
        self.rng, self.book, self.stop = random.Random(seed), Book(seed), threading.Event()
        self.cluster = Cluster(f"storm-{os.getpid()}")
        self.ports = [free_port(), free_port()]
        print(f"storm: seed {seed}, {minutes:g} minutes; the shop is being made", flush=True)
        self.there = shop.make(self.cluster.url, self.rng)
        env = {
            **{name: value for name, value in os.environ.items() if not name.startswith("FABRIC_")},
            "DATABASE_URL": self.cluster.url,
            "FABRIC_SECRET": secrets.token_hex(32),
            "FABRIC_FILES": str(folder / "files"),
            "FABRIC_SIGN_INS_PER_MINUTE": "5000",
        }
        self.webs = [
            Process(f"web {number}", env, folder / f"web-{number}.log", "run", "--port", str(port))
            for number, port in enumerate(self.ports)
        ]
        self.workers = [
            Process(f"worker {number}", env, folder / f"worker-{number}.log", "work") for number in range(2)
        ]
        for port in self.ports:
            wait_for(port)

    def client(self, who: str, ports: list[int] | None = None) -> Client:
        return Client(self.book, ports or self.ports, random.Random(self.rng.random()), who)

    def people(self) -> list[Callable[[], None]]:
        """What each thread does over and over."""
        acts: list[Callable[[], None]] = []
        for _ in range(WRITERS):
            writer = Merchandiser(self.signed_in("writer"), self.there["products"], self.there["optioned"])
            writer.record_types = self.there["record_types"]
            acts.append(writer.act)
        acts += [Shopper(self.client("shopper")).act for _ in range(SHOPPERS)]
        openapi = json.loads((ROOT / "frontend/openapi.json").read_text())
        known = {"number": [str(number) for number in self.there["products"][:30]], "key": _keys()}
        generator = Generator(self.signed_in("generated"), described(openapi), known)
        acts.append(lambda: generator.act(self.stop))
        return acts

    def signed_in(self, who: str) -> Client:
        client = self.client(who)
        for _ in range(60):
            try:
                client.sign_in()
                return client
            except Gone:
                time.sleep(1)
        raise TimeoutError("nobody can sign in")

    def kill(self) -> None:
        """Something at random, again and again."""
        rng = random.Random(self.rng.random())
        ways: list[tuple[int, Callable[[], str]]] = [
            (4, lambda: rng.choice(self.webs).kill()),
            (4, lambda: rng.choice(self.workers).kill()),
            (4, lambda: self.cluster.end_backend(rng)),
            (1, self.cluster.fall),
        ]
        while not self.stop.wait(rng.uniform(*KILL_EVERY)):
            what = rng.choices([way for _, way in ways], [weight for weight, _ in ways])[0]()
            self.book.count("kills")
            self.book.count(f"kills: {what.split(' of ')[0]}")
            for process in (*self.webs, *self.workers):
                if process.see_to():
                    self.book.count("ended by themselves")

    def watch(self) -> None:
        """How much memory each holds, now and then."""
        while not self.stop.wait(10):
            for process in (*self.webs, *self.workers):
                held = process.memory()
                self.book.counts[f"most MB {process.name}"] = max(self.book.counts[f"most MB {process.name}"], held)

    def run(self) -> None:
        threads = [threading.Thread(target=until, args=(self.stop, act), daemon=True) for act in self.people()]
        threads += [threading.Thread(target=act, daemon=True) for act in (self.kill, self.watch)]
        for thread in threads:
            thread.start()
        time.sleep(self.minutes * 60)
        self.stop.set()
        for thread in threads:
            thread.join(120)
            if thread.is_alive():
                self.book.find(f"hang: {thread.name}")

    def settle(self) -> None:
        """Wait until jobs have ended; then release all there is, so that live can be held against drafts."""
        for process in (*self.webs, *self.workers):
            process.see_to()
        for port in self.ports:
            wait_for(port)
        client = self.signed_in("settling")
        self.quiet(client)
        client.api("POST", "/releases", {"note": "after the storm"})
        self.quiet(client)

    def quiet(self, client: Client) -> None:
        end = time.monotonic() + SETTLE
        while time.monotonic() < end:
            try:
                found = (client.api("GET", "/jobs") or {}).get("jobs", ())
                if not any(job["state"] in ("waiting", "running") for job in found):
                    return
            except Gone:
                pass
            time.sleep(2)

    def hold(self) -> None:
        clients = [self.client("comparing", [port]) for port in self.ports]
        for client in clients:
            client.sign_in()
        holds.check(self.cluster.url, self.book, self.folder / "files", clients)

    def faults(self) -> None:
        """What broke in the processes, by their logs."""
        for path in sorted(self.folder.glob("*.log")):
            for line in path.read_text(errors="replace").splitlines():
                if '"event": "fault"' in line or '"event": "job", "level": "error"' in line:
                    self.book.find(f"{path.stem}: {line[-900:]}")

    def end(self) -> None:
        for process in (*self.webs, *self.workers):
            process.stop()
        self.cluster.drop()


def _keys() -> list[str]:
    return [
        "ss_paper_weight",
        "ss_wood",
        "storm_covers",
        "storm_cheap",
        "paint",
        "easels",
        "wood",
        "page",
        "sketchbooks",
        "origin",
    ]


def report(book: Book) -> int:
    """Print what was done and met; how many findings there are."""
    print(f"storm: {time.monotonic() - book.begun:.0f} s, seed {book.seed}")
    for name, count in sorted(book.counts.items()):
        print(f"  {name:28} {count:,}")
    for name, count in sorted(book.statuses.items()):
        print(f"  answers {name:20} {count:,}")
    print(f"  acknowledged writes          {len(book.writes):,}")
    print(f"storm: {len(book.findings)} findings")
    for words in book.findings[:MOST_TOLD]:
        print(f"  {words}")
    return len(book.findings)


def main() -> None:
    parser = argparse.ArgumentParser(prog="bin/storm")
    parser.add_argument("minutes", nargs="?", type=float, default=20.0)
    parser.add_argument("--seed", type=int, default=None)
    asked = parser.parse_args()
    seed: int = asked.seed if asked.seed is not None else random.SystemRandom().randrange(2**31)
    folder = Path(tempfile.mkdtemp(prefix="storm-"))
    storm: Any = Storm(asked.minutes, seed, folder)
    try:
        storm.run()
        storm.settle()
        storm.hold()
        storm.faults()
    finally:
        storm.end()
    found = report(storm.book)
    print(f"storm: logs are in {folder}")
    sys.exit(1 if found else 0)


if __name__ == "__main__":
    main()
