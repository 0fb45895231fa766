"""The shelf and its pieces."""

from __future__ import annotations

import re
from typing import Any

from flask import Blueprint, current_app, jsonify
from flask.typing import ResponseReturnValue

from keen_ripple.core.document import read_piece
from keen_ripple.store import atomic, pieces
from keen_ripple.web import revisions
from keen_ripple.web.database import connection
from keen_ripple.web.requests import body, field

blueprint = Blueprint("pieces", __name__, url_prefix="/api/pieces")


@blueprint.get("")
def shelf() -> ResponseReturnValue:
    """Every piece with what is needed to play it."""
    stored = pieces.shelf(connection())
    return jsonify({"pieces": [revisions.whole(current_app.config["DATABASE"], piece) for piece in stored]})


@blueprint.post("")
def add() -> ResponseReturnValue:
    """A new empty piece by `name`, or a copy of the piece `copy_of`."""
    wish = body()
    conn = connection()
    with atomic(conn):
        if "copy_of" in wish:
            original = pieces.load(conn, field(wish, "copy_of", str))
            document = {**original.document, "name": f"{original.document['name']} copy"}
        else:
            document = _empty(field(wish, "name", str).strip())
        document["id"] = pieces.free_id(conn, _id_of(document["name"]))
        read_piece(document)
        pieces.add(conn, document)
    return jsonify({"id": document["id"]}), 201


@blueprint.get("/<piece_id>")
def show(piece_id: str) -> ResponseReturnValue:
    return jsonify(revisions.whole(current_app.config["DATABASE"], pieces.load(connection(), piece_id)))


@blueprint.delete("/<piece_id>")
def remove(piece_id: str) -> ResponseReturnValue:
    return _set_removed(piece_id, True)


@blueprint.post("/<piece_id>/restore")
def restore(piece_id: str) -> ResponseReturnValue:
    return _set_removed(piece_id, False)


def _set_removed(piece_id: str, removed: bool) -> ResponseReturnValue:
    conn = connection()
    with atomic(conn):
        pieces.set_removed(conn, piece_id, removed)
    return jsonify({"id": piece_id})


def _empty(name: str) -> dict[str, Any]:
    return {
        "format": 1,
        "id": "new",
        "name": name,
        "width": 240,
        "height": 180,
        "ground": None,
        "blend": "oklab",
        "layers": [],
        "states": [{"id": "first", "name": "First", "changes": {}}],
        "start": "first",
        "transitions": [],
    }


def _id_of(name: str) -> str:
    words = re.findall(r"[a-z0-9]+", name.lower())
    return "-".join(words)[:56].strip("-") or "piece"
