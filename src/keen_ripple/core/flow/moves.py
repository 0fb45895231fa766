"""Moves: which property goes from where to where inside a transition, when, and along which curve."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any, NamedTuple

from keen_ripple.core.blends.coordinates import begun
from keen_ripple.core.curves import Easing
from keen_ripple.core.document import Piece, Transition, walk
from keen_ripple.core.document.spans import Spans
from keen_ripple.core.flow.families import Families
from keen_ripple.core.flow.layout import laid_out
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.properties import BY_NAME, STILL

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


class Earlier(NamedTuple):
    """The same transition in an earlier revision: its poses, families, and its moves by layer."""

    before: Pose
    after: Pose
    families: Families
    moves: Mapping[str, Sequence[Move]]

    def holds(self, layer: str, before: Pose, after: Pose, families: Families) -> bool:
        """Whether a layer has the looks that it had, the same objects, and moves by the same ways."""
        same_looks = before[layer] is self.before.get(layer) and after[layer] is self.after.get(layer)
        return same_looks and families.get(layer) == self.families.get(layer)


class Movers:
    """What may move at all in a piece; made ready once for all of its transitions."""

    def __init__(self, piece: Piece, families: Families) -> None:
        inside = laid_out(piece.layers)
        self._families = families
        self._changes = {state.id: state.changes for state in piece.states}
        # In the order of painting, each with what may move of it in every transition.
        self._always = [
            (
                layer.id,
                {*(LAID_OUT if layer.id in inside else ()), *(("playhead",) if layer.kind == "medium" else ())},
            )
            for layer, _ in walk(piece.layers)
        ]

    def moves(
        self, transition: Transition, spans: Spans, before: Pose, after: Pose, earlier: Earlier | None = None
    ) -> Iterator[Move]:
        """What the transition moves: the properties in which its two poses differ, in the order of the layers.

        Layers for which the `earlier` revision still holds move as they did there.
        """
        one, other = self._changes[transition.from_], self._changes[transition.to]
        at_once = transition.style == "cross-fade"
        for layer, always in self._always:
            if not always and layer not in one and layer not in other:
                continue
            if earlier and earlier.holds(layer, before, after, self._families):
                yield from earlier.moves.get(layer, ())
                continue
            names = always.union(*(look[layer].model_fields_set for look in (one, other) if layer in look))
            old, new = before[layer], after[layer]
            moved = [name for name in names if old[name] != new[name] and BY_NAME[name].blend not in STILL]
            for name in sorted(moved, key=ORDER.__getitem__):
                start, end, easing, _ = spans.of(layer, name)
                if at_once or BY_NAME[name].blend == "discrete":
                    # Nothing in between: at once, when its motion would begin.
                    end, easing = start, None
                lie = self._families.get(layer, {}).get(name)
                begin = old[name] if easing is None or lie is None else begun(lie, old[name])
                yield Move(layer, name, start, end, easing, begin, new[name])
