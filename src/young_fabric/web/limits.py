"""How often a caller may try: kept in each process."""

from __future__ import annotations

from flask import current_app
from flask_limiter import Limiter
from flask_limiter.util import get_remote_address

limiter = Limiter(get_remote_address, storage_uri="memory://", default_limits=[])


def sign_in_rate() -> str:
    """Tries to sign in, per address and minute."""
    return f"{current_app.config['SIGN_INS_PER_MINUTE']} per minute"
