"""Links: a piece as its live page, for whoever knows an address, and nothing else of the application."""

from __future__ import annotations

from flask import Blueprint, Response
from flask.typing import ResponseReturnValue

from keen_ripple.jobs import FILES
from keen_ripple.store import atomic, links, pieces
from keen_ripple.web.contract.handed import Link
from keen_ripple.web.database import connection
from keen_ripple.web.jobs import made, order_of
from keen_ripple.web.security import framed_anywhere

blueprint = Blueprint("links", __name__)
OF_PIECE = "/api/pieces/<piece_id>/link"


@blueprint.get(OF_PIECE)
def show(piece_id: str) -> ResponseReturnValue:
    """The token of the piece, or none."""
    pieces.load(connection(), piece_id)
    return Link(token=links.link_of(connection(), piece_id)).told()


@blueprint.post(OF_PIECE)
def make(piece_id: str) -> ResponseReturnValue:
    """The token of the piece, a new one where it has none."""
    conn = connection()
    with atomic(conn):
        pieces.load(conn, piece_id)
        return Link(token=links.make(conn, piece_id)).told()


@blueprint.delete(OF_PIECE)
def take_back(piece_id: str) -> ResponseReturnValue:
    """Nobody sees the piece by its address any more."""
    conn = connection()
    with atomic(conn):
        pieces.load(conn, piece_id)
        links.take_back(conn, piece_id)
    return Link(token=None).told()


@blueprint.get("/p/<token>")
def shown(token: str) -> Response:
    """The live page of a piece as it is now, read only."""
    try:
        piece_id = links.piece_of(connection(), token)
        pieces.load(connection(), piece_id)
    except pieces.Missing as fault:
        # Whoever comes here is a person and no program.
        return Response(f"{fault.message} {fault.remedy}\n", status=404, mimetype="text/plain")
    content = made(order_of(piece_id, FILES, "live"))["live.html"]
    return framed_anywhere(Response(content, mimetype="text/html"))
