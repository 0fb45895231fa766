"""The run: what plays when nobody touches the piece; a lead-in, then a loop or an end."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType
from typing import Literal

from typing_extensions import TypedDict

from keen_ripple.core.document import Piece, Transition
from keen_ripple.core.errors import RunFault
from keen_ripple.core.flow.media import rest_leg, rest_ms
from keen_ripple.core.flow.moves import length_ms
from keen_ripple.core.limits import LONGEST_COMMON_LOOP_MS, LONGEST_SHOWN_LOOP_MS

AFTER_A_REST = ("hold", "media-end")
BY_ITSELF = (*AFTER_A_REST, "appear", "reaches")
"""Cues that need no person; things appear only where the piece begins."""

SegmentTold = TypedDict(
    "SegmentTold", {"kind": Literal["hold", "travel"], "from": str, "to": str, "start_ms": float, "end_ms": float}
)


@dataclass(frozen=True)
class Segment:
    """A stretch of the run in ms, whole in a run: a state at rest, or the way between two. A cut takes no time."""

    kind: Literal["hold", "travel"]
    from_: str
    to: str
    start_ms: float
    end_ms: float
    transition: str
    # Which leg plays it: the transition's id, unless it is left early or begins in mid-motion; of a hold none, unless
    # a medium plays in it.
    leg: str = ""

    def to_json(self) -> SegmentTold:
        """As the command line and the page are told."""
        return {
            "kind": self.kind,
            "from": self.from_,
            "to": self.to,
            "start_ms": self.start_ms,
            "end_ms": self.end_ms,
        }


@dataclass(frozen=True)
class Run:
    """`segments` cover the lead-in and one round of the loop; `loop_ms` is None where the run ends.

    `plays` is how often the loop is played before the piece rests in `final_state`, None for ever. After
    `common_loop_ms` everything looks as before, undercurrents and free placements too, from `common_from_ms` on; None
    where nothing goes round, or only in more than 2⁵³ ms.
    """

    lead_in_ms: int
    loop_ms: int | None
    segments: tuple[Segment, ...]
    final_state: str
    plays: int | None = None
    common_loop_ms: int | None = None
    common_from_ms: int = 0

    @property
    def total_ms(self) -> int:
        """The length of the lead-in with one round of the loop."""
        return self.lead_in_ms + (self.loop_ms or 0)

    @property
    def end_ms(self) -> int | None:
        """When the last state is reached; None where the loop never ends."""
        if self.loop_ms is None:
            return self.lead_in_ms
        return self.lead_in_ms + self.plays * self.loop_ms if self.plays else None

    def within(self, t_ms: float) -> float:
        """The moment of the first round that looks like `t_ms` ≥ 0: loops go round, ends stay."""
        if self.end_ms is not None and t_ms >= self.end_ms:
            return float(self.total_ms)
        if self.loop_ms is None or t_ms < self.total_ms:
            return t_ms
        return self.lead_in_ms + (t_ms - self.lead_in_ms) % self.loop_ms

    def states_at(self, moment_ms: float) -> tuple[str, str]:
        """The states between which a moment of the first round lies; twice the same at rest."""
        index = bisect_right(self.segments, moment_ms, key=lambda segment: segment.start_ms) - 1
        if index < 0 or moment_ms >= self.segments[index].end_ms:
            return self.final_state, self.final_state
        return self.segments[index].from_, self.segments[index].to

    def to_json(self) -> dict[str, object]:
        """As the command line is told: times in ms, and what is only of a run that has it."""
        return {
            "lead_in_ms": self.lead_in_ms,
            "loop_ms": self.loop_ms,
            "segments": [segment.to_json() for segment in self.segments],
            **({"plays": self.plays} if self.plays else {}),
            **({"common_loop_ms": self.common_loop_ms} if self.common_loop_ms != self.loop_ms else {}),
        }


Beside = tuple[int, Run]
"""A run beside another, and when it begins on the axis of that, ms."""


def run_of(piece: Piece, lengths_ms: Mapping[str, int] = MappingProxyType({})) -> Run:
    """Follows the cues that need no person from the start state. Raises RunFault for a loop that takes no time.

    `lengths_ms` are those of transitions, by id, where they are known already.
    """
    # The start is another place when it is met again: what appears, appears once.
    reached: dict[tuple[str, bool], int] = {}
    segments: list[Segment] = []
    place, now = (piece.start, True), 0
    while place not in reached:
        reached[place] = now
        state, first = place
        transition = leaves_first(piece, state, first)
        if transition is None:
            return with_common_loop(piece, Run(now, None, tuple(segments), state))
        departure = now + rest_ms(piece, transition)
        if departure > now:
            segments.append(Segment("hold", state, state, now, departure, transition.id, rest_leg(transition)))
        known = lengths_ms.get(transition.id)
        now = departure + (length_ms(transition) if known is None else known)
        segments.append(Segment("travel", state, transition.to, departure, now, transition.id, transition.id))
        place = _merged((transition.to, False), reached, piece)
    lead_in = reached[place]
    if now == lead_in:
        order = list(reached)
        raise no_time([state for state, _ in order[order.index(place) :]], piece)
    return with_common_loop(piece, Run(lead_in, now - lead_in, tuple(segments), place[0], piece.plays))


def _merged(place: tuple[str, bool], reached: Mapping[tuple[str, bool], int], piece: Piece) -> tuple[str, bool]:
    """The start met again is the same place unless something left it that only appears."""
    state, _ = place
    first_time = (state, True)
    same = first_time in reached and leaves_first(piece, state, True) == leaves_first(piece, state, False)
    return first_time if same else place


def with_common_loop(piece: Piece, run: Run, others: Sequence[Beside] = ()) -> Run:
    """The run with the time after which loop, undercurrents, and the runs beside it look as before."""
    looping = [s for s in run.segments if s.end_ms > run.lead_in_ms] if run.loop_ms and not run.plays else []
    ends = [(segment.from_, segment.to) for segment in looping] or [(run.final_state, run.final_state)]
    periods: list[int | None] = [
        u.period_ms for u in piece.undercurrents if u.section is None and any(u.runs(*pair) for pair in ends)
    ]
    periods += [run.loop_ms] if run.loop_ms and not run.plays else []
    settled = run.lead_in_ms if run.loop_ms and not run.plays else run.end_ms or 0
    for begins, other in others:
        settled = max(settled, begins + other.common_from_ms)
        if other.common_loop_ms or (other.loop_ms and not other.plays):
            periods.append(other.common_loop_ms)
    whole = [period for period in periods if period is not None]
    common = math.lcm(*whole) if whole and len(whole) == len(periods) else None
    kept = common if common is None or common <= LONGEST_COMMON_LOOP_MS else None
    return replace(run, common_loop_ms=kept, common_from_ms=settled)


def going_on(piece: Piece, run: Run, others: Sequence[Beside]) -> Run:
    """A run that rests goes on for as long as undercurrents, and others beside it, have something to show: for their
    common loop, or once through the longest where that takes too long to be watched."""
    rest = (run.final_state, run.final_state)
    rounds = [u.period_ms for u in piece.undercurrents if u.section is None and u.runs(*rest)]
    if run.loop_ms is not None or not (others or rounds):
        return run
    from_ms, loop = run.common_from_ms, run.common_loop_ms
    ends = [*(begins + other.total_ms for begins, other in others), *(run.total_ms + period for period in rounds)]
    once = max(ends)
    if loop is not None and loop <= LONGEST_SHOWN_LOOP_MS:
        lead_in, end = from_ms, from_ms + loop
    else:
        loop, lead_in, end = None, max(from_ms, once), max(from_ms, once)
    rests = [(run.lead_in_ms, lead_in), (lead_in, end)]
    state = run.final_state
    segments = (Segment("hold", state, state, start, stop, "") for start, stop in rests if stop > start)
    return replace(run, lead_in_ms=lead_in, loop_ms=loop, plays=None, segments=(*run.segments, *segments))


def leaves_first(piece: Piece, state: str, first: bool) -> Transition | None:
    """The transition that starts by itself: the one with the shortest rest, the first written among equals.

    `first` says whether the piece has just begun, so that things appear.
    """
    cues = (*AFTER_A_REST, "appear") if first else AFTER_A_REST
    own = [t for t in piece.transitions if t.from_ == state and t.cue in cues]
    return min(own, key=lambda t: rest_ms(piece, t), default=None)


def no_time(states: list[str], piece: Piece) -> RunFault:
    """The fault of a loop through these states in which no time passes."""
    names = {state.id: state.name for state in piece.states}
    chain = " → ".join(names[state] for state in [*states, states[0]])
    return RunFault(
        f"The loop {chain} takes no time.",
        place="/transitions",
        value=states,
        remedy="Give one of its states a hold, or one of its transitions a duration.",
    )
