"""What may be wrong with a database file, as faults that a person can act on."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from keen_ripple.core.errors import Fault

DatabaseError = sqlite3.Error
"""The root of what SQLite raises, for those who turn it into answers."""


class StoreFault(Fault):
    """A database file that cannot be used, or not now."""


class DiskFull(StoreFault):
    """Nothing can be written until there is room."""


class Busy(StoreFault):
    """Another program holds the file."""


class Damaged(StoreFault):
    """A row that does not hold what it should."""


ELSEWHERE = "Choose another file with --db."
# SQLite's own result codes, without their extensions: https://www.sqlite.org/rescode.html
FAULTS: dict[int, tuple[type[StoreFault], str, str]] = {
    sqlite3.SQLITE_FULL: (DiskFull, "The disk is full.", "Make room on it; nothing that was stored is lost."),
    sqlite3.SQLITE_BUSY: (Busy, "Another program is using the database.", "Close it there, then try again."),
    sqlite3.SQLITE_LOCKED: (Busy, "The database is locked.", "Try again."),
    sqlite3.SQLITE_READONLY: (
        StoreFault,
        "The database cannot be written.",
        f"Make the file and its folder writable. Or: {ELSEWHERE}",
    ),
    sqlite3.SQLITE_CANTOPEN: (
        StoreFault,
        "The database cannot be opened.",
        f"See that its folder exists and that you may read and write there. Or: {ELSEWHERE}",
    ),
    sqlite3.SQLITE_PERM: (StoreFault, "You may not use the database.", f"Change its permissions. Or: {ELSEWHERE}"),
    sqlite3.SQLITE_NOTADB: (StoreFault, "The file is not a database.", ELSEWHERE),
    sqlite3.SQLITE_CORRUPT: (
        StoreFault,
        "The database is damaged.",
        f"Put back a copy of it; `sqlite3 FILE .recover` saves what can still be read. Or: {ELSEWHERE}",
    ),
    sqlite3.SQLITE_IOERR: (StoreFault, "The disk cannot be read or written.", f"Look after the disk. Or: {ELSEWHERE}"),
}


def fault_of(error: sqlite3.Error, path: Path | str = "") -> StoreFault:
    """The fault that stands for an error of SQLite; `path` is named where it is known."""
    code = getattr(error, "sqlite_errorcode", None)
    kind, message, remedy = FAULTS.get(
        (code or 0) & 0xFF, (StoreFault, f"The database refuses: {error}.", f"Try again. Or: {ELSEWHERE}")
    )
    return kind(f"{path}: {message}" if path else message, remedy=remedy)


@contextmanager
def told(path: Path | str) -> Iterator[None]:
    """Errors of SQLite inside of the block as faults that name the file."""
    try:
        yield
    except sqlite3.Error as error:
        raise fault_of(error, path) from error
