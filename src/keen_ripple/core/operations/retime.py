"""Retiming: a whole piece faster or slower, fitted to a length, or on the frames of a frame rate.

One map from old moments to new whole ms does all three. It never falls, so events keep their order; it is applied to
moments of the run and not to durations, so that rounding does not add up and totals are exact. Springs keep their shape
and are made to settle in exactly the time that they are given.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from fractions import Fraction
from itertools import pairwise
from typing import Any

from keen_ripple.core.document import Lane, Piece, Transition
from keen_ripple.core.document.spans import Span, Spans
from keen_ripple.core.document.transitions import STIFFEST, Curve, Spring
from keen_ripple.core.document.undercurrents import Course, Undercurrent
from keen_ripple.core.errors import Fault, RunFault
from keen_ripple.core.flow.media import rest_ms
from keen_ripple.core.flow.placing import placements_of
from keen_ripple.core.flow.run import Run
from keen_ripple.core.live.overlap import leaves_early
from keen_ripple.core.timeline import timeline_of

Moment = Callable[[Fraction], int]
"""From an old moment in ms to a new one, never falling."""

# How often the length of a run that leaves states early is corrected until it is exact.
CORRECTIONS = 24


class RetimeFault(Fault):
    """A timing that cannot be had."""


def scaled(piece: Piece, factor: float) -> Piece:
    """Everything takes `factor` (0.01–100) times as long: 0.8 is a fifth less. Raises RetimeFault."""
    if not 0.01 <= factor <= 100.0:
        raise RetimeFault(f"The factor is {factor:.15g}.", value=factor, remedy="Give a factor from 0.01 to 100.")
    _check_times(piece)
    ratio = Fraction(factor).limit_denominator(1_000_000)
    return _retimed(piece, lambda t: _nearest(t * ratio), _nearest(_length_ms(piece) * ratio))


def _check_times(piece: Piece) -> None:
    """A copy goes its own way, whose times are those of its original."""
    copies = placements_of(piece)
    if copies:
        raise RetimeFault(
            f"{copies[0][0].name} goes by the times of its original, which other pieces may use too.",
            place=copies[0][1],
            remedy="Retime the original, and the transitions here one by one.",
        )


def _length_ms(piece: Piece) -> int:
    """Of the loop, or of a run that ends."""
    run = _run(piece)
    return run.loop_ms or run.total_ms


def _run(piece: Piece) -> Run:
    """Of its transitions; where they take no time, that of what goes round on its own."""
    own = timeline_of(piece.model_copy(update={"undercurrents": ()})).run
    return own if own.total_ms else timeline_of(piece).run


def fitted(piece: Piece, length_ms: int) -> Piece:
    """The loop, or a run that ends, takes exactly that long. Raises RetimeFault."""
    _check_times(piece)
    run = _run(piece)
    old = _length_ms(piece)
    if not old or length_ms < 1:
        raise RetimeFault(
            f"A run of {old} ms cannot be fitted to {length_ms} ms.",
            value=length_ms,
            remedy="Give a length of at least 1 ms to a piece that moves.",
        )
    ratio, lead_in = Fraction(length_ms, old), run.lead_in_ms if run.loop_ms else 0
    start = _nearest(lead_in * ratio)
    found = _retimed(piece, lambda t: start + _nearest((t - lead_in) * ratio), length_ms)
    if _length_ms(found) != length_ms:
        raise RetimeFault(
            f"What goes round would look the same again after {_length_ms(found)} ms, not {length_ms}.",
            value=length_ms,
            remedy="Give the undercurrents periods of their own.",
        )
    return found


def quantised(piece: Piece, fps: float) -> Piece:
    """Every event of the run on the nearest frame, to the whole ms. Raises RetimeFault."""
    if not 1.0 <= fps <= 1000.0:
        raise RetimeFault(f"The frame rate is {fps:g}.", value=fps, remedy="Give a rate from 1 to 1000.")
    _check_times(piece)
    frame = 1000 / Fraction(fps).limit_denominator(1_000_000)
    return _retimed(piece, lambda t: _nearest(_nearest(t / frame) * frame))


def _nearest(t: Fraction | int) -> int:
    """Halves are rounded up, below 0 too, so that the map never falls."""
    return math.floor(t + Fraction(1, 2))


def _retimed(piece: Piece, when: Moment, length_ms: int | None = None) -> Piece:
    """`length_ms` is how long the loop has to be where states are left early."""
    run = _run(piece)
    places = {} if leaves_early(piece) else _places(run)
    transitions = tuple(
        _transition(t, when, *places.get(t.id, (0, rest_ms(piece, t))), rest_ms(piece, t) - t.hold_ms)
        for t in piece.transitions
    )
    undercurrents = tuple(_undercurrent(u, when) for u in piece.undercurrents)
    new = piece.model_copy(update={"transitions": transitions, "undercurrents": undercurrents})
    try:
        timeline_of(new)
    except RunFault as fault:
        raise RetimeFault(
            "In so little time nothing would be left of the loop.", value=fault.value, remedy="Give it more time."
        ) from None
    return _corrected(new, length_ms) if length_ms is not None and leaves_early(piece) else new


def _places(run: Run) -> dict[str, tuple[int, int]]:
    """When each transition's hold and the transition itself start, the first time that they are played."""
    places: dict[str, tuple[int, int]] = {}
    held_from: int | None = None
    for segment in run.segments:
        if segment.kind == "hold":
            held_from = int(segment.start_ms)
        else:
            start = int(segment.start_ms)
            places.setdefault(segment.transition, (start if held_from is None else held_from, start))
            held_from = None
    return places


