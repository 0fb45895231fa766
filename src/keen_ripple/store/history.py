"""Edits, undo and redo: each makes a new revision, and all of them survive a restart."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Callable
from typing import Any

from keen_ripple.core import patches
from keen_ripple.core.errors import Fault
from keen_ripple.store.pieces import StoredPiece, load

Check = Callable[[dict[str, Any]], None]
"""Raises a Fault for a document that must not be stored."""


class Stale(Fault):
    """An edit of an older revision. `revision` is the newest; `changes` are what came since, as label and patch."""

    revision = 0
    changes: list[dict[str, Any]]


class NothingToDo(Fault):
    """Nothing left to undo or redo."""


def edit(
    conn: sqlite3.Connection, piece_id: str, revision: int, label: str, patch: Any, check: Check
) -> tuple[StoredPiece, Any]:
    """Applies one edit to the given revision; the piece after it, and the patch. Raises Stale, Missing, PatchFault."""
    piece = _current(conn, piece_id, revision)
    document, inverse = patches.apply(piece.document, patch)
    if document.get("id") != piece_id:
        raise Fault("The id of a piece cannot change.", place="/id", value=document.get("id"), remedy="Keep it.")
    check(document)
    conn.execute("DELETE FROM edit WHERE piece_id = ? AND number > ?", (piece_id, piece.done))
    conn.execute(
        "INSERT INTO edit VALUES (?, ?, ?, ?, ?)",
        (
            piece_id,
            piece.done + 1,
            label,
            json.dumps(patch, ensure_ascii=False),
            json.dumps(inverse, ensure_ascii=False),
        ),
    )
    return _record(conn, piece, document, piece.done + 1, label, patch), patch


def undo(conn: sqlite3.Connection, piece_id: str, revision: int) -> tuple[StoredPiece, Any]:
    """Takes the last edit back; the piece after it, and the patch that did it."""
    piece = _current(conn, piece_id, revision)
    row = _edit(conn, piece_id, piece.done, "undo")
    patch = json.loads(row["inverse"])
    document, _ = patches.apply(piece.document, patch)
    return _record(conn, piece, document, piece.done - 1, f"Undo: {row['label']}", patch), patch


def redo(conn: sqlite3.Connection, piece_id: str, revision: int) -> tuple[StoredPiece, Any]:
    """Makes the edit last undone again; the piece after it, and the patch."""
    piece = _current(conn, piece_id, revision)
    row = _edit(conn, piece_id, piece.done + 1, "redo")
    patch = json.loads(row["patch"])
    document, _ = patches.apply(piece.document, patch)
    return _record(conn, piece, document, piece.done + 1, f"Redo: {row['label']}", patch), patch


def _current(conn: sqlite3.Connection, piece_id: str, revision: int) -> StoredPiece:
    piece = load(conn, piece_id)
    if piece.revision == revision:
        return piece
    stale = Stale(
        f"This was revision {revision}; the piece is at revision {piece.revision} by now.",
        value=revision,
        remedy="Take over the newest revision, then apply your change again.",
    )
    stale.revision = piece.revision
    rows = conn.execute(
        "SELECT label, patch FROM revision WHERE piece_id = ? AND revision > ? ORDER BY revision", (piece_id, revision)
    )
    stale.changes = [{"label": row["label"], "patch": json.loads(row["patch"])} for row in rows]
    raise stale


def _edit(conn: sqlite3.Connection, piece_id: str, number: int, what: str) -> sqlite3.Row:
    row: sqlite3.Row | None = conn.execute(
        "SELECT label, patch, inverse FROM edit WHERE piece_id = ? AND number = ?", (piece_id, number)
    ).fetchone()
    if row is None:
        raise NothingToDo(f"There is nothing to {what}.", remedy="Go on editing.")
    return row


def _record(
    conn: sqlite3.Connection, piece: StoredPiece, document: dict[str, Any], done: int, label: str, patch: Any
) -> StoredPiece:
    conn.execute(
        "UPDATE piece SET document = ?, revision = revision + 1, done = ? WHERE id = ?",
        (json.dumps(document, ensure_ascii=False), done, piece.id),
    )
    conn.execute(
        "INSERT INTO revision VALUES (?, ?, ?, ?)",
        (piece.id, piece.revision + 1, label, json.dumps(patch, ensure_ascii=False)),
    )
    return load(conn, piece.id)
