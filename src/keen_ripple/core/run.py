"""The run: what plays when nobody touches the piece; a lead-in, then a loop or an end."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from keen_ripple.core.document import Piece, Transition
from keen_ripple.core.errors import RunFault
from keen_ripple.core.moves import length_ms


@dataclass(frozen=True)
class Segment:
    """A stretch of the run in whole ms: a state at rest, or the way between two. A cut takes no time."""

    kind: Literal["hold", "travel"]
    from_: str
    to: str
    start_ms: int
    end_ms: int
    transition: str

    def to_json(self) -> dict[str, object]:
        return {
            "kind": self.kind,
            "from": self.from_,
            "to": self.to,
            "start_ms": self.start_ms,
            "end_ms": self.end_ms,
        }


@dataclass(frozen=True)
class Run:
    """`segments` cover the lead-in and one round of the loop; `loop_ms` is None where the run ends."""

    lead_in_ms: int
    loop_ms: int | None
    segments: tuple[Segment, ...]
    final_state: str

    @property
    def total_ms(self) -> int:
        """The length of the lead-in with one round of the loop."""
        return self.lead_in_ms + (self.loop_ms or 0)

    def within(self, t_ms: float) -> float:
        """The moment of the first round that looks like `t_ms` ≥ 0: loops go round, ends stay."""
        if t_ms < self.total_ms:
            return t_ms
        if self.loop_ms is None:
            return float(self.total_ms)
        return self.lead_in_ms + (t_ms - self.lead_in_ms) % self.loop_ms

    def to_json(self) -> dict[str, object]:
        return {
            "lead_in_ms": self.lead_in_ms,
            "loop_ms": self.loop_ms,
            "segments": [segment.to_json() for segment in self.segments],
        }


def run_of(piece: Piece) -> Run:
    """Follows the cues that need no person from the start state. Raises RunFault for a loop that takes no time."""
    reached: dict[str, int] = {}
    segments: list[Segment] = []
    state, now = piece.start, 0
    while state not in reached:
        reached[state] = now
        transition = _leaves_first(piece, state)
        if transition is None:
            return Run(now, None, tuple(segments), state)
        departure = now + transition.hold_ms
        if departure > now:
            segments.append(Segment("hold", state, state, now, departure, transition.id))
        now = departure + length_ms(transition)
        segments.append(Segment("travel", state, transition.to, departure, now, transition.id))
        state = transition.to
    lead_in = reached[state]
    if now == lead_in:
        raise _no_time([name for name, at in reached.items() if at == lead_in and _after(reached, state, name)], piece)
    return Run(lead_in, now - lead_in, tuple(segments), state)


def _leaves_first(piece: Piece, state: str) -> Transition | None:
    """The transition that starts by itself: the one with the shortest hold, the first written among equals."""
    own = [t for t in piece.transitions if t.from_ == state and t.cue == "hold"]
    return min(own, key=lambda t: t.hold_ms, default=None)


def _after(reached: dict[str, int], first: str, name: str) -> bool:
    order = list(reached)
    return order.index(name) >= order.index(first)


def _no_time(states: list[str], piece: Piece) -> RunFault:
    names = {state.id: state.name for state in piece.states}
    chain = " → ".join(names[state] for state in [*states, states[0]])
    return RunFault(
        f"The loop {chain} takes no time.",
        place="/transitions",
        value=states,
        remedy="Give one of its states a hold, or one of its transitions a duration.",
    )
