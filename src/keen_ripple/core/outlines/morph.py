"""Two outlines brought to the same commands, so that the way from one to the other is point by point.

Outlines with the same commands are taken as they are. All others are turned into cubics; their subpaths are paired by
size and place, and each pair is cut at the corners of both, at the same shares of their lengths. So both ends keep
their exact shapes. Where a closed outline begins, and which way round it runs, is chosen so that points travel least.
"""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.outlines.pairing import paired
from keen_ripple.core.outlines.path_data import parse
from keen_ripple.core.outlines.subpath import Subpath, subpaths

# Points at which travel is measured, and the most starts that are tried.
MEASURED = 48
STARTS = 96
SAME = 1e-7
LETTERS = {"moveTo": "M", "lineTo": "L", "curveTo": "C", "qCurveTo": "Q", "closePath": "Z", "endPath": ""}


@lru_cache(maxsize=1024)
def matched(start: str, end: str) -> tuple[str, Floats, Floats]:
    """(commands, coordinates of `start`, coordinates of `end`): one letter of M, L, Q, C, Z for each command."""
    a, b = _written(start), _written(end)
    if a is not None and b is not None and a[0] == b[0]:
        return a[0], a[1], b[1]
    commands, froms, tos = "", list[Floats](), list[Floats]()
    for one, other in paired(subpaths(start), subpaths(end)):
        closed = one.closed and other.closed
        first, second = _aligned(one, other, closed)
        commands += "M" + "C" * len(first) + ("Z" if closed else "")
        for kept, cubics in ((froms, first), (tos, second)):
            kept.append(np.concatenate((cubics[0, 0], cubics[:, 1:].ravel())))
    return commands, np.concatenate(froms), np.concatenate(tos)


def _written(data: str) -> tuple[str, Floats] | None:
    """The commands and coordinates as they stand; None where a command takes any number of points."""
    commands, points = "", list[float]()
    for name, operands in parse(data).value:
        if name == "qCurveTo" and len(operands) != 2:
            return None
        commands += LETTERS[name]
        points += [c for point in operands for c in point]
    return commands, np.array(points)


def _aligned(one: Subpath, other: Subpath, closed: bool) -> tuple[Floats, Floats]:
    """Cubics (n, 4, 2) of both, the same number, running alongside each other."""
    if one.closed and not closed:
        one = _least_travel(one, other)
    else:
        other = _least_travel(other, one)
    shares = _merged(one.shares, other.shares)
    return one.cut_at(shares), other.cut_at(shares)


def _least_travel(turned: Subpath, fixed: Subpath) -> Subpath:
    """`turned` run either way round and, if closed, begun at any corner of the two: where points travel least."""
    even = np.linspace(0.0, 1.0, MEASURED + 1)
    goal = fixed.points_at(even)
    best, least = turned, np.inf
    for way in (turned, turned.backwards()):
        for share in _starts(way, fixed) if turned.closed else (0.0,):
            travel = round(float(np.sum((way.points_at((even + share) % 1.0 if share else even) - goal) ** 2)), 6)
            if travel < least:
                best, least = way.begun_at(share), travel
    return best


def _starts(turned: Subpath, fixed: Subpath) -> list[float]:
    """Shares at which it may begin: a corner of one then falls on a corner of the other."""
    shares = np.unique(np.round((turned.shares[:-1, None] - fixed.shares[None, :-1]) % 1.0, 9))
    return [float(s) for s in shares[:: len(shares) // STARTS + 1]]


def _merged(a: Floats, b: Floats) -> Floats:
    """All shares of both, without those that all but coincide."""
    shares = np.unique(np.concatenate((a, b)))
    return np.array([0.0, *(y for x, y in pairwise(shares.tolist()) if y - x > SAME and y < 1.0 - SAME), 1.0])
