"""Cross-fades in CSS: the looks that are left lie over the piece once more, and the shares of all of them add up."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import chain

from keen_ripple.core.curves.numbers import css_number
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.run import Segment
from keen_ripple.core.flow.track import tracks_of
from keen_ripple.core.timeline import Timeline
from keen_ripple.handoff.animation import Animation
from keen_ripple.handoff.declaration import Declaration
from keen_ripple.handoff.keyframes import animations_along
from keen_ripple.handoff.names import css_name
from keen_ripple.handoff.parts import COVERING

PLAYING = ""
"""In place of a state that is left: the piece as it plays."""

STACK = {**COVERING, "isolation": "isolate"}
IN_STACK = {**COVERING, "mix-blend-mode": "plus-lighter"}
SHARE = Declaration("opacity", ("opacity",), lambda look, _: css_number(look["opacity"], PLACES), calm=True)
PLACES = 4


def cross_fades(timeline: Timeline) -> bool:
    """Whether two looks of the whole piece fade into each other anywhere in the run."""
    return any(_fading(timeline))


def left_in_run(timeline: Timeline) -> tuple[str, ...]:
    """The states that cross-fades of the run leave."""
    return tuple(dict.fromkeys(segment.from_ for segment in _fading(timeline)))


def left_by_state(timeline: Timeline) -> tuple[str, ...]:
    """The states that any cross-fade leaves."""
    ways = (way for way in timeline.piece.transitions if timeline.legs[way.id].fade is not None)
    return tuple(dict.fromkeys((*left_in_run(timeline), *(way.from_ for way in ways))))


def stands_in_the_way(timeline: Timeline) -> str:
    """What of the whole piece keeps its looks from standing over each other in CSS; empty where nothing does."""
    if timeline.rehearsal is not None:
        return "a rehearsal may leave its fades on the way"
    if timeline.voices:
        return "copies in it play on by themselves"
    return "it scrolls" if timeline.piece.sections else ""


def look_animations(timeline: Timeline, state: str) -> list[Animation]:
    """By which share a look is seen: that of a state which is left, or the one that plays."""
    name = css_name(f"{timeline.piece.id}_look", *filter(None, [state]))
    moves = chain.from_iterable(_moves(timeline, segment, state) for segment in _fading(timeline))
    rest = {"opacity": float(state == PLAYING)}
    tracks = {track.property.name: track for track in tracks_of(moves, {state: rest}, timeline.piece.blend)}
    return animations_along(timeline, name, tracks, [SHARE], rest)


def _moves(timeline: Timeline, fading: Segment, state: str) -> Sequence[Move]:
    """At once from where it stands, and then along the curve of the fade."""
    if state not in (PLAYING, fading.from_):
        return ()
    stood, begin = (1.0, 0.0) if state == PLAYING else (0.0, 1.0)
    start, end, easing = fading.start_ms, fading.end_ms, timeline.legs[fading.leg].fade
    return (
        Move(state, "opacity", start, start, None, stood, begin),
        Move(state, "opacity", start, end, easing, begin, stood),
    )


def _fading(timeline: Timeline) -> Iterator[Segment]:
    for segment in timeline.run.segments:
        if segment.kind == "travel" and timeline.legs[segment.leg].fade is not None:
            yield segment
