"""The graph of one property through a run: its values and speeds as the curves have them, not the tape."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import zip_longest

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.track import Progress, Track, values_at
from keen_ripple.core.timeline import Timeline

# Moments at which a move is looked at; those of its extremes are found between them.
PER_MOVE = 193
# A share of the move: how far apart the values are whose difference is a speed.
NEAR = 1e-6
# A step is no speed: what changes more than so many times its way in the length of a move stands in for one.
STEEPEST = 1e3


@dataclass(frozen=True, eq=False)
class Graph:
    """`times_ms` do not fall; at a cut there are two of the same. `speeds` are per second.

    `low`, `high` and `fastest` are those of the curves themselves, `fastest` being the greatest amount of a speed.
    """

    times_ms: Floats
    values: Floats
    speeds: Floats
    low: float
    high: float
    fastest: float


def graph_of(timeline: Timeline, layer: str, property_name: str) -> Graph | None:
    """The graph through the first round; None where nothing of that name moves, or what moves is no number."""
    track = next((t for t in timeline.tracks if t.layer == layer and t.property.name == property_name), None)
    if track is None or track.property.blend != "linear":
        return None
    first = np.zeros(1)
    parts = [(first, _at(track, first), first)]
    for move, following in zip_longest(track.moves, track.moves[1:]):
        own = _moments(move)
        # A motion that takes over early ends the one before it.
        own = own if following is None else own[own <= following.start_ms]
        parts.append(_at_rest(parts[-1], own[0]))
        parts.append((own, _of_move(track, move, own), _speeds(track, move, own)))
    parts.append(_at_rest(parts[-1], float(timeline.run.total_ms)))
    times_ms, values, speeds = (np.concatenate(columns) for columns in zip(*parts, strict=True))
    low, high, fastest = float(values.min()), float(values.max()), float(np.abs(speeds).max())
    return Graph(times_ms, values, speeds, low, high, fastest)


Part = tuple[Floats, Floats, Floats]


def _at_rest(before: Part, until_ms: float) -> Part:
    """From the end of what came before."""
    times_ms, values, _ = before
    return np.array([times_ms[-1], until_ms]), np.repeat(values[-1:], 2), np.zeros(2)


def _at(track: Track, times_ms: Floats) -> Floats:
    return values_at(track, Progress(times_ms))[:, 0]


def _moments(move: Move) -> Floats:
    """Of a move, both ends among them; around its extremes closer together, so that they are met."""
    if move.easing is None:
        return np.array([move.start_ms, move.start_ms])
    u = np.linspace(0.0, 1.0, PER_MOVE)
    p = move.easing(u)
    turns = np.flatnonzero(np.diff(np.sign(np.diff(p))) != 0) + 1
    slope = np.abs(np.diff(p))
    steep = np.flatnonzero((slope[1:-1] >= slope[:-2]) & (slope[1:-1] >= slope[2:])) + 1
    near = np.unique(np.concatenate([turns, steep]))
    step = 1.0 / (PER_MOVE - 1)
    finer = [np.linspace(max(u[at] - step, 0.0), min(u[at] + 2.0 * step, 1.0), 61) for at in near[:24]]
    shares = np.unique(np.concatenate([u, *finer]))
    whole: Floats = move.start_ms + shares * (move.end_ms - move.start_ms)
    return whole


def _of_move(track: Track, move: Move, times_ms: Floats) -> Floats:
    if move.easing is None:
        before = _at(track, np.array([np.nextafter(move.start_ms, -np.inf)])) if move.start_ms > 0.0 else [move.start]
        return np.array([float(before[0]), _shown(track, np.array([move.end]))[0]])
    p = move.easing((times_ms - move.start_ms) / (move.end_ms - move.start_ms))
    return _shown(track, move.start * (1.0 - p) + move.end * p)


def _shown(track: Track, values: Floats) -> Floats:
    row = track.property
    return np.clip(values, row.low, row.high) if row.clamped else values


def _speeds(track: Track, move: Move, times_ms: Floats) -> Floats:
    """Per second, from values so near to each other that the curve between them is straight; at a step 0."""
    if move.easing is None:
        return np.zeros(2)
    length = move.end_ms - move.start_ms
    u = (times_ms - move.start_ms) / length
    # At its very end a spring is put where it would come to rest.
    last = 1.0 - NEAR / 100.0
    before, after = np.clip(u - NEAR, 0.0, last - NEAR), np.clip(u + NEAR, NEAR, last)
    values = [_shown(track, move.start * (1.0 - p) + move.end * p) for p in map(move.easing, (before, after))]
    by_share = (values[1] - values[0]) / (after - before)
    by_share[np.abs(by_share) > STEEPEST * max(abs(move.end - move.start), 1e-12)] = 0.0
    speeds: Floats = by_share / length * 1000.0
    return speeds
