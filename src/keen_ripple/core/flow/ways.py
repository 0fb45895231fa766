"""Ways: along which transitions of their originals placements are led, as lanes of the piece around them."""

from __future__ import annotations

from keen_ripple.core.document import Piece, Transition
from keen_ripple.core.document.spans import Led, Way
from keen_ripple.core.flow.copies import every_layer


class Ways:
    """Copies that stand alike share their ways; those of `before`, an earlier revision, are kept where they are equal,
    so that what depends on them finds that out at once.
    """

    def __init__(self, before: Piece | None) -> None:
        ways = before.transitions if before else ()
        self._lanes = {(way.id, lane.layer): lane for way in ways for lane in way.lanes if isinstance(lane, Led)}
        self._earlier = {(lane.way.transition.id, lane.way.layers): lane.way for lane in self._lanes.values()}
        self._known: dict[tuple[int, int, str, str], Way | None] = {}

    def of(self, base: Piece, original: Piece, from_: str, to: str) -> Way | None:
        """That of the original from state to state; None where it has none. The base has its layers."""
        key = (id(base), id(original), from_, to)
        if key not in self._known:
            self._known[key] = self._way(base, way_of(original, from_, to))
        return self._known[key]

    def lane(self, transition: Transition, placement: str, delay_ms: int, way: Way) -> Led:
        """What leads the placement along a way in a transition around it, from `delay_ms` on."""
        old = self._lanes.get((transition.id, placement))
        if old is not None and old.way is way and old.delay_ms == delay_ms:
            return old
        return Led.model_construct(layer=placement, delay_ms=delay_ms, way=way)

    def _way(self, base: Piece, own: Transition | None) -> Way | None:
        if own is None:
            return None
        way = Way.model_construct(transition=own, layers=tuple(layer.id for layer in every_layer(base.layers)))
        old = self._earlier.get((own.id, way.layers))
        return old if old == way else way


def way_of(original: Piece, from_: str, to: str) -> Transition | None:
    """The transition by which a placement is led from one state of its original to another; the first written."""
    return next((own for own in original.transitions if (own.from_, own.to) == (from_, to)), None)
