"""How layers lie in their compositions: Lottie's transforms."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from keen_ripple.core.document.layers import LayerBase
from keen_ripple.core.measures.geometry import local_matrix
from keen_ripple.handoff.lottie.keys import stands
from keen_ripple.handoff.lottie.looks import Look, Looks, number, numbers

PX, DEGREES, PERCENT, SCALE = 0.05, 0.05, 0.2, 0.2
"""Tolerances, in px, °, percent of what is shown, and percent of a size."""
LEANING = ("skew_x", "skew_y", "rotation_x", "rotation_y")
STANDS: dict[str, Any] = {
    "o": {"a": 0, "k": 100},
    "r": {"a": 0, "k": 0},
    "p": {"a": 0, "k": [0, 0]},
    "a": {"a": 0, "k": [0, 0]},
    "s": {"a": 0, "k": [100, 100]},
}


@dataclass(frozen=True)
class Place:
    """The composition in which layers lie: its size, and where in it the px of the group begin."""

    width: float
    height: float
    left: float = 0.0
    top: float = 0.0


def carried(
    looks: Looks, layer: LayerBase, place: Place, left: float = 0.0, top: float = 0.0, finer: float = 1.0
) -> dict[str, Any]:
    """How a layer lies in its composition; its own px begin at `left`, `top` of what it shows, which is so many times
    finer."""
    name = layer.id
    x = number(name, lambda look: look["x"] + _pivot(look)[0] + place.left, PX)
    y = number(name, lambda look: look["y"] + _pivot(look)[1] + place.top, PX)
    both = numbers(name, lambda look: (x.of(look)[0], y.of(look)[0]), PX)
    found = {
        "o": number(name, lambda look: look["opacity"] * look["visible"] * 100.0, PERCENT),
        "p": both if stands(looks.rows(both), PX) else {"s": True, "x": x, "y": y},
        "a": numbers(name, lambda look: ((_pivot(look)[0] + left) * finer, (_pivot(look)[1] + top) * finer), PX),
    }
    if any(look[leaning] for look in looks.of(name) for leaning in LEANING):
        return {
            **found,
            "r": number(name, lambda look: _parts(look)[0], DEGREES),
            "s": numbers(name, lambda look: [part / finer for part in _parts(look)[1:3]], SCALE),
        }
    size = 100.0 / finer
    return {
        **found,
        "r": number(name, lambda look: look["rotation"], DEGREES),
        "s": numbers(name, lambda look: (look["scale_x"] * size, look["scale_y"] * size), SCALE),
    }


def _pivot(look: Look) -> tuple[float, float]:
    return look["pivot_x"] * look["width"], look["pivot_y"] * look["height"]


def leans(look: Look) -> bool:
    """Whether right angles do not stay right."""
    return any(look[name] for name in LEANING) and abs(_parts(look)[3]) > 1e-4


def _parts(look: Look) -> tuple[float, float, float, float]:
    """Rotation (°), scales (percent) of which the matrix of a look is made, and how far it leans (percent)."""
    a, c, _, b, d, _ = local_matrix(look)[:2].ravel().tolist()
    across, turn = math.hypot(a, b), math.atan2(b, a)
    cos, sin = math.cos(turn), math.sin(turn)
    return math.degrees(turn), across * 100.0, (cos * d - sin * c) * 100.0, (cos * c + sin * d) * 100.0
