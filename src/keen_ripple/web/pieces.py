"""The shelf and its pieces."""

from __future__ import annotations

import json
import re
from typing import Any

import jsonpatch
from flask import Blueprint, Response, current_app, request
from flask.typing import ResponseReturnValue

from keen_ripple import collection, starters
from keen_ripple.core.document import read_piece, walk, written
from keen_ripple.core.document.bundle import holding, read_library, unbundled
from keen_ripple.core.errors import Fault
from keen_ripple.core.limits import LONGEST_NAME
from keen_ripple.core.operations.piece_of_group import piece_of_group
from keen_ripple.core.timeline import timeline_of
from keen_ripple.store import Connection, atomic, pieces
from keen_ripple.web import revisions
from keen_ripple.web.contract import answers
from keen_ripple.web.contract.bodies import NewPiece, PieceOfGroup, body
from keen_ripple.web.contract.fault import RequestFault
from keen_ripple.web.database import connection
from keen_ripple.web.etags import VERSION, unless_known
from keen_ripple.web.playback import answer

blueprint = Blueprint("pieces", __name__, url_prefix="/api/pieces")

# So many pieces of earlier days are measured for one answer.
MOST_AT_ONCE = 30


@blueprint.get("")
def shelf() -> ResponseReturnValue:
    """What the shelf shows of every piece before one looks closer; `fault` says what is wrong with a damaged one."""
    conn = connection()
    heads = pieces.shelf(conn)
    unknown = [head.id for head in heads if head.total_ms is None and head.fault is None][:MOST_AT_ONCE]
    if unknown:
        with atomic(conn):
            for piece_id in unknown:
                _measure(conn, piece_id)
        heads = pieces.shelf(conn)
    return unless_known(answers.Shelf(pieces=heads, uses=pieces.uses(conn)).told())


def _measure(conn: Connection, piece_id: str) -> None:
    """Keeps how long a piece is that was put there without being played. One that cannot be says so where it stands."""
    try:
        run = revisions.timeline_of_revision(current_app.config["DATABASE"], pieces.load(conn, piece_id)).run
    except Fault:
        return
    pieces.set_lengths(conn, piece_id, run.total_ms, run.loop_ms)


@blueprint.post("")
def add() -> ResponseReturnValue:
    """A new empty piece by `name`, a copy of the piece `copy_of`, or the piece `document`; its id, if that is free."""
    wish = body(NewPiece)
    conn = connection()
    with atomic(conn):
        document, library = unbundled(_wanted(conn, wish))
        document = _with_library(conn, document, library)
        document["id"] = pieces.free_id(conn, document["id"])
        add_played(conn, document)
    return answers.Made(id=document["id"]).told(201)


@blueprint.post("/<piece_id>/piece-of-group")
def of_group(piece_id: str) -> ResponseReturnValue:
    """{layer} → the id of a new piece, made of a group, and the patch that puts a placement of it in place of that."""
    wish = body(PieceOfGroup)
    before = revisions.current_timeline(piece_id).written
    conn = connection()
    with atomic(conn):
        name = next((layer.name for layer, _ in walk(before.layers) if layer.id == wish.layer), wish.layer)
        new_id = pieces.free_id(conn, _id_of(name))
        made = piece_of_group(before, wish.layer, new_id, name)
        add_played(conn, written(made.original))
    patch = jsonpatch.make_patch(written(before), written(made.holder)).patch
    return answers.MadeOfGroup(id=new_id, label=f"Make a piece of {name}", patch=patch).told(201)


def add_played(conn: Connection, document: dict[str, Any]) -> None:
    """Puts a piece on the shelf once its answer has been worked out. Raises DocumentFault, TooMuchFault."""
    timeline = timeline_of(read_piece(document), library=revisions.library_of(document))
    answer(timeline)
    pieces.add(conn, document)
    pieces.set_lengths(conn, document["id"], timeline.run.total_ms, timeline.run.loop_ms)


def _with_library(conn: Connection, document: dict[str, Any], library: dict[str, Any]) -> dict[str, Any]:
    """A document, after the pieces that came with it have been put on the shelf."""
    read_library(library)
    _, names = collection.put(conn, library, add_played)
    return dict(holding(document, names))


@blueprint.get("/<piece_id>/piece.json")
def file_of(piece_id: str) -> Response:
    """The piece with all that stands in it, as one file."""
    content = json.dumps(pieces.bundle_of(connection(), piece_id), ensure_ascii=False, indent=1)
    headers = {"Content-Disposition": f'attachment; filename="{piece_id}.json"'}
    return Response(content, mimetype="application/json", headers=headers)


def _wanted(conn: Connection, wish: NewPiece) -> dict[str, Any]:
    if wish.document is not None:
        read_piece(unbundled(wish.document)[0])
        return dict(wish.document)
    if wish.copy_of is not None:
        original = pieces.load(conn, wish.copy_of).document
        name = (wish.name or "").strip() or _copied(original["name"])
        return {**original, "name": name, "id": _id_of(name)}
    if wish.name is None:
        raise RequestFault("name is missing.", place="/name", remedy="Name the piece, or send a document.")
    if wish.starter is not None:
        return {**starters.starter(wish.starter), "name": wish.name.strip(), "id": _id_of(wish.name.strip())}
    size = wish.model_dump(include={"width", "height", "safe_area"}, exclude_none=True)
    return {**_empty(wish.name.strip()), **size, "id": _id_of(wish.name.strip())}


def _copied(name: str) -> str:
    return f"{name[: LONGEST_NAME - 5]} copy"


@blueprint.get("/<piece_id>")
def show(piece_id: str) -> ResponseReturnValue:
    """A piece with all that is computed of it; with `?shows=TRAIT:OPTION,…` with other options than it shows."""
    stored = pieces.load(connection(), piece_id)
    shows = request.args.get("shows", "")
    key = f"{stored.revision}-{revisions.holds(stored)}-{len(stored.undo or '')}-{_id_of(shows)}-{VERSION}"
    if request.if_none_match.contains(key):
        return Response(status=304)
    if shows:
        response = revisions.as_shown(
            stored, dict(each.split(":", 1) for each in shows.split(",") if ":" in each)
        ).told()
    else:
        response = revisions.whole(current_app.config["DATABASE"], stored).told()
    response.set_etag(key)
    response.headers["Cache-Control"] = "no-cache"
    return response


@blueprint.get("/<piece_id>/revision")
def revision(piece_id: str) -> ResponseReturnValue:
    """The number of the newest revision: asked for again and again by whoever wants to follow."""
    number, has_copies = pieces.revision_of(connection(), piece_id)
    # Only then is the whole of it read: this is asked for all the time.
    holds = revisions.holds(pieces.load(connection(), piece_id)) if has_copies else ""
    return answers.Revision(revision=number, holds=holds).told()


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
    return answers.Made(id=piece_id).told()


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
