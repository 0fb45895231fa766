"""One connection per thread and database, kept open: SQLite takes its time to tidy up when the last one closes."""

from __future__ import annotations

import threading

from flask import current_app

from keen_ripple.store import Connection, connect

_of_thread = threading.local()


def connection() -> Connection:
    """The connection of this thread to the application's database."""
    path = current_app.config["DATABASE"]
    known: dict[str, Connection] = _of_thread.__dict__.setdefault("connections", {})
    if path not in known:
        known[path] = connect(path)
    return known[path]
