"""Takes: kept timings, with what is needed to play them side by side."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from flask import Blueprint, current_app
from flask.typing import ResponseReturnValue

from keen_ripple.core.document import Piece, read_piece, written
from keen_ripple.core.errors import Fault
from keen_ripple.core.limits import LONGEST_NAME
from keen_ripple.core.operations.takes import differences, varied
from keen_ripple.core.timeline import timeline_of
from keen_ripple.store import atomic, pieces, takes
from keen_ripple.web import revisions
from keen_ripple.web.contract import answers
from keen_ripple.web.contract.bodies import NewName, NewTake, body
from keen_ripple.web.contract.fault import RequestFault
from keen_ripple.web.database import connection
from keen_ripple.web.playback import answer

blueprint = Blueprint("takes", __name__, url_prefix="/api/pieces/<piece_id>/takes")


@blueprint.get("")
def show(piece_id: str) -> ResponseReturnValue:
    """Every take with its motion, and a table of what differs: the piece as it stands first, then each take that fits.

    Of a take that names a state that has gone the rest is left; one that names anything else that has gone comes with a
    fault instead of its motion.
    """
    conn = connection()
    stored = pieces.load(conn, piece_id)
    now = revisions.timeline_of_revision(current_app.config["DATABASE"], stored)
    fitting: list[Piece] = []
    shown: list[answers.Take] = []
    states = {state["id"] for state in stored.document["states"]}
    for take in takes.takes_of(conn, piece_id):
        computed, told = None, None
        rounds = _left(take, stored.document)
        left = [way for way in take.transitions if {way["from"], way["to"]} <= states]
        try:
            piece = read_piece({**stored.document, "transitions": left, "undercurrents": rounds})
            timeline = timeline_of(piece, library=revisions.library_of(stored.document))
            computed = answer(timeline)
            fitting.append(timeline.written)
        except Fault as fault:
            told = f"{fault.message} {fault.remedy}".strip()
        shown.append(
            answers.Take(
                number=take.number,
                name=take.name,
                transitions=left,
                undercurrents=rounds,
                computed=computed,
                fault=told,
                lost=len(take.transitions) - len(left),
            )
        )
    table = [answers.Difference(**each._asdict()) for each in differences([now.written, *fitting])]
    return answers.Takes(takes=shown, table=table).told()


@blueprint.post("")
def keep(piece_id: str) -> ResponseReturnValue:
    """{name} keeps the present timing. With {of} it is another take's; with {factor, timing} it is varied first."""
    wish = body(NewTake)
    name = wish.name.strip()[:LONGEST_NAME] or "Take"
    conn = connection()
    with atomic(conn):
        document = pieces.load(conn, piece_id).document
        if wish.of is not None:
            take = takes.one(conn, piece_id, wish.of)
            document = {**document, "transitions": take.transitions, "undercurrents": _left(take, document)}
        if wish.factor is not None or wish.timing is not None:
            document = _varied(read_piece(document), wish)
        number = takes.keep(conn, piece_id, name, document.get("transitions", []), document.get("undercurrents", []))
    return answers.Numbered(number=number).told(201)


def _left(take: takes.Take, document: dict[str, Any]) -> list[dict[str, Any]]:
    """The undercurrents of a take, without what is said of layers and states that have gone; those of the piece where
    it says nothing of them."""
    if take.undercurrents is None:
        return list(document.get("undercurrents", []))
    layers = {layer["id"] for layer in _all(document.get("layers", []))}
    states = {state["id"] for state in document["states"]}
    found = []
    for own in take.undercurrents:
        courses = [course for course in own["courses"] if course["layer"] in layers]
        kept = own.get("states") and [state for state in own["states"] if state in states]
        if courses and kept != []:
            found.append({**own, "courses": courses, "states": kept})
    return found


def _all(layers: list[dict[str, Any]]) -> Iterator[dict[str, Any]]:
    for layer in layers:
        yield layer
        yield from _all(layer.get("layers") or [])


def _varied(piece: Piece, wish: NewTake) -> dict[str, Any]:
    return written(varied(piece, 1.0 if wish.factor is None else wish.factor, wish.timing))


@blueprint.patch("/<int:number>")
def rename(piece_id: str, number: int) -> ResponseReturnValue:
    """{name} is its name from now on; a number is added where another take has it."""
    name = body(NewName).name.strip()[:LONGEST_NAME]
    if not name:
        raise RequestFault("name is empty.", place="/name", remedy="Write at least one character.")
    conn = connection()
    with atomic(conn):
        takes.rename(conn, piece_id, number, name)
    return answers.Numbered(number=number).told()


@blueprint.delete("/<int:number>")
def drop(piece_id: str, number: int) -> ResponseReturnValue:
    return _set_removed(piece_id, number, True)


@blueprint.post("/<int:number>/restore")
def restore(piece_id: str, number: int) -> ResponseReturnValue:
    return _set_removed(piece_id, number, False)


def _set_removed(piece_id: str, number: int, removed: bool) -> ResponseReturnValue:
    conn = connection()
    with atomic(conn):
        takes.set_removed(conn, piece_id, number, removed)
    return answers.Numbered(number=number).told()
