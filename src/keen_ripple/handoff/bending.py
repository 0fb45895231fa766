"""Outlines that change their points: CSS bends one outline into another only where both are written alike."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np

from keen_ripple.core.curves import Easing
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.track import Track
from keen_ripple.core.outlines import parse
from keen_ripple.handoff.animation import INSTANT, Keyframe
from keen_ripple.handoff.declaration import Declaration

HOLDING = "step-end"


def changes_points(track: Track) -> bool:
    """Whether an outline is written with other commands on its way than it begins, or ends, with."""
    if track.property.name != "path":
        return False
    begins = [track.first, *(move.end for move in track.moves)]
    for begin, move in zip(begins, track.moves, strict=False):
        if move.easing is not None and len({*map(_commands, (begin, _outline(track, move, 0.5), move.end))}) > 1:
            return True
    return False


def bending(
    track: Track, declaration: Declaration, stretch: tuple[float, float], endless: bool, css: Callable[[Easing], str]
) -> Iterator[Keyframe]:
    """Each move between two outlines that the core writes alike; what looks the same before and after is written
    otherwise, so that it changes at once. `endless` begins again at its end."""
    from_ms, to_ms = stretch
    own = [move for move in track.moves if from_ms <= move.start_ms and move.end_ms <= to_ms]
    own = [move for move in own if not (endless and move.easing is None and move.start_ms == to_ms)]
    instant, last = (to_ms - from_ms) * INSTANT, to_ms - from_ms

    def keyframe(t_ms: float, outline: str, easing: str | None) -> Keyframe:
        return Keyframe(t_ms, {declaration.css: declaration.text({"path": outline}, "")}, easing)

    if not own or own[0].start_ms > from_ms:
        yield keyframe(0.0, _before(track, from_ms), HOLDING)
    for index, move in enumerate(own):
        start, end = move.start_ms - from_ms, move.end_ms - from_ms
        if move.easing is None:
            yield keyframe(start, move.end, HOLDING)
            continue
        yield keyframe(start, _outline(track, move, 0.0), css(move.easing))
        following = own[index + 1].start_ms - from_ms if index + 1 < len(own) else None
        yield keyframe(end - instant if following == end else end, _outline(track, move, 1.0), HOLDING)
    if not own or own[-1].end_ms < to_ms:
        yield keyframe(last, _before(track, to_ms) if not own else own[-1].end, None)


def _outline(track: Track, move: Move, progress: float) -> str:
    return str(track.blend.between(move.start, move.end).value(np.array([progress])))


def _before(track: Track, t_ms: float) -> str:
    past = [move.end for move in track.moves if move.end_ms <= t_ms]
    return str(past[-1] if past else track.first)


def _commands(path: str) -> tuple[str, ...]:
    return tuple(command for command, _ in parse(path).value)
