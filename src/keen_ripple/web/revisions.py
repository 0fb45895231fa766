"""The timelines of revisions, kept so that an edit is told from what came before it."""

from __future__ import annotations

from collections import OrderedDict
from threading import Lock
from typing import Any

from flask import current_app

from keen_ripple.core.document import Piece, read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.placing import Library
from keen_ripple.core.timeline import Timeline, timeline_of
from keen_ripple.store import pieces
from keen_ripple.store.history import Change
from keen_ripple.store.pieces import StoredPiece
from keen_ripple.web.contract.answers import ChangeAnswer, WholeAnswer
from keen_ripple.web.database import connection
from keen_ripple.web.playback import differences, is_same_run

KEPT = 32
KEPT_ORIGINALS = 200
_originals: OrderedDict[tuple[str, str, int], Piece] = OrderedDict()
_Key = tuple[str, str, int, tuple[tuple[str, int], ...]]
_kept: OrderedDict[_Key, Timeline] = OrderedDict()
_lock = Lock()


def timeline_of_revision(database: str, piece: StoredPiece) -> Timeline:
    """The timeline of a stored revision, computed at most once while it is kept. Raises DocumentFault, RunFault."""
    placed = pieces.placed_in(connection(), piece.document)
    key = _key(database, piece, placed)
    with _lock:
        found = _kept.get(key)
    if found is None:
        found = timeline_of(read_piece(piece.document), _latest(database, piece.id), _read(database, placed))
        _keep(key, found)
    return found


def _latest(database: str, name: str) -> Timeline | None:
    """The timeline of a piece that was asked for last: after an edit of what stands in it, most of it still holds."""
    with _lock:
        return next((kept for key, kept in reversed(_kept.items()) if key[:2] == (database, name)), None)


def library_of(document: dict[str, Any]) -> Library:
    """The pieces that stand in a document, as they are stored now. Raises DocumentFault for one that is no piece."""
    return _read(current_app.config["DATABASE"], pieces.placed_in(connection(), document))


def _read(database: str, placed: dict[str, StoredPiece]) -> Library:
    return {name: _original(database, stored) for name, stored in placed.items()}


def _original(database: str, stored: StoredPiece) -> Piece:
    """Read once for each of its revisions, so that its copies share what was worked out of it."""
    key = (database, stored.id, stored.revision)
    with _lock:
        found = _originals.get(key)
    if found is None:
        found = read_piece(stored.document)
        with _lock:
            _originals[key] = found
            while len(_originals) > KEPT_ORIGINALS:
                _originals.popitem(last=False)
    return found


def _key(database: str, piece: StoredPiece, placed: dict[str, StoredPiece]) -> _Key:
    return database, piece.id, piece.revision, tuple(sorted((name, other.revision) for name, other in placed.items()))


def holds(piece: StoredPiece) -> str:
    """The revisions of what stands in it, as a text; empty where nothing does."""
    placed = pieces.placed_in(connection(), piece.document)
    return ".".join(f"{name}.{other.revision}" for name, other in sorted(placed.items()))


def timeline_if_playable(database: str, piece: StoredPiece) -> Timeline | None:
    """The same; None for a piece of earlier days that can no longer be played, so that it can be mended."""
    try:
        return timeline_of_revision(database, piece)
    except Fault:
        return None


def remember(database: str, piece: StoredPiece, timeline: Timeline) -> None:
    """Keeps the timeline of a revision that is stored."""
    _keep(_key(database, piece, pieces.placed_in(connection(), piece.document)), timeline)


def _keep(key: _Key, timeline: Timeline) -> None:
    with _lock:
        _kept[key] = timeline
        _kept.move_to_end(key)
        while len(_kept) > KEPT:
            _kept.popitem(last=False)


def current_timeline(piece_id: str) -> Timeline:
    """The timeline of a piece as it is stored now. Raises Missing."""
    return timeline_of_revision(current_app.config["DATABASE"], pieces.load(connection(), piece_id))


def whole(database: str, piece: StoredPiece) -> WholeAnswer:
    """A piece with all that is computed of it."""
    computed = differences(timeline_of_revision(database, piece))
    return WholeAnswer(**_head(piece), document=piece.document, **computed)


def as_shown(piece: StoredPiece, options: dict[str, str]) -> WholeAnswer:
    """The same with other options of its traits. Raises DocumentFault for one that there is not."""
    traits = [
        {**trait, "shows": options.get(trait["id"], trait.get("shows"))} for trait in piece.document.get("traits", [])
    ]
    document = {**piece.document, "traits": traits}
    computed = differences(timeline_of(read_piece(document), library=library_of(document)))
    return WholeAnswer(**_head(piece), document=document, **computed)


def changed(change: Change, after: Timeline, before: Timeline | None) -> ChangeAnswer:
    """What one edit changed: the patch and the computed differences."""
    computed = differences(after, before)
    if before is not None and is_same_run(after, before):
        del computed["run"]
    return ChangeAnswer(**_head(change.after), patch=change.patch, **computed)


def _head(piece: StoredPiece) -> dict[str, Any]:
    return {"id": piece.id, "revision": piece.revision, "holds": holds(piece), "undo": piece.undo, "redo": piece.redo}
