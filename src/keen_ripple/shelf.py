"""Pieces between files and a database, for the command line."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from keen_ripple import collection
from keen_ripple.core.errors import Fault
from keen_ripple.store import Connection, atomic, connect, migrate, pieces, told


def take_in(database: Path, files: Sequence[Path]) -> collection.Shelved:
    """Puts the pieces in files on the shelf, all of them or none: documents, bundles, and zips of both. The database is
    made where there is none. Raises Fault, OSError."""
    library = collection.library_in({name: value for file in files for name, value in _values_in(file).items()})
    with _open(database) as conn, atomic(conn):
        return collection.put(conn, library)[0]


def _values_in(file: Path) -> dict[str, object]:
    if file.suffix.lower() != ".zip":
        return {str(file): collection.in_file(str(file), file.read_bytes())}
    return {f"{file}: {name}": value for name, value in collection.unzipped(file.read_bytes()).items()}


def give_out(database: Path, folder: Path) -> tuple[list[Path], list[str]]:
    """Writes every piece of a database into a folder as `ID.json`: the files that are new or other than before, and
    what could not be written. Raises Fault, OSError."""
    if folder.is_file():
        raise Fault(f"{folder} is a file.", remedy="Name a folder.")
    documents, left_out = documents_of(database)
    return collection.write_into(folder, documents), left_out


def documents_of(database: Path) -> tuple[list[dict[str, Any]], list[str]]:
    """The documents of all pieces of a database, and what cannot be read. Raises Fault."""
    if not database.is_file():
        raise Fault(f"There is no database {database}.", remedy="Name one with --db.")
    with _open(database) as conn:
        return pieces.everything(conn)


@contextmanager
def _open(database: Path) -> Iterator[Connection]:
    if not database.parent.is_dir():
        raise Fault(f"There is no folder {database.parent}.", remedy="Make it, or choose another file with --db.")
    with told(database):
        conn = connect(database)
        try:
            migrate(conn)
            yield conn
        finally:
            conn.close()
