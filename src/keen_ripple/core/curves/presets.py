"""Named starting points. Curves carry their CSS names where CSS has one, else those of the animation principles."""

from __future__ import annotations

CURVES = {
    "linear": "linear",
    "ease": "ease",
    "ease-in": "ease-in",
    "ease-out": "ease-out",
    "ease-in-out": "ease-in-out",
    "anticipation": "anticipation",
    "overshoot": "overshoot",
    "bounce": "bounce",
    "elastic": "elastic",
    "settle": "cubic-bezier(0.1, 0.8, 0.2, 1)",
    "steps": "steps(4, jump-end)",
}

SPRINGS = {
    "Still water": {"stiffness": 170.0, "damping": 26.0},
    "Lapping": {"stiffness": 240.0, "damping": 22.0},
    "Swell": {"stiffness": 420.0, "damping": 24.0},
    "Breaker": {"stiffness": 560.0, "damping": 16.0},
}
