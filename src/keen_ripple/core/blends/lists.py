"""Lists: shadows pair by pair, dashes length by length, axes one by one."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import zip_longest

from keen_ripple.core.blends.blend import Varied
from keen_ripple.core.blends.colours import ColourBetween, Space
from keen_ripple.core.blends.composite import Column, Composite
from keen_ripple.core.colour import NONE
from keen_ripple.core.values import AxisPlace, Shadow

Shadows = tuple[Shadow, ...]
Lengths = tuple[float, ...]
Places = tuple[AxisPlace, ...]
TOLERANCE_PX = 0.05
# Axes go over tens to hundreds; those from 0 to 1 in steps of 0.002, as factors do.
TOLERANCE_ON_AXIS = 0.002


@dataclass(frozen=True)
class ShadowsBlend(Varied):
    """One by one from the first; a shadow without a partner fades, as does one that turns inwards or outwards."""

    space: Space

    def between(self, start: Shadows, end: Shadows) -> Composite:
        pairs = [pair for both in zip_longest(start, end) for pair in _pairs(*both)]
        columns = [
            Column(getattr(a, name), getattr(b, name), TOLERANCE_PX, 0.0 if name == "blur" else -math.inf)
            for a, b in pairs
            for name in ("x", "y", "blur", "spread")
        ]
        colours = [ColourBetween.of(self.space, a.colour, b.colour) for a, b in pairs]
        inset = [a.inset for a, _ in pairs]

        def build(numbers: list[float], texts: list[str]) -> Shadows:
            return tuple(
                Shadow(x=x, y=y, blur=blur, spread=spread, colour=text, inset=inside)
                for (x, y, blur, spread), text, inside in zip(_fours(numbers), texts, inset, strict=True)
            )

        return Composite(columns, colours, build, {"kind": "shadows", "inset": inset})


def _pairs(a: Shadow | None, b: Shadow | None) -> list[tuple[Shadow, Shadow]]:
    if a and b and a.inset == b.inset:
        return [(a, b)]
    fading = [(a, _clear(a))] if a else []
    return [*fading, (_clear(b), b)] if b else fading


def _clear(shadow: Shadow) -> Shadow:
    return shadow.model_copy(update={"colour": NONE})


def _fours(numbers: Sequence[float]) -> list[Sequence[float]]:
    return [numbers[at : at + 4] for at in range(0, len(numbers), 4)]


class DashBlend(Varied):
    """Both repeated to one length, as SVG does for stroke-dasharray; no dashes are dashes without gaps."""

    def between(self, start: Lengths, end: Lengths) -> Composite:
        a, b = evened(start) or _closed(evened(end)), evened(end) or _closed(evened(start))
        count = math.lcm(len(a), len(b)) if a and b else 0
        pairs = zip(a * (count // len(a)), b * (count // len(b)), strict=True) if count else ()
        columns = [Column(x, y, TOLERANCE_PX, 0.0) for x, y in pairs]
        return Composite(columns, (), lambda numbers, _: tuple(numbers), {"kind": "lengths"})


def evened(dash: Lengths) -> Lengths:
    """A list of odd length is meant twice: SVG 2, section 13.5.6."""
    return dash if len(dash) % 2 == 0 else dash * 2


def _closed(dash: Lengths) -> Lengths:
    return tuple(0.0 if index % 2 else length for index, length in enumerate(dash))


class AxesBlend(Varied):
    """Each axis by itself; both say the same axes in the same order."""

    def between(self, start: Places, end: Places) -> Composite:
        columns = [Column(a.value, b.value, TOLERANCE_ON_AXIS) for a, b in zip(start, end, strict=True)]
        names = tuple(place.axis for place in start)
        return Composite(columns, (), lambda numbers, _: places(names, numbers), {"kind": "axes", "axes": list(names)})


def places(names: Sequence[str], numbers: Sequence[float]) -> Places:
    """Numbers on the axes so named."""
    return tuple(AxisPlace.model_construct(axis=name, value=value) for name, value in zip(names, numbers, strict=True))


DASH = DashBlend()
AXES = AxesBlend()
