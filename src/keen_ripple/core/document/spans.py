"""Spans: when each layer and property moves inside a transition, after lanes, anchors and staggers.

What lies in a placement that has been laid flat is called `placement/layer`. It moves as the way of its original says
that leads it, and where none does, when the state of the placement does.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cached_property
from typing import NamedTuple

from keen_ripple.core.curves import Easing
from keen_ripple.core.document.fields import Model
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


class Way(Model):
    """A transition of an original, and the layers that it can move: the same for all of its placements."""

    transition: Transition
    layers: tuple[str, ...]

    @cached_property
    def spans(self) -> Spans:
        """Those of the layers as the original calls them."""
        return Spans(self.transition)

    @cached_property
    def length_ms(self) -> int:
        """Until the last of its layers has ended."""
        own = (self.spans.of(layer, None) for layer in self.layers)
        finer = (span for (_, name), span in self.spans.special.items() if name is not None)
        inner = (led.end_ms for led in self.spans.led.values())
        return max((*(span.end_ms for span in (*own, *finer)), *inner), default=0)


class Led(Lane):
    """A lane of a flat piece: what lies in this placement moves along a way of its original, later by the delay."""

    way: Way

    def of(self, layer: str, name: str | None) -> Span:
        """The span of a layer as the original calls it."""
        return _later(self.way.spans.of(layer, name), self.delay_ms)

    def of_properties(self) -> Iterator[tuple[Key, Span]]:
        """What is said of single properties, of layers as they are called in the flat piece."""
        own = [(key, span) for key, span in self.way.spans.special.items() if key[1] is not None]
        inner = [told for led in self.way.spans.led.values() for told in led.of_properties()]
        for (layer, name), span in (*own, *inner):
            yield (f"{self.layer}/{layer}", name), _later(span, self.delay_ms)

    @property
    def end_ms(self) -> int:
        """When the last of what lies in the placement has ended."""
        return self.delay_ms + self.way.length_ms


class Spans:
    """All spans of one transition, resolved once. Raises AnchorFault for lanes that wait for each other."""

    def __init__(self, transition: Transition) -> None:
        self._own = _span(0, transition.timing, cut=transition.style == "cut")
        self._special: dict[Key, Span] = {}
        self._late: dict[str, int] = {}
        self._timing = transition.timing
        self._led: dict[str, Led] = {}
        self._lanes: dict[Key, Lane] = {}
        self._waiting: list[Key] = []
        if transition.style != "tween":
            return
        for stagger in transition.staggers:
            for layer, delay in stagger.delays_ms().items():
                self._late[layer] = self._late.get(layer, 0) + delay
        self._led.update({lane.layer: lane for lane in transition.lanes if isinstance(lane, Led)})
        written = (lane for lane in transition.lanes if not isinstance(lane, Led))
        self._lanes.update({(lane.layer, lane.property): lane for lane in written})
        for key in self._lanes:
            self._resolve(key)
        for layer, late in self._late.items():
            if (layer, None) not in self._special:
                self._special[layer, None] = _later(self._own, late)

    def of(self, layer: str, name: str | None) -> Span:
        """That of the property, or of its layer, or of the placement in which it lies, or the transition's own."""
        found = self._special.get((layer, name)) or self._special.get((layer, None))
        if found is None and "/" in layer:
            placement, inner = layer.rsplit("/", 1)
            return self._inside(placement, inner, name)
        return found or self._own

    def _inside(self, placement: str, layer: str, name: str | None) -> Span:
        led = self._led.get(placement)
        if led is not None:
            return led.of(layer, name)
        found = self._special.get((placement, "state")) or self._special.get((placement, None))
        if found is None and "/" in placement:
            outer, inner = placement.rsplit("/", 1)
            return self._inside(outer, f"{inner}/{layer}", name)
        return found or self._own

    @property
    def own(self) -> Span:
        """The transition's own, of all layers that nothing else is said of."""
        return self._own

    @property
    def led(self) -> Mapping[str, Led]:
        """What leads the content of placements along ways of their originals, by placement."""
        return self._led

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
        return max((*(span.end_ms for span in self.all()), *(led.end_ms for led in self._led.values())))

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
