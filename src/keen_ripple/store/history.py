"""Edits, undo and redo: each makes a new revision, and all of them survive a restart."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Callable
from dataclasses import replace
from typing import Any, NamedTuple

from keen_ripple.core import patches
from keen_ripple.core.errors import Fault
from keen_ripple.store.pieces import StoredPiece, load

Check = Callable[[StoredPiece, str], None]
"""Is given the piece before the edit and the JSON text after it; raises a Fault for what must not be stored."""


class Change(NamedTuple):
    """A piece before and after a change, and the patch that made it."""

    before: StoredPiece
    after: StoredPiece
    patch: Any


class Stale(Fault):
    """An edit of an older revision. `revision` is the newest; `changes` are what came since, as label and patch."""

    revision = 0
    changes: list[dict[str, Any]]


class NothingToDo(Fault):
    """Nothing left to undo or redo."""


def edit(conn: sqlite3.Connection, piece_id: str, revision: int, label: str, patch: Any, check: Check) -> Change:
    """Applies one edit to the given revision. Raises Stale, Missing, PatchFault, and what `check` raises."""
    piece = _current(conn, piece_id, revision)
    document, inverse = patches.apply(piece.document, patch)
    if document.get("id") != piece_id:
        raise Fault("The id of a piece cannot change.", place="/id", value=document.get("id"), remedy="Keep it.")
    text = _text(document)
    check(piece, text)
    number = piece.done + 1
    conn.execute("DELETE FROM edit WHERE piece_id = ? AND number > ?", (piece_id, piece.done))
    conn.execute("INSERT INTO edit VALUES (?, ?, ?, ?, ?)", (piece_id, number, label, _text(patch), _text(inverse)))
    after = replace(piece, document=document, done=number, undo=label, redo=None)
    return _record(conn, piece, after, text, label, patch)


def undo(conn: sqlite3.Connection, piece_id: str, revision: int) -> Change:
    """Takes the last edit back. Raises Stale, Missing, NothingToDo."""
    piece = _current(conn, piece_id, revision)
    row = _edit(conn, piece_id, piece.done, "undo")
    patch = json.loads(row["inverse"])
    document, _ = patches.apply(piece.document, patch)
    earlier = _label(conn, piece_id, piece.done - 1)
    after = replace(piece, document=document, done=piece.done - 1, undo=earlier, redo=row["label"])
    return _record(conn, piece, after, _text(document), f"Undo: {row['label']}", patch)


def redo(conn: sqlite3.Connection, piece_id: str, revision: int) -> Change:
    """Makes the edit last undone again. Raises Stale, Missing, NothingToDo."""
    piece = _current(conn, piece_id, revision)
    row = _edit(conn, piece_id, piece.done + 1, "redo")
    patch = json.loads(row["patch"])
    document, _ = patches.apply(piece.document, patch)
    later = _label(conn, piece_id, piece.done + 2)
    after = replace(piece, document=document, done=piece.done + 1, undo=row["label"], redo=later)
    return _record(conn, piece, after, _text(document), f"Redo: {row['label']}", patch)


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


def _label(conn: sqlite3.Connection, piece_id: str, number: int) -> str | None:
    row = conn.execute("SELECT label FROM edit WHERE piece_id = ? AND number = ?", (piece_id, number)).fetchone()
    return row["label"] if row else None


def _record(
    conn: sqlite3.Connection, before: StoredPiece, after: StoredPiece, text: str, label: str, patch: Any
) -> Change:
    after = replace(after, revision=before.revision + 1)
    conn.execute(
        "UPDATE piece SET document = ?, revision = ?, done = ? WHERE id = ?",
        (text, after.revision, after.done, after.id),
    )
    conn.execute("INSERT INTO revision VALUES (?, ?, ?, ?)", (after.id, after.revision, label, _text(patch)))
    return Change(before, after, patch)


def _text(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False)
