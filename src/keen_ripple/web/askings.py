"""What the page asks of a piece without changing it: edits on trial, in-betweens, the path of a layer, pictures."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
from flask import Blueprint, Response, current_app, jsonify, request
from flask.typing import ResponseReturnValue

from keen_ripple.core.colour import colour_text
from keen_ripple.core.curves import parse_easing
from keen_ripple.core.document import read_piece
from keen_ripple.core.measures.motion_path import motion_path
from keen_ripple.core.operations import patches
from keen_ripple.core.operations.inbetween import inbetweens
from keen_ripple.core.timeline import Timeline, timeline_of
from keen_ripple.render import colour_at
from keen_ripple.store import pieces
from keen_ripple.web import pictures, revisions
from keen_ripple.web.database import connection
from keen_ripple.web.drawing import drawn
from keen_ripple.web.errors import RequestFault
from keen_ripple.web.playback import answer
from keen_ripple.web.requests import body, field, number

blueprint = Blueprint("askings", __name__, url_prefix="/api/pieces/<piece_id>")

MOST_STEPS = 100
# Of pictures, in px for each px of the piece.
LARGEST = 8.0
LATEST_MS = 1e9


def _state(timeline: Timeline, wish: Mapping[str, Any]) -> str:
    name = field(wish, "state", str)
    if name not in timeline.poses:
        known = ", ".join(timeline.poses)
        raise RequestFault(f"There is no state {name!r}.", place="/state", value=name, remedy=f"Known: {known}.")
    return str(name)


@blueprint.post("/trial")
def trial(piece_id: str) -> ResponseReturnValue:
    """{patch} → all that would be computed of the piece with this edit made."""
    stored = pieces.load(connection(), piece_id)
    document, _ = patches.apply(stored.document, field(body(), "patch", list))
    before = revisions.timeline_of_revision(current_app.config["DATABASE"], stored)
    return jsonify(answer(timeline_of(read_piece(document), before)))


@blueprint.post("/between")
def between(piece_id: str) -> ResponseReturnValue:
    """{from, to, count, easing} → what each of `count` states on the way would say, spread along the easing."""
    wish = body()
    count, easing = field(wish, "count", int), parse_easing(field(wish, "easing", str))
    if not 1 <= count <= MOST_STEPS:
        raise RequestFault(
            f"{count} states cannot lie between.", place="/count", value=count, remedy="Ask for 1 to 100."
        )
    shares = easing(np.arange(1, count + 1) / (count + 1.0)).tolist()
    start, end = field(wish, "from", str), field(wish, "to", str)
    return jsonify({"steps": inbetweens(revisions.current_timeline(piece_id).piece, start, end, shares)})


@blueprint.post("/path")
def path(piece_id: str) -> ResponseReturnValue:
    """{layer, every_ms} → points [x, y] of the layer's pivot at equal times of the run."""
    wish = body()
    points = motion_path(revisions.current_timeline(piece_id), field(wish, "layer", str), number(wish, "every_ms"))
    return jsonify({"points": points.round(2).tolist()})


@blueprint.get("/filmstrip.png")
def strip(piece_id: str) -> Response:
    """?frames=12&ground=CSS-COLOUR → moments of the run at equal distances on one sheet, as PNG."""
    frames = request.args.get("frames", 12, type=int)
    content = drawn(pieces.load(connection(), piece_id), pictures.strip, frames, request.args.get("ground") or None)
    return Response(content, mimetype="image/png", headers={"Cache-Control": "no-store"})


@blueprint.get("/picture.png")
def picture(piece_id: str) -> Response:
    """?state=ID or ?at=MS, and &scale=1 → that look on nothing but the piece's own ground, as PNG."""
    stored = pieces.load(connection(), piece_id)
    scale = _within(request.args.get("scale", 1.0, type=float), 0.01, LARGEST)
    if "state" in request.args:
        content = drawn(stored, pictures.state, request.args["state"], scale)
    else:
        at_ms = _within(request.args.get("at", 0.0, type=float), 0.0, LATEST_MS)
        content = drawn(stored, pictures.moment, at_ms, scale)
    # Asked for with the revision in its address, so that an edit asks anew.
    return Response(content, mimetype="image/png", headers={"Cache-Control": "private, max-age=60"})


def _within(value: float, low: float, high: float) -> float:
    """Within limits; what is no number is the lower one."""
    return min(max(value, low), high) if value == value else low


@blueprint.post("/colour")
def colour(piece_id: str) -> ResponseReturnValue:
    """{state, x, y} → the colour that the state's pose shows there, in px of the piece; `none` outside of it."""
    wish = body()
    timeline = revisions.current_timeline(piece_id)
    pose = timeline.poses[_state(timeline, wish)]
    r, g, b, alpha = colour_at(timeline.piece, pose, number(wish, "x"), number(wish, "y"))
    return jsonify({"colour": colour_text((r, g, b, alpha / 255.0)) if alpha else "none"})
