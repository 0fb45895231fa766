"""How far the outline of one layer jumps where a loop closes, and how its speed changes."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.measures.geometry import outline_points, seen, shape_of
from keen_ripple.core.measures.seam_looks import Look

# Points at which each curve of an outline is followed: chords then leave a circle of 100 px by less than 0.02 px.
POINTS_PER_CURVE = 40


class OutlineAround:
    """The outline of a layer one step before the loop closes, at both sides of that, and one step after."""

    def __init__(self, kind: str, looks: Sequence[Look], matrices: Sequence[Floats]) -> None:
        self._kind = kind
        self._looks = looks
        self._matrices = matrices
        shapes = [shape_of(kind, look) for look in looks]
        is_flat = all(matrix[2, 0] == matrix[2, 1] == 0.0 for matrix in matrices)
        # Only its place, size and turn change: then one product tells of all its points how far they go.
        self._is_rigid = is_flat and all(shape == shapes[0] for shape in shapes[1:])

    @property
    def way(self) -> float:
        """How far the farthest point goes at the seam, in px; of outlines with other points, how far they are apart."""
        if self._is_rigid:
            return self._farthest(self._matrices[2] - self._matrices[1])
        return _way(*self._seen[1:3])

    @cached_property
    def apart(self) -> float:
        """The greatest distance of a point on one side from the outline on the other (Hausdorff), in px."""
        return _apart(*self._seen[1:3])

    @property
    def length(self) -> float:
        """Of the outline just before the seam, in px."""
        points = self._seen[1]
        return float(np.hypot(*np.diff(points, axis=0, append=points[:1]).T).sum())

    @property
    def speed_change(self) -> float:
        """In px per step; an outline that is written anew with other points has no speed."""
        if self._is_rigid:
            earlier, before, after, later = self._matrices
            return self._farthest((later - after) - (before - earlier))
        earlier, before, after, later = self._seen
        if len({points.shape for points in self._seen}) > 1:
            return 0.0
        return _way(before - earlier, later - after)

    @cached_property
    def _local(self) -> Floats:
        return outline_points(self._kind, self._looks[0], POINTS_PER_CURVE)

    @cached_property
    def _seen(self) -> list[Floats]:
        if self._is_rigid:
            return [seen(self._local, matrix) for matrix in self._matrices]
        pairs = zip(self._looks, self._matrices, strict=True)
        return [seen(outline_points(self._kind, look, POINTS_PER_CURVE), matrix) for look, matrix in pairs]

    def _farthest(self, change: Floats) -> float:
        """The longest way that a point of the outline goes when its matrix changes by this."""
        if not change[:2, :2].any():
            return float(np.hypot(change[0, 2], change[1, 2]))
        return float(np.max(np.hypot(*(self._local @ change[:2, :2].T + change[:2, 2]).T)))


def _way(a: Floats, b: Floats) -> float:
    if a.shape == b.shape:
        return float(np.max(np.hypot(*(a - b).T)))
    return _apart(a, b)


def _apart(a: Floats, b: Floats) -> float:
    return max(_away(a, b), _away(b, a))


def _away(points: Floats, outline: Floats) -> float:
    """How far the farthest of these points lies from an outline, taken as closed; chords leave a curve by less."""
    start = outline[None]
    along = np.roll(outline, -1, axis=0)[None] - start
    length = np.maximum(np.sum(along**2, axis=-1), 1e-12)
    share = np.clip(np.sum((points[:, None] - start) * along, axis=-1) / length, 0.0, 1.0)
    nearest = start + share[..., None] * along
    return float(np.hypot(*np.moveaxis(points[:, None] - nearest, -1, 0)).min(axis=1).max())
