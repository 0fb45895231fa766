"""Edits, undo and redo."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Callable

from flask import Blueprint, current_app, jsonify
from flask.typing import ResponseReturnValue

from keen_ripple.core.document import read_text
from keen_ripple.core.timeline import Timeline, timeline_of
from keen_ripple.store import atomic, history
from keen_ripple.store.pieces import StoredPiece
from keen_ripple.web import revisions
from keen_ripple.web.database import connection
from keen_ripple.web.requests import body, field

blueprint = Blueprint("edits", __name__, url_prefix="/api/pieces/<piece_id>")


@blueprint.patch("")
def edit(piece_id: str) -> ResponseReturnValue:
    """One named edit: {revision, label, patch}. Answers with what it changed, or 409 with what came in between."""
    wish = body()
    revision, label, patch = field(wish, "revision", int), field(wish, "label", str), field(wish, "patch", list)
    return _change(lambda conn, check: history.edit(conn, piece_id, revision, label[:200], patch, check))


@blueprint.post("/undo")
def undo(piece_id: str) -> ResponseReturnValue:
    revision = field(body(), "revision", int)
    return _change(lambda conn, _: history.undo(conn, piece_id, revision))


@blueprint.post("/redo")
def redo(piece_id: str) -> ResponseReturnValue:
    revision = field(body(), "revision", int)
    return _change(lambda conn, _: history.redo(conn, piece_id, revision))


def _change(make: Callable[[sqlite3.Connection, history.Check], history.Change]) -> ResponseReturnValue:
    database = current_app.config["DATABASE"]
    computed: list[Timeline] = []

    def check(before: StoredPiece, text: str) -> None:
        # Only what can be played is stored, so that every stored piece opens.
        computed.append(timeline_of(read_text(text), revisions.timeline_of_revision(database, before)))

    conn = connection()
    with atomic(conn):
        change = make(conn, check)
    if not computed:
        check(change.before, json.dumps(change.after.document))
    return jsonify(revisions.changed(database, change, computed[0]))
