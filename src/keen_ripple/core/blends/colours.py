"""Colours, premultiplied by alpha, in OKLab or in sRGB (CSS Color Level 4, section 12.3)."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.colour import colour_text, oklab_of, oklab_to_srgb, parse_colour, srgb_of

Coordinates = tuple[float, float, float, float]


@dataclass(frozen=True)
class Space:
    """A colour space: from CSS text to three coordinates and alpha, and from the coordinates to sRGB.

    Coordinates that differ by less than `tolerance` look the same.
    """

    coordinates: Callable[[str], Coordinates]
    srgb: Callable[[Floats], Floats]
    tolerance: float


@dataclass(frozen=True, eq=False)
class ColourBetween:
    """`start` and `end` are (three coordinates, alpha), not premultiplied."""

    start: Floats
    end: Floats
    srgb: Callable[[Floats], Floats]
    form: None = None
    tolerances: tuple[float, ...] = (1.0, 1.0, 1.0, 1.0 / 255.0)

    @staticmethod
    def of(space: Space, start: str, end: str) -> ColourBetween:
        a, b = np.array(space.coordinates(start)), np.array(space.coordinates(end))
        # What is wholly transparent has no colour of its own: it takes the other's, and fades.
        if a[3] == 0.0:
            a = np.append(b[:3], 0.0)
        elif b[3] == 0.0:
            b = np.append(a[:3], 0.0)
        return ColourBetween(a, b, space.srgb)

    def rows(self, progress: Floats) -> Floats:
        a, b, p = self.start, self.end, progress[:, None]
        alpha = np.clip(a[3] * (1.0 - p) + b[3] * p, 0.0, 1.0)
        premultiplied = a[:3] * a[3] * (1.0 - p) + b[:3] * b[3] * p
        with np.errstate(divide="ignore", invalid="ignore"):
            between = np.where(alpha > 0.0, premultiplied / alpha, a[:3] * (1.0 - p) + b[:3] * p)
        return np.column_stack((self.srgb(between), alpha))

    def value(self, row: Floats) -> str:
        return colour_text(row)


@dataclass(frozen=True)
class ColourBlend:
    space: Space
    columns: int = 4

    def show(self, value: Any) -> Floats:
        return np.array(parse_colour(value))

    def between(self, start: Any, end: Any) -> ColourBetween:
        return ColourBetween.of(self.space, start, end)


def _within_srgb(coordinates: Floats) -> Floats:
    return np.clip(coordinates, 0.0, 255.0)


SPACES = {"oklab": Space(oklab_of, oklab_to_srgb, 0.002), "srgb": Space(srgb_of, _within_srgb, 0.5)}
