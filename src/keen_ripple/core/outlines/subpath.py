"""A subpath as cubics, measured along its length."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.outlines.path_data import parse

# Chords by which the length of one cubic is measured.
CHORDS = 24
# So near to a corner is the corner, as a share of the whole length.
CORNER = 1e-7
# So near to where it started an outline has returned there, though it is not written as closed; px.
RETURNED = 1e-6


@dataclass(frozen=True, eq=False)
class Subpath:
    """`cubics` has the shape (n, 4, 2): start, two handles, end; each starts where the one before ends.

    `closed` ones end where they start; `marked` are those that are also written so, and have no ends to be capped.
    """

    cubics: Floats
    closed: bool
    marked: bool = True

    @cached_property
    def _measure(self) -> tuple[Floats, Floats]:
        """Shares of the whole length, and where they lie: the number of the cubic plus the parameter on it."""
        t = np.linspace(0.0, 1.0, CHORDS + 1)
        points = evaluated(self.cubics[:, None], t[None, :, None])
        chords = np.hypot(*np.moveaxis(np.diff(points, axis=1), -1, 0))
        along = np.concatenate(([0.0], np.cumsum(chords)))
        places = np.arange(len(along)) / CHORDS
        return (along / along[-1] if along[-1] > 0.0 else places / places[-1]), places

    @property
    def shares(self) -> Floats:
        """Where cubics start and end, as shares of the whole length, from 0 to 1; shape (n + 1,)."""
        return self._measure[0][::CHORDS]

    def points_at(self, shares: Floats) -> Floats:
        """Points (n, 2) at shares of the length."""
        places = np.interp(shares, *self._measure)
        index = np.minimum(places.astype(int), len(self.cubics) - 1)
        return evaluated(self.cubics[index], (places - index)[:, None])

    def cut_at(self, shares: Floats) -> Floats:
        """The same curve as cubics (len(shares) − 1, 4, 2) from share to share; every own corner must be among them."""
        middles = np.interp((shares[:-1] + shares[1:]) / 2.0, *self._measure)
        index = np.minimum(middles.astype(int), len(self.cubics) - 1)
        places = np.interp(shares, *self._measure)
        ends = np.clip(np.stack((places[:-1], places[1:])) - index, 0.0, 1.0)
        cut = _parts(self.cubics[index], *ends)
        # Neighbours meet to the last bit.
        cut[1:, 0] = cut[:-1, 3]
        return cut

    def backwards(self) -> Subpath:
        """The same outline, drawn the other way round."""
        return replace(self, cubics=self.cubics[::-1, ::-1])

    def begun_at(self, share: float) -> Subpath:
        """A closed subpath begun elsewhere."""
        nearest = float(self.shares[np.argmin(np.abs(self.shares - share))])
        share = nearest if abs(nearest - share) < CORNER else share
        if share in (0.0, 1.0):
            return self
        shares = np.unique(np.concatenate((self.shares, [share])))
        cut = self.cut_at(shares)
        return replace(self, cubics=np.roll(cut, -int(np.searchsorted(shares, share)), axis=0))

    @cached_property
    def polygon(self) -> Floats:
        """Points (n, 2) along it: corners, and so many between that chords leave a curve by less than 0.05%."""
        parts = []
        for cubic in self.cubics:
            steps = 1 if _straight(cubic) else 32
            parts.append(evaluated(cubic[None], np.arange(steps)[:, None] / steps))
        end = [] if self.closed else [self.cubics[-1, 3:]]
        return np.concatenate((*parts, *end))

    @property
    def area(self) -> float:
        """What it encloses, in px²; never negative."""
        return abs(self.signed_area)

    @cached_property
    def signed_area(self) -> float:
        """The same, below 0 where it runs anticlockwise on the screen."""
        x, y = self.polygon.T
        return float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2.0

    @property
    def middle(self) -> Floats:
        """The middle of its bounds."""
        return np.asarray((self.polygon.min(axis=0) + self.polygon.max(axis=0)) / 2.0)

    @property
    def size(self) -> Floats:
        """Width and height of its bounds."""
        return np.asarray(np.ptp(self.polygon, axis=0))


@lru_cache(maxsize=1024)
def subpaths(data: str) -> tuple[Subpath, ...]:
    """The subpaths of SVG path data, in their order. Raises PathFault for text that is none."""
    found: list[Subpath] = []
    cubics: list[Floats] = []
    start = here = np.zeros(2)
    for name, operands in [*parse(data).value, ("endPath", ())]:
        points = [np.array(point, dtype=np.float64) for point in operands]
        if name == "moveTo":
            start = here = points[0]
        elif name == "lineTo":
            cubics.append(_line(here, points[0]))
        elif name == "curveTo":
            cubics.append(np.array([here, *points]))
        elif name == "qCurveTo":
            cubics.append(_raised(here, *points))
        if name in ("closePath", "endPath"):
            if name == "closePath" and np.any(here != start):
                cubics.append(_line(here, start))
            if cubics:
                marked = name == "closePath"
                returns = len(cubics) > 1 and bool(np.all(np.abs(cubics[-1][3] - cubics[0][0]) < RETURNED))
                found.append(Subpath(np.array(cubics), marked or returns, marked))
            cubics, here = [], start
        elif points:
            here = points[-1]
    # Nothing but a point, which a round cap still shows.
    return tuple(found) or (Subpath(np.array([_line(start, start)]), False, False),)


def _line(a: Floats, b: Floats) -> Floats:
    return np.array([a, a + (b - a) / 3.0, b - (b - a) / 3.0, b])


def _raised(start: Floats, handle: Floats, end: Floats) -> Floats:
    """A quadratic as a cubic."""
    return np.array([start, start + (handle - start) * (2.0 / 3.0), end + (handle - end) * (2.0 / 3.0), end])


def _straight(cubic: Floats) -> bool:
    (x, y), (u, v), (w, z) = cubic[1:] - cubic[0]
    return bool(abs(u * z - v * w) + abs(x * z - y * w) < 1e-9 * (1.0 + w * w + z * z))


def evaluated(cubic: Floats, t: Floats) -> Floats:
    """Points on cubics; the Bernstein form, over the last axis but one."""
    a, b, c, d = cubic[..., 0, :], cubic[..., 1, :], cubic[..., 2, :], cubic[..., 3, :]
    r = 1.0 - t
    return np.asarray(r**3 * a + 3.0 * r * r * t * b + 3.0 * r * t * t * c + t**3 * d)


def _parts(cubics: Floats, low: Floats, high: Floats) -> Floats:
    """The part of each cubic (n, 4, 2) between two parameters (n,) of its own, by its blossom."""
    low, high = low[:, None], high[:, None]

    def blossom(r: Floats, s: Floats, t: Floats) -> Floats:
        first = cubics[:, :3] + np.diff(cubics, axis=1) * r[:, None]
        second = first[:, :2] + np.diff(first, axis=1) * s[:, None]
        return np.asarray(second[:, 0] + (second[:, 1] - second[:, 0]) * t)

    start = np.where(low == 0.0, cubics[:, 0], blossom(low, low, low))
    end = np.where(high == 1.0, cubics[:, 3], blossom(high, high, high))
    return np.stack((start, blossom(low, low, high), blossom(low, high, high), end), axis=1)
