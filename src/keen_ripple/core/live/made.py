"""A rehearsal that nobody has to act: every transition once, so that there is always something to watch."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterator, Sequence

from keen_ripple.core.document import Piece, Transition
from keen_ripple.core.flow.run import AFTER_A_REST, BY_ITSELF
from keen_ripple.core.flow.scrolling import farthest, tops_of
from keen_ripple.core.live.cast import Cast
from keen_ripple.core.live.hearing import Event
from keen_ripple.core.live.stage import Stage

# How long a state is looked at before somebody acts, and how long the last one is.
PAUSE_MS = 500.0
# A piece whose transitions lead away from each other takes more steps than it has transitions, but not many times more.
STEPS_PER_TRANSITION = 8
# Of the largest pieces only as many ways are shown as can be worked out in a moment.
MOST_LAYERS_TIMES_STEPS = 12_000


def made_events(piece: Piece) -> tuple[list[Event], float]:
    """Events that set off every transition that can be reached, and how long it all takes, ms.

    What never can be set off, because another one heeds first, is left out.
    """
    cast, events, at = Cast(piece), list[Event](), 0
    while at < len(found := list(cast.all)):
        _act_in(found[at], cast, events)
        at += 1
    return events, max(each.stage.reached_ms for each in cast.all) + PAUSE_MS


def _act_in(one: Cast, cast: Cast, events: list[Event]) -> None:
    """Acts until every transition of one of the cast has been seen, or none can be reached any more."""
    stage, piece, seen = one.stage, one.stage.piece, set[str]()
    most = MOST_LAYERS_TIMES_STEPS // max(len(stage.ears.around), 12)
    for _ in range(min(STEPS_PER_TRANSITION * len(piece.transitions) + 1, most)):
        wanted = _next(piece, stage, seen)
        if wanted is None:
            break
        seen.add(wanted.id)
        alone = stage.following()
        if alone is not None and wanted.id == alone.id:
            cast.play_until(stage.departure_ms(alone))
        else:
            event = _act(stage, wanted, events[-1].t_ms if events else 0.0)
            top = tops_of(piece).get(event.layer or "")
            if top is not None and event.cue == "in-view":
                # It comes there by being scrolled to.
                events.append(Event(event.t_ms, "scroll", y=min(top, farthest(piece))))
                cast.hear(events[-1])
            events.append(event)
            cast.play_until(event.t_ms)
            cast.hear(event)
        if stage.segments:
            seen.add(stage.segments[-1].transition)


def seen_until_ms(piece: Piece, events: Sequence[Event]) -> float:
    """When the state that comes of the last event has been seen for a while, ms."""
    cast = Cast(piece)
    for event in sorted(events, key=lambda event: event.t_ms):
        cast.play_until(event.t_ms)
        cast.hear(event)
    return max(max(each.stage.reached_ms, each.stage.due_ms or 0.0) for each in cast.all) + PAUSE_MS


def _act(stage: Stage, wanted: Transition, after_ms: float) -> Event:
    """The event that the transition waits for, once its state has been looked at, but before it goes on by itself."""
    alone = stage.following()
    # What needs no rest is heeded on the way too.
    earliest = stage.reached_ms + wanted.hold_ms if wanted.hold_ms else stage.began_ms
    earliest = max(earliest, after_ms)
    latest = stage.departure_ms(alone) - 1.0 if alone is not None else float("inf")
    t = max(min(stage.reached_ms + max(PAUSE_MS, wanted.hold_ms), latest), earliest)
    # The second half of a double tap, said as one.
    return Event(t, wanted.cue, wanted.cue_layer, wanted.cue_key)


def _next(piece: Piece, stage: Stage, seen: set[str]) -> Transition | None:
    """The first step of the shortest way from the state on stage to a transition that has not been seen."""
    ways: deque[tuple[str, Transition | None]] = deque([(stage.state, None)])
    reached = {stage.state}
    while ways:
        state, first = ways.popleft()
        for transition in _leaving(piece, stage, state):
            step = first or transition
            if transition.id not in seen:
                return step
            if transition.to not in reached:
                reached.add(transition.to)
                ways.append((transition.to, step))
    return None


def _leaving(piece: Piece, stage: Stage, state: str) -> Iterator[Transition]:
    """What can set off from a state: what somebody does, then what it does by itself."""
    here = state == stage.state
    alone = stage.following() if here else None
    for transition in piece.transitions:
        if transition.from_ == state and transition.cue not in BY_ITSELF:
            yield transition
    for transition in piece.transitions:
        goes_on = transition == alone if here else transition.cue in (*AFTER_A_REST, "reaches")
        if transition.from_ == state and goes_on:
            yield transition
