"""Subpaths that belong together: an outer one, and the holes in it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.outlines.subpath import Subpath


@dataclass(frozen=True, eq=False)
class Component:
    """An outer subpath with what lies inside of it and is cut out of it."""

    outer: Subpath
    holes: tuple[Subpath, ...] = ()

    @property
    def subpaths(self) -> tuple[Subpath, ...]:
        """Its outer subpath, then its holes."""
        return (self.outer, *self.holes)

    @cached_property
    def middle(self) -> Floats:
        """That of its outer subpath, (2,) in px of the path."""
        return self.outer.middle


def components_of(subpaths: Sequence[Subpath]) -> list[Component]:
    """In the order of their outer subpaths. An open subpath is one by itself."""
    inside = _containment(subpaths)
    depth = inside.sum(axis=1)
    holes: dict[int, list[Subpath]] = {i: [] for i in range(len(subpaths)) if depth[i] % 2 == 0}
    for i in np.flatnonzero(depth % 2).tolist():
        # The innermost of those around it.
        around = max(np.flatnonzero(inside[i]).tolist(), key=lambda j: int(depth[j]))
        holes[around].append(subpaths[i])
    return [Component(subpaths[i], tuple(own)) for i, own in holes.items()]


def _containment(subpaths: Sequence[Subpath]) -> np.ndarray[tuple[int, int], np.dtype[np.bool_]]:
    """[i, j]: whether subpath i lies inside of subpath j, both closed."""
    count = len(subpaths)
    found = np.zeros((count, count), dtype=bool)
    low = np.array([path.polygon.min(axis=0) for path in subpaths])
    high = np.array([path.polygon.max(axis=0) for path in subpaths])
    boxed = np.all(low[:, None] >= low[None], axis=2) & np.all(high[:, None] <= high[None], axis=2)
    for i, j in np.argwhere(boxed).tolist():
        one, other = subpaths[i], subpaths[j]
        if i != j and one.closed and other.closed and one.area < other.area:
            found[i, j] = _holds(other.polygon, one.polygon[0])
    return found


def _holds(polygon: Floats, point: Floats) -> bool:
    """Whether a point lies inside, by the crossings of a ray to the right."""
    a, b = polygon, np.roll(polygon, -1, axis=0)
    spans = (a[:, 1] > point[1]) != (b[:, 1] > point[1])
    with np.errstate(divide="ignore", invalid="ignore"):
        at = a[:, 0] + (point[1] - a[:, 1]) / (b[:, 1] - a[:, 1]) * (b[:, 0] - a[:, 0])
    return bool(np.count_nonzero(spans & (at > point[0])) % 2)
