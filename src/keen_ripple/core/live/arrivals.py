"""Runs that wait for what lives in the piece: transitions that start as soon as a free placement stands in a state.

Such a run is rehearsed without events. It is closed where a transition begins while all that lives in the piece stands
as it stood when the same one began before.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from keen_ripple.core.document import Piece
from keen_ripple.core.flow.run import Run, Segment, no_time, with_common_loop
from keen_ripple.core.limits import LONGEST_WAIT_MS
from keen_ripple.core.live.cast import Cast
from keen_ripple.core.live.stage import MOST_AT_ONCE


def waits_for_arrivals(piece: Piece) -> bool:
    """Whether a transition starts when a free placement stands in a state."""
    return any(t.cue == "reaches" for t in piece.transitions)


def arriving_run(piece: Piece) -> Run:
    """The run, whose legs are those of the transitions. Raises RunFault for a loop that takes no time.

    Where nothing has started for ten minutes, the piece rests.
    """
    cast = Cast(piece)
    stage, begun = cast.stage, dict[Any, float]()
    cast.play_until(0.0)
    count, now, at_once = 0, 0.0, 0
    while True:
        for segment in stage.segments[count:]:
            if segment.kind == "travel":
                key = (segment.transition, _standing(cast, segment.start_ms))
                if key in begun:
                    return _closed(piece, cast, begun[key], segment.start_ms)
                begun[key] = segment.start_ms
        count = len(stage.segments)
        following = cast.next_ms()
        if following is None or following - stage.reached_ms > LONGEST_WAIT_MS:
            segments = tuple(map(_with_leg, stage.segments))
            return with_common_loop(piece, Run(int(stage.reached_ms), None, segments, stage.state))
        at_once = at_once + 1 if following == now else 0
        if at_once > MOST_AT_ONCE:
            raise no_time([stage.state], piece)
        now = following
        cast.play_until(now)


def _standing(cast: Cast, now_ms: float) -> Any:
    """How all that lives in the piece stands: in which states, and since when or until when."""
    return tuple(
        (voice.copy, voice.stage.state, now_ms - voice.stage.reached_ms, voice.stage.first, _standing(voice, now_ms))
        for voice in cast.voices
    )


def _closed(piece: Piece, cast: Cast, from_ms: float, to_ms: float) -> Run:
    if from_ms == to_ms:
        raise no_time([cast.stage.state], piece)
    segments = tuple(_with_leg(segment) for segment in cast.stage.segments if segment.start_ms < to_ms)
    last = segments[-1]
    whole = (*segments[:-1], replace(last, end_ms=int(min(last.end_ms, to_ms))))
    return with_common_loop(piece, Run(int(from_ms), int(to_ms - from_ms), whole, last.to))


def _with_leg(segment: Segment) -> Segment:
    return replace(
        segment,
        start_ms=int(segment.start_ms),
        end_ms=int(segment.end_ms),
        leg=segment.transition if segment.kind == "travel" else "",
    )
