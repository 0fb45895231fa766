"""Which subpath of one outline becomes which of another: by place, size, and whether they are closed.

What has no partner shrinks to a point, or grows from one; its holes go with it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.outlines.components import Component, components_of
from keen_ripple.core.outlines.subpath import Subpath

# Closed and open ones are paired only where nothing else is left.
UNLIKE = 1e9


@dataclass(frozen=True, eq=False)
class Pair:
    """A subpath of each outline; one of them is None where the other shrinks to `point`, or grows from it."""

    one: Subpath | None
    other: Subpath | None
    point: Floats


def paired(a: Sequence[Subpath], b: Sequence[Subpath]) -> list[list[Pair]]:
    """Every subpath of both, with a partner of the other or by itself; those that belong together in one list."""
    return list(_pairs_of(components_of(a), components_of(b)))


def apart(a: Sequence[Subpath], b: Sequence[Subpath]) -> list[Pair]:
    """Each outline as a whole by itself: one shrinks to its side while the other grows from the opposite one.

    Halfway both are half as large and lie beside each other, so that nothing crosses.
    """
    (a_low, a_high), (b_low, b_high) = _box(a), _box(b)
    middles = (a_low + a_high) / 2.0, (b_low + b_high) / 2.0
    # Along the axis on which they are apart already, or else the longer one.
    size = np.maximum(a_high, b_high) - np.minimum(a_low, b_low)
    axis = int(np.argmax(np.abs(middles[1] - middles[0]) * 10.0 + size))
    gap = 0.04 * max(float((a_high - a_low)[axis]), float((b_high - b_low)[axis]))
    goes_back = middles[0][axis] <= middles[1][axis]
    ends = [middles[0].copy(), middles[1].copy()]
    ends[0][axis] = a_low[axis] - gap if goes_back else a_high[axis] + gap
    ends[1][axis] = b_high[axis] + gap if goes_back else b_low[axis] - gap
    return [Pair(one, None, ends[0]) for one in a] + [Pair(None, other, ends[1]) for other in b]


def _box(subpaths: Sequence[Subpath]) -> tuple[Floats, Floats]:
    points = np.concatenate([path.polygon for path in subpaths])
    return np.asarray(points.min(axis=0)), np.asarray(points.max(axis=0))


def _pairs_of(a: Sequence[Component], b: Sequence[Component]) -> Iterator[list[Pair]]:
    assigned = _assigned([c.outer for c in a], [c.outer for c in b])
    for i, one in enumerate(a):
        j = assigned.get(i)
        yield [Pair(path, None, one.middle) for path in one.subpaths] if j is None else _of_components(one, b[j])
    for j, other in enumerate(b):
        if j not in assigned.values():
            yield [Pair(None, path, other.middle) for path in other.subpaths]


def _of_components(one: Component, other: Component) -> list[Pair]:
    """Outer with outer, holes with holes."""
    holes = _assigned(one.holes, other.holes)
    return [
        Pair(one.outer, other.outer, one.middle),
        *(Pair(hole, other.holes[holes[k]] if k in holes else None, hole.middle) for k, hole in enumerate(one.holes)),
        *(Pair(None, hole, hole.middle) for k, hole in enumerate(other.holes) if k not in holes.values()),
    ]


def _assigned(a: Sequence[Subpath], b: Sequence[Subpath]) -> dict[int, int]:
    """For each of the fewer its own of the more: the cheapest pair first, then exchanged while that costs less."""
    if not a or not b:
        return {}
    costs = _costs(a, b)
    found: dict[int, int] = {}
    taken: set[int] = set()
    for place in np.argsort(costs, axis=None).tolist():
        i, j = divmod(place, len(b))
        if i not in found and j not in taken:
            found[i] = j
            taken.add(j)
    pairs = list(found)
    for x, i in enumerate(pairs):
        for k in pairs[x + 1 :]:
            if costs[i, found[k]] + costs[k, found[i]] < costs[i, found[i]] + costs[k, found[k]]:
                found[i], found[k] = found[k], found[i]
    return found


def _costs(a: Sequence[Subpath], b: Sequence[Subpath]) -> Floats:
    middles = np.array([p.middle for p in a])[:, None] - np.array([p.middle for p in b])[None]
    sizes = np.array([p.size for p in a])[:, None] - np.array([p.size for p in b])[None]
    unlike = np.array([p.closed for p in a])[:, None] != np.array([p.closed for p in b])[None]
    return np.asarray(np.sum(middles**2 + sizes**2, axis=2) + unlike * UNLIKE)
