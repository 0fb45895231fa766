"""What the page asks of a piece without changing it: edits on trial, in-betweens, the path of a layer, pictures."""

from __future__ import annotations

import numpy as np
from flask import Blueprint, Response, current_app, request
from flask.typing import ResponseReturnValue

from keen_ripple.core.colour import colour_text
from keen_ripple.core.curves import parse_easing
from keen_ripple.core.document import read_piece
from keen_ripple.core.measures.graph import graph_of
from keen_ripple.core.measures.motion_path import motion_path
from keen_ripple.core.operations import patches
from keen_ripple.core.operations.inbetween import inbetweens
from keen_ripple.core.timeline import timeline_of
from keen_ripple.render import colour_at
from keen_ripple.store import pieces
from keen_ripple.web import pictures, revisions
from keen_ripple.web.contract.answers import Colour, GraphOf, Points, Steps
from keen_ripple.web.contract.bodies import BetweenStates, ColourAt, GraphFor, PathOf, Trial, body
from keen_ripple.web.database import connection
from keen_ripple.web.drawing import PICTURES
from keen_ripple.web.playback import answer

blueprint = Blueprint("questions", __name__, url_prefix="/api/pieces/<piece_id>")

# Of pictures, in px for each px of the piece.
LARGEST = 8.0
LATEST_MS = 1e9


@blueprint.post("/trial")
def trial(piece_id: str) -> ResponseReturnValue:
    """{patch} → all that would be computed of the piece with this edit made."""
    stored = pieces.load(connection(), piece_id)
    document, _ = patches.apply(stored.document, body(Trial).patch)
    before = revisions.timeline_of_revision(current_app.config["DATABASE"], stored)
    return answer(timeline_of(read_piece(document), before, revisions.library_of(document))).told()


@blueprint.post("/between")
def between(piece_id: str) -> ResponseReturnValue:
    """{from, to, count, easing} → what each of `count` states on the way would say, spread along the easing."""
    wish = body(BetweenStates)
    shares = parse_easing(wish.easing)(np.arange(1, wish.count + 1) / (wish.count + 1.0)).tolist()
    piece = revisions.current_timeline(piece_id).written
    return Steps(steps=inbetweens(piece, wish.from_, wish.to, shares)).told()


@blueprint.post("/path")
def path(piece_id: str) -> ResponseReturnValue:
    """{layer, every_ms} → points [x, y] of the layer's pivot at equal times of the run."""
    wish = body(PathOf)
    points = motion_path(revisions.current_timeline(piece_id), wish.layer, wish.every_ms)
    return Points(points=[(x, y) for x, y in points.round(2).tolist()]).told()


@blueprint.post("/graph")
def graph(piece_id: str) -> ResponseReturnValue:
    """{layer, property} → its values and speeds through the run, from its curves; no points where it is no number."""
    wish = body(GraphFor)
    found = graph_of(revisions.current_timeline(piece_id), wish.layer, wish.property)
    if found is None:
        return GraphOf(points=[], low=0.0, high=0.0, fastest=0.0).told()
    columns = (found.times_ms.round(3), found.values.round(6), found.speeds.round(6))
    points = list(zip(*(column.tolist() for column in columns), strict=True))
    return GraphOf(points=points, low=found.low, high=found.high, fastest=found.fastest).told()


@blueprint.get("/filmstrip.png")
def strip(piece_id: str) -> Response:
    """?frames=12&ground=CSS-COLOUR&from=MS&to=MS → moments of the run, or of a part, on one sheet, as PNG."""
    asked = request.args
    frames, ground = asked.get("frames", 12, type=int), asked.get("ground") or None
    begin, end = asked.get("from", type=float), asked.get("to", type=float)
    part = None if begin is None or end is None else (begin, end)
    content = PICTURES.drawn(piece_id, pictures.strip, frames, ground, part)
    return Response(content, mimetype="image/png", headers={"Cache-Control": "no-store"})


@blueprint.get("/picture.png")
def picture(piece_id: str) -> Response:
    """?state=ID or ?at=MS, and &scale=1 → that look on nothing but the piece's own ground, as PNG."""
    scale = _within(request.args.get("scale", 1.0, type=float), 0.01, LARGEST)
    if "state" in request.args:
        content = PICTURES.drawn(piece_id, pictures.state, request.args["state"], scale)
    else:
        at_ms = _within(request.args.get("at", 0.0, type=float), 0.0, LATEST_MS)
        content = PICTURES.drawn(piece_id, pictures.moment, at_ms, scale)
    # Asked for with the revision in its address, so that an edit asks anew.
    return Response(content, mimetype="image/png", headers={"Cache-Control": "private, max-age=60"})


def _within(value: float, low: float, high: float) -> float:
    """Within limits; what is no number is the lower one."""
    return min(max(value, low), high) if value == value else low


@blueprint.post("/colour")
def colour(piece_id: str) -> ResponseReturnValue:
    """{state, x, y} → the colour that the state's pose shows there, in px of the piece; `none` outside of it."""
    wish = body(ColourAt)
    timeline = revisions.current_timeline(piece_id)
    pose = timeline.pose(wish.state)
    r, g, b, alpha = colour_at(timeline.piece, pose, wish.x, wish.y)
    return Colour(colour=colour_text((r, g, b, alpha / 255.0)) if alpha else "none").told()
