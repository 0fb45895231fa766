"""Springs the other way round: from what is seen to the numbers that make it."""

from __future__ import annotations

from flask import Blueprint, jsonify
from flask.typing import ResponseReturnValue

from keen_ripple.core.curves import Spring
from keen_ripple.core.document import transitions
from keen_ripple.core.readings import timing_reading
from keen_ripple.web.requests import body, number

blueprint = Blueprint("springs", __name__, url_prefix="/api/springs")


@blueprint.post("")
def fit() -> ResponseReturnValue:
    """{overshoot, settling_ms} → the timing, of mass 1, and its reading; without overshoot it just does not swing."""
    wish = body()
    overshoot, settling_ms = (number(wish, name) for name in ("overshoot", "settling_ms"))
    # A hair less: springs last whole ms, rounded up.
    seconds = (settling_ms - 1e-3) / 1000.0
    spring = Spring.fit(overshoot, seconds) if overshoot != 0.0 else Spring.lasting(seconds)
    timing = {"kind": "spring", "stiffness": round(spring.stiffness, 6), "damping": round(spring.damping, 6)}
    return jsonify({"timing": timing, "reading": timing_reading(transitions.Spring.model_validate(timing))})
