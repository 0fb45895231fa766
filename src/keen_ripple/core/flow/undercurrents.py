"""Undercurrents worked out: the moves of one period, for sampling and for the tape."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import pairwise

import numpy as np

from keen_ripple.core.curves import parse_easing
from keen_ripple.core.document import Piece
from keen_ripple.core.document.undercurrents import Course, Undercurrent
from keen_ripple.core.flow.finer import Finer
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.tape import TapeTrack, tape_of
from keen_ripple.core.flow.track import Track
from keen_ripple.core.properties import BY_NAME, blend_of


def course_tracks(piece: Piece) -> list[tuple[Undercurrent, Track]]:
    """Each course as a track whose times are ms inside the period."""
    return [
        (undercurrent, _track(course, undercurrent.period_ms, piece.blend))
        for undercurrent in piece.undercurrents
        for course in undercurrent.courses
    ]


def course_tape(undercurrent: Undercurrent, colour_space: str, finer: Mapping[str, Finer]) -> list[TapeTrack]:
    """One track for each course, over one period; finer than usual for the layers that need it."""
    return [_joined(course, undercurrent.period_ms, colour_space, finer) for course in undercurrent.courses]


def _track(course: Course, period_ms: int, colour_space: str) -> Track:
    row = BY_NAME[course.property]
    first = course.keys[0].value
    blend = blend_of(row, colour_space, *(key.value for key in course.keys))
    return Track(course.layer, row, blend, first, tuple(_moves(course, period_ms)))


def _moves(course: Course, period_ms: int) -> Iterator[Move]:
    keys = [(key.at_ms, key.value, key.easing) for key in course.keys]
    if keys[-1][0] < period_ms:
        keys.append((period_ms, keys[0][1], ""))
    for (start, value, easing), (end, following, _) in pairwise(keys):
        if value != following:
            yield Move(course.layer, course.property, start, end, parse_easing(easing), value, following)


def _joined(course: Course, period_ms: int, colour_space: str, finer: Mapping[str, Finer]) -> TapeTrack:
    """The tapes of all moves in one: between them the value stands."""
    tracks = tape_of(tuple(_moves(course, period_ms)), colour_space, finer=finer)
    if not tracks:
        value = course.keys[0].value
        still = blend_of(BY_NAME[course.property], colour_space, value).between(value, value)
        return TapeTrack(course.layer, course.property, np.zeros(1), still.rows(np.zeros(1)), still.form)
    times = np.concatenate([track.times_ms for track in tracks])
    rows = np.concatenate([track.rows for track in tracks])
    return TapeTrack(course.layer, course.property, times, rows, tracks[0].form)
