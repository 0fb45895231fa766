"""The timelines of revisions, kept so that an edit is told from what came before it."""

from __future__ import annotations

from collections import OrderedDict
from threading import Lock
from typing import Any

from flask import current_app

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import Timeline, timeline_of
from keen_ripple.store import pieces
from keen_ripple.store.history import Change
from keen_ripple.store.pieces import StoredPiece
from keen_ripple.web.database import connection
from keen_ripple.web.playback import answer

KEPT = 32
_kept: OrderedDict[tuple[str, str, int], Timeline] = OrderedDict()
_lock = Lock()


def timeline_of_revision(database: str, piece: StoredPiece, computed: Timeline | None = None) -> Timeline:
    """The timeline of a stored revision, computed at most once while it is kept."""
    key = (database, piece.id, piece.revision)
    with _lock:
        found = computed or _kept.get(key)
    found = found or timeline_of(read_piece(piece.document))
    with _lock:
        _kept[key] = found
        _kept.move_to_end(key)
        while len(_kept) > KEPT:
            _kept.popitem(last=False)
    return found


def current_timeline(piece_id: str) -> Timeline:
    """The timeline of a piece as it is stored now. Raises Missing."""
    return timeline_of_revision(current_app.config["DATABASE"], pieces.load(connection(), piece_id))


def whole(database: str, piece: StoredPiece) -> dict[str, Any]:
    """A piece with all that is computed of it, as JSON."""
    return {**_head(piece), "document": piece.document, **answer(timeline_of_revision(database, piece))}


def changed(database: str, change: Change, computed: Timeline) -> dict[str, Any]:
    """What one edit changed, as JSON: the patch and the computed differences."""
    old = timeline_of_revision(database, change.before)
    new = timeline_of_revision(database, change.after, computed)
    return {**_head(change.after), "patch": change.patch, **answer(new, old)}


def _head(piece: StoredPiece) -> dict[str, Any]:
    return {"id": piece.id, "revision": piece.revision, "undo": piece.undo, "redo": piece.redo}
