"""Takes: kept timings, with what is needed to play them side by side."""

from __future__ import annotations

from typing import Any

from flask import Blueprint, current_app, jsonify
from flask.typing import ResponseReturnValue

from keen_ripple.core.document import Piece, read_piece, written
from keen_ripple.core.errors import Fault
from keen_ripple.core.operations.takes import differences, varied
from keen_ripple.core.timeline import timeline_of
from keen_ripple.store import atomic, pieces, takes
from keen_ripple.web import revisions
from keen_ripple.web.database import connection
from keen_ripple.web.playback import answer
from keen_ripple.web.requests import body, field, number, timing

blueprint = Blueprint("takes", __name__, url_prefix="/api/pieces/<piece_id>/takes")


@blueprint.get("")
def show(piece_id: str) -> ResponseReturnValue:
    """Every take with its motion, and a table of what differs: the piece as it stands first, then each take that fits.

    A take that names what the piece no longer has comes with a fault instead of its motion.
    """
    conn = connection()
    stored = pieces.load(conn, piece_id)
    now = revisions.timeline_of_revision(current_app.config["DATABASE"], stored)
    fitting: list[Piece] = []
    shown: list[dict[str, Any]] = []
    for take in takes.takes_of(conn, piece_id):
        entry: dict[str, Any] = {"number": take.number, "name": take.name, "transitions": take.transitions}
        try:
            timeline = timeline_of(read_piece({**stored.document, "transitions": take.transitions}))
            fitting.append(timeline.piece)
            shown.append({**entry, "computed": answer(timeline, None), "fault": None})
        except Fault as fault:
            shown.append({**entry, "computed": None, "fault": f"{fault.message} {fault.remedy}".strip()})
    table = [{"transition": name, "cells": cells} for name, cells in differences([now.piece, *fitting])]
    return jsonify({"takes": shown, "table": table})


@blueprint.post("")
def keep(piece_id: str) -> ResponseReturnValue:
    """{name} keeps the present timing. With {of} it is another take's; with {factor, timing} it is varied first."""
    wish = body()
    name = field(wish, "name", str).strip()[:120] or "Take"
    conn = connection()
    with atomic(conn):
        document = pieces.load(conn, piece_id).document
        if wish.get("of") is not None:
            document = {**document, "transitions": takes.one(conn, piece_id, field(wish, "of", int)).transitions}
        kept = document.get("transitions", [])
        if "factor" in wish or "timing" in wish:
            kept = _varied(read_piece(document), wish)
        number = takes.keep(conn, piece_id, name, kept)
    return jsonify({"number": number}), 201


def _varied(piece: Piece, wish: dict[str, Any]) -> list[dict[str, Any]]:
    factor = number(wish, "factor") if "factor" in wish else 1.0
    new = varied(piece, factor, timing(wish) if "timing" in wish else None)
    ways: list[dict[str, Any]] = written(new)["transitions"]
    return ways


@blueprint.delete("/<int:number>")
def drop(piece_id: str, number: int) -> ResponseReturnValue:
    conn = connection()
    with atomic(conn):
        takes.drop(conn, piece_id, number)
    return jsonify({"number": number})
