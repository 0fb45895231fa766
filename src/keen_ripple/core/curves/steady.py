"""Time itself as progress, for motions that are said by time and not by a share of a way."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves.linear import Linear

# So many that no swing of what is said by time falls between them.
POINTS = 1024


@dataclass(frozen=True)
class Steady(Linear):
    """The straight line, traced densely enough for whatever bends along it."""

    def trace(self) -> tuple[Floats, Floats]:
        u = np.linspace(0.0, 1.0, POINTS)
        return u, u


STEADY = Steady()