def _transition(transition: Transition, when: Moment, held_from: int, start: int, medium_ms: int) -> Transition:
    """`held_from` and `start` are moments of the old run; off it, holds begin at 0. A medium keeps its own time."""
    hold = when(Fraction(start)) - when(Fraction(held_from)) - medium_ms
    if hold < 0:
        raise RetimeFault(
            f"The medium of {transition.id} needs {medium_ms} ms.",
            value=medium_ms,
            remedy="Let the run take more time, or let the medium begin later.",
        )

    def local(t: int) -> int:
        return when(Fraction(start + t)) - when(Fraction(start))

    changes: dict[str, Any] = {
        "hold_ms": hold,
        "early_ms": when(Fraction(transition.early_ms)) - when(Fraction(0)),
        "timing": _timing(transition.timing, local(transition.timing.length_ms())),
    }
    old = Spans(_moving(transition))
    keyed = transition.model_copy(
        update={**changes, "lanes": tuple(_lane(a, transition, old, local) for a in transition.lanes)}
    )
    staggers = tuple(
        stagger.model_copy(update={"each_ms": None, "total_ms": local(max(stagger.delays_ms().values()))})
        for stagger in transition.staggers
    )
    kept = keyed.model_copy(update={"staggers": staggers})
    in_order = not staggers or _in_order(old, Spans(_moving(kept)), transition, local)
    return kept if in_order else _spelled_out(keyed, old, local)


def _moving(transition: Transition) -> Transition:
    """As a tween: a cut has lanes of no length, and keeps their times for the day on which it is a tween again."""
    return transition if transition.style == "tween" else transition.model_copy(update={"style": "tween"})


def _lane(lane: Lane, transition: Transition, spans: Spans, local: Callable[[int], int]) -> Lane:
    span = spans.unstaggered(lane.layer, lane.property)
    start, end = local(span.start_ms), local(span.end_ms)
    delay = start
    if lane.anchor is not None:
        other = spans.anchored_to(lane)
        edge = local(other.start_ms if lane.anchor.edge == "with" else other.end_ms)
        delay = edge - start if lane.anchor.edge == "before-end" else max(start - edge, 0)
    return lane.model_copy(
        update={"delay_ms": delay, "timing": _own_timing(lane, transition, span, end - start, local)}
    )


def _own_timing(
    lane: Lane, transition: Transition, span: Span, length: int, local: Callable[[int], int]
) -> Curve | Spring | None:
    """None where that of the transition, retimed, is what it needs."""
    if lane.style == "cut" or (lane.timing is None and length == local(transition.timing.length_ms())):
        return lane.timing
    return _timing(span.timing, length)


