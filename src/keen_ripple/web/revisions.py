"""The playback of revisions, kept so that an edit is told from what came before it."""

from __future__ import annotations

from collections import OrderedDict
from threading import Lock
from typing import Any

from keen_ripple.store.pieces import StoredPiece
from keen_ripple.web.playback import Playback, answer, compute

KEPT = 32
_kept: OrderedDict[tuple[str, str, int], Playback] = OrderedDict()
_lock = Lock()


def playback_of(database: str, piece: StoredPiece, computed: Playback | None = None) -> Playback:
    """The playback of a stored revision, computed at most once while it is kept."""
    key = (database, piece.id, piece.revision)
    with _lock:
        found = computed or _kept.get(key)
    found = found or compute(piece.document)
    with _lock:
        _kept[key] = found
        _kept.move_to_end(key)
        while len(_kept) > KEPT:
            _kept.popitem(last=False)
    return found


def whole(database: str, piece: StoredPiece) -> dict[str, Any]:
    """A piece with all that is computed of it, as JSON."""
    return {**_head(piece), "document": piece.document, **answer(playback_of(database, piece))}


def changed(database: str, before: StoredPiece, after: StoredPiece, patch: Any, computed: Playback) -> dict[str, Any]:
    """What one edit changed, as JSON: the patch and the computed differences."""
    old = playback_of(database, before)
    return {**_head(after), "patch": patch, **answer(playback_of(database, after, computed), old)}


def _head(piece: StoredPiece) -> dict[str, Any]:
    return {"id": piece.id, "revision": piece.revision, "undo": piece.undo, "redo": piece.redo}
