"""Moves: which property goes from where to where inside a transition, when, and along which curve."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from itertools import chain
from typing import Any, NamedTuple

from keen_ripple.core.blends.coordinates import begun
from keen_ripple.core.curves import Easing
from keen_ripple.core.document import Piece, Transition
from keen_ripple.core.document.spans import Spans
from keen_ripple.core.flow.copies import Flat
from keen_ripple.core.flow.families import Families
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.properties import BY_NAME, STILL

LAID_OUT = frozenset(("x", "y", "width", "height"))
# By whether a layer lies in a group, and whether it is a medium.
ALWAYS = {
    (inside, medium): (LAID_OUT if inside else frozenset()) | ({"playhead"} if medium else frozenset())
    for inside in (True, False)
    for medium in (True, False)
}
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
    # Whether it says the same of when things move.
    same_times: bool

    def unchanged(self, before: Pose, after: Pose, families: Families) -> Collection[str]:
        """The layers that have the looks that they had, the same objects, and move by the same ways."""
        if not self.same_times:
            return ()
        old, new = self.before, self.after
        same = {layer for layer, look in before.items() if look is old.get(layer) and after[layer] is new.get(layer)}
        ways = families.keys() | self.families.keys()
        return same - {layer for layer in ways if families.get(layer) != self.families.get(layer)}

    def kept(self, layer: str, moves: Sequence[Move]) -> Sequence[Move]:
        """The moves of a layer, the earlier ones where they are equal: what depends on those finds them at once."""
        old = self.moves.get(layer)
        if not old:
            return moves
        if len(old) == len(moves):
            return [before if move == before else move for move, before in zip(moves, old, strict=True)]
        known = {move.property: move for move in old}
        return [known[move.property] if move == known.get(move.property) else move for move in moves]


NO_EARLIER = Earlier({}, {}, {}, {}, same_times=False)


class Repeat(NamedTuple):
    """A stretch of moves, from `at` on, that are those from `of` on once more: in another copy, and later."""

    at: int
    of: int
    length: int
    later_ms: int


class Moves(NamedTuple):
    """The moves of a transition in the order of the layers, and which of them only repeat others."""

    all: tuple[Move, ...]
    repeats: tuple[Repeat, ...] = ()

    def once(self) -> Iterator[Move]:
        """Those that repeat no others."""
        at = 0
        for repeat in self.repeats:
            yield from self.all[at : repeat.at]
            at = repeat.at + repeat.length
        yield from self.all[at:]


class Movers:
    """What may move at all in a piece; made ready once for all of its transitions."""

    def __init__(self, piece: Piece, flat: Flat, families: Families) -> None:
        outermost = {layer.id for layer in piece.layers}
        self._families = families
        self._changes = {state.id: state.changes for state in piece.states}
        self._flat = flat
        self._inside = {name: copy.stands(families) for name, copy in flat.copies.items()}
        # What may move of each layer in every transition.
        self._always = {layer.id: ALWAYS[layer.id not in outermost, layer.kind == "medium"] for layer in flat.layers}

    def moves(
        self, transition: Transition, spans: Spans, before: Pose, after: Pose, earlier: Earlier | None = None
    ) -> Moves:
        """What the transition moves: the properties in which its two poses differ, in the order of the layers.

        Layers for which the `earlier` revision still holds move as they did there.
        """
        found: list[Move] = []
        repeats: list[Repeat] = []
        known: dict[object, tuple[Repeat, list[Sequence[Move]]]] = {}
        alike = self._flat.alike(before), self._flat.alike(after)

        earlier = earlier or NO_EARLIER
        unchanged = earlier.unchanged(before, after, self._families)

        def moves(layer: str) -> Sequence[Move]:
            if layer in unchanged:
                return earlier.moves.get(layer, ())
            return earlier.kept(layer, self._of_layer(layer, transition, spans, before, after))

        for layer in self._flat.own:
            found += moves(layer)
            copy = self._flat.copies.get(layer)
            if copy is None:
                continue
            led, at = spans.led.get(layer), len(found)
            timed, delay = (id(led.way), led.delay_ms) if led else (spans.of(copy.layers[0], None), 0)
            key = self._inside[layer], alike[0][layer], alike[1][layer], timed
            if key not in known:
                own = [moves(inner) for inner in copy.layers]
                found += chain.from_iterable(own)
                known[key] = Repeat(at, at, len(found) - at, delay), own
                continue
            first, own = known[key]
            later = delay - first.later_ms
            repeats.append(Repeat(at, first.of, first.length, later))
            for inner, like in zip(copy.layers, own, strict=True):
                if inner in unchanged:
                    found += earlier.moves.get(inner, ())
                else:
                    found += earlier.kept(inner, _repeated(like, inner, later))
        return Moves(tuple(found), tuple(repeats))

    def _of_layer(self, layer: str, transition: Transition, spans: Spans, before: Pose, after: Pose) -> Sequence[Move]:
        one, other = self._changes[transition.from_], self._changes[transition.to]
        always = self._always[layer]
        if not always and layer not in one and layer not in other:
            return ()
        names = always.union(*(look[layer].model_fields_set for look in (one, other) if layer in look))
        old, new = before[layer], after[layer]
        moved = [name for name in names if old[name] != new[name] and BY_NAME[name].blend not in STILL]
        at_once, found = transition.style == "cross-fade", []
        for name in sorted(moved, key=ORDER.__getitem__):
            start, end, easing, _ = spans.of(layer, name)
            if at_once or BY_NAME[name].blend == "discrete":
                # Nothing in between: at once, when its motion would begin.
                end, easing = start, None
            lie = self._families.get(layer, {}).get(name)
            begin = old[name] if easing is None or lie is None else begun(lie, old[name])
            found.append(Move(layer, name, start, end, easing, begin, new[name]))
        return found


def _repeated(moves: Sequence[Move], layer: str, later_ms: int) -> list[Move]:
    return [
        Move(layer, name, start + later_ms, end + later_ms, easing, begin, goal)
        for _, name, start, end, easing, begin, goal in moves
    ]
