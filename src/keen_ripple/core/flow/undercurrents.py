"""Undercurrents worked out: the moves of one period, for sampling and for the tape."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import pairwise
from typing import Literal

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.curves import parse_easing
from keen_ripple.core.document import Piece
from keen_ripple.core.document.undercurrents import Course, Undercurrent, value_of
from keen_ripple.core.flow.finer import Finer
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.tape import TapeTrack, tape_of
from keen_ripple.core.flow.track import Track
from keen_ripple.core.properties import BY_NAME, blend_of


def course_tracks(piece: Piece) -> list[tuple[Undercurrent, Course, Track]]:
    """Each course, and as a track whose times are ms inside the period."""
    return [
        (undercurrent, course, _track(course, undercurrent.period_ms, piece.blend))
        for undercurrent in piece.undercurrents
        for course in undercurrent.courses
    ]


def course_tape(undercurrent: Undercurrent, colour_space: str, finer: Mapping[str, Finer]) -> list[TapeTrack]:
    """One track for each course, over the period with which the piece starts; finer for the layers that need it."""
    period = undercurrent.period_ms
    return [
        _from_within(_joined(course, period, colour_space, finer), undercurrent.ahead_ms(course), period)
        for course in undercurrent.courses
    ]


def _track(course: Course, period_ms: int, colour_space: str) -> Track:
    row = BY_NAME[course.property]
    values = [value_of(course.property, key.value) for key in course.keys]
    blend = blend_of(row, colour_space, *values)
    return Track(course.layer, row, blend, values[0], tuple(_moves(course, period_ms)))


def _moves(course: Course, period_ms: int) -> Iterator[Move]:
    keys = [(key.at_ms, value_of(course.property, key.value), key.easing) for key in course.keys]
    if keys[-1][0] < period_ms:
        keys.append((period_ms, keys[0][1], ""))
    for (start, value, easing), (end, following, _) in pairwise(keys):
        if value != following:
            yield Move(course.layer, course.property, start, end, parse_easing(easing), value, following)


def _joined(course: Course, period_ms: int, colour_space: str, finer: Mapping[str, Finer]) -> TapeTrack:
    """The tapes of all moves in one: between them the value stands."""
    tracks = tape_of(tuple(_moves(course, period_ms)), colour_space, finer=finer)
    if not tracks:
        value = value_of(course.property, course.keys[0].value)
        still = blend_of(BY_NAME[course.property], colour_space, value).between(value, value)
        return TapeTrack(course.layer, course.property, np.zeros(1), still.rows(np.zeros(1)), still.form)
    times = np.concatenate([track.times_ms for track in tracks])
    rows = np.concatenate([track.rows for track in tracks])
    return TapeTrack(course.layer, course.property, times, rows, tracks[0].form)


def _from_within(track: TapeTrack, ahead_ms: int, period_ms: int) -> TapeTrack:
    """The same going round, begun so many ms into the period."""
    if not ahead_ms:
        return track
    times, rows = track.times_ms, track.rows
    later, earlier, left = times > ahead_ms, times < ahead_ms, period_ms - ahead_ms
    ends = np.array([0.0, left, left, period_ms])
    at = np.concatenate([ends[:1], times[later] - ahead_ms, ends[1:3], times[earlier] + left, ends[3:]])
    seam = [_row_at(track, period_ms, "right"), _row_at(track, 0.0, "left")]
    first, last = _row_at(track, ahead_ms, "right"), _row_at(track, ahead_ms, "left")
    through = np.concatenate([[first], rows[later], seam, rows[earlier], [last]])
    return TapeTrack(track.layer, track.property, at, through, track.form)


def _row_at(track: TapeTrack, t_ms: float, side: Literal["left", "right"]) -> Floats:
    """The row before (`left`) or from a moment on; it only matters where the track jumps."""
    times, rows = track.times_ms, track.rows
    index = int(np.searchsorted(times, t_ms, side=side))
    if index in (0, len(times)):
        return np.asarray(rows[min(index, len(times) - 1)])
    before, after = times[index - 1], times[index]
    share = (t_ms - before) / (after - before)
    return np.asarray(rows[index - 1] * (1.0 - share) + rows[index] * share)
