"""Two outlines brought to the same commands, so that the way from one to the other is point by point.

Outlines with the same commands are taken as they are where that leads through sound shapes. All others are turned into
cubics; their subpaths are paired by place and size, and each pair is cut at the corners of both, at the same shares of
their lengths, so that both ends keep their exact shapes. Where a closed outline begins is chosen by how far points
travel, how much area is left halfway, and how often the halfway shape crosses itself. Where every choice crosses, or
little is left, one outline shrinks to its side while the other grows from the opposite one.
"""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.outlines.crossings import crossings
from keen_ripple.core.outlines.pairing import Pair, apart, paired
from keen_ripple.core.outlines.path_data import parse
from keen_ripple.core.outlines.subpath import Subpath, evaluated, subpaths

# Points at which travel is measured, and the most starts that are tried, first by travel and then closely.
MEASURED = 48
STARTS = 96
CLOSELY = 8
# What a halfway shape should keep of the smaller area, and what it costs if it does not, or if it crosses itself: as
# shares of the least travel.
KEPT = 0.6
COST_OF_LOSS, COST_OF_CROSSING = 6.0, 4.0
# With less of the smaller area than this halfway the shape counts as collapsed.
COLLAPSED = 0.4
# With more subpaths than this they are not compared with each other any more.
MOST_PAIRED = 120
# Points by which a cubic is followed where crossings are counted, and the most of a whole outline.
FOLLOWED = 6
MOST_FOLLOWED = 2000
# The most corners of an outline at which another may begin.
MOST_CORNERS = 250
SAME = 1e-7
LETTERS = {"moveTo": "M", "lineTo": "L", "curveTo": "C", "qCurveTo": "Q", "closePath": "Z", "endPath": ""}

Matched = tuple[str, Floats, Floats]
Side = tuple[Floats, Floats, bool]
"""The cubics (n, 4, 2) of a pair, the same number, and whether they are written as closed."""
Sides = list[Side]
Brought = tuple[Pair, Side]


@lru_cache(maxsize=1024)
def matched(start: str, end: str) -> Matched:
    """(commands, coordinates of `start`, coordinates of `end`): one letter of M, L, Q, C, Z for each command.

    The way back is the same way.
    """
    if start > end:
        commands, ends, starts = matched(end, start)
        return commands, starts, ends
    one, other = subpaths(start), subpaths(end)
    a, b = written(start), written(end)
    as_written = a is not None and b is not None and a[0] == b[0]
    if a is not None and b is not None and as_written:
        sides = [(p.cubics, q.cubics, p.marked) for p, q in zip(one, other, strict=True)]
        if _is_sound(sides):
            return a[0], a[1], b[1]
    return _joined([side for _, side in sound_pairs(one, other)])


def sound_pairs(one: tuple[Subpath, ...], other: tuple[Subpath, ...]) -> list[Brought]:
    """Which subpath becomes which, with the cubics of both: so that what lies halfway is sound."""
    if len(one) + len(other) > MOST_PAIRED:
        return _all_brought(apart(one, other))
    facing = _facing(one, other)
    found = [each for pairs in paired(one, facing) for each in _soundly(pairs)]
    return found if _is_sound([side for _, side in found]) else _all_brought(apart(one, facing))


def _soundly(pairs: list[Pair]) -> list[Brought]:
    """What belongs together, brought to each other; each by itself where there is no sound way between."""
    found = _all_brought(pairs)
    if _is_sound([side for _, side in found]):
        return found
    ones = [pair.one for pair in pairs if pair.one is not None]
    others = [pair.other for pair in pairs if pair.other is not None]
    return _all_brought(apart(ones, others)) if ones and others else found


def _all_brought(pairs: list[Pair]) -> list[Brought]:
    return [(pair, _brought(pair)) for pair in pairs]


def _facing(one: tuple[Subpath, ...], other: tuple[Subpath, ...]) -> tuple[Subpath, ...]:
    """The other outline run as the first is: all of it or nothing, so that holes stay holes."""
    if _turn(one) * _turn(other) < 0.0:
        return tuple(path.backwards() for path in other)
    return other


def _turn(paths: tuple[Subpath, ...]) -> float:
    """Which way round the largest closed subpath runs."""
    areas = [path.signed_area for path in paths if path.closed]
    return max(areas, key=abs, default=0.0)


def _is_sound(sides: Sides) -> bool:
    """Whether the halfway shape crosses itself no more than the ends do, and has not collapsed."""
    cubics = sum(len(first) for first, _, _ in sides)
    finely = FOLLOWED if cubics * FOLLOWED <= MOST_FOLLOWED else 1
    every = cubics // MOST_FOLLOWED + 1
    followed = [_followed(first[::every], second[::every], finely) for first, second, _ in sides]
    ends = [[first for first, _ in followed], [second for _, second in followed]]
    halfway = [(a + b) / 2.0 for a, b in zip(*ends, strict=True)]
    if _filled(halfway) < COLLAPSED * min(map(_filled, ends)):
        return False
    crossed = crossings(halfway)
    return not crossed or crossed <= max(map(crossings, ends))


def _filled(polygons: list[Floats]) -> float:
    """What the closed ones enclose together, holes taken out."""
    return abs(sum(_area(polygon) for polygon in polygons if np.all(np.abs(polygon[0] - polygon[-1]) < 1e-6)))


def _followed(first: Floats, second: Floats, finely: int) -> tuple[Floats, Floats]:
    """Points (n, 2) along the cubics of both: `finely` on each, one where both are straight lines."""
    t = np.arange(finely)[None, :, None] / finely
    kept = (np.arange(finely)[None] == 0) | ~(_are_straight(first) & _are_straight(second))[:, None]
    a, b = (np.concatenate((evaluated(c[:, None], t)[kept], c[-1:, 3])) for c in (first, second))
    return a, b


