"""Sampling: whole poses at any moments.

Numbers are made ready once, and then all that moves along one curve at one time is one product.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves import Easing
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.flow.track import Progress, Track, looks_at

Rows = np.ndarray[tuple[int], np.dtype[np.intp]]


@dataclass(frozen=True, eq=False)
class _Group:
    """Moves with the same time and curve: the rows that they move, from and to which values."""

    start_ms: float
    end_ms: float
    easing: Easing | None
    rows: Rows
    start: Floats
    end: Floats


class Numbers:
    """The tracks of numbers among `tracks`, in their order; `at` gives a row for each."""

    def __init__(self, tracks: Sequence[Track]) -> None:
        self.tracks = tuple(track for track in tracks if track.property.blend == "linear")
        self._first = np.array([track.first for track in self.tracks], dtype=np.float64)
        limits = [(track.property.low, track.property.high, track.property.clamped) for track in self.tracks]
        self._low = np.array([low if clamped and low is not None else -np.inf for low, _, clamped in limits])
        self._high = np.array([high if clamped and high is not None else np.inf for _, high, clamped in limits])
        self._groups = self._grouped()

    def _grouped(self) -> list[_Group]:
        """In the order of time, and so in that of the moves of each track."""
        found: dict[tuple[float, float, Easing | None], list[tuple[int, float, float]]] = {}
        for row, track in enumerate(self.tracks):
            for move in track.moves:
                found.setdefault((move.start_ms, move.end_ms, move.easing), []).append((row, move.start, move.end))
        groups = []
        for key, moves in sorted(found.items(), key=lambda item: item[0][:2]):
            rows, start, end = (np.array(column) for column in zip(*moves, strict=True))
            groups.append(_Group(*key, rows, start.astype(np.float64), end.astype(np.float64)))
        return groups

    def at(self, progress: Progress) -> Floats:
        """Values, shape (len(tracks), moments); at the moment of a cut the new one."""
        values = np.repeat(self._first[:, None], len(progress.times_ms), axis=1)
        for group in self._groups:
            inside, p = progress.along(group.start_ms, group.end_ms, group.easing)
            if len(p):
                # Both products, so that progress 1 gives the end to the last bit.
                values[group.rows, inside] = np.outer(group.start, 1.0 - p) + np.outer(group.end, p)
            if inside.stop < len(progress.times_ms):
                values[group.rows, inside.stop :] = group.end[:, None]
        return np.clip(values, self._low[:, None], self._high[:, None])


def poses_at(rest: Pose, tracks: Sequence[Track], times_ms: Floats) -> list[dict[str, dict[str, Any]]]:
    """The pose at each of the moments, which must not fall."""
    poses = [{layer: dict(look) for layer, look in rest.items()} for _ in times_ms]
    write_tracks(poses, tracks, Numbers(tracks), times_ms)
    return poses


def write_tracks(
    poses: Sequence[dict[str, dict[str, Any]]], tracks: Sequence[Track], numbers: Numbers, times_ms: Floats
) -> None:
    """Writes what the tracks are at each of the moments, which must not fall, into the poses; with their numbers made
    ready."""
    progress = Progress(times_ms)
    for track, row in zip(numbers.tracks, numbers.at(progress).tolist(), strict=True):
        _write(poses, track, row)
    for track in tracks:
        if track.property.blend != "linear":
            _write(poses, track, looks_at(track, progress))


def _write(poses: Sequence[dict[str, dict[str, Any]]], track: Track, values: Sequence[Any]) -> None:
    layer, name = track.layer, track.property.name
    for pose, value in zip(poses, values, strict=True):
        pose[layer][name] = value
