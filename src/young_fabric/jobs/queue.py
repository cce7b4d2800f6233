"""The queue between the web processes and the worker: jobs by id, kept in PostgreSQL itself.

Only numbers go through it; what a job is, and how far, stands in the job's own row.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from contextlib import suppress
from threading import Event, Lock, Thread

import structlog
from procrastinate import App, PsycopgConnector, SyncPsycopgConnector
from procrastinate.exceptions import AlreadyEnqueued
from sqlalchemy.orm import Session

from young_fabric.service.long_work import job_runs, jobs

TASK = "run_job"
NAME = "jobs"
WATCH_EVERY = 10.0
SWEEP_EVERY = 3600.0
log = structlog.get_logger()
Sessions = Callable[[], Session]


def asker(url: str) -> Callable[[int], None]:
    """A function that hands a job's id to the worker. `url` is libpq's."""
    app = App(connector=SyncPsycopgConnector(conninfo=url, min_size=0, max_size=2, timeout=5))
    opened, lock = False, Lock()

    def ask(job_id: int) -> None:
        nonlocal opened
        with lock:
            if not opened:
                app.open()
                opened = True
        # One that is in the queue already is not put there twice.
        with suppress(AlreadyEnqueued):
            app.configure_task(TASK, queue=NAME, queueing_lock=f"job {job_id}").defer(job_id=job_id)

    return ask


def worker(url: str, sessions: Sessions) -> App:
    """The worker's application: `run_worker()` of it takes jobs until it is stopped."""
    app = App(connector=PsycopgConnector(conninfo=url, min_size=1, max_size=4))
    hand_over = asker(url)

    @app.task(name=TASK, queue=NAME)
    def run_job(job_id: int) -> None:
        begun = time.perf_counter()
        state = "broken"
        try:
            state = job_runs.run(sessions, job_id, hand_over=hand_over)
        finally:
            log.info("job", id=job_id, state=state, ms=round((time.perf_counter() - begun) * 1000))

    return app


def run_worker(url: str, sessions: Sessions, sweep: Callable[[], int]) -> None:
    """Take jobs until stopped; look now and then for those that nobody works on, and `sweep` away what is old."""
    stop = Event()
    watch = Thread(target=_watch, args=(url, sessions, stop, sweep), name="watch", daemon=True)
    watch.start()
    try:
        worker(url, sessions).run_worker(listen_notify=True, delete_jobs="successful")
    finally:
        stop.set()
        watch.join(timeout=5)


def _watch(url: str, sessions: Sessions, stop: Event, sweep: Callable[[], int]) -> None:
    hand_over = asker(url)
    swept: float | None = None
    while not stop.is_set():
        if swept is None or time.monotonic() - swept >= SWEEP_EVERY:
            swept = time.monotonic()
            try:
                log.info("sweep", files=sweep())
            except Exception as error:
                log.error("sweep", exc_info=error)
        try:
            jobs.keep_watch(sessions, hand_over)
        except Exception as error:
            log.error("watch", exc_info=error)
        stop.wait(WATCH_EVERY)
