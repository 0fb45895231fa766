"""Edits that the core works out, of the whole piece: nothing is stored until the page makes them."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import jsonpatch
from flask import Blueprint
from flask.typing import ResponseReturnValue

from keen_ripple.core.document import Piece, written
from keen_ripple.core.operations.plain_layers import with_plain_layers
from keen_ripple.core.operations.retime import fitted, quantised, scaled
from keen_ripple.web import revisions
from keen_ripple.web.contract.answers import Retimed
from keen_ripple.web.contract.bodies import PlainLayers, Retiming, body

blueprint = Blueprint("retimings", __name__, url_prefix="/api/pieces/<piece_id>")

WAYS: Mapping[str, tuple[str, Callable[[Piece, float], Piece]]] = {
    "factor": ("Retime by {:g}", scaled),
    "length": ("Fit to {:g} ms", lambda piece, value: fitted(piece, round(value))),
    "frames": ("Set to frames at {:g} fps", quantised),
}


@blueprint.post("/plain")
def plain(piece_id: str) -> ResponseReturnValue:
    """{layer} → the patch that turns a placement into plain layers, and its label."""
    wish = body(PlainLayers)
    timeline = revisions.current_timeline(piece_id)
    before = timeline.written
    patch = jsonpatch.make_patch(
        written(before), written(with_plain_layers(before, wish.layer, timeline.library))
    ).patch
    return Retimed(label="Turn into plain layers", patch=patch).told()


@blueprint.post("/retime")
def retime(piece_id: str) -> ResponseReturnValue:
    """{by: factor | length | frames, value} → the patch that would do it, and its label."""
    wish = body(Retiming)
    label, way = WAYS[wish.by]
    before = revisions.current_timeline(piece_id).written
    patch = jsonpatch.make_patch(written(before), written(way(before, wish.value))).patch
    return Retimed(label=label.format(wish.value), patch=patch).told()
