"""Pieces that cannot be opened: what is stored of them, what happened to them, and how to be rid of them.

They are asked for by the number of their row, since nothing else of them can be relied on.
"""

from __future__ import annotations

from flask import Blueprint, Response
from flask.typing import ResponseReturnValue

from keen_ripple.store import atomic, history, pieces
from keen_ripple.web.contract.answers import History, PastRevision, Row
from keen_ripple.web.database import connection

blueprint = Blueprint("damaged", __name__, url_prefix="/api/damaged/<int:row>")

MOST_LABELS = 200


@blueprint.get("/stored.json")
def stored(row: int) -> Response:
    """What is stored, byte for byte, as a download."""
    _, content = pieces.stored_bytes(connection(), row)
    headers = {"Content-Disposition": f'attachment; filename="stored-{row}.json"'}
    return Response(content, mimetype="application/octet-stream", headers=headers)


@blueprint.get("/history")
def what_happened(row: int) -> ResponseReturnValue:
    """The revisions of the piece, the newest first."""
    conn = connection()
    piece_id, _ = pieces.stored_bytes(conn, row)
    found = history.labels(conn, piece_id, MOST_LABELS)
    return History(history=[PastRevision(revision=revision, label=label) for revision, label in found]).told()


@blueprint.delete("")
def remove(row: int) -> ResponseReturnValue:
    conn = connection()
    with atomic(conn):
        piece_id, _ = pieces.stored_bytes(conn, row)
        pieces.set_removed(conn, piece_id, True)
    return Row(row=row).told()
