"""Edits, undo and redo."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from typing import Any

from flask import Blueprint, current_app, jsonify
from flask.typing import ResponseReturnValue

from keen_ripple.core.timeline import Timeline
from keen_ripple.store import atomic, history, pieces
from keen_ripple.store.pieces import StoredPiece
from keen_ripple.web import revisions
from keen_ripple.web.database import connection
from keen_ripple.web.playback import compute
from keen_ripple.web.requests import body, field

blueprint = Blueprint("edits", __name__, url_prefix="/api/pieces/<piece_id>")

Change = Callable[[sqlite3.Connection, history.Check], tuple[StoredPiece, Any]]


@blueprint.patch("")
def edit(piece_id: str) -> ResponseReturnValue:
    """One named edit: {revision, label, patch}. Answers with what it changed, or 409 with what came in between."""
    wish = body()
    revision, label, patch = field(wish, "revision", int), field(wish, "label", str), field(wish, "patch", list)
    return _change(piece_id, lambda conn, check: history.edit(conn, piece_id, revision, label[:200], patch, check))


@blueprint.post("/undo")
def undo(piece_id: str) -> ResponseReturnValue:
    revision = field(body(), "revision", int)
    return _change(piece_id, lambda conn, _: history.undo(conn, piece_id, revision))


@blueprint.post("/redo")
def redo(piece_id: str) -> ResponseReturnValue:
    revision = field(body(), "revision", int)
    return _change(piece_id, lambda conn, _: history.redo(conn, piece_id, revision))


def _change(piece_id: str, change: Change) -> ResponseReturnValue:
    conn = connection()
    database = current_app.config["DATABASE"]
    computed: list[Timeline] = []
    with atomic(conn):
        before = pieces.load(conn, piece_id)
        old = revisions.timeline_of_revision(database, before)
        # Only what can be played is stored, so that every stored piece opens.
        after, patch = change(conn, lambda document: computed.append(compute(document, old)))
    if not computed:
        computed.append(compute(after.document, old))
    return jsonify(revisions.changed(database, before, after, patch, computed[0]))