def _timing(timing: Curve | Spring, length_ms: int) -> Curve | Spring:
    if isinstance(timing, Curve):
        return timing.model_copy(update={"duration_ms": length_ms})
    length = max(length_ms, 1)
    if length == timing.length_ms():
        return timing
    spring = timing.physics().faster(timing.physics().settling_time_s() * 1000.0 / length)
    if max(spring.stiffness, spring.damping) > STIFFEST:
        raise RetimeFault(
            f"No spring of this kind settles in {length} ms.",
            value=length,
            remedy="Give it more time, or a curve instead.",
        )
    new = {"stiffness": spring.stiffness, "damping": spring.damping, "velocity": spring.velocity}
    return timing.model_copy(update=new)


def _in_order(old: Spans, new: Spans, transition: Transition, local: Callable[[int], int]) -> bool:
    """Whether all spans start and end in the same order as before, and the last of them as wanted."""
    layers = {layer for stagger in transition.staggers for layer in stagger.layers}
    keys = sorted(
        {(layer, None) for layer in layers} | {(lane.layer, lane.property) for lane in transition.lanes}, key=str
    )
    pairs = [(old.of(*key), new.of(*key)) for key in keys]
    events = sorted((a, b) for one, other in pairs for a, b in zip(one[:2], other[:2], strict=True))
    rising = all(p[1] <= q[1] for p, q in pairwise(events))
    return rising and new.length_ms == local(old.length_ms)


def _spelled_out(transition: Transition, old: Spans, local: Callable[[int], int]) -> Transition:
    """Staggers written as lanes, where whole ms do not allow a stagger that keeps the order of events."""
    lanes = {(lane.layer, lane.property): lane for lane in transition.lanes}
    layers = [layer for stagger in transition.staggers for layer in stagger.layers]
    for key in [*((layer, None) for layer in layers), *lanes]:
        span = old.of(*key)
        start, end = local(span.start_ms), local(span.end_ms)
        lane = lanes.get(key) or Lane(layer=key[0])
        timing = lane.timing if lane.style == "cut" else _timing(span.timing, end - start)
        lanes[key] = lane.model_copy(update={"delay_ms": start, "anchor": None, "timing": timing})
    return transition.model_copy(update={"staggers": (), "lanes": tuple(lanes.values())})


def _undercurrent(undercurrent: Undercurrent, when: Moment) -> Undercurrent:
    zero = when(Fraction(0))
    period = max(when(Fraction(undercurrent.period_ms)) - zero, 1)
    courses = tuple(_course(course, lambda t: when(Fraction(t)) - zero) for course in undercurrent.courses)
    phase = when(Fraction(undercurrent.phase_ms)) - zero
    return undercurrent.model_copy(update={"period_ms": period, "phase_ms": phase, "courses": courses})


def _course(course: Course, local: Callable[[int], int]) -> Course:
    times = [local(key.at_ms) for key in course.keys]
    if any(a >= b for a, b in pairwise(times)):
        raise RetimeFault(
            f"The keys of {course.layer} {course.property} would fall on each other.",
            value=times,
            remedy="Leave the undercurrent more time, or take out keys.",
        )
    keys = tuple(key.model_copy(update={"at_ms": at}) for key, at in zip(course.keys, times, strict=True))
    return course.model_copy(update={"keys": keys, "offset_ms": local(course.offset_ms)})


def _corrected(piece: Piece, length_ms: int) -> Piece:
    """States left early shift what follows them: what is still missing is given to them in turn, the last one first.

    In turn, because the length may step over the wanted one as a single state is left earlier.
    """
    for turn in range(CORRECTIONS):
        run = _run(piece)
        missing = length_ms - (run.loop_ms or run.total_ms)
        if missing == 0:
            return piece
        played = {segment.transition for segment in run.segments if segment.end_ms > run.lead_in_ms}
        early = [t for t in reversed(piece.transitions) if t.early_ms and t.id in played]
        if not early:
            break
        chosen = early[turn % len(early)]
        changed = chosen.model_copy(update={"early_ms": max(chosen.early_ms - missing, 0)})
        transitions = tuple(changed if t.id == chosen.id else t for t in piece.transitions)
        piece = piece.model_copy(update={"transitions": transitions})
    raise RetimeFault(
        f"The run cannot be fitted to exactly {length_ms} ms.",
        value=length_ms,
        remedy="Choose another length, or let fewer states be left early.",
    )
