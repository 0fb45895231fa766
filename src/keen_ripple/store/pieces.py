"""Pieces on the shelf."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from keen_ripple.core.errors import Fault, quoted
from keen_ripple.store.connect import Connection, Row
from keen_ripple.store.faults import Damaged
from keen_ripple.store.json_text import text_of, value_of


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


@dataclass(frozen=True)
class ShelfEntry:
    """What the shelf tells of a piece before it is looked at; `fault` says what is wrong with a row that is none."""

    row: int
    id: str
    revision: int
    name: str
    width: float
    height: float
    # None until they have been worked out; `loop_ms` also where the run ends.
    total_ms: int | None = None
    loop_ms: int | None = None
    fault: str | None = None


def shelf(conn: Connection) -> list[ShelfEntry]:
    """All pieces that have not been removed, in their order. One that is damaged hides none of the others."""
    rows = conn.execute("""
        SELECT rowid, id, revision, total_ms, loop_ms, json_valid(document) AS valid,
            CASE WHEN json_valid(document) THEN json_extract(document, '$.name', '$.width', '$.height') END AS head
        FROM piece WHERE NOT removed ORDER BY position, id
    """)
    return [_head(row) for row in rows]


def _head(row: Row) -> ShelfEntry:
    name, width, height = value_of(row["head"]) if row["valid"] else (None, None, None)
    if isinstance(name, str) and isinstance(width, int | float) and isinstance(height, int | float):
        known = (row["total_ms"], row["loop_ms"])
        return ShelfEntry(row["rowid"], row["id"], row["revision"], _shown(name), width, height, *known)
    name = _shown(row["id"])
    return ShelfEntry(row["rowid"], name, row["revision"], name, 1, 1, fault="What is stored here is no piece.")


def _shown(text: str) -> str:
    """Bytes that are no UTF-8, made visible."""
    return text.encode("utf-8", "surrogateescape").decode("utf-8", "replace")


def stored_bytes(conn: Connection, row_number: int) -> tuple[str, bytes]:
    """The id of a row, and what is stored in it, whatever it is. Raises Missing."""
    row = conn.execute("SELECT id, document FROM piece WHERE rowid = ? AND NOT removed", (row_number,)).fetchone()
    if row is None:
        raise _missing(str(row_number))
    return row["id"], row["document"].encode("utf-8", "surrogateescape")


def load(conn: Connection, piece_id: str) -> StoredPiece:
    """One piece. Raises Missing, and Damaged where what is stored is no JSON object."""
    row = conn.execute(f"{SELECT} WHERE id = ? AND NOT removed", (piece_id,)).fetchone()
    if row is None:
        raise _missing(piece_id)
    return _stored(row)


def revision_of(conn: Connection, piece_id: str) -> int:
    """The number of its newest revision. Raises Missing."""
    row = conn.execute("SELECT revision FROM piece WHERE id = ? AND NOT removed", (piece_id,)).fetchone()
    if row is None:
        raise _missing(piece_id)
    return int(row["revision"])


def add(conn: Connection, document: dict[str, Any]) -> None:
    """Puts a new piece at the end of the shelf, in revision 1."""
    conn.execute(
        "INSERT INTO piece (id, position, document, revision)"
        " VALUES (?, (SELECT coalesce(max(position), 0) + 1 FROM piece), ?, 1)",
        (document["id"], text_of(document)),
    )


def set_lengths(conn: Connection, piece_id: str, total_ms: int, loop_ms: int | None) -> None:
    """What the shelf tells of the run."""
    conn.execute("UPDATE piece SET total_ms = ?, loop_ms = ? WHERE id = ?", (total_ms, loop_ms, piece_id))


def free_id(conn: Connection, wanted: str) -> str:
    """`wanted`, or the first of wanted-2, wanted-3 … that no piece has or had."""
    taken = {row["id"] for row in conn.execute("SELECT id FROM piece")}
    number, candidate = 1, wanted
    while candidate in taken:
        number += 1
        candidate = f"{wanted}-{number}"
    return candidate


def set_removed(conn: Connection, piece_id: str, removed: bool) -> None:
    """Takes a piece off the shelf, or puts it back; nothing of it is lost. Raises Missing."""
    done = conn.execute("UPDATE piece SET removed = ? WHERE id = ?", (int(removed), piece_id))
    if done.rowcount == 0:
        raise _missing(piece_id)


def _missing(piece_id: str) -> Missing:
    return Missing(f"There is no piece {quoted(piece_id)}.", value=piece_id, remedy="Go back to the shelf.")


def _stored(row: Row) -> StoredPiece:
    try:
        row["document"].encode()
        document = value_of(row["document"])
    except (ValueError, RecursionError) as error:
        raise _damaged(f"{quoted(str(error), 120)}.") from None
    if not isinstance(document, dict) or document.get("id") != row["id"]:
        raise _damaged("it is not the piece that it should be.")
    return StoredPiece(row["id"], document, row["revision"], row["done"], row["undo"], row["redo"])


def _damaged(why: str) -> Damaged:
    return Damaged(
        f"What is stored of this piece is damaged: {why}",
        remedy="Download what is stored, and mend it there or put back a copy of the database.",
    )
