"""linear() of CSS Easing Functions Level 2, section 2.1."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.curves.vectorised import for_float_or_array


@dataclass(frozen=True)
class Linear:
    """Straight lines through points (input, output), inputs never falling; equal inputs are a jump.

    Outside its points it goes on along the outermost line, as CSS says.
    """

    points: tuple[tuple[float, float], ...] = ((0.0, 0.0), (1.0, 1.0))

    @for_float_or_array
    def __call__(self, u: Floats) -> Floats:
        if len(self.points) == 1:
            return np.full_like(u, self.points[0][1])
        x, y = np.array(self.points).T
        left = np.clip(np.searchsorted(x, u, side="right") - 1, 0, len(x) - 2)
        span = x[left + 1] - x[left]
        with np.errstate(divide="ignore", invalid="ignore"):
            along = y[left] + (u - x[left]) / span * (y[left + 1] - y[left])
        # Of several points at one place the second counts before the first of all, as browsers have it.
        return np.asarray(np.where(span > 0.0, along, y[left + 1]))

    def css(self) -> str:
        if self == Linear():
            return "linear"
        digits = self._digits()
        stops = (f"{css_number(y, 5)} {css_number(x * 100, digits)}%" for x, y in self.points)
        return f"linear({', '.join(stops)})"

    def trace(self) -> tuple[Floats, Floats]:
        # The very first point is seen nowhere if another stands at its place.
        unseen = 1 if len(self.points) > 1 and self.points[0][0] == self.points[1][0] else 0
        inner = [(x, y) for x, y in self.points[unseen:] if 0.0 < x < 1.0]
        # Progress 0 and 1 are met at the ends, by a jump where the curve says otherwise.
        first = [] if self(0.0) == 0.0 else [(0.0, self(0.0))]
        last = [] if self(1.0) == 1.0 else [(1.0, self(1.0))]
        x, y = np.array([(0.0, 0.0), *first, *inner, *last, (1.0, 1.0)]).T
        return x, y

    def _digits(self) -> int:
        """Places of the percentages: so many that rounding them moves no value by more than about 1e-5."""
        rises = ((x2 - x1, abs(y2 - y1)) for (x1, y1), (x2, y2) in pairwise(self.points))
        steepest = max((rise / run for run, rise in rises if run > 0.0), default=1.0)
        return 4 + max(0, math.ceil(math.log10(max(steepest, 1.0) / 20.0)))
