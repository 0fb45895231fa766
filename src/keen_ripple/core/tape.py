"""The tape: knots of which straight lines are the motion, within the tolerance of each property.

Knots belong to curves, not to properties: a curve is simplified once in progress, for the tolerance that a distance
needs, and mapped onto every move along it. Each transition has a tape of its own; a run is a row of them.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends import Blend
from keen_ripple.core.curves import Easing
from keen_ripple.core.curves.fit import fit_lines
from keen_ripple.core.moves import Move
from keen_ripple.core.properties import BY_NAME, Property, blend_of

# Traces are off by at most 2e-5 of progress, and rounding takes its share; the rest of a tolerance is for the knots.
SHARE = 0.9
TRACE_ERROR = 2e-5


@dataclass(frozen=True, eq=False)
class TapeTrack:
    """Knots of one property in one transition: `times_ms` (n,) and `rows` (n, columns).

    Times never fall; equal ones are a jump. Before its first knot a track shows its first row, after its last its last.
    """

    layer: str
    property: str
    times_ms: Floats
    rows: Floats


def tape_of(
    moves: Sequence[Move], colour_space: str, known: Mapping[Move, TapeTrack] = MappingProxyType({})
) -> tuple[TapeTrack, ...]:
    """The tape of one transition, a track for each of its moves, in their order; `known` ones are taken over."""
    alike: dict[tuple[Easing, int], list[Move]] = {}
    for move in moves:
        row = BY_NAME[move.property]
        if move.easing is not None and row.blend == "linear" and move not in known:
            alike.setdefault((move.easing, _exponent(row, move)), []).append(move)
    tracks = {id(move): track for key, group in alike.items() for move, track in _mapped(key, group)}
    return tuple(known.get(move) or tracks.get(id(move)) or _single(move, colour_space) for move in moves)


def _exponent(row: Property, move: Move) -> int:
    """The tolerance in progress, as a power of two, so that moves of different lengths share the knots of a curve."""
    return math.floor(math.log2(min(row.tolerance * SHARE / abs(move.end - move.start), 1.0)))


def _mapped(key: tuple[Easing, int], group: Sequence[Move]) -> Iterator[tuple[Move, TapeTrack]]:
    """The knots of one curve on every move along it, in one product."""
    easing, exponent = key
    u, p = curve_knots(easing, 2.0**exponent).T
    numbers = np.array([(m.start_ms, m.end_ms, m.start, m.end) for m in group], dtype=np.float64)
    from_ms, to_ms, start, end = numbers.T[:, :, None]
    times, values = from_ms + u * (to_ms - from_ms), start * (1.0 - p) + end * p
    for move, t, v, low, high in zip(group, times, values, values.min(axis=1), values.max(axis=1), strict=True):
        row = BY_NAME[move.property]
        if row.clamped and ((row.low is not None and low < row.low) or (row.high is not None and high > row.high)):
            t, v = _clamped(row, t, v)
        yield move, TapeTrack(move.layer, move.property, t, v[:, None])


def _clamped(row: Property, times: Floats, values: Floats) -> tuple[Floats, Floats]:
    """A line that is clamped gets a knot where it crosses the limit."""
    for limit in (row.low, row.high):
        if limit is None:
            continue
        side = np.sign(values - limit)
        at = np.flatnonzero(side[:-1] * side[1:] < 0)
        # A share of the line, which is in 0–1 however short the line: a slope may overflow.
        share = (limit - values[at]) / (values[at + 1] - values[at])
        times = np.insert(times, at + 1, times[at] + share * (times[at + 1] - times[at]))
        values = np.insert(values, at + 1, limit)
    return times, np.clip(values, row.low, row.high)


def _single(move: Move, colour_space: str) -> TapeTrack:
    """A cut, or a move of a colour."""
    row = BY_NAME[move.property]
    blend = blend_of(row, colour_space)
    if move.easing is None:
        rows = np.stack((blend.show(move.start), blend.show(move.end)))
        return TapeTrack(move.layer, move.property, np.full(2, float(move.end_ms)), rows)
    knots = colour_knots(blend, move.start, move.end, move.easing, row.tolerance * SHARE)
    times = move.start_ms + knots[:, 0] * (move.end_ms - move.start_ms)
    return TapeTrack(move.layer, move.property, times, knots[:, 1:])


@lru_cache(maxsize=4096)
def curve_knots(easing: Easing, tolerance: float) -> Floats:
    """Knots (u, progress) of a curve within `tolerance` of progress. Kept: do not write into it."""
    return fit_lines(*easing.trace(), max(tolerance - TRACE_ERROR, tolerance / 2.0))


@lru_cache(maxsize=4096)
def colour_knots(blend: Blend, start: str, end: str, easing: Easing, tolerance: float) -> Floats:
    """Knots (u, r, g, b, alpha) within `tolerance`/255 of each channel. Kept: do not write into it."""
    u, progress = _dense(*easing.trace())
    rows = blend.mix(start, end, progress)
    return fit_lines(u, rows, (tolerance, tolerance, tolerance, tolerance / 255.0))


def _dense(u: Floats, progress: Floats) -> tuple[Floats, Floats]:
    """More points on a trace, since colours bend between its straight lines: none more than 1/128 from the next."""
    counts = np.ceil(np.abs(np.diff(progress)) * 128.0).astype(int)
    counts = np.where(np.diff(u) > 0.0, np.maximum(counts, 1), 1)
    left = np.repeat(np.arange(len(counts)), counts)
    share = np.concatenate([np.arange(count) / count for count in counts])
    finer = [a[left] + share * (a[left + 1] - a[left]) for a in (u, progress)]
    return np.append(finer[0], u[-1]), np.append(finer[1], progress[-1])
