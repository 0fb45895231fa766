"""The timeline: all moves of a run on one axis of time, ready to be asked for any moment."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends import Blend
from keen_ripple.core.curves import Easing
from keen_ripple.core.document import Piece
from keen_ripple.core.legs import Leg, legs_of
from keen_ripple.core.moves import Move
from keen_ripple.core.poses import Pose, poses_of
from keen_ripple.core.properties import BY_NAME, Property, blend_of
from keen_ripple.core.run import Run, run_of


@dataclass(frozen=True)
class Track:
    """One property of one layer through the whole run: its first value, and its moves in the order of time."""

    layer: str
    property: Property
    blend: Blend
    first: Any
    moves: tuple[Move, ...]


@dataclass(frozen=True, eq=False)
class Timeline:
    """`rest` is the pose at the start; `tracks` are the properties that change during the run, and only those."""

    piece: Piece
    poses: Mapping[str, Pose]
    run: Run
    legs: Mapping[str, Leg]

    @property
    def rest(self) -> Pose:
        return self.poses[self.piece.start]

    @cached_property
    def tracks(self) -> tuple[Track, ...]:
        moves: dict[tuple[str, str], list[Move]] = {}
        for segment in self.run.segments:
            if segment.kind == "travel":
                for move in self.legs[segment.transition].moves:
                    moves.setdefault((move.layer, move.property), []).append(move.later(segment.start_ms))
        return tuple(
            Track(layer, BY_NAME[name], blend_of(BY_NAME[name], self.piece.blend), self.rest[layer][name], tuple(track))
            for (layer, name), track in moves.items()
        )


def timeline_of(piece: Piece, before: Timeline | None = None) -> Timeline:
    """Everything that can be known of a piece's motion. Raises RunFault where it cannot be played.

    What `before`, the timeline of an earlier revision, has worked out already is taken over where it still holds.
    """
    poses = poses_of(piece)
    return Timeline(piece, poses, run_of(piece), legs_of(piece, poses, before.legs if before else {}))


class Progress:
    """Progress of moves at given moments, solved once for all moves with the same time and curve."""

    def __init__(self, times_ms: Floats) -> None:
        self.times_ms = times_ms
        self._known: dict[tuple[int, int, Easing], tuple[slice, Floats]] = {}

    def during(self, move: Move) -> tuple[slice, Floats]:
        """Which moments lie inside the move, and how far it is at each of them. Moments must not fall."""
        if move.easing is None:
            at = int(np.searchsorted(self.times_ms, move.start_ms))
            return slice(at, at), np.empty(0)
        key = (move.start_ms, move.end_ms, move.easing)
        if key not in self._known:
            first, last = np.searchsorted(self.times_ms, (move.start_ms, move.end_ms))
            u = (self.times_ms[first:last] - move.start_ms) / (move.end_ms - move.start_ms)
            self._known[key] = slice(int(first), int(last)), move.easing(u)
        return self._known[key]


def values_at(track: Track, progress: Progress) -> Floats:
    """The rows that the track shows at the moments of `progress`, all inside the first round; shape (n, columns).

    At the moment of a cut the new value is shown.
    """
    first = clamp(track.property, track.blend.show(track.first)[None, :])
    rows = np.repeat(first, len(progress.times_ms), axis=0)
    for move in track.moves:
        inside, p = progress.during(move)
        rows[inside] = clamp(track.property, track.blend.mix(move.start, move.end, p))
        rows[inside.stop :] = clamp(track.property, track.blend.show(move.end)[None, :])
    return rows


def clamp(row: Property, values: Floats) -> Floats:
    """Keeps shown values inside the range of the property, where the table says so."""
    if not row.clamped:
        return values
    return np.clip(values, row.low, row.high)


def sample(timeline: Timeline, times_ms: Iterable[float]) -> list[dict[str, dict[str, Any]]]:
    """The pose at each moment, in the order asked; loops go round, ends stay."""
    moments = np.array([timeline.run.within(t) for t in times_ms])
    order = np.argsort(moments, kind="stable")
    progress = Progress(moments[order])
    poses: list[dict[str, dict[str, Any]]] = [
        {layer: dict(look) for layer, look in timeline.rest.items()} for _ in moments
    ]
    for track in timeline.tracks:
        for index, row in zip(order, values_at(track, progress), strict=True):
            poses[index][track.layer][track.property.name] = track.blend.value(row)
    return poses


def frame_times(run: Run, fps: float) -> list[float]:
    """The moments of the frames of the first round: a loop ends before it shows its first frame again."""
    count = math.ceil(run.total_ms * fps / 1000.0 - 1e-9)
    moments = [index * 1000.0 / fps for index in range(count)]
    return moments if run.loop_ms is not None else [*moments, float(run.total_ms)]
