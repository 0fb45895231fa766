"""Paints: colours, and gradients stop by stop; gradients of different kinds fade into each other."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from keen_ripple.core.blends.blend import Between, Varied
from keen_ripple.core.blends.colours import SPACES, ColourBetween, Space
from keen_ripple.core.blends.composite import Column, Composite
from keen_ripple.core.blends.discrete import FadeBetween
from keen_ripple.core.colour import colour_text
from keen_ripple.core.values import Fade, Gradient, Paint, Stop

NUMBERS = {
    "angle": (0.05, -np.inf),
    "centre_x": (0.002, -np.inf),
    "centre_y": (0.002, -np.inf),
    "radius": (0.002, 0.0),
    "stretch": (0.002, 0.0),
    "focus_x": (0.002, -np.inf),
    "focus_y": (0.002, -np.inf),
}
"""What a gradient has besides its stops: how far a tape may be off, and the least value."""


@dataclass(frozen=True)
class PaintBlend(Varied):
    """Colours blend as colours do; a colour and a gradient as if the colour were at every stop."""

    space: Space

    def between(self, start: Paint | Fade, end: Paint) -> Between:
        if isinstance(start, Fade):
            # Interrupted between two kinds: both go on fading, into the third.
            return FadeBetween(start, end)
        if isinstance(start, str):
            if isinstance(end, str):
                return ColourBetween.of(self.space, start, end)
            start = _plain(start, end)
        elif isinstance(end, str):
            end = _plain(end, start)
        return self._stop_by_stop(start, end) if start.kind == end.kind else FadeBetween(start, end)

    def _stop_by_stop(self, start: Gradient, end: Gradient) -> Composite:
        names = [name for name in NUMBERS if name in type(start).model_fields]
        columns = [
            Column(getattr(start, name), getattr(end, name), tolerance, low)
            for name, (tolerance, low) in ((name, NUMBERS[name]) for name in names)
        ]
        pairs = list(zip(*_matched(start.stops, end.stops), strict=True))
        columns += [Column(a.at, b.at, 0.002, 0.0, 1.0) for a, b in pairs]
        colours = [ColourBetween.of(self.space, a.colour, b.colour) for a, b in pairs]

        def build(numbers: list[float], texts: list[str]) -> Gradient:
            own, places = numbers[: len(names)], np.maximum.accumulate(numbers[len(names) :]).tolist()
            stops = tuple(Stop(at=at, colour=text) for at, text in zip(places, texts, strict=True))
            fields = dict(zip(names, own, strict=True))
            return start.model_copy(update={**fields, "stops": stops})

        form = {"kind": "gradient", "gradient": start.kind, "numbers": names, "stops": len(pairs)}
        return Composite(columns, colours, build, form)


def _plain(colour: str, like: Gradient) -> Gradient:
    return like.model_copy(update={"stops": tuple(Stop(at=stop.at, colour=colour) for stop in like.stops)})


def _matched(a: tuple[Stop, ...], b: tuple[Stop, ...]) -> tuple[list[Stop], list[Stop]]:
    """Both with the same number of stops: where that differs, each gets stops at the places of the other's too.

    A stop added on the way between two has the colour that is seen there, so nothing looks different for it.
    """
    if len(a) == len(b):
        return list(a), list(b)
    places = Counter(stop.at for stop in a) | Counter(stop.at for stop in b)
    return with_places(a, places), with_places(b, places)


def with_places(stops: tuple[Stop, ...], places: Counter[float]) -> list[Stop]:
    missing = places - Counter(stop.at for stop in stops)
    added = [Stop(at=at, colour=_seen_at(stops, at)) for at in missing.elements()]
    return sorted([*stops, *added], key=lambda stop: stop.at)


def _seen_at(stops: tuple[Stop, ...], at: float) -> str:
    """Between two stops browsers blend in sRGB, premultiplied."""
    if at <= stops[0].at:
        return stops[0].colour
    for before, after in pairwise(stops):
        if before.at <= at < after.at:
            between = ColourBetween.of(SPACES["srgb"], before.colour, after.colour)
            return colour_text(between.rows(np.array([(at - before.at) / (after.at - before.at)]))[0])
    return stops[-1].colour
