"""Interruption: a property that is sent elsewhere in the middle of its motion.

Curves follow CSS Transitions Level 1, section 3.1 (Starting of transitions): the motion begins at the value as it is;
one that is sent back to where it came from takes so much less time as it had got less far. Springs keep their speed.
What is already on its way to its new goal goes on as it was.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from keen_ripple.core.curves import Settle, Spring
from keen_ripple.core.document.spans import Span
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.track import clamp
from keen_ripple.core.properties import BY_NAME, Property, blend_of

# Speeds of curves are measured over this share of their time, on both sides.
NUDGE = 1e-5


@dataclass(frozen=True)
class Motion:
    """A move under way, and what CSS remembers of it for the case that it is sent back.

    `sent_back_to` is the "reversing-adjusted start value", `factor` the "reversing shortening factor".
    """

    move: Move
    sent_back_to: Any
    factor: float = 1.0

    def progress(self, t_ms: float) -> float:
        """Progress of the move at a moment; 0 while it waits."""
        move = self.move
        if t_ms >= move.end_ms:
            return 1.0
        if move.easing is None or t_ms < move.start_ms:
            return 0.0
        return float(move.easing(max((t_ms - move.start_ms) / (move.end_ms - move.start_ms), 0.0)))

    def value(self, t_ms: float, colour_space: str) -> Any:
        """What is shown at a moment."""
        move = self.move
        if t_ms >= move.end_ms or move.easing is None:
            return move.end if t_ms >= move.end_ms else move.start
        row = BY_NAME[move.property]
        between = blend_of(row, colour_space, move.start, move.end).between(move.start, move.end)
        shown = clamp(row, between.rows(np.array([self.progress(t_ms)])))
        return between.value(shown[0])

    def speed(self, t_ms: float) -> float:
        """Progress per second at a moment; 0 while it waits, and where it jumps."""
        move = self.move
        if move.easing is None or not move.start_ms <= t_ms < move.end_ms:
            return 0.0
        seconds = (move.end_ms - move.start_ms) / 1000.0
        u = (t_ms - move.start_ms) / (move.end_ms - move.start_ms)
        if isinstance(move.easing, Settle):
            return float(move.easing.spring.speed(u * seconds))
        low, high = max(u - NUDGE, 0.0), min(u + NUDGE, 1.0)
        return float(move.easing(high) - move.easing(low)) / ((high - low) * seconds)


def sent(
    layer: str, name: str, now_ms: float, shown: Any, goal: Any, span: Span, running: Motion | None, colour_space: str
) -> Motion | None:
    """The motion of a property that is to go to `goal` along `span`; None where it just stands there.

    `shown` is its value now, `running` the motion that it is in, if any.
    """
    row = BY_NAME[name]
    if running is not None and running.move.end == goal:
        return running
    thrown = running is not None and isinstance(span.easing, Settle) and row.blend == "linear"
    if shown == goal and not (thrown and running is not None and running.speed(now_ms)):
        return None
    start, end = now_ms + span.start_ms, now_ms + span.end_ms
    if row.blend == "discrete" or span.easing is None:
        return Motion(Move(layer, name, start, start if row.blend == "discrete" else end, None, shown, goal), shown)
    move = Move(layer, name, start, end, span.easing, shown, goal)
    if isinstance(span.easing, Settle):
        # A delay gives the old motion time to stand still: it is held, as a curve is.
        move = _thrown(row, move, running, now_ms, colour_space) if running and span.start_ms == 0 else move
        return Motion(move, shown)
    if running is not None and goal == running.sent_back_to:
        done = running.progress(now_ms) * running.factor + 1.0 - running.factor
        factor = min(max(abs(done), 0.0), 1.0)
        shortened = move._replace(end_ms=start + span.timing.length_ms() * factor)
        return Motion(shortened, running.move.end, factor)
    return Motion(move, shown)


def _thrown(row: Property, move: Move, running: Motion, now_ms: float, colour_space: str) -> Move:
    """A spring's move that takes over the speed of the motion before it."""
    assert isinstance(move.easing, Settle)
    spring, speed = move.easing.spring, running.speed(now_ms)
    if row.blend == "linear":
        return _thrown_number(move, spring, speed * (running.move.end - running.move.start))
    # What is no single number has its speed along the new way only: the share of the old way that points along it.
    along = speed * _common(row, running.move, move, colour_space)
    if along == 0.0:
        return move
    return _with_spring(move, replace(spring, velocity=along))


def _thrown_number(move: Move, spring: Spring, units_per_s: float) -> Move:
    """The unit of progress is the way to go, or what the speed alone would swing, whichever is longer.

    So a number that is at its goal already, at full speed, swings out and back; the start of its move is then a value
    from which the spring is some of the way on.
    """
    way = move.end - move.start
    swing = abs(units_per_s) / math.sqrt(spring.stiffness / spring.mass)
    unit = math.copysign(max(abs(way), swing), way if way else units_per_s)
    thrown = replace(spring, velocity=units_per_s / unit, start=1.0 - way / unit)
    return _with_spring(move._replace(start=move.end - unit), thrown)


def _with_spring(move: Move, spring: Spring) -> Move:
    settle = Settle.of(spring)
    return move._replace(easing=settle, end_ms=move.start_ms + settle.duration_ms)


def _common(row: Property, old: Move, new: Move, colour_space: str) -> float:
    """How much of the new way one whole old way goes: the projection of the one on the other."""
    ways = []
    for move in (old, new):
        between = blend_of(row, colour_space, old.start, old.end, new.start, new.end).between(move.start, move.end)
        start, end = between.rows(np.array([0.0, 1.0]))
        ways.append((end - start) / np.array(between.tolerances or (1.0,) * len(start)))
    if len(ways[0]) != len(ways[1]) or not np.any(ways[1]):
        return 0.0
    return float(ways[0] @ ways[1] / (ways[1] @ ways[1]))


def held(motion: Motion, now_ms: float, shown: Any) -> Iterator[Move]:
    """The moves that stand for a motion that begins now: the value as it is, then the motion."""
    move = motion.move
    yield Move(move.layer, move.property, now_ms, now_ms, None, shown, shown)
    yield move
