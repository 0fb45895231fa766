"""Legs: transitions worked out, each by itself, so that an edit works out anew only those it touched."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

from keen_ripple.core.blends.coordinates import settled
from keen_ripple.core.curves import Easing
from keen_ripple.core.document import Piece, Transition
from keen_ripple.core.document.spans import Spans
from keen_ripple.core.flow.copies import Flat
from keen_ripple.core.flow.cost import Budget, Cost, cost_of
from keen_ripple.core.flow.families import Families, families_of
from keen_ripple.core.flow.finer import Finer
from keen_ripple.core.flow.media import played, playing_on, rest_leg, rest_ms
from keen_ripple.core.flow.moves import Earlier, Move, Movers, Moves, Repeat
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.flow.tape import KnownTracks, TapeTrack, tape_of, too_many_knots
from keen_ripple.core.limits import MOST_KNOTS


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
    known: KnownTracks
    # Begun in the middle of another motion: its moves do not start where the pose before it has them.
    carried: bool = False
    # How much finer than their properties say the tapes of some layers have to be.
    finer: Mapping[str, Finer] = field(default_factory=dict)
    families: Families = field(default_factory=dict)
    # The same moves by layer, with those that repeat others; None of those that were not worked out of two poses.
    worked_out: Moves | None = None

    def moves_on_axis(self) -> Iterator[Move]:
        """The moves, to be put behind those of other legs: what is carried over waits at its start where it waits."""
        for move in self.moves:
            if self.carried and move.start_ms > 0 and move.easing is not None:
                yield move._replace(start_ms=0, end_ms=0, easing=None, end=settled(move.start))
            yield move

    @cached_property
    def tape(self) -> tuple[TapeTrack, ...]:
        """The tracks of its moves, in their order; worked out once. Raises TooMuchFault."""
        return tape_of(self.moves, self.blend, self.known, self.finer, self._repeats)

    def earlier(self, transition: Transition) -> Earlier:
        """What the same leg of the next revision can take over."""
        moves = self.worked_out or Moves(by_layer=_by_layer(self.moves))
        return Earlier(self.before, self.after, self.families, moves, self.transition == transition)

    @property
    def _repeats(self) -> Sequence[Repeat]:
        return tuple(self.worked_out.repeats.values()) if self.worked_out else ()

    @cached_property
    def knots(self) -> int:
        """Of all its tracks together."""
        return sum(len(track.times_ms) for track in self.tape)

    @cached_property
    def cost(self) -> Cost:
        """What its tape costs to work out."""
        return cost_of(self.worked_out or Moves(self.moves))

    @cached_property
    def fade(self) -> Easing | None:
        """The curve of a cross-fade, over the whole leg; None for all others."""
        is_fade = self.transition.style == "cross-fade" and self.length_ms > 0
        return self.transition.timing.progress() if is_fade else None


def legs_of(
    piece: Piece, poses: Mapping[str, Pose], known: Mapping[str, Leg], finer: Mapping[str, Finer], flat: Flat
) -> dict[str, Leg]:
    """A leg for each transition, by its id, and for each rest in which a medium plays.

    Those of `known` that would come out the same are taken over. Raises TooMuchFault.
    """
    legs: dict[str, Leg] = {}
    budget = Budget()
    families = families_of(piece, poses, flat)
    budget.check_families(families)
    movers = Movers(piece, flat, families)
    for transition in piece.transitions:
        start = played(piece, poses[transition.from_], transition)
        spans = Spans(transition)
        goal, length = poses[transition.to], spans.length_ms
        leg = Leg(transition, start, goal, piece.blend, (), length, {}, finer=finer, families=families)
        drafts = [(transition.id, leg)]
        playing = playing_on(piece, transition)
        if playing is not None:
            rest = replace(leg, before=poses[transition.from_], after=start, length_ms=rest_ms(piece, transition))
            drafts.append((rest_leg(transition), replace(rest, moves=(playing,))))
        for name, draft in drafts:
            old = known.get(name)
            if old is not None and _same(draft, old):
                legs[name] = old
            else:
                earlier = old.earlier(transition) if old is not None else None
                tracks = _tracks(old, finer) if old is not None and old.blend == draft.blend else {}
                legs[name] = replace(draft, known=tracks)
                if not draft.moves:
                    moves = movers.moves(transition, spans, start, goal, earlier)
                    legs[name] = replace(legs[name], moves=moves.all, worked_out=moves)
            budget.take(legs[name].cost)
    return legs


def tapes_of(legs: Mapping[str, Leg]) -> dict[str, tuple[TapeTrack, ...]]:
    """The tapes of all legs, by name. Raises TooMuchFault where they are too much to be sent and kept."""
    tapes: dict[str, tuple[TapeTrack, ...]] = {}
    count = 0
    for name, leg in legs.items():
        tapes[name] = leg.tape
        count += leg.knots
        if count > MOST_KNOTS:
            raise too_many_knots()
    return tapes


def _by_layer(moves: Iterable[Move]) -> Mapping[str, Sequence[Move]]:
    found: dict[str, list[Move]] = {}
    for move in moves:
        found.setdefault(move.layer, []).append(move)
    return found


def _same(leg: Leg, other: Leg) -> bool:
    return (
        leg.transition == other.transition
        and leg.before == other.before
        and leg.after == other.after
        and leg.blend == other.blend
        and leg.length_ms == other.length_ms
        and (leg.finer is other.finer or leg.finer == other.finer)
        and leg.families == other.families
    )


def _tracks(leg: Leg, finer: Mapping[str, Finer]) -> KnownTracks:
    """The tracks that are still fine enough, and not finer than they have to be."""
    if leg.finer is finer:
        return dict(zip(map(id, leg.moves), leg.tape, strict=True))
    return {
        id(move): track
        for move, track in zip(leg.moves, leg.tape, strict=True)
        if leg.finer.get(move.layer) == finer.get(move.layer)
    }
