"""Edits, undo and redo.

An edit goes one way: the store proposes it, the core works out what it comes to, the answer is written, the store
records it. So whatever is stored can be opened.
"""

from __future__ import annotations

from collections.abc import Callable

from flask import Blueprint, current_app
from flask.typing import ResponseReturnValue

from keen_ripple.core.document import Piece, read_edited, read_text
from keen_ripple.core.limits import LONGEST_DOCUMENT
from keen_ripple.core.timeline import Timeline, timeline_of
from keen_ripple.store import Connection, atomic, history, pieces
from keen_ripple.web import revisions
from keen_ripple.web.contract.bodies import At, Edit, body
from keen_ripple.web.database import connection

blueprint = Blueprint("edits", __name__, url_prefix="/api/pieces/<piece_id>")

LONGEST_LABEL = 200
LONGEST_BURST = 100


@blueprint.patch("")
def edit(piece_id: str) -> ResponseReturnValue:
    """One named edit. Answers with what it changed, or 409 with what came in between."""
    wish = body(Edit)
    label, burst = wish.label[:LONGEST_LABEL], wish.burst[:LONGEST_BURST] or None
    return _change(piece_id, lambda conn: history.edit(conn, piece_id, wish.revision, label, wish.patch, burst))


@blueprint.post("/undo")
def undo(piece_id: str) -> ResponseReturnValue:
    revision = body(At).revision
    return _change(piece_id, lambda conn: history.undo(conn, piece_id, revision))


@blueprint.post("/redo")
def redo(piece_id: str) -> ResponseReturnValue:
    revision = body(At).revision
    return _change(piece_id, lambda conn: history.redo(conn, piece_id, revision))


def _read(change: history.Change, before: Timeline | None) -> Piece:
    if before is None or change.length > LONGEST_DOCUMENT:
        return read_text(change.text())
    return read_edited(change.text, change.after.document, change.before.document, before.written)


def _change(piece_id: str, propose: Callable[[Connection], history.Change]) -> ResponseReturnValue:
    database = current_app.config["DATABASE"]
    conn = connection()
    with atomic(conn):
        change = propose(conn)
        before = revisions.timeline_if_playable(database, change.before)
        after = timeline_of(_read(change, before), before, revisions.library_of(change.after.document))
        answer = revisions.changed(change, after, before).told()
        history.record(conn, change)
        pieces.forget_lengths_around(conn, piece_id)
        pieces.set_lengths(conn, piece_id, after.run.total_ms, after.run.loop_ms)
    revisions.remember(database, change.after, after)
    return answer
