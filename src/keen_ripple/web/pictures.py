"""What is drawn for the page, from a timeline to the bytes of a PNG file; run by the process that draws."""

from __future__ import annotations

import math
from collections.abc import Sequence

from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.rehearse import rehearse
from keen_ripple.core.timeline import Timeline, timeline_of_rehearsal
from keen_ripple.render import draw_at, draw_pose, filmstrip, png

# px: a larger picture is drawn smaller.
MOST_PIXELS = 6_000_000


def strip(timeline: Timeline, frames: int, ground: str | None, part: tuple[float, float] | None) -> bytes:
    return png(filmstrip(timeline, frames, ground, part))


def acted_strip(timeline: Timeline, events: Sequence[Event], until_ms: float, frames: int) -> bytes:
    return png(filmstrip(timeline_of_rehearsal(rehearse(timeline.piece, events, until_ms)), frames))


def state(timeline: Timeline, name: str, scale: float) -> bytes:
    return png(draw_pose(timeline.piece, timeline.pose(name), _bounded(timeline, scale)))


def moment(timeline: Timeline, at_ms: float, scale: float) -> bytes:
    at_ms = min(at_ms, float(timeline.run.total_ms))
    return png(draw_at(timeline, at_ms, _bounded(timeline, scale), timeline.piece.ground))


def _bounded(timeline: Timeline, scale: float) -> float:
    return min(scale, math.sqrt(MOST_PIXELS / (timeline.piece.width * timeline.piece.height)))
