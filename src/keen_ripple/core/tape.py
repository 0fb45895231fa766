"""The tape: knots of which straight lines are the motion, within the tolerance of each property.

Knots belong to curves, not to properties: a curve is simplified once in progress, for the tolerance that a distance
needs, and mapped onto every move along it.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends import Blend
from keen_ripple.core.curves import Easing
from keen_ripple.core.curves.fit import fit_lines
from keen_ripple.core.moves import Move
from keen_ripple.core.timeline import Timeline, Track, clamp

# Traces are off by at most 2e-5 of progress, and rounding takes its share; the rest of a tolerance is for the knots.
SHARE = 0.9
TRACE_ERROR = 2e-5


@dataclass(frozen=True, eq=False)
class TapeTrack:
    """Knots of one property: `times_ms` (n,) never falls, equal times are a cut; `rows` (n, columns)."""

    layer: str
    property: str
    times_ms: Floats
    rows: Floats

    def same_as(self, other: TapeTrack) -> bool:
        return np.array_equal(self.times_ms, other.times_ms) and np.array_equal(self.rows, other.rows)


def tape_of(timeline: Timeline) -> tuple[TapeTrack, ...]:
    """The tape of a run from its start to the end of its first round."""
    straight = [track for track in timeline.tracks if track.property.blend == "linear"]
    chunks = _linear_chunks([(track, move) for track in straight for move in track.moves])
    for track in timeline.tracks:
        if track.property.blend == "colour":
            chunks |= {(id(track), id(move)): _colour_chunk(track, move) for move in track.moves}
    return tuple(_joined(track, chunks, timeline.run.total_ms) for track in timeline.tracks)


Chunk = tuple[Floats, Floats]
"""Times and rows of one move, from the value it starts with to the value it ends with."""


def _joined(track: Track, chunks: dict[tuple[int, int], Chunk], total_ms: int) -> TapeTrack:
    parts = [chunks[id(track), id(move)] for move in track.moves]
    first, last = track.blend.show(track.first), parts[-1][1][-1]
    times = np.concatenate(([0.0], *(times for times, _ in parts), [float(total_ms)]))
    rows = clamp(track.property, np.concatenate((first[None, :], *(rows for _, rows in parts), last[None, :])))
    fresh = np.append(True, (np.diff(times) != 0.0) | np.any(np.diff(rows, axis=0) != 0.0, axis=1))
    times, rows = times[fresh], rows[fresh]
    # Between the two sides of a jump, what comes in the middle is never seen.
    seen = np.ones(len(times), dtype=bool)
    seen[1:-1] = times[2:] != times[:-2]
    return TapeTrack(track.layer, track.property.name, times[seen], rows[seen])


def _linear_chunks(moves: Iterable[tuple[Track, Move]]) -> dict[tuple[int, int], Chunk]:
    alike: dict[tuple[Easing, float], list[tuple[Track, Move]]] = {}
    chunks: dict[tuple[int, int], Chunk] = {}
    for track, move in moves:
        if move.easing is None:
            chunks[id(track), id(move)] = _cut(track, move)
        else:
            # Tolerances in powers of two, so that moves of different lengths share the knots of a curve.
            needed = min(track.property.tolerance * SHARE / abs(move.end - move.start), 1.0)
            alike.setdefault((move.easing, math.floor(math.log2(needed))), []).append((track, move))
    for (easing, exponent), group in alike.items():
        chunks |= _mapped(curve_knots(easing, 2.0**exponent), group)
    return chunks


def _mapped(knots: Floats, group: Sequence[tuple[Track, Move]]) -> dict[tuple[int, int], Chunk]:
    """The knots of one curve on every move along it, in one product."""
    numbers = np.array([(m.start_ms, m.end_ms, m.start, m.end) for _, m in group])
    from_ms, to_ms, start, end = numbers.T[:, :, None]
    u, p = knots.T
    times, values = from_ms + u * (to_ms - from_ms), start * (1.0 - p) + end * p
    return {
        (id(track), id(move)): _with_crossings(track, t, v)
        for (track, move), t, v in zip(group, times, values, strict=True)
    }


def _with_crossings(track: Track, times: Floats, values: Floats) -> Chunk:
    """A line that will be clamped needs a knot where it crosses the limit."""
    row = track.property
    for limit in (row.low, row.high) if row.clamped else ():
        if limit is None or not (values.min() < limit < values.max()):
            continue
        side = np.sign(values - limit)
        at = np.flatnonzero(side[:-1] * side[1:] < 0)
        slope = (times[at + 1] - times[at]) / (values[at + 1] - values[at])
        times = np.insert(times, at + 1, times[at] + (limit - values[at]) * slope)
        values = np.insert(values, at + 1, limit)
    return times, values[:, None]


def _colour_chunk(track: Track, move: Move) -> Chunk:
    if move.easing is None:
        return _cut(track, move)
    knots = colour_knots(track.blend, move.start, move.end, move.easing, track.property.tolerance * SHARE)
    return move.start_ms + knots[:, 0] * (move.end_ms - move.start_ms), knots[:, 1:]


def _cut(track: Track, move: Move) -> Chunk:
    return np.full(2, float(move.end_ms)), np.stack((track.blend.show(move.start), track.blend.show(move.end)))


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
