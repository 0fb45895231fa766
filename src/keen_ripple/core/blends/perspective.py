"""Distances of the eye, by what they do: a point that leans towards it grows with 1/d, and that is what CSS blends
(CSS Transforms Level 2, section 12). No perspective is an eye infinitely far away."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.blend import Varied

# In 1/px: a point 300 px out of the plane and 300 px from the pivot is then off by at most 0.05 px.
TOLERANCE = 0.05 / 300.0**2


@dataclass(frozen=True)
class PerspectiveBetween:
    """Rows hold 1/d, 0 for none."""

    start: float
    end: float
    tolerances: tuple[float, ...] = (TOLERANCE,)

    @property
    def form(self) -> Any:
        return {"kind": "inverse"}

    def rows(self, progress: Floats) -> Floats:
        return np.reshape(nearness(self.start) * (1.0 - progress) + nearness(self.end) * progress, (-1, 1))

    def value(self, row: Floats) -> float:
        near = float(row[0])
        # Exactly what was written, at both ends.
        for written in (self.start, self.end):
            if near == nearness(written):
                return written
        return 1.0 / near if near > 0.0 else 0.0


def nearness(distance_px: float) -> float:
    """1/d of a distance d; CSS takes one below 1 px for 1 px."""
    return 1.0 / max(distance_px, 1.0) if distance_px else 0.0


class PerspectiveBlend(Varied):
    def between(self, start: Any, end: Any) -> PerspectiveBetween:
        return PerspectiveBetween(start, end)


PERSPECTIVE = PerspectiveBlend()
