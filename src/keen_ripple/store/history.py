"""Edits, undo and redo: each makes a new revision, and all of them survive a restart.

A change is proposed first, so that all that depends on it can be worked out; only then is it recorded.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from keen_ripple.core.errors import Fault
from keen_ripple.core.operations import patches
from keen_ripple.store import parts
from keen_ripple.store.connect import Connection, Row
from keen_ripple.store.faults import Damaged
from keen_ripple.store.json_text import text_of, value_of
from keen_ripple.store.pieces import StoredPiece, load, remember

# Operations of edits that became one.
MOST_TOGETHER = 500


@dataclass(frozen=True)
class Change:
    """A piece before and after a change, and the patch that makes it.

    `label` names the revision that it becomes; `inverse` is the way back of a new edit, None for undo and redo. Where
    it became one with the edit before it, `kept` is the patch of both. `marked` is the text that is stored of the
    document, with what its marks stand for.
    """

    before: StoredPiece
    after: StoredPiece
    label: str
    patch: Any
    marked: str
    parts: Mapping[str, str]
    inverse: Any = None
    burst: str | None = None
    kept: Any = None

    def text(self) -> str:
        """The JSON text of the piece after it, whole."""
        return text_of(self.after.document)

    @property
    def length(self) -> int:
        """Characters of that text; marks count as some more."""
        return len(self.marked) + sum(len(url) * self.marked.count(digest) for digest, url in self.parts.items())


class Stale(Fault):
    """An edit of an older revision. `revision` is the newest; `changes` are what came since, as label and patch."""

    revision = 0
    changes: list[dict[str, Any]]


class NothingToDo(Fault):
    """Nothing left to undo or redo."""


def edit(conn: Connection, piece_id: str, revision: int, label: str, patch: Any, burst: str | None = None) -> Change:
    """Proposes one edit of the given revision. Raises Stale, Missing, PatchFault.

    One of the same `burst` as the edit before it becomes one with it: what is nudged ten times is undone at once.
    """
    piece = _current(conn, piece_id, revision)
    document, inverse = patches.apply(piece.document, patch)
    if not isinstance(document, dict) or document.get("id") != piece_id:
        raise Fault("The id of a piece cannot change.", place="/id", value=piece_id, remedy="Keep it.")
    after = replace(piece, document=document, done=piece.done + 1, undo=label, redo=None)
    change = _proposed(piece, after, label, patch, inverse, burst)
    earlier = _same_burst(conn, piece, burst) if burst else None
    if earlier is None:
        return change
    made, undone = (value_of(parts.whole(conn, earlier[name])) for name in ("patch", "inverse"))
    together, back = [*made, *patch], [*inverse, *undone]
    if len(together) > MOST_TOGETHER:
        return change
    return replace(change, after=replace(change.after, done=piece.done), kept=together, inverse=back)


def _same_burst(conn: Connection, piece: StoredPiece, burst: str) -> Row | None:
    """The edit made last, if it is of this burst and nothing has been undone since."""
    found: Row | None = conn.execute(
        "SELECT patch, inverse FROM edit WHERE piece_id = ? AND number = ? AND burst = ?"
        " AND number = (SELECT max(number) FROM edit WHERE piece_id = ?)",
        (piece.id, piece.done, burst, piece.id),
    ).fetchone()
    return found


def undo(conn: Connection, piece_id: str, revision: int) -> Change:
    """Proposes to take the last edit back. Raises Stale, Missing, NothingToDo."""
    piece = _current(conn, piece_id, revision)
    label, patch = _edit(conn, piece_id, piece.done, "undo", "inverse")
    document, _ = patches.apply(piece.document, patch)
    earlier = _label(conn, piece_id, piece.done - 1)
    after = replace(piece, document=document, done=piece.done - 1, undo=earlier, redo=label)
    return _proposed(piece, after, f"Undo: {label}", patch)


def redo(conn: Connection, piece_id: str, revision: int) -> Change:
    """Proposes to make the edit last undone again. Raises Stale, Missing, NothingToDo."""
    piece = _current(conn, piece_id, revision)
    label, patch = _edit(conn, piece_id, piece.done + 1, "redo", "patch")
    document, _ = patches.apply(piece.document, patch)
    later = _label(conn, piece_id, piece.done + 2)
    after = replace(piece, document=document, done=piece.done + 1, undo=label, redo=later)
    return _proposed(piece, after, f"Redo: {label}", patch)


def record(conn: Connection, change: Change) -> None:
    """Stores a proposed change, in the transaction in which it was proposed."""
    after = change.after
    if change.inverse is not None:
        patch = parts.set_apart(conn, change.kept or change.patch)
        inverse = parts.set_apart(conn, change.inverse)
        conn.execute("DELETE FROM edit WHERE piece_id = ? AND number >= ?", (after.id, after.done))
        conn.execute(
            "INSERT INTO edit VALUES (?, ?, ?, ?, ?, ?)",
            (after.id, after.done, change.label, patch, inverse, change.burst),
        )
    parts.keep(conn, change.parts)
    conn.execute(
        "UPDATE piece SET document = ?, revision = ?, done = ? WHERE id = ?",
        (change.marked, after.revision, after.done, after.id),
    )
    remember(change.marked, after.document)
    conn.execute(
        "INSERT INTO revision VALUES (?, ?, ?, ?)",
        (after.id, after.revision, change.label, parts.set_apart(conn, change.patch)),
    )


def labels(conn: Connection, piece_id: str, most: int) -> list[tuple[int, str]]:
    """What happened to a piece, the newest first: revisions and their labels."""
    rows = conn.execute(
        "SELECT revision, label FROM revision WHERE piece_id = ? ORDER BY revision DESC LIMIT ?", (piece_id, most)
    )
    return [(row["revision"], row["label"]) for row in rows]


def _proposed(
    before: StoredPiece, after: StoredPiece, label: str, patch: Any, inverse: Any = None, burst: str | None = None
) -> Change:
    after = replace(after, revision=before.revision + 1)
    # Most pieces hold nothing long, and need not be looked through for it.
    plain = not before.marked and parts.BEGINS not in text_of(patch)
    marked, found = (text_of(after.document), {}) if plain else parts.marked(after.document)
    return Change(before, after, label, patch, marked, found, inverse, burst)


def _current(conn: Connection, piece_id: str, revision: int) -> StoredPiece:
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
    stale.changes = [{"label": row["label"], "patch": value_of(parts.whole(conn, row["patch"]))} for row in rows]
    raise stale


def _edit(conn: Connection, piece_id: str, number: int, what: str, column: str) -> tuple[str, Any]:
    """The label of an edit, and one of its two patches."""
    row = conn.execute(
        "SELECT label, patch, inverse FROM edit WHERE piece_id = ? AND number = ?", (piece_id, number)
    ).fetchone()
    if row is None:
        raise NothingToDo(f"There is nothing to {what}.", remedy="Go on editing.")
    try:
        return row["label"], value_of(parts.whole(conn, row[column]))
    except ValueError:
        raise Damaged(f"The edit {row['label']!r} is damaged.", remedy="Go on from the piece as it is.") from None


def _label(conn: Connection, piece_id: str, number: int) -> str | None:
    row = conn.execute("SELECT label FROM edit WHERE piece_id = ? AND number = ?", (piece_id, number)).fetchone()
    return row["label"] if row else None