def _are_straight(cubics: Floats) -> np.ndarray[tuple[int], np.dtype[np.bool_]]:
    """Which of the cubics are lines at an even pace."""
    start, handle, other, end = np.moveaxis(cubics, 1, 0)
    off = np.abs(np.stack((handle - (2.0 * start + end) / 3.0, other - (start + 2.0 * end) / 3.0)))
    return np.asarray(off.max(axis=(0, 2)) < 1e-6)


def _area(polygon: Floats) -> float:
    x, y = polygon.T
    return float(np.dot(x[:-1], y[1:]) - np.dot(y[:-1], x[1:]) + x[-1] * y[0] - y[-1] * x[0]) / 2.0


def written(data: str) -> tuple[str, Floats] | None:
    """The commands and coordinates as they stand; None where a command takes any number of points."""
    commands, points = "", list[float]()
    for name, operands in parse(data).value:
        if name == "qCurveTo" and len(operands) != 2:
            return None
        commands += LETTERS[name]
        points += [c for point in operands for c in point]
    return commands, np.array(points)


def _joined(sides: Sides) -> Matched:
    commands, froms, tos = "", list[Floats](), list[Floats]()
    for first, second, closed in sides:
        commands += "M" + "C" * len(first) + ("Z" if closed else "")
        for kept, cubics in ((froms, first), (tos, second)):
            kept.append(np.concatenate((cubics[0, 0], cubics[:, 1:].ravel())))
    return commands, np.concatenate(froms), np.concatenate(tos)


def _brought(pair: Pair) -> Side:
    """Cubics of both sides, the same number, running alongside each other."""
    one, other = pair.one, pair.other
    if one is None or other is None:
        there = one or other
        assert there is not None
        nothing = np.broadcast_to(pair.point, there.cubics.shape)
        first, second = (there.cubics, nothing) if one else (nothing, there.cubics)
        return first, second, there.marked
    closed = one.closed and other.closed
    if one.closed and not closed:
        one = best_begun(one, other)
    else:
        other = best_begun(other, one)
    shares = merged(one.shares, other.shares)
    return one.cut_at(shares), other.cut_at(shares), one.marked and other.marked


def best_begun(turned: Subpath, fixed: Subpath) -> Subpath:
    """`turned` begun where it costs least: a closed one at any corner of the two, an open one at either end."""
    if not turned.closed:
        return min((turned, turned.backwards()), key=lambda way: _travel(way, fixed, np.zeros(1))[0])
    ways = (turned,) if fixed.closed else (turned, turned.backwards())
    return min((_begun(way, fixed) for way in ways), key=lambda found: found[0])[1]


def _begun(turned: Subpath, fixed: Subpath) -> tuple[float, Subpath]:
    starts = np.array(_starts(turned, fixed))
    travel = _travel(turned, fixed, starts)
    nearest = np.argsort(travel, kind="stable")[:CLOSELY].tolist()
    harm = _Harm(fixed)
    least = max(float(travel[nearest[0]]), 1e-9)
    best, lowest = nearest[0], np.inf
    for k in nearest:
        # Harm only adds to travel, and the rest travels farther still.
        if travel[k] >= lowest:
            break
        cost = round(float(travel[k]) + least * harm.of(turned, float(starts[k])), 6)
        if cost < lowest:
            best, lowest = k, cost
    return lowest, turned.begun_at(float(starts[best]))


def _travel(turned: Subpath, fixed: Subpath, starts: Floats) -> Floats:
    """How far points travel, in squares, for each start."""
    even = np.linspace(0.0, 1.0, MEASURED + 1)
    shares = (even[None] + starts[:, None]) % 1.0 if np.any(starts) else np.repeat(even[None], len(starts), axis=0)
    points = turned.points_at(shares.ravel()).reshape(len(starts), MEASURED + 1, 2)
    return np.asarray(np.round(np.sum((points - fixed.points_at(even)[None]) ** 2, axis=(1, 2)), 6))


class _Harm:
    """What a halfway shape on the way to `fixed` loses of its area, and how often it crosses itself."""

    def __init__(self, fixed: Subpath):
        self._even = np.arange(MEASURED) / MEASURED
        self._points = fixed.points_at(self._even)
        self._area = abs(_area(self._points))
        self._crossings = crossings([self._points])

    def of(self, turned: Subpath, start: float) -> float:
        points = turned.points_at((self._even + start) % 1.0)
        halfway = (points + self._points) / 2.0
        smaller = min(abs(_area(points)), self._area)
        loss = max(KEPT - abs(_area(halfway)) / smaller, 0.0) if smaller > 0.0 else 0.0
        found = crossings([halfway])
        more = max(found - max(crossings([points]), self._crossings), 0) if found else 0
        return COST_OF_LOSS * loss + COST_OF_CROSSING * more


def _starts(turned: Subpath, fixed: Subpath) -> list[float]:
    """Shares at which it may begin: a corner of one then falls on a corner of the other."""
    one, other = _few(turned.shares[:-1], MOST_CORNERS), _few(fixed.shares[:-1], MOST_CORNERS)
    shares = np.unique(np.round((one[:, None] - other[None]) % 1.0, 9))
    return [float(s) for s in _few(shares, STARTS)]


def _few(values: Floats, most: int) -> Floats:
    """Evenly chosen among them, the first included."""
    return values[:: len(values) // most + 1]


def merged(a: Floats, b: Floats) -> Floats:
    """All shares of both, without those that all but coincide."""
    shares = np.unique(np.concatenate((a, b)))
    return np.array([0.0, *(y for x, y in pairwise(shares.tolist()) if y - x > SAME and y < 1.0 - SAME), 1.0])
