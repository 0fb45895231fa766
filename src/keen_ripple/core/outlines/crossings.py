"""How often outlines cross themselves and each other."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from keen_ripple.core.arrays import Floats

# Segments are compared in blocks of so many, to bound what is held at once.
BLOCK = 256
# Touching at an end, or lying on each other, is no crossing.
WITHIN = 1e-6
Indices = np.ndarray[tuple[int], np.dtype[np.intp]]


def crossings(polygons: Sequence[Floats]) -> int:
    """The number of pairs of segments that cross, of all closed polygons (n, 2) together."""
    start = np.concatenate(polygons)
    way = np.concatenate([_ways(polygon) for polygon in polygons])
    long_enough = np.hypot(*way.T) > 1e-9
    start, way = start[long_enough], way[long_enough]
    return sum(int(np.count_nonzero(_cross(start, way, *pair))) for pair in _near_each_other(start, way))


def _ways(polygon: Floats) -> Floats:
    return np.concatenate((np.diff(polygon, axis=0), polygon[:1] - polygon[-1:]))


def _near_each_other(start: Floats, way: Floats) -> Iterator[tuple[Indices, Indices]]:
    """Pairs of segments whose bounds overlap, the first before the second: only those can cross."""
    low, high = np.minimum(start, start + way), np.maximum(start, start + way)
    for first in range(0, len(start), BLOCK):
        block = slice(first, first + BLOCK)
        (x, y), (w, z) = low[first:].T, high[first:].T
        near = (low[block, :1] <= w) & (x <= high[block, :1]) & (low[block, 1:] <= z) & (y <= high[block, 1:])
        one, other = np.nonzero(np.triu(near, 1))
        yield one + first, other + first


def _cross(start: Floats, way: Floats, one: Indices, other: Indices) -> np.ndarray[tuple[int], np.dtype[np.bool_]]:
    between, r, q = (start[other] - start[one]).T, way[one].T, way[other].T
    turn = r[0] * q[1] - r[1] * q[0]
    with np.errstate(divide="ignore", invalid="ignore"):
        t = (between[0] * q[1] - between[1] * q[0]) / turn
        u = (between[0] * r[1] - between[1] * r[0]) / turn
    return np.asarray((t > WITHIN) & (t < 1.0 - WITHIN) & (u > WITHIN) & (u < 1.0 - WITHIN))
