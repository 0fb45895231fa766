"""Moves: which property goes from where to where inside a transition, when, and along which curve."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any, NamedTuple

from keen_ripple.core.curves import Easing
from keen_ripple.core.document import Piece, Transition, walk
from keen_ripple.core.poses import Pose
from keen_ripple.core.properties import BY_NAME

ORDER = {name: index for index, name in enumerate(BY_NAME)}


class Move(NamedTuple):
    """One property of one layer on its way; `easing` is None for a cut, which takes no time.

    Times are ms, from the start of the transition or, on a timeline, of the run.
    """

    layer: str
    property: str
    start_ms: int
    end_ms: int
    easing: Easing | None
    start: Any
    end: Any

    def later(self, by_ms: int) -> Move:
        return self._replace(start_ms=self.start_ms + by_ms, end_ms=self.end_ms + by_ms)


def length_ms(transition: Transition) -> int:
    """How long a transition takes: until its own timing and its last lane have ended."""
    return max(end for _, end, _ in _Lanes(transition).all())


def moves_of(piece: Piece, poses: Mapping[str, Pose], transition: Transition) -> Iterator[Move]:
    """What the transition moves: the properties in which its two poses differ, in the order of the layers."""
    before, after = poses[transition.from_], poses[transition.to]
    states = {state.id: state for state in piece.states}
    changes = states[transition.from_].changes, states[transition.to].changes
    lanes = _Lanes(transition)
    for layer, _ in walk(piece.layers):
        names = {name for look in changes if layer.id in look for name in look[layer.id].model_fields_set}
        old, new = before[layer.id], after[layer.id]
        for name in sorted((name for name in names if old[name] != new[name]), key=ORDER.__getitem__):
            yield Move(layer.id, name, *lanes.of(layer.id, name), old[name], new[name])


Span = tuple[int, int, Easing | None]
"""(start_ms, end_ms, easing) inside a transition."""


class _Lanes:
    """The spans of a transition, worked out once for all its moves."""

    def __init__(self, transition: Transition) -> None:
        timing = transition.timing
        self._own: Span = (0, 0, None)
        self._special: dict[tuple[str, str | None], Span] = {}
        if transition.style == "cut":
            return
        self._own = _span(0, timing.length_ms(), timing.progress())
        self._special = {
            (lane.layer, lane.property): _span(
                lane.delay_ms, (lane.timing or timing).length_ms(), (lane.timing or timing).progress()
            )
            for lane in transition.lanes
        }

    def of(self, layer: str, name: str) -> Span:
        """The lane of the property, or that of its layer, or the transition's own."""
        return self._special.get((layer, name)) or self._special.get((layer, None)) or self._own

    def all(self) -> list[Span]:
        return [self._own, *self._special.values()]


def _span(delay_ms: int, length: int, easing: Easing) -> Span:
    return delay_ms, delay_ms + length, easing if length else None
