"""Coordinates of colours: premultiplied by alpha, so that what is transparent has no colour of its own."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.colours import SPACES, Space
from keen_ripple.core.colour import colour_text

# Of places, so that they are the same wherever they are written.
DIGITS = 9
TOLERANCES = (1.0, 1.0, 1.0, 1.0 / 255.0)


@dataclass(frozen=True)
class ColourCoordinates:
    """(three coordinates times alpha, alpha) in a colour space; rows of a tape are (r, g, b, alpha)."""

    space: Space
    tolerances: tuple[float, ...] = TOLERANCES
    row_form: Any = None
    shared: bool = False

    @property
    def form(self) -> Any:
        return {"kind": "colour", "space": name_of(self.space)}

    def place(self, value: Any) -> Floats:
        return premultiplied(self.space, value)

    def rows(self, places: Floats) -> Floats:
        return shown(self.space, places)

    def value(self, row: Floats) -> str:
        return colour_text(row)


def name_of(space: Space) -> str:
    """As the piece calls it."""
    return next(name for name, known in SPACES.items() if known is space)


def premultiplied(space: Space, colour: str) -> Floats:
    """The place of a colour, (4,)."""
    *coordinates, alpha = space.coordinates(colour)
    return np.round([*(c * alpha for c in coordinates), alpha], DIGITS)


def shown(space: Space, places: Floats) -> Floats:
    """Places (n, 4) as rows (r, g, b, alpha)."""
    alpha = np.clip(places[:, 3], 0.0, 1.0)
    divided = places[:, :3] / np.where(alpha > 0.0, alpha, 1.0)[:, None]
    return np.column_stack((space.srgb(divided), alpha))
