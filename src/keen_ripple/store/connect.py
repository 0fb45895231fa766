"""One way to connect, one way to be atomic."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path


def connect(path: Path | str) -> sqlite3.Connection:
    """A connection in WAL mode with foreign keys on; transactions are begun by `atomic` alone."""
    conn = sqlite3.connect(path, isolation_level=None, timeout=10.0)
    conn.row_factory = sqlite3.Row
    conn.execute("PRAGMA journal_mode = WAL")
    conn.execute("PRAGMA foreign_keys = ON")
    conn.execute("PRAGMA synchronous = NORMAL")
    return conn


@contextmanager
def atomic(conn: sqlite3.Connection) -> Iterator[sqlite3.Connection]:
    """All of the block, or nothing of it. Nested blocks undo only themselves."""
    nested = conn.in_transaction
    conn.execute("SAVEPOINT inner" if nested else "BEGIN IMMEDIATE")
    try:
        yield conn
    except BaseException:
        conn.execute("ROLLBACK TO inner" if nested else "ROLLBACK")
        if nested:
            conn.execute("RELEASE inner")
        raise
    conn.execute("RELEASE inner" if nested else "COMMIT")
