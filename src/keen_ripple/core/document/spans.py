"""Spans: when each layer and property moves inside a transition, after lanes, anchors and staggers."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from keen_ripple.core.curves import Easing
from keen_ripple.core.document.transitions import Curve, Lane, Spring, Transition
from keen_ripple.core.errors import Fault


class Span(NamedTuple):
    """Whole ms from the start of the transition; `easing` is None for a cut, `timing` what it was made of."""

    start_ms: int
    end_ms: int
    easing: Easing | None
    timing: Curve | Spring


Key = tuple[str, str | None]


class AnchorFault(Fault):
    """Lanes that wait for each other."""


class Spans:
    """All spans of one transition, resolved once. Raises AnchorFault for lanes that wait for each other."""

    def __init__(self, transition: Transition) -> None:
        self._own = _span(0, transition.timing, cut=transition.style == "cut")
        self._special: dict[Key, Span] = {}
        self._late: dict[str, int] = {}
        self._timing = transition.timing
        self._lanes: dict[Key, Lane] = {}
        self._waiting: list[Key] = []
        if transition.style != "tween":
            return
        for stagger in transition.staggers:
            for layer, delay in stagger.delays_ms().items():
                self._late[layer] = self._late.get(layer, 0) + delay
        self._lanes.update({(lane.layer, lane.property): lane for lane in transition.lanes})
        for key in self._lanes:
            self._resolve(key)
        for layer, late in self._late.items():
            if (layer, None) not in self._special:
                self._special[layer, None] = _later(self._own, late)

    def of(self, layer: str, name: str | None) -> Span:
        """That of the property, or of its layer, or the transition's own."""
        return self._special.get((layer, name)) or self._special.get((layer, None)) or self._own

    @property
    def own(self) -> Span:
        """The transition's own, of all layers that nothing else is said of."""
        return self._own

    @property
    def layers(self) -> frozenset[str]:
        """Those of which something else is said."""
        return frozenset(layer for layer, _ in self._special)

    @property
    def special(self) -> Mapping[Key, Span]:
        """What is said of layers and of their properties, all resolved."""
        return self._special

    def all(self) -> Iterator[Span]:
        """The transition's own span, then those of lanes and staggered layers."""
        yield self._own
        yield from self._special.values()

    @property
    def length_ms(self) -> int:
        """How long the transition takes: until its last span ends."""
        return max(span.end_ms for span in self.all())

    def unstaggered(self, layer: str, name: str | None) -> Span:
        """The same as `of`, before the layer was staggered."""
        return _later(self.of(layer, name), -self._late.get(layer, 0))

    def anchored_to(self, lane: Lane) -> Span:
        """The span from which a lane with an anchor counts."""
        assert lane.anchor is not None
        layer, name = lane.anchor.layer, lane.anchor.property
        if layer is None:
            return self._own
        for key in ((layer, name), (layer, None)):
            if key in self._lanes:
                return self._resolve(key)
        return _later(self._own, self._late.get(layer, 0))

    def _resolve(self, key: Key) -> Span:
        if key in self._special:
            return self._special[key]
        if key in self._waiting:
            names = [layer if name is None else f"{layer} {name}" for layer, name in (*self._waiting, key)]
            raise AnchorFault(
                f"These lanes wait for each other: {' → '.join(names)}.",
                value=names,
                remedy="Let one of them count from the start of the transition.",
            )
        lane = self._lanes[key]
        self._waiting.append(key)
        start = self._start_ms(lane)
        self._waiting.pop()
        span = _span(start, lane.timing or self._timing, cut=lane.style == "cut")
        self._special[key] = _later(span, self._late.get(lane.layer, 0))
        return self._special[key]

    def _start_ms(self, lane: Lane) -> int:
        if lane.anchor is None:
            return lane.delay_ms
        other = self.anchored_to(lane)
        if lane.anchor.edge == "before-end":
            return max(other.end_ms - lane.delay_ms, 0)
        return (other.start_ms if lane.anchor.edge == "with" else other.end_ms) + lane.delay_ms


def _span(start_ms: int, timing: Curve | Spring, cut: bool) -> Span:
    length = 0 if cut else timing.length_ms()
    return Span(start_ms, start_ms + length, timing.progress() if length else None, timing)


def _later(span: Span, by_ms: int) -> Span:
    return span._replace(start_ms=span.start_ms + by_ms, end_ms=span.end_ms + by_ms)
