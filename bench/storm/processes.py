"""What is attacked: a cluster, two web processes and two workers, started, killed and started again."""

from __future__ import annotations

import contextlib
import os
import random
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path
from threading import Lock

import psycopg

ROOT = Path(__file__).resolve().parents[2]
LONGEST = 120
"""Seconds after which what does not come up is a finding."""


def free_port() -> int:
    with socket.socket() as listening:
        listening.bind(("127.0.0.1", 0))
        return int(listening.getsockname()[1])


class Cluster:
    """A PostgreSQL cluster of the storm's own, that keeps what it acknowledged."""

    def __init__(self, name: str) -> None:
        self.name = name
        self._run("drop")
        self.admin = self._run("start")
        self.url = f"{self.admin.rsplit('/', 1)[0]}/storm"
        with psycopg.connect(self.admin, autocommit=True) as connection:
            connection.execute("CREATE DATABASE storm")
            self._data = Path(connection.execute("SHOW data_directory").fetchone()[0])  # type: ignore[index]

    def _run(self, verb: str) -> str:
        command = [str(ROOT / "bin/cluster"), verb, self.name]
        return subprocess.run(command, check=True, capture_output=True, text=True).stdout.strip()

    def drop(self) -> None:
        self._run("drop")

    def end_backend(self, rng: random.Random) -> str:
        """End one session of the shop's in the middle of whatever it does."""
        with psycopg.connect(self.admin, autocommit=True) as connection:
            rows = connection.execute(
                "SELECT pid, left(query, 40) FROM pg_stat_activity WHERE datname = 'storm' ORDER BY pid"
            ).fetchall()
            if not rows:
                return "no backend"
            pid, query = rng.choice(rows)
            connection.execute("SELECT pg_terminate_backend(%s)", [pid])
            return f"backend of {query!r}"

    def fall(self) -> str:
        """Fall over as without power, and come up again at the same address."""
        prefix = ["runuser", "-u", "postgres", "--"] if os.geteuid() == 0 else []
        tool = sorted(Path("/usr/lib/postgresql").glob("*/bin/pg_ctl"))[-1]
        command = [
            *prefix,
            str(tool),
            "-D",
            str(self._data),
            "-m",
            "immediate",
            "-w",
            "-t",
            "60",
            "-l",
            str(self._data / "log"),
        ]
        subprocess.run([*command, "restart"], check=True, capture_output=True, cwd="/")
        return "the whole server"


class Process:
    """One process of the shop, started again whenever it is killed."""

    def __init__(self, name: str, env: dict[str, str], log: Path, *args: str) -> None:
        self.name, self._env, self._log, self._args = name, env, log, args
        self.kills = 0
        self._lock = Lock()
        self._running: subprocess.Popen[bytes] | None = None
        self.start()

    def start(self) -> None:
        with self._log.open("ab") as out:
            command = [sys.executable, "-m", "young_fabric.cli", *self._args]
            self._running = subprocess.Popen(
                command, env=self._env, stdout=out, stderr=out, start_new_session=True, cwd=ROOT
            )

    def kill(self) -> str:
        """Kill it with all its children, and start it again."""
        with self._lock:
            self._end(signal.SIGKILL)
            self.kills += 1
            self.start()
        return self.name

    def stop(self) -> None:
        with self._lock:
            self._end(signal.SIGTERM)

    def _end(self, how: signal.Signals) -> None:
        if self._running is None:
            return
        with contextlib.suppress(ProcessLookupError):
            os.killpg(self._running.pid, how)
        try:
            self._running.wait(LONGEST)
        except subprocess.TimeoutExpired:
            os.killpg(self._running.pid, signal.SIGKILL)
            self._running.wait(LONGEST)
        self._running = None

    def see_to(self) -> bool:
        """Start it again where it ended by itself; says whether it had."""
        with self._lock:
            if self._running is None or self._running.poll() is None:
                return False
            self.start()
            return True

    def memory(self) -> int:
        """Megabytes that it and its children hold."""
        total = 0
        pid = self._running.pid if self._running is not None else 0
        for entry in Path("/proc").glob("[0-9]*/stat"):
            with contextlib.suppress(OSError, ValueError, IndexError):
                parts = entry.read_text().rsplit(")", 1)[1].split()
                if int(parts[2]) == pid:
                    total += int(parts[21]) * os.sysconf("SC_PAGE_SIZE")
        return total // 1_048_576


def wait_for(port: int) -> float:
    """Seconds until a web process answers. Raises TimeoutError."""
    begun = time.monotonic()
    while time.monotonic() - begun < LONGEST:
        with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port), 5):
            return time.monotonic() - begun
        time.sleep(0.2)
    raise TimeoutError(f"nothing answers at {port}")
