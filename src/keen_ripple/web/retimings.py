"""Edits that retime a piece, to be tried first: nothing is stored until the page makes them."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import jsonpatch
from flask import Blueprint, jsonify
from flask.typing import ResponseReturnValue

from keen_ripple.core.document import Piece, written
from keen_ripple.core.operations.retime import fitted, quantised, scaled
from keen_ripple.web import revisions
from keen_ripple.web.errors import RequestFault
from keen_ripple.web.requests import body, field, number

blueprint = Blueprint("retimings", __name__, url_prefix="/api/pieces/<piece_id>")

WAYS: Mapping[str, tuple[str, Callable[[Piece, float], Piece]]] = {
    "factor": ("Retime by {:g}", scaled),
    "length": ("Fit to {:g} ms", lambda piece, value: fitted(piece, round(value))),
    "frames": ("Set to frames at {:g} fps", quantised),
}


@blueprint.post("/retime")
def retime(piece_id: str) -> ResponseReturnValue:
    """{by: factor | length | frames, value} → the patch that would do it, and its label."""
    wish = body()
    by = field(wish, "by", str)
    if by not in WAYS:
        raise RequestFault(f"{by!r} is no way to retime.", place="/by", value=by, remedy=f"Use {', '.join(WAYS)}.")
    value = number(wish, "value")
    label, way = WAYS[by]
    before = revisions.current_timeline(piece_id).piece
    after = way(before, value)
    patch = jsonpatch.make_patch(written(before), written(after)).patch
    return jsonify({"label": label.format(value), "patch": patch})
