"""Fonts that pieces of the collection bring, for the others."""

from __future__ import annotations

from flask import Blueprint, request
from flask.typing import ResponseReturnValue

from keen_ripple.store import pieces
from keen_ripple.web.contract.fault import RequestFault
from keen_ripple.web.contract.taken import SharedFiles, SharedFont, SharedFonts
from keen_ripple.web.database import connection

blueprint = Blueprint("fonts", __name__, url_prefix="/api/fonts")


@blueprint.get("")
def shared() -> ResponseReturnValue:
    """The families of all pieces on the shelf, each once."""
    found = {font.family: font for font in pieces.fonts(connection())}
    return SharedFonts(
        fonts=[SharedFont(family=each.family, piece=each.piece, name=each.name) for each in found.values()]
    ).told()


@blueprint.get("/<piece_id>")
def files(piece_id: str) -> ResponseReturnValue:
    """The files of ?family=… in a piece. Raises Missing, RequestFault."""
    family = request.args.get("family", "")
    fonts = pieces.load(connection(), piece_id).document.get("fonts", [])
    own = next((each for each in fonts if each["family"] == family), None)
    if own is None:
        raise RequestFault(f"That piece has no font {family!r}.", value=family, remedy="Choose another.")
    return SharedFiles(family=family, files=own["files"]).told()
