"""Tracks: what one property goes through, and its values at any moments."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends import Blend
from keen_ripple.core.curves import Easing
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.properties import BY_NAME, Property, blend_of


@dataclass(frozen=True)
class Track:
    """One property of one layer through the whole run: its first value, and its moves in the order of time."""

    layer: str
    property: Property
    blend: Blend
    first: Any
    moves: tuple[Move, ...]


def tracks_of(moves: Iterable[Move], rest: Pose, colour_space: str) -> tuple[Track, ...]:
    """Moves, in the order of time, sorted by what they move; `rest` is the pose before all of them."""
    found: dict[tuple[str, str], list[Move]] = {}
    for move in moves:
        found.setdefault((move.layer, move.property), []).append(move)
    return tuple(_track(layer, BY_NAME[name], colour_space, rest, tuple(own)) for (layer, name), own in found.items())


def _track(layer: str, row: Property, colour_space: str, rest: Pose, moves: tuple[Move, ...]) -> Track:
    first = rest[layer][row.name]
    blend = blend_of(row, colour_space, first, *(value for move in moves for value in (move.start, move.end)))
    return Track(layer, row, blend, first, moves)


class Progress:
    """Progress of moves at given moments, solved once for all moves with the same time and curve."""

    def __init__(self, times_ms: Floats) -> None:
        self.times_ms = times_ms
        self._known: dict[tuple[float, float, Easing], tuple[slice, Floats]] = {}

    def during(self, move: Move) -> tuple[slice, Floats]:
        """Which moments lie inside the move, and how far it is at each of them. Moments must not fall."""
        return self.along(move.start_ms, move.end_ms, move.easing)

    def along(self, start_ms: float, end_ms: float, easing: Easing | None) -> tuple[slice, Floats]:
        """The same for any move with that time and curve; None is a cut."""
        if easing is None:
            at = int(np.searchsorted(self.times_ms, start_ms))
            return slice(at, at), np.empty(0)
        key = (start_ms, end_ms, easing)
        if key not in self._known:
            first, last = np.searchsorted(self.times_ms, (start_ms, end_ms))
            u = (self.times_ms[first:last] - start_ms) / (end_ms - start_ms)
            self._known[key] = slice(int(first), int(last)), easing(u)
        return self._known[key]


def values_at(track: Track, progress: Progress) -> Floats:
    """The rows that the track shows at the moments of `progress`, all inside the first round; shape (n, columns).

    At the moment of a cut the new value is shown. Only for tracks whose blend has a fixed number of columns.
    """
    first = clamp(track.property, track.blend.show(track.first)[None, :])
    rows = np.repeat(first, len(progress.times_ms), axis=0)
    for move in track.moves:
        inside, p = progress.during(move)
        if len(p):
            rows[inside] = clamp(track.property, track.blend.between(move.start, move.end).rows(p))
        rows[inside.stop :] = clamp(track.property, track.blend.show(move.end)[None, :])
    return rows


def looks_at(track: Track, progress: Progress) -> list[Any]:
    """The same as values of the property; for every track."""
    if track.blend.columns is not None:
        value = track.blend.between(track.first, track.first).value
        return [value(row) for row in values_at(track, progress)]
    looks = [track.first] * len(progress.times_ms)
    for move in track.moves:
        inside, p = progress.during(move)
        if len(p):
            between = track.blend.between(move.start, move.end)
            looks[inside] = [between.value(row) for row in between.rows(p)]
        looks[inside.stop :] = [move.end] * (len(looks) - inside.stop)
    return looks


def limits_of(row: Property) -> tuple[float | None, float | None]:
    """Between what its places in motion stay; None where there is no limit."""
    if row.blend in ("visible", "fade"):
        return 0.0, 1.0
    return (row.low, row.high) if row.clamped and row.blend == "linear" else (None, None)


def clamp(row: Property, values: Floats) -> Floats:
    """Keeps shown values inside the range of the property, where the table says so."""
    if not row.clamped:
        return values
    return np.clip(values, row.low, row.high)
