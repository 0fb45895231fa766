"""The whole shelf as one file, and files back onto it."""

from __future__ import annotations

from flask import Blueprint, Response, request
from flask.typing import ResponseReturnValue

from keen_ripple import collection
from keen_ripple.store import atomic, pieces
from keen_ripple.web.contract import answers
from keen_ripple.web.database import connection
from keen_ripple.web.pieces import add_played

# Bytes that are sent.
LARGEST_ARCHIVE = 64 * 1024 * 1024

blueprint = Blueprint("collection", __name__, url_prefix="/api/collection")


@blueprint.get("")
def whole() -> Response:
    """Every piece on the shelf as a zip archive of `ID.json`; damaged ones are named in `left-out.txt`."""
    documents, left_out = pieces.everything(connection())
    headers = {"Content-Disposition": 'attachment; filename="pieces.zip"'}
    return Response(collection.zipped(documents, left_out), mimetype="application/zip", headers=headers)


@blueprint.post("")
def take() -> ResponseReturnValue:
    """A zip archive of pieces, as `whole` gives it: all of them are put on the shelf, or none."""
    request.max_content_length = LARGEST_ARCHIVE
    library = collection.library_in(collection.unzipped(request.get_data()))
    conn = connection()
    with atomic(conn):
        shelved, _ = collection.put(conn, library, add_played)
    return answers.Shelved(added=shelved.added, known=shelved.known).told(201)
