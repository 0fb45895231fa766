"""Edits that the core works out, of the whole piece: nothing is stored until the page makes them."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import jsonpatch
from flask import Blueprint
from flask.typing import ResponseReturnValue

from keen_ripple.core.document import Piece, written
from keen_ripple.core.errors import Fault
from keen_ripple.core.flow.parameters import value_of, with_values
from keen_ripple.core.operations.plain_layers import with_plain_layers
from keen_ripple.core.operations.retime import fitted, quantised, scaled
from keen_ripple.core.operations.text_as_path import with_text_as_path
from keen_ripple.render import outline_of_text
from keen_ripple.web import revisions
from keen_ripple.web.contract.answers import Parameters, Retimed
from keen_ripple.web.contract.bodies import PlainLayers, Retiming, TriedValues, body
from keen_ripple.web.playback import parameters_of

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


@blueprint.post("/text-as-path")
def text_as_path(piece_id: str) -> ResponseReturnValue:
    """{layer} → the patch that turns a text into the outlines of its letters, and its label."""
    wish = body(PlainLayers)
    timeline = revisions.current_timeline(piece_id)
    before = timeline.written
    after = with_text_as_path(before, wish.layer, lambda look: outline_of_text(look, before.fonts))
    return Retimed(label="Text as an outline", patch=jsonpatch.make_patch(written(before), after).patch).told()


@blueprint.get("/parameters")
def parameters(piece_id: str) -> ResponseReturnValue:
    """What copies of the piece may set, with what it has itself."""
    timeline = revisions.current_timeline(piece_id)
    return Parameters(parameters=parameters_of(timeline.written, timeline.library)).told()


@blueprint.post("/values")
def values(piece_id: str) -> ResponseReturnValue:
    """{values} → the patch that gives the piece itself what a copy with these values would have, and its label."""
    wish = body(TriedValues)
    before = revisions.current_timeline(piece_id).written
    after = with_values(before, wish.values)
    named = [own for own in before.parameters if own.id in wish.values]
    for own in named:
        if value_of(after, own) != wish.values[own.id]:
            raise Fault(
                f"{own.name} cannot be set to that.",
                place=f"/values/{own.id}",
                remedy="Take a value that is possible where it goes.",
            )
    patch = jsonpatch.make_patch(written(before), written(after)).patch
    return Retimed(label=" and ".join(own.name for own in named) or "nothing", patch=patch).told()


@blueprint.post("/retime")
def retime(piece_id: str) -> ResponseReturnValue:
    """{by: factor | length | frames, value} → the patch that would do it, and its label."""
    wish = body(Retiming)
    label, way = WAYS[wish.by]
    before = revisions.current_timeline(piece_id).written
    patch = jsonpatch.make_patch(written(before), written(way(before, wish.value))).patch
    return Retimed(label=label.format(wish.value), patch=patch).told()
