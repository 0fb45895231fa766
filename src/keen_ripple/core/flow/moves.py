"""Moves: which property goes from where to where inside a transition, when, and along which curve."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import chain
from types import MappingProxyType
from typing import Any, NamedTuple

from keen_ripple.core.blends.coordinates import begun
from keen_ripple.core.curves import Easing
from keen_ripple.core.document import Piece, Transition
from keen_ripple.core.document.spans import Spans
from keen_ripple.core.flow.copies import Copy, Flat
from keen_ripple.core.flow.families import Families
from keen_ripple.core.flow.poses import Pose
from keen_ripple.core.properties import BY_NAME, STILL

LAID_OUT = frozenset(("x", "y", "width", "height"))
# What may move in every transition, by whether a layer lies in a group, and whether it is a medium.
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


class Repeat(NamedTuple):
    """A stretch of moves, from `at` on, that are those from `of` on, of the copy `like`, once more; and later."""

    like: str
    at: int
    of: int
    length: int
    later_ms: int


class Moves(NamedTuple):
    """The moves of a transition in the order of the layers, and which of them only repeat others."""

    all: tuple[Move, ...] = ()
    by_layer: Mapping[str, Sequence[Move]] = MappingProxyType({})
    # By the copies whose layers move as those of another.
    repeats: Mapping[str, Repeat] = MappingProxyType({})

    def once(self) -> Iterator[Move]:
        """Those that repeat no others."""
        at = 0
        for repeat in self.repeats.values():
            yield from self.all[at : repeat.at]
            at = repeat.at + repeat.length
        yield from self.all[at:]


class Earlier(NamedTuple):
    """The same transition in an earlier revision: its poses, families, and its moves by layer."""

    before: Pose
    after: Pose
    families: Families
    moves: Moves
    # Whether it says the same of when things move.
    same_times: bool

    def holds(self, layer: str, before: Pose, after: Pose, families: Families) -> bool:
        """Whether a layer has the looks that it had, the same objects, and moves by the same ways."""
        same_looks = before[layer] is self.before.get(layer) and after[layer] is self.after.get(layer)
        return self.same_times and same_looks and families.get(layer) == self.families.get(layer)

    def changed(self, layers: Sequence[str], moves: Sequence[Sequence[Move]]) -> Sequence[int]:
        """Which of these layers move otherwise now."""
        before = self.moves.by_layer
        return [at for at, layer in enumerate(layers) if moves[at] is not before.get(layer)]

    def repeated(
        self,
        copy: Copy,
        repeat: Repeat,
        like: Sequence[str],
        moves: Mapping[str, Sequence[Move]],
        changed: Sequence[int],
    ) -> list[Sequence[Move]]:
        """By its layers what a copy moves that moves like another, whose layers are `like`, some of them `changed`."""
        later = repeat.later_ms
        if self is NO_EARLIER:
            return [_later(moves[other], layer, later) for layer, other in zip(copy.layers, like, strict=True)]
        old = self.moves.repeats.get(copy.placement.id)
        # If it has moved like that other before, it is as it was, as far as that is.
        as_before = old is not None and (old.like, old.later_ms) == (repeat.like, later)
        found = [self.moves.by_layer.get(layer, ()) for layer in copy.layers]
        for at in changed if as_before else range(len(found)):
            found[at] = self.kept(copy.layers[at], _later(moves[like[at]], copy.layers[at], later))
        return found

    def kept(self, layer: str, moves: Sequence[Move]) -> Sequence[Move]:
        """The moves of a layer, the earlier ones where they are equal: what depends on those finds them at once."""
        old = self.moves.by_layer.get(layer)
        if not old:
            return moves
        if old == moves:
            return old
        if len(old) == len(moves):
            return [before if move == before else move for move, before in zip(moves, old, strict=True)]
        known = {move.property: move for move in old}
        return [known[move.property] if move == known.get(move.property) else move for move in moves]


NO_EARLIER = Earlier({}, {}, {}, Moves(), same_times=False)


class Movers:
    """What may move at all in a piece; made ready once for all of its transitions."""

    def __init__(self, piece: Piece, flat: Flat, families: Families) -> None:
        self._families = families
        self._changes = {state.id: state.changes for state in piece.states}
        self._flat = flat
        numbers: dict[object, int] = {}
        self._ways = {n: numbers.setdefault(copy.stands(families), len(numbers)) for n, copy in flat.copies.items()}
        self._outermost = {layer.id for layer in piece.layers}

    def moves(
        self, transition: Transition, spans: Spans, before: Pose, after: Pose, earlier: Earlier | None = None
    ) -> Moves:
        """What the transition moves: the properties in which its two poses differ, in the order of the layers.

        Layers for which the `earlier` revision still holds move as they did there.
        """
        earlier = earlier or NO_EARLIER
        found: dict[str, Sequence[Move]] = {}
        at, repeats = 0, dict[str, Repeat]()
        firsts: dict[object, Repeat] = {}
        changed: dict[str, Sequence[int]] = {}
        alike = self._flat.alike(before), self._flat.alike(after)

        def moves(layer: str) -> Sequence[Move]:
            if earlier.holds(layer, before, after, self._families):
                return earlier.moves.by_layer.get(layer, ())
            return earlier.kept(layer, self._of_layer(layer, transition, spans, before, after))

        for layer in self._flat.own:
            found[layer] = moves(layer)
            at += len(found[layer])
            copy = self._flat.copies.get(layer)
            if copy is None:
                continue
            led = spans.led.get(layer)
            timed, delay = (id(led.way), led.delay_ms) if led else (spans.of(copy.layers[0], None), 0)
            key = self._ways[layer], alike[0][layer], alike[1][layer], timed
            if key not in firsts:
                own = [moves(inner) for inner in copy.layers]
                firsts[key] = Repeat(layer, at, at, sum(map(len, own)), delay)
                changed[layer] = earlier.changed(copy.layers, own)
            else:
                first = firsts[key]
                repeats[layer] = first._replace(at=at, later_ms=delay - first.later_ms)
                others = self._flat.copies[first.like].layers
                own = earlier.repeated(copy, repeats[layer], others, found, changed[first.like])
            found.update(zip(copy.layers, own, strict=True))
            at += firsts[key].length
        return Moves(tuple(chain.from_iterable(found.values())), found, repeats)

    def _of_layer(self, layer: str, transition: Transition, spans: Spans, before: Pose, after: Pose) -> Sequence[Move]:
        one, other = self._changes[transition.from_], self._changes[transition.to]
        always = ALWAYS[layer not in self._outermost, self._flat.by_id[layer].kind == "medium"]
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


def _later(moves: Sequence[Move], layer: str, later_ms: int) -> list[Move]:
    # Without the constructor of the named tuple, since there are many.
    new = tuple.__new__
    return [
        new(Move, (layer, name, start + later_ms, end + later_ms, easing, begin, goal))
        for _, name, start, end, easing, begin, goal in moves
    ]
