"""Runs in which states are left early, before they are reached: each transition then begins in the middle of another.

Such a run is rehearsed without events. How a transition begins depends on the one before it, and so on backwards; what
is left of earlier rounds fades quickly, and the loop is closed where a round begins as the one before did, so nearly
that no tolerance of a tape is spent on it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.document import Piece
from keen_ripple.core.flow.finer import Finer
from keen_ripple.core.flow.legs import Leg
from keen_ripple.core.flow.moves import Move
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.flow.run import Run, Segment, no_time, with_common_loop
from keen_ripple.core.live.stage import Stage
from keen_ripple.core.properties import BY_NAME

# How much of a tolerance the beginnings of two rounds may differ by, and how many rounds are played at most until then.
ALIKE = 0.05
MOST_ROUNDS = 40


def leaves_early(piece: Piece) -> bool:
    """Whether a state of the unattended run may be left before it is reached."""
    return any(t.early_ms for t in piece.transitions if t.cue == "hold")


@dataclass(frozen=True)
class _Beginning:
    """How a transition begins: what was still moving, as values in tolerances, and when they come to rest."""

    transition: str
    at_ms: float
    carried: Mapping[tuple[str, str], Floats]

    def like(self, other: _Beginning) -> bool:
        return (
            self.transition == other.transition
            and self.carried.keys() == other.carried.keys()
            and all(np.all(np.abs(row - other.carried[key]) <= ALIKE) for key, row in self.carried.items())
        )


def carried_run(piece: Piece, poses: Mapping[str, Pose], finer: Mapping[str, Finer]) -> tuple[Run, dict[str, Leg]]:
    """The run, and the legs that its segments name. Raises RunFault for a loop that takes no time."""
    stage = Stage(piece)
    legs: dict[str, Leg] = {}
    beginnings: list[_Beginning] = []
    while (transition := stage.following()) is not None:
        departure = stage.departure_ms(transition)
        beginning = _beginning(stage, transition.id, departure, transition.early_ms)
        alike = next((b for b in reversed(beginnings) if b.like(beginning)), None)
        if alike is None and len(beginnings) > MOST_ROUNDS * len(piece.transitions):
            alike = next(b for b in reversed(beginnings) if b.transition == transition.id)
        if alike is not None:
            if beginning.at_ms == alike.at_ms:
                raise no_time([stage.state], piece)
            segments = _segments(stage, until_ms=beginning.at_ms)
            loop = int(beginning.at_ms - alike.at_ms)
            run = Run(int(alike.at_ms), loop, segments, stage.state, piece.plays)
            return with_common_loop(piece, run), _lasting(legs, segments)
        if legs:
            last, began = next(reversed(legs)), stage.began_ms
            legs[last] = replace(legs[last], moves=_begun(legs[last].moves, departure - began))
        beginnings.append(beginning)
        before = poses[stage.state]
        moves = tuple(move.later(-departure) for move in stage.take(transition, departure))
        name = f"{transition.id}~{len(beginnings)}"
        legs[name] = Leg(transition, before, poses[transition.to], piece.blend, moves, 0, {}, True, finer)
        stage.segments[-1] = replace(stage.segments[-1], leg=name)
    segments = _segments(stage, until_ms=stage.reached_ms)
    return with_common_loop(piece, Run(int(stage.reached_ms), None, segments, stage.state)), _lasting(legs, segments)


def _begun(moves: Sequence[Move], until_ms: float) -> tuple[Move, ...]:
    """Without what still waits for its delay when the next transition begins, which takes it over or gives it up."""
    return tuple(m for m in moves if m.start_ms < until_ms or m.end_ms <= until_ms)


def _beginning(stage: Stage, transition: str, departure: float, early_ms: int) -> _Beginning:
    carried: dict[tuple[str, str], Floats] = {}
    for key, motion in stage.motions.items():
        if motion.move.end_ms > departure:
            lie = motion.coordinates
            now, soon = lie.rows(np.array([motion.place(departure), motion.place(departure + 16.0)]))
            tolerances = np.array(lie.tolerances or (BY_NAME[key[1]].tolerance,) * len(now))
            carried[key] = np.concatenate((now, soon)) / np.tile(tolerances, 2)
    return _Beginning(transition, departure if early_ms else stage.reached_ms, carried)


def _segments(stage: Stage, until_ms: float) -> tuple[Segment, ...]:
    return tuple(
        replace(s, start_ms=int(s.start_ms), end_ms=int(min(s.end_ms, until_ms)))
        for s in stage.segments
        if s.start_ms <= until_ms
    )


def _lasting(legs: dict[str, Leg], segments: tuple[Segment, ...]) -> dict[str, Leg]:
    lengths = {s.leg: int(s.end_ms - s.start_ms) for s in segments if s.leg}
    return {name: replace(leg, length_ms=lengths[name]) for name, leg in legs.items() if name in lengths}
