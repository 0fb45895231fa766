"""Files for others."""

from __future__ import annotations

from flask import Blueprint, Response

from keen_ripple.core.document import read_piece
from keen_ripple.core.timeline import timeline_of
from keen_ripple.handoff import FORMATS
from keen_ripple.store import pieces
from keen_ripple.web.database import connection
from keen_ripple.web.errors import RequestFault

blueprint = Blueprint("handoffs", __name__, url_prefix="/api/pieces/<piece_id>/handoff")


@blueprint.get("/<name>")
def download(piece_id: str, name: str) -> Response:
    """The piece in one format, as a download."""
    if name not in FORMATS:
        known = ", ".join(sorted(FORMATS))
        raise RequestFault(f"There is no hand-off in the format {name!r}.", value=name, remedy=f"Known: {known}.")
    form = FORMATS[name]
    piece = pieces.load(connection(), piece_id)
    content = form.write(timeline_of(read_piece(piece.document)))
    headers = {"Content-Disposition": f'attachment; filename="{piece.id}.{form.name}"'}
    return Response(content, mimetype=form.media_type, headers=headers)
