"""Pieces on the shelf."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass
from typing import Any

from keen_ripple.core.errors import Fault


class Missing(Fault):
    """There is no such piece."""


@dataclass(frozen=True)
class StoredPiece:
    """A piece as it stands; `undo` and `redo` name the edits that can be taken back and made again."""

    id: str
    document: dict[str, Any]
    revision: int
    done: int
    undo: str | None
    redo: str | None


SELECT = """
    SELECT piece.*,
        (SELECT label FROM edit WHERE piece_id = piece.id AND number = piece.done) AS undo,
        (SELECT label FROM edit WHERE piece_id = piece.id AND number = piece.done + 1) AS redo
    FROM piece
"""


def shelf(conn: sqlite3.Connection) -> list[StoredPiece]:
    """All pieces that have not been removed, in their order."""
    rows = conn.execute(f"{SELECT} WHERE NOT removed ORDER BY position, id")
    return [_stored(row) for row in rows]


def load(conn: sqlite3.Connection, piece_id: str) -> StoredPiece:
    """One piece. Raises Missing."""
    row = conn.execute(f"{SELECT} WHERE id = ? AND NOT removed", (piece_id,)).fetchone()
    if row is None:
        raise Missing(f"There is no piece {piece_id!r}.", value=piece_id, remedy="Go back to the shelf.")
    return _stored(row)


def add(conn: sqlite3.Connection, document: dict[str, Any]) -> None:
    """Puts a new piece at the end of the shelf, in revision 1."""
    conn.execute(
        "INSERT INTO piece (id, position, document, revision)"
        " VALUES (?, (SELECT coalesce(max(position), 0) + 1 FROM piece), ?, 1)",
        (document["id"], json.dumps(document, ensure_ascii=False)),
    )


def free_id(conn: sqlite3.Connection, wanted: str) -> str:
    """`wanted`, or the first of wanted-2, wanted-3 … that no piece has or had."""
    taken = {row["id"] for row in conn.execute("SELECT id FROM piece")}
    number, candidate = 1, wanted
    while candidate in taken:
        number += 1
        candidate = f"{wanted}-{number}"
    return candidate


def set_removed(conn: sqlite3.Connection, piece_id: str, removed: bool) -> None:
    """Takes a piece off the shelf, or puts it back; nothing of it is lost. Raises Missing."""
    done = conn.execute("UPDATE piece SET removed = ? WHERE id = ?", (int(removed), piece_id))
    if done.rowcount == 0:
        raise Missing(f"There is no piece {piece_id!r}.", value=piece_id, remedy="Go back to the shelf.")


def _stored(row: sqlite3.Row) -> StoredPiece:
    return StoredPiece(row["id"], json.loads(row["document"]), row["revision"], row["done"], row["undo"], row["redo"])
