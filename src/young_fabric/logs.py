"""Logs: a JSON object a line, for web processes and the worker alike. They hold no bodies and no secrets."""

from __future__ import annotations

import logging

import structlog


def set_up() -> None:
    """Write what is logged as JSON lines on standard output."""
    structlog.configure(
        processors=[
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso"),
            structlog.processors.format_exc_info,
            structlog.processors.JSONRenderer(),
        ],
        wrapper_class=structlog.make_filtering_bound_logger(logging.INFO),
        logger_factory=structlog.PrintLoggerFactory(),
    )
