"""The seam: how far the look just before a loop closes is from the look just after."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

import numpy as np

from keen_ripple.core.colour import oklab_of
from keen_ripple.core.document import walk
from keen_ripple.core.geometry import boxes
from keen_ripple.core.poses import Pose
from keen_ripple.core.timeline import Timeline


@dataclass(frozen=True)
class Seam:
    """The greatest jump of a layer's bounds in px, and of its colour and opacity as ΔE OK (0–1), by layer."""

    distance_px: float
    colour: float
    layer: str | None

    def to_json(self) -> dict[str, object]:
        return {"distance_px": round(self.distance_px, 3), "colour": round(self.colour, 4), "layer": self.layer}


def seam_of(timeline: Timeline) -> Seam | None:
    """The seam of a loop; None where the run ends. Only a cut that closes the loop leaves one open."""
    run = timeline.run
    if run.loop_ms is None:
        return None
    closing = run.segments[-1]
    if closing.start_ms < closing.end_ms:
        return Seam(0.0, 0.0, None)
    before, after = timeline.poses[closing.from_], timeline.poses[closing.to]
    first, second = boxes(timeline.piece, before), boxes(timeline.piece, after)
    jumps = {name: _jump(first[name], second[name]) for name in first}
    shades = {layer.id: _shade(before, after, layer.id) for layer, _ in walk(timeline.piece.layers)}
    worst = max(jumps, key=lambda name: (jumps[name], shades[name]), default=None)
    colour = max(shades.values(), default=0.0)
    if worst and jumps[worst] == 0.0:
        worst = max(shades, key=lambda name: shades[name]) if colour else None
    return Seam(max(jumps.values(), default=0.0), colour, worst)


def _jump(a: tuple[float, ...], b: tuple[float, ...]) -> float:
    corners = [(box[0] + right * box[2], box[1] + low * box[3]) for box in (a, b) for right in (0, 1) for low in (0, 1)]
    return max(hypot(p[0] - q[0], p[1] - q[1]) for p, q in zip(corners[:4], corners[4:], strict=True))


def _shade(before: Pose, after: Pose, layer: str) -> float:
    """The distance in OKLab, premultiplied by alpha and opacity, alpha itself counted as a fourth axis."""
    looks = before[layer], after[layer]
    jump = float(abs(looks[0]["opacity"] - looks[1]["opacity"]))
    for name in ("fill", "stroke"):
        if name in looks[0]:
            a, b = (_premultiplied(look[name]) for look in looks)
            jump = max(jump, float(np.linalg.norm(a - b)))
    return jump


def _premultiplied(text: str) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
    lightness, a, b, alpha = oklab_of(text)
    return np.array([lightness * alpha, a * alpha, b * alpha, alpha])
