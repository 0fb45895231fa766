"""Legs: transitions worked out, each by itself, so that an edit works out anew only those it touched."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

from keen_ripple.core.curves import Easing
from keen_ripple.core.document import Piece, Transition
from keen_ripple.core.moves import Move, length_ms, moves_of
from keen_ripple.core.poses import Pose
from keen_ripple.core.tape import TapeTrack, tape_of


@dataclass(frozen=True, eq=False)
class Leg:
    """A transition between two poses, with its moves; times are ms from the start of the transition."""

    transition: Transition
    before: Pose
    after: Pose
    blend: str
    moves: tuple[Move, ...]
    length_ms: int
    # Tracks of an earlier revision, for moves that are still the same.
    known: Mapping[Move, TapeTrack]
    # Begun in the middle of another motion: its moves do not start where the pose before it has them.
    carried: bool = False

    def moves_on_axis(self) -> Iterator[Move]:
        """The moves, to be put behind those of other legs: what is carried over waits at its start where it waits."""
        for move in self.moves:
            if self.carried and move.start_ms > 0 and move.easing is not None:
                yield move._replace(start_ms=0, end_ms=0, easing=None, end=move.start)
            yield move

    @cached_property
    def tape(self) -> tuple[TapeTrack, ...]:
        return tape_of(self.moves, self.blend, self.known)

    @cached_property
    def fade(self) -> Easing | None:
        """The curve of a cross-fade, over the whole leg; None for all others."""
        is_fade = self.transition.style == "cross-fade" and self.length_ms > 0
        return self.transition.timing.progress() if is_fade else None


def legs_of(piece: Piece, poses: Mapping[str, Pose], known: Mapping[str, Leg]) -> dict[str, Leg]:
    """A leg for each transition, by its id; those of `known` that would come out the same are taken over."""
    legs: dict[str, Leg] = {}
    for transition in piece.transitions:
        leg = known.get(transition.id)
        if leg is None or not _same(leg, piece, poses, transition):
            leg = Leg(
                transition,
                poses[transition.from_],
                poses[transition.to],
                piece.blend,
                tuple(moves_of(piece, poses, transition)),
                length_ms(transition),
                _tracks(leg) if leg is not None and leg.blend == piece.blend else {},
            )
        legs[transition.id] = leg
    return legs


def _same(leg: Leg, piece: Piece, poses: Mapping[str, Pose], transition: Transition) -> bool:
    return (
        leg.transition == transition
        and leg.before == poses[transition.from_]
        and leg.after == poses[transition.to]
        and leg.blend == piece.blend
    )


def _tracks(leg: Leg) -> dict[Move, TapeTrack]:
    return dict(zip(leg.moves, leg.tape, strict=True))
