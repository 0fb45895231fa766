"""Forward-only migrations, numbered without a gap, each recorded with its checksum."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterator
from importlib.resources import files

from keen_ripple.core.errors import Fault
from keen_ripple.store.connect import Connection, atomic, complete_statement

NAME = re.compile(r"(\d{4})_\w+\.sql")


class MigrationFault(Fault):
    """A database that these migrations do not lead to."""


def migrate(conn: Connection, migrations: dict[int, str] | None = None) -> None:
    """Brings the database to the newest form. Raises MigrationFault where it is not one of ours or is newer."""
    known = shipped() if migrations is None else migrations
    if sorted(known) != list(range(1, len(known) + 1)):
        raise MigrationFault(
            "The migrations are not numbered from 1 without a gap.", remedy="Install the program anew."
        )
    with atomic(conn):
        conn.execute("CREATE TABLE IF NOT EXISTS migration (number INTEGER PRIMARY KEY, checksum TEXT NOT NULL) STRICT")
        done = {row["number"]: row["checksum"] for row in conn.execute("SELECT number, checksum FROM migration")}
        for number, checksum in done.items():
            _check(number, checksum, known)
        for number in range(len(done) + 1, len(known) + 1):
            for statement in _statements(known[number]):
                conn.execute(statement)
            conn.execute("INSERT INTO migration VALUES (?, ?)", (number, _checksum(known[number])))


def _check(number: int, checksum: str, known: dict[int, str]) -> None:
    if number not in known:
        raise MigrationFault(
            f"The database has migration {number}, which this program does not know.",
            value=number,
            remedy="Open it with a newer Keen Ripple, or choose another file with --db.",
        )
    if _checksum(known[number]) != checksum:
        raise MigrationFault(
            f"Migration {number} of the database is not the one of this program.",
            value=number,
            remedy="Open it with the Keen Ripple that made it, or choose another file with --db.",
        )


def shipped() -> dict[int, str]:
    folder = files("keen_ripple.store") / "migrations"
    named = ((NAME.fullmatch(entry.name), entry) for entry in folder.iterdir())
    return {int(match[1]): entry.read_text("utf-8") for match, entry in named if match}


def _checksum(sql: str) -> str:
    return hashlib.sha256(sql.encode("utf-8")).hexdigest()


def _statements(sql: str) -> Iterator[str]:
    """One at a time: `executescript` would commit in the middle of `atomic`."""
    statement = ""
    for part in re.split(r"(?<=;)", sql):
        statement += part
        if complete_statement(statement):
            yield statement
            statement = ""
    if statement.strip():
        yield statement
