"""Interruption: a property that is sent elsewhere in the middle of its motion.

Curves follow CSS Transitions Level 1, section 3.1 (Starting of transitions): the motion begins at the value as it is;
one that is sent back to where it came from takes so much less time as it had got less far. Springs keep their speed,
and last until whatever they were thrown with has died away. What is already on its way to its new goal goes on as it
was.

Places and speeds are those of the property's coordinates, in which every motion is a line or a sum of two responses.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.coordinates import Coordinates, Passing, begun
from keen_ripple.core.curves import STEADY, Settle, Spring, Steady, Steps
from keen_ripple.core.document.spans import Span
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.track import limits_of
from keen_ripple.core.properties import BY_NAME

# Speeds of curves are measured over this share of their time, on both sides: so wide that tables give the same.
NUDGE = 0.01


@dataclass(frozen=True)
class Motion:
    """A move under way, and what CSS remembers of it for the case that it is sent back.

    `sent_back_to` is the place of the "reversing-adjusted start value", `factor` the "reversing shortening factor".
    """

    move: Move
    coordinates: Coordinates
    sent_back_to: Floats
    factor: float = 1.0

    @property
    def is_curve(self) -> bool:
        """Whether a curve says how far it is; of a spring that would say little of the time back."""
        return self.move.easing is not None and not isinstance(self.move.easing, Settle | Steady)

    def progress(self, t_ms: float) -> float:
        """Progress of the move at a moment; 0 while it waits."""
        move = self.move
        if t_ms >= move.end_ms:
            return 1.0
        if move.easing is None or t_ms < move.start_ms:
            return 0.0
        return float(move.easing(max((t_ms - move.start_ms) / (move.end_ms - move.start_ms), 0.0)))

    def place(self, t_ms: float) -> Floats:
        """Where it is at a moment, as it is shown."""
        move = self.move
        progress = self.progress(t_ms)
        low, high = limits_of(BY_NAME[move.property])
        if isinstance(move.start, Passing):
            return np.asarray(np.clip(move.start.towards(move.end).places(np.array([progress]))[0], low, high))
        start, end = self.coordinates.place(move.start), self.coordinates.place(move.end)
        if move.easing is None:
            return np.asarray(end if progress else start)
        return np.asarray(np.clip(start * (1.0 - progress) + end * progress, low, high))

    def value(self, t_ms: float) -> Any:
        """What is shown at a moment."""
        move = self.move
        if t_ms >= move.end_ms:
            return move.end
        if move.easing is None or t_ms < move.start_ms:
            return move.start.value if isinstance(move.start, Passing) else move.start
        return self.coordinates.value(self.coordinates.rows(self.place(t_ms)[None, :])[0])

    def speed(self, t_ms: float) -> Floats:
        """In places per second at a moment; 0 while it waits, and where it jumps."""
        move = self.move
        end = self.coordinates.place(move.end)
        if move.easing is None or not move.start_ms <= t_ms < move.end_ms:
            return np.zeros(len(end))
        seconds = (t_ms - move.start_ms) / 1000.0
        if not isinstance(move.start, Passing):
            return np.asarray((end - self.coordinates.place(move.start)) * self._pace(seconds))
        place = np.array(move.start.place)
        if move.start.spring is None:
            return np.asarray((end - place) * self._pace(seconds))
        resting, throwing = move.start.spring.response_speeds(np.array([seconds]))
        return np.asarray((place - end) * resting + np.array(move.start.speed) * throwing)

    def _pace(self, seconds: float) -> float:
        """Progress per second."""
        move = self.move
        if isinstance(move.easing, Settle):
            return float(move.easing.spring.speed(seconds))
        if move.easing is None or isinstance(move.easing, Steps):
            return 0.0
        length = (move.end_ms - move.start_ms) / 1000.0
        u = seconds / length
        low, high = max(u - NUDGE, 0.0), min(u + NUDGE, 1.0)
        return float(move.easing(high) - move.easing(low)) / ((high - low) * length)


def sent(
    layer: str, name: str, now_ms: float, shown: Any, goal: Any, span: Span, running: Motion | None, lie: Coordinates
) -> Motion | None:
    """The motion of a property that is to go to `goal` along `span`; None where it just stands there.

    `shown` is its value now, `running` the motion that it is in, if any; its values `lie` in these coordinates.
    """
    row = BY_NAME[name]
    if running is not None and _same(lie, running.move.end, goal):
        return running
    speed = _kept_speed(running, now_ms, span)
    # How a colour is written is coarser than where it is: what matters is compared by places.
    here = lie.place(shown) if running is None else running.place(now_ms)
    if speed is None and (shown is goal or np.array_equal(here, lie.place(goal))):
        return None
    start, end = now_ms + span.start_ms, now_ms + span.end_ms
    begin = begun(lie, shown) if running is None else _taken_over(running, now_ms, shown)
    if row.blend == "discrete" or span.easing is None:
        cut = Move(layer, name, start, start if row.blend == "discrete" else end, None, begin, goal)
        return Motion(cut, lie, here)
    move = Move(layer, name, start, end, span.easing, begin, goal)
    if isinstance(span.easing, Settle):
        return Motion(move if speed is None else _thrown(move, speed, lie), lie, here)
    if running is not None and running.is_curve and np.array_equal(lie.place(goal), running.sent_back_to):
        done = running.progress(now_ms) * running.factor + 1.0 - running.factor
        factor = min(max(abs(done), 0.0), 1.0)
        shortened = move._replace(end_ms=start + span.timing.length_ms() * factor)
        return Motion(shortened, lie, lie.place(running.move.end), factor)
    return Motion(move, lie, here)


def switched(layer: str, name: str, now_ms: float, shown: Any, goal: Any, lie: Coordinates) -> Motion | None:
    """At once, whatever was under way: as a cross-fade shows its new look."""
    return None if shown == goal else Motion(Move(layer, name, now_ms, now_ms, None, shown, goal), lie, lie.place(goal))


def _same(lie: Coordinates, one: Any, other: Any) -> bool:
    """Whether two values of states are the same, however they are written."""
    return bool(one == other or np.array_equal(lie.place(one), lie.place(other)))


def tolerances_of(lie: Coordinates, name: str) -> Floats:
    """By how much places may be off, by column."""
    columns = len(lie.tolerances or (0.0,))
    return np.array(lie.tolerances or (BY_NAME[name].tolerance,) * columns)


def _kept_speed(running: Motion | None, now_ms: float, span: Span) -> Floats | None:
    """The speed, per second, that a spring takes over; None where it is so slow that it would not be seen.

    A delay gives the old motion time to stand still: it is held, as a curve is.
    """
    if running is None or not isinstance(span.easing, Settle) or span.start_ms:
        return None
    spring, speed = span.easing.spring, running.speed(now_ms)
    swing = np.abs(speed) / math.sqrt(spring.stiffness / spring.mass)
    return speed if np.any(swing > tolerances_of(running.coordinates, running.move.property)) else None


def _taken_over(running: Motion, now_ms: float, shown: Any) -> Any:
    """The value where it is one of a state, else the place in mid-motion."""
    move = running.move
    if BY_NAME[move.property].blend in ("linear", "discrete"):
        return shown
    if move.easing is None or now_ms < move.start_ms:
        return move.start
    return Passing(running.coordinates, tuple(running.place(now_ms).tolist()))


def _thrown(move: Move, speed: Floats, lie: Coordinates) -> Move:
    """A spring's move that takes over the speed, per second, of the motion before it."""
    assert isinstance(move.easing, Settle)
    spring = replace(move.easing.spring, velocity=0.0)
    seconds = spring.thrown_s()
    length = math.ceil(seconds * 1000.0 - 1e-9)
    end = move.start_ms + length
    if BY_NAME[move.property].blend == "linear":
        return _thrown_number(move._replace(end_ms=end), spring, float(speed[0]), length)
    start = move.start if isinstance(move.start, Passing) else Passing(lie, tuple(lie.place(move.start).tolist()))
    passing = replace(start, speed=tuple(speed.tolist()), spring=spring, seconds=length / 1000.0)
    return move._replace(start=passing, end_ms=end, easing=STEADY)


def _thrown_number(move: Move, spring: Spring, units_per_s: float, length_ms: int) -> Move:
    """The unit of progress is the way to go, or what the speed alone would swing, whichever is longer.

    So a number that is at its goal already, at full speed, swings out and back; the start of its move is then a value
    from which the spring is some of the way on.
    """
    way = move.end - move.start
    swing = abs(units_per_s) / math.sqrt(spring.stiffness / spring.mass)
    unit = math.copysign(max(abs(way), swing), way if way else units_per_s)
    thrown = replace(spring, velocity=units_per_s / unit, start=1.0 - way / unit)
    return move._replace(start=move.end - unit, easing=Settle(thrown, length_ms))


def held(motion: Motion, now_ms: float, shown: Any) -> Iterator[Move]:
    """The moves that stand for a motion that begins now: the value as it is, then the motion."""
    move = motion.move
    yield Move(move.layer, move.property, now_ms, now_ms, None, shown, shown)
    yield move
