"""Where the values of one property lie, so that every motion among them is a line or a sum of a few.

A blend says what lies between two values; coordinates hold all values that a property of a layer has in any state, so
that a motion can be taken over on its way and led to any of them. Between two values they say the same as the blend.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from typing import Any

from keen_ripple.core.blends.colours import SPACES
from keen_ripple.core.blends.coordinates.colours import ColourCoordinates
from keen_ripple.core.blends.coordinates.lists import AxesCoordinates, DashCoordinates, ShadowCoordinates
from keen_ripple.core.blends.coordinates.outlines import OutlineCoordinates
from keen_ripple.core.blends.coordinates.paints import PaintCoordinates
from keen_ripple.core.blends.coordinates.passing import Coordinates, Passing, begun, settled
from keen_ripple.core.blends.coordinates.plain import FadeCoordinates, Nearness, Number, Shares, Switched

PLAIN: dict[str, Coordinates] = {"linear": Number(), "visible": Shares(), "perspective": Nearness()}
VARIED: dict[str, Callable[[tuple[Any, ...]], Coordinates]] = {
    "fade": FadeCoordinates,
    "discrete": Switched,
    "dash": DashCoordinates,
    "axes": AxesCoordinates.of,
    "path": OutlineCoordinates,
}


@lru_cache(maxsize=4096)
def coordinates_of(blend: str, space: str, values: tuple[Any, ...]) -> Coordinates:
    """Those in which all of `values` lie, the values of a property whose blend has that name; colours in `space`."""
    if blend in PLAIN:
        return PLAIN[blend]
    if blend in VARIED:
        return VARIED[blend](values)
    if blend == "shadows":
        return ShadowCoordinates.of(values, SPACES[space])
    if blend == "colour" or all(isinstance(value, str) for value in values):
        return ColourCoordinates(SPACES[space])
    return PaintCoordinates.of(values, SPACES[space])


__all__ = ["ColourCoordinates", "Coordinates", "OutlineCoordinates", "Passing", "begun", "coordinates_of", "settled"]
