"""Colours, premultiplied by alpha, in OKLab or in sRGB (CSS Color Level 4, section 12.3)."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.colour import colour_text, oklab_of, oklab_to_srgb, parse_colour

Coordinates = tuple[float, float, float, float]


@dataclass(frozen=True)
class ColourBlend:
    """A colour space: from CSS text to three coordinates and alpha, and from the coordinates to sRGB."""

    coordinates: Callable[[str], Coordinates]
    srgb: Callable[[Floats], Floats]

    def show(self, value: Any) -> Floats:
        return np.array(parse_colour(value))

    def mix(self, start: Any, end: Any, progress: Floats) -> Floats:
        a, b = np.array(self.coordinates(start)), np.array(self.coordinates(end))
        # What is wholly transparent has no colour of its own: it takes the other's, and fades.
        if a[3] == 0.0:
            a = np.append(b[:3], 0.0)
        elif b[3] == 0.0:
            b = np.append(a[:3], 0.0)
        p = progress[:, None]
        alpha = np.clip(a[3] * (1.0 - p) + b[3] * p, 0.0, 1.0)
        premultiplied = a[:3] * a[3] * (1.0 - p) + b[:3] * b[3] * p
        with np.errstate(divide="ignore", invalid="ignore"):
            between = np.where(alpha > 0.0, premultiplied / alpha, a[:3] * (1.0 - p) + b[:3] * p)
        return np.column_stack((self.srgb(between), alpha))

    def value(self, row: Floats) -> str:
        return colour_text(row)


def _within_srgb(coordinates: Floats) -> Floats:
    return np.clip(coordinates, 0.0, 255.0)


COLOUR_BLENDS = {
    "oklab": ColourBlend(oklab_of, oklab_to_srgb),
    "srgb": ColourBlend(parse_colour, _within_srgb),
}
