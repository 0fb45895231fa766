"""Rehearsals: what the page needs to let somebody act, and what somebody did, kept."""

from __future__ import annotations

from dataclasses import asdict

from flask import Blueprint, Response, request
from flask.typing import ResponseReturnValue

from keen_ripple.core.document import Piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.limits import LONGEST_NAME, MOST_KEPT_REHEARSALS
from keen_ripple.core.live.compared import arrivals, changes
from keen_ripple.core.live.events import read_events
from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.made import made_events
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.live.tables import tables_of
from keen_ripple.store import atomic, pieces, rehearsals
from keen_ripple.store.rehearsals import Kept
from keen_ripple.web import pictures, revisions
from keen_ripple.web.contract import answers
from keen_ripple.web.contract.bodies import NewRehearsal, body
from keen_ripple.web.contract.fault import RequestFault
from keen_ripple.web.database import connection
from keen_ripple.web.drawing import PICTURES

# What the one is called that the core makes.
MADE = "every-way-once"

blueprint = Blueprint("rehearsals", __name__, url_prefix="/api/pieces/<piece_id>/rehearsals")


@blueprint.get("")
def show(piece_id: str) -> ResponseReturnValue:
    """The tables of the runtime, a rehearsal made by the core, and those that were kept, compared with themselves."""
    piece = revisions.current_timeline(piece_id).piece
    events, until_ms = made_events(piece)
    made = answers.MadeRehearsal(events=[asdict(event) for event in events], until_ms=until_ms)
    kept = [_compared(piece, each) for each in rehearsals.kept_of(connection(), piece_id)]
    return answers.Rehearsals(tables=tables_of(piece), made=made, kept=kept).told()


def _compared(piece: Piece, kept: Kept) -> answers.KeptRehearsal:
    found, told = [], None
    try:
        now = rehearse(piece, read_events(kept.events), kept.until_ms)
        found = list(changes(piece, now, kept.arrivals))
    except Fault as fault:
        told = f"{fault.message} {fault.remedy}".strip()
    return answers.KeptRehearsal(
        number=kept.number,
        name=kept.name,
        events=kept.events,
        until_ms=kept.until_ms,
        revision=kept.revision,
        changes=found,
        fault=told,
    )


@blueprint.get("/<which>/filmstrip.png")
def strip(piece_id: str, which: str) -> Response:
    """Moments of it on one sheet."""
    _, events, until_ms = asked(piece_id, which, revisions.current_timeline(piece_id).piece)
    frames = request.args.get("frames", 24, type=int)
    return Response(PICTURES.drawn(piece_id, pictures.acted_strip, events, until_ms, frames), mimetype="image/png")


def asked(piece_id: str, which: str, piece: Piece) -> tuple[str, list[Event], float]:
    """What a file of it is called, its events, and how long it is. Raises Missing."""
    if which == MADE:
        return which, *made_events(piece)
    if not which.isdecimal():
        raise RequestFault(f"There is no rehearsal {which!r}.", value=which, remedy=f"Give its number, or {MADE}.")
    kept = rehearsals.kept(connection(), piece_id, int(which))
    return f"rehearsal-{kept.number}", read_events(kept.events), kept.until_ms


@blueprint.post("")
def keep(piece_id: str) -> ResponseReturnValue:
    """Keeps what was done under a name."""
    wish = body(NewRehearsal)
    name = wish.name.strip()[:LONGEST_NAME] or "Rehearsal"
    conn = connection()
    with atomic(conn):
        stored = pieces.load(conn, piece_id)
        if len(rehearsals.kept_of(conn, piece_id)) >= MOST_KEPT_REHEARSALS:
            raise RequestFault(
                f"There are {MOST_KEPT_REHEARSALS} rehearsals of this piece already.",
                value=name,
                remedy="Delete one that is not needed.",
            )
        piece = revisions.current_timeline(piece_id).piece
        played = rehearse(piece, read_events(wish.events, piece), wish.until_ms)
        number = rehearsals.keep(conn, piece_id, name, wish.events, wish.until_ms, stored.revision, arrivals(played))
    return answers.Numbered(number=number).told(201)


@blueprint.delete("/<int:number>")
def drop(piece_id: str, number: int) -> ResponseReturnValue:
    conn = connection()
    with atomic(conn):
        rehearsals.drop(conn, piece_id, number)
    return answers.Numbered(number=number).told()
