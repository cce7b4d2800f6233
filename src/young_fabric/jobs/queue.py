"""The queue between the web processes and the worker: jobs by id, kept in PostgreSQL itself.

Only numbers go through it; what a job is, and how far, stands in the job's own row.
"""

from __future__ import annotations

import time
from collections.abc import Callable

import structlog
from procrastinate import App, PsycopgConnector, SyncPsycopgConnector
from sqlalchemy.orm import Session

from young_fabric.service import jobs

TASK = "run_job"
NAME = "jobs"
log = structlog.get_logger()


def asker(url: str) -> Callable[[int], None]:
    """A function that hands a job's id to the worker. `url` is libpq's."""
    app = App(connector=SyncPsycopgConnector(conninfo=url, min_size=0, max_size=2, timeout=5))
    opened = False

    def ask(job_id: int) -> None:
        nonlocal opened
        if not opened:
            app.open()
            opened = True
        app.configure_task(TASK, queue=NAME).defer(job_id=job_id)

    return ask


def worker(url: str, sessions: Callable[[], Session]) -> App:
    """The worker's application: `run_worker()` of it takes jobs until it is stopped."""
    app = App(connector=PsycopgConnector(conninfo=url, min_size=1, max_size=4))

    @app.task(name=TASK, queue=NAME)
    def run_job(job_id: int) -> None:
        begun = time.perf_counter()
        state = "broken"
        try:
            state = jobs.run(sessions, job_id)
        finally:
            log.info("job", id=job_id, state=state, ms=round((time.perf_counter() - begun) * 1000))

    return app
