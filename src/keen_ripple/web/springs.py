"""Springs the other way round: from what is seen to the numbers that make it."""

from __future__ import annotations

from flask import Blueprint
from flask.typing import ResponseReturnValue

from keen_ripple.core.document.wishes import spring_wished
from keen_ripple.core.measures.readings import timing_reading
from keen_ripple.web.contract.answers import FittedSpring
from keen_ripple.web.contract.bodies import SpringShape, body

blueprint = Blueprint("springs", __name__, url_prefix="/api/springs")


@blueprint.post("")
def fit() -> ResponseReturnValue:
    """{overshoot, settling_ms, mass, velocity} → the timing, its reading, and what held it back if it is another one.

    Mass (1) and velocity (0) may be left out.
    """
    wish = body(SpringShape)
    spring, held = spring_wished(wish.overshoot, wish.settling_ms, wish.mass, wish.velocity)
    timing = spring.model_dump(mode="json", exclude_unset=True)
    return FittedSpring(timing=timing, reading=timing_reading(spring), held=held).told()
