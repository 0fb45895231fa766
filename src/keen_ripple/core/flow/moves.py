"""Moves: which property goes from where to where inside a transition, when, and along which curve."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any, NamedTuple

from keen_ripple.core.curves import Easing
from keen_ripple.core.document import Piece, Transition, walk
from keen_ripple.core.document.spans import Spans
from keen_ripple.core.flow.layout import laid_out
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.properties import BY_NAME

LAID_OUT = ("x", "y", "width", "height")
ORDER = {name: index for index, name in enumerate(BY_NAME)}


class Move(NamedTuple):
    """One property of one layer on its way; `easing` is None for a cut, which takes no time.

    Times are ms, from the start of the transition or, on a timeline, of the run; whole unless a motion was interrupted.
    """

    layer: str
    property: str
    start_ms: float
    end_ms: float
    easing: Easing | None
    start: Any
    end: Any

    def later(self, by_ms: float) -> Move:
        """The same move, `by_ms` later."""
        return self._replace(start_ms=self.start_ms + by_ms, end_ms=self.end_ms + by_ms)


def length_ms(transition: Transition) -> int:
    """How long a transition takes: until its own timing and its last lane have ended."""
    return Spans(transition).length_ms


def moves_of(piece: Piece, poses: Mapping[str, Pose], transition: Transition) -> Iterator[Move]:
    """What the transition moves: the properties in which its two poses differ, in the order of the layers."""
    before, after = poses[transition.from_], poses[transition.to]
    states = {state.id: state for state in piece.states}
    changes = states[transition.from_].changes, states[transition.to].changes
    inside = laid_out(piece.layers)
    spans = Spans(transition)
    for layer, _ in walk(piece.layers):
        names = {name for look in changes if layer.id in look for name in look[layer.id].model_fields_set}
        if layer.id in inside:
            names.update(LAID_OUT)
        if layer.kind == "medium":
            names.add("playhead")
        old, new = before[layer.id], after[layer.id]
        moved = [name for name in names if old[name] != new[name] and BY_NAME[name].blend != "layout"]
        for name in sorted(moved, key=ORDER.__getitem__):
            start, end, easing, _ = spans.of(layer.id, name)
            if BY_NAME[name].blend == "discrete" or transition.style == "cross-fade":
                # Nothing in between: at once, when its motion would begin.
                end, easing = start, None
            yield Move(layer.id, name, start, end, easing, old[name], new[name])
