"""How often outlines cross themselves and each other."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from keen_ripple.core.arrays import Floats

# Segments are compared in blocks of so many, to bound what is held at once.
BLOCK = 256
# Touching at an end, or lying on each other, is no crossing.
WITHIN = 1e-6


def crossings(polygons: Sequence[Floats]) -> int:
    """The number of pairs of segments that cross, of all closed polygons (n, 2) together."""
    start = np.concatenate(polygons)
    way = np.concatenate([np.roll(polygon, -1, axis=0) - polygon for polygon in polygons])
    long_enough = np.hypot(*way.T) > 1e-9
    start, way = start[long_enough], way[long_enough]
    return sum(_crossed(start, way, first) for first in range(0, len(start), BLOCK))


def _crossed(start: Floats, way: Floats, first: int) -> int:
    """Crossings of one block of segments with those that come after each of them."""
    p, r = start[first : first + BLOCK, None], way[first : first + BLOCK, None]
    between, q = start[None, first:] - p, way[None, first:]
    turn = r[..., 0] * q[..., 1] - r[..., 1] * q[..., 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        t = (between[..., 0] * q[..., 1] - between[..., 1] * q[..., 0]) / turn
        u = (between[..., 0] * r[..., 1] - between[..., 1] * r[..., 0]) / turn
    crossing = (t > WITHIN) & (t < 1.0 - WITHIN) & (u > WITHIN) & (u < 1.0 - WITHIN)
    later = np.arange(first, len(start))[None] > np.arange(first, first + len(p))[:, None]
    return int(np.count_nonzero(crossing & later))
