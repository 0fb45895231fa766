"""One way to connect, one way to be atomic."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from keen_ripple.store.faults import ELSEWHERE, StoreFault

Connection = sqlite3.Connection
Row = sqlite3.Row
complete_statement = sqlite3.complete_statement
# How long a write waits for that of another program.
PATIENCE_S = 10.0


def connect(path: Path | str) -> Connection:
    """A connection in WAL mode with foreign keys on; transactions are begun by `atomic` alone.

    Raises StoreFault for a database of another program, and leaves it as it is. Every commit is on the disk before it
    is acknowledged: the log is synced, which costs an edit a few ms.
    """
    conn = sqlite3.connect(path, isolation_level=None, timeout=PATIENCE_S)
    conn.row_factory = sqlite3.Row
    # Bytes that are no UTF-8 are left to whoever reads the row, so that the other rows can be read.
    conn.text_factory = lambda data: data.decode("utf-8", "surrogateescape")
    _refuse_strangers(conn)
    conn.execute("PRAGMA journal_mode = WAL")
    conn.execute("PRAGMA foreign_keys = ON")
    conn.execute("PRAGMA synchronous = FULL")
    return conn


def _refuse_strangers(conn: Connection) -> None:
    names = {row["name"] for row in conn.execute("SELECT name FROM sqlite_schema WHERE type = 'table'")}
    if names and "migration" not in names:
        conn.close()
        raise StoreFault(f"The database belongs to another program: it holds the table {min(names)}.", remedy=ELSEWHERE)


@contextmanager
def atomic(conn: Connection) -> Iterator[Connection]:
    """All of the block, or nothing of it. Nested blocks undo only themselves."""
    nested = conn.in_transaction
    conn.execute("SAVEPOINT inner" if nested else "BEGIN IMMEDIATE")
    try:
        yield conn
        conn.execute("RELEASE inner" if nested else "COMMIT")
    except BaseException:
        # A full disk may have ended the transaction already.
        if conn.in_transaction:
            conn.execute("ROLLBACK TO inner" if nested else "ROLLBACK")
            if nested:
                conn.execute("RELEASE inner")
        raise
