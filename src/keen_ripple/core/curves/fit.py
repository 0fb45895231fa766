"""Few straight lines in place of many: the swing filter, one pass over the points.

From each knot the cone of slopes that pass every following point within the tolerance is narrowed until it closes;
the next knot is put on the last line that fits (Elmeleegy et al., "Online piece-wise linear approximation of numerical
streams with precision guarantees", VLDB 2009). Knots need not lie on the curve, which saves about a third of them
against methods that choose among its points.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves.easing import Easing
from keen_ripple.core.curves.linear import Linear

CSS_TOLERANCE = 0.001


def fit_lines(t: Floats, values: Floats, tolerance: float | Sequence[float] | Floats) -> Floats:
    """Knots as rows (t, value …) of which straight lines stay within `tolerance` of the points, per column.

    `t` never falls; equal times are a jump and both its sides are kept. `values` has the shape (n,) or (n, columns).
    The first and last point are kept exactly.
    """
    points = values.reshape(len(t), -1)
    tolerances = np.broadcast_to(np.asarray(tolerance, dtype=np.float64), points.shape[1:])
    pieces = np.split(np.arange(len(t)), np.flatnonzero(np.diff(t) <= 0.0) + 1)
    knots = [_smooth_piece(t[i].tolist(), points[i].tolist(), tolerances.tolist()) for i in pieces]
    return np.array([row for piece in knots for row in piece])


def _smooth_piece(t: list[float], rows: list[list[float]], tolerances: list[float]) -> list[list[float]]:
    knots = [[t[0], *rows[0]]]
    last = len(t) - 1
    at = 0
    while at < last:
        at, row = _reach(t, rows, tolerances, at, knots[-1][1:])
        knots.append([t[at], *row])
    knots[-1][1:] = rows[last]
    return knots


def _reach(
    t: list[float], rows: list[list[float]], tolerances: list[float], at: int, origin: list[float]
) -> tuple[int, list[float]]:
    """The last point that one line from `origin` at index `at` can serve, and where the line then stands."""
    columns = range(len(origin))
    low, high = [-np.inf] * len(origin), [np.inf] * len(origin)
    reached, last = at, len(t) - 1
    for i in range(at + 1, len(t)):
        dt = t[i] - t[at]
        # The very last point is met exactly, so there the tolerance is none.
        slack = [0.0] * len(origin) if i == last else tolerances
        tight = [
            (
                max(low[c], (rows[i][c] - slack[c] - origin[c]) / dt),
                min(high[c], (rows[i][c] + slack[c] - origin[c]) / dt),
            )
            for c in columns
        ]
        if any(lowest > highest + 1e-15 for lowest, highest in tight):
            break
        low, high = [pair[0] for pair in tight], [pair[1] for pair in tight]
        reached = i
    dt = t[reached] - t[at]
    return reached, [_nearest(rows[reached][c], origin[c] + low[c] * dt, origin[c] + high[c] * dt) for c in columns]


def _nearest(value: float, low: float, high: float) -> float:
    return min(max(value, low), high)


@lru_cache(maxsize=1024)
def as_linear(easing: Easing, tolerance: float) -> Linear:
    """The curve as linear() with an error of at most `tolerance`, as printed."""
    u, progress = easing.trace()
    if u[-2] == 1.0:
        # CSS text ends on 1 instead of jumping there.
        u, progress = u[:-1], np.append(progress[:-2], 1.0)
    # Rounding to the five places that are printed takes a share of the tolerance.
    knots = fit_lines(u, progress, tolerance * 0.96)
    return Linear(tuple((float(x), float(y)) for x, y in knots))
