"""Which subpath of one outline becomes which of another: by place, size, and whether they are closed.

Where one has fewer, some of its subpaths serve several: a closed one is sliced across, in the proportion of the areas
that its slices will fill; an open one is cut along its length.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import permutations

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.outlines.subpath import Subpath, from_points

# With more subpaths than this the nearest are taken one after another instead of the best of all choices.
ALL_TRIED = 6

Pairs = list[tuple[Subpath, Subpath]]


def paired(a: Sequence[Subpath], b: Sequence[Subpath]) -> Pairs:
    """Every subpath of both, or slices of it, with a partner of the other."""
    if len(a) > len(b):
        return [(one, other) for other, one in paired(b, a)]
    served: list[list[Subpath]] = [[] for _ in a]
    for i, j in enumerate(_assigned(a, b)):
        served[i].append(b[j])
    taken = {id(other) for others in served for other in others}
    for other in b:
        if id(other) not in taken:
            served[min(range(len(a)), key=lambda i: _cost(a[i], other))].append(other)
    return [pair for one, others in zip(a, served, strict=True) for pair in _shared(one, others)]


def _assigned(few: Sequence[Subpath], many: Sequence[Subpath]) -> list[int]:
    """For each of the few its own of the many, at the least cost together."""
    costs = [[_cost(one, other) for other in many] for one in few]
    if len(many) <= ALL_TRIED:
        ways = permutations(range(len(many)), len(few))
        return list(min(ways, key=lambda way: sum(costs[i][j] for i, j in enumerate(way))))
    chosen: dict[int, int] = {}
    order = sorted((cost, i, j) for i, row in enumerate(costs) for j, cost in enumerate(row))
    for _, i, j in order:
        if i not in chosen and j not in chosen.values():
            chosen[i] = j
    return [chosen[i] for i in range(len(few))]


def _cost(one: Subpath, other: Subpath) -> float:
    far = np.sum((one.middle - other.middle) ** 2) + np.sum((one.size - other.size) ** 2)
    return float(far) + (1e9 if one.closed != other.closed else 0.0)


def _shared(one: Subpath, others: list[Subpath]) -> Pairs:
    if len(others) == 1:
        return [(one, others[0])]
    axis = _spread(np.array([other.middle for other in others]))
    others = sorted(others, key=lambda other: float(other.middle @ axis))
    weights = np.array([other.area if one.closed and other.closed else 1.0 for other in others])
    bounds = np.concatenate(([0.0], np.cumsum(weights / weights.sum() if weights.sum() else weights + 1.0)))
    bounds /= bounds[-1]
    if not one.closed or one.area == 0.0:
        if one.points_at(np.zeros(1))[0] @ axis > one.points_at(np.ones(1))[0] @ axis:
            one = one.backwards()
        return [(_stretch(one, *span), other) for span, other in zip(_spans(bounds), others, strict=True)]
    cuts = [_cut_place(one, axis, share) for share in bounds]
    return [(_slice(one, axis, *span), other) for span, other in zip(_spans(np.array(cuts)), others, strict=True)]


def _spans(bounds: Floats) -> list[tuple[float, float]]:
    return list(zip(bounds[:-1].tolist(), bounds[1:].tolist(), strict=True))


def _spread(points: Floats) -> Floats:
    """The direction in which points lie farthest apart, pointing rightwards or down."""
    axis = np.linalg.svd(points - points.mean(axis=0))[2][0]
    return np.asarray(axis if (axis[0], axis[1]) > (0.0, 0.0) or axis[0] > 1e-9 else -axis)


def _stretch(one: Subpath, low: float, high: float) -> Subpath:
    shares = one.shares[(one.shares > low) & (one.shares < high)]
    whole = np.unique(np.concatenate((one.shares, [low, high])))
    kept = np.searchsorted(whole, [low, *shares, high])
    return Subpath(one.cut_at(whole)[kept[0] : kept[-1]], False)


def _cut_place(one: Subpath, axis: Floats, share: float) -> float:
    """How far along the axis that share of the area lies on the near side; by halving."""
    along = one.polygon @ axis
    low, high = float(along.min()), float(along.max())
    if share in (0.0, 1.0):
        return high if share else low
    for _ in range(50):
        middle = (low + high) / 2.0
        near = _clipped(one.polygon, axis, middle)
        low, high = (middle, high) if _area(near) < share * one.area else (low, middle)
    return (low + high) / 2.0


def _slice(one: Subpath, axis: Floats, low: float, high: float) -> Subpath:
    return from_points(_clipped(_clipped(one.polygon, axis, high), -axis, -low), closed=True)


def _clipped(polygon: Floats, axis: Floats, limit: float) -> Floats:
    """What of a polygon lies at most `limit` along the axis (Sutherland and Hodgman, 1974)."""
    kept: list[Floats] = []
    along = polygon @ axis - limit
    for i in range(len(polygon)):
        a, b = along[i - 1], along[i]
        if (a <= 0.0) != (b <= 0.0):
            kept.append(polygon[i - 1] + (polygon[i] - polygon[i - 1]) * (a / (a - b)))
        if b <= 0.0:
            kept.append(polygon[i])
    return np.array(kept).reshape(-1, 2)


def _area(polygon: Floats) -> float:
    x, y = polygon.T
    return abs(float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1)))) / 2.0
