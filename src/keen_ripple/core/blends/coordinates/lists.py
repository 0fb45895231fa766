"""Coordinates of lists. What has no partner in another list has no weight, as what is transparent has no colour: it
takes the place of what it meets."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.colours import Space
from keen_ripple.core.blends.coordinates.colours import TOLERANCES, name_of, premultiplied, shown
from keen_ripple.core.blends.coordinates.passing import AsTheyAre
from keen_ripple.core.blends.lists import TOLERANCE_ON_AXIS, TOLERANCE_PX, Lengths, Places, Shadows, evened, places
from keen_ripple.core.colour import colour_text
from keen_ripple.core.values import Shadow

NUMBERS = ("x", "y", "blur", "spread")
WIDTH = len(NUMBERS) + 1 + 4
NO_SHADOW = np.zeros(WIDTH)


@dataclass(frozen=True)
class ShadowCoordinates(AsTheyAre):
    """For each shadow (x, y, blur, spread times weight, weight, premultiplied colour); `inset` says which there are.

    The n-th shadows of two lists belong together where both lie inside, or both outside.
    """

    places: tuple[tuple[int, bool], ...]
    space: Space

    @staticmethod
    def of(values: tuple[Shadows, ...], space: Space) -> ShadowCoordinates:
        found = {(index, shadow.inset) for shadows in values for index, shadow in enumerate(shadows)}
        return ShadowCoordinates(tuple(sorted(found)), space)

    @property
    def tolerances(self) -> tuple[float, ...]:  # type: ignore[override]
        return (*(TOLERANCE_PX,) * 4, 0.002, *(self.space.tolerance,) * 3, TOLERANCES[3]) * len(self.places)

    @property
    def form(self) -> Any:
        return {"kind": "shadow-list", "inset": [inset for _, inset in self.places], "space": name_of(self.space)}

    def place(self, value: Shadows) -> Floats:
        rows = [NO_SHADOW] * len(self.places)
        for index, shadow in enumerate(value):
            numbers = [getattr(shadow, name) for name in NUMBERS]
            rows[self.places.index((index, shadow.inset))] = np.array(
                [*numbers, 1.0, *premultiplied(self.space, shadow.colour)]
            )
        return np.concatenate(rows) if rows else np.empty(0)

    def value(self, row: Floats) -> Shadows:
        slots = row.reshape(-1, WIDTH)
        colours = shown(self.space, slots[:, 5:])
        return tuple(
            _shadow(slot, colour_text(colour), inset)
            for slot, colour, (_, inset) in zip(slots, colours, self.places, strict=True)
            if slot[4] != 0.0
        )


def _shadow(slot: Floats, colour: str, inset: bool) -> Shadow:
    x, y, blur, spread = (slot[:4] / slot[4]).tolist()
    return Shadow(x=x, y=y, blur=max(blur, 0.0), spread=spread, colour=colour, inset=inset)


@dataclass(frozen=True)
class DashCoordinates(AsTheyAre):
    """(dash times weight, gap) for each pair, all lists repeated to one length, then the weight: 0 without dashes."""

    values: tuple[Lengths, ...]

    @property
    def tolerances(self) -> tuple[float, ...]:  # type: ignore[override]
        return (*(TOLERANCE_PX,) * self._count, 0.002)

    @property
    def form(self) -> Any:
        return {"kind": "dashes"}

    @property
    def _count(self) -> int:
        return math.lcm(*(len(dash) for dash in map(evened, self.values) if dash))

    def place(self, value: Lengths) -> Floats:
        dash = evened(value)
        if not dash:
            return np.zeros(self._count + 1)
        return np.array([*dash * (self._count // len(dash)), 1.0])

    def value(self, row: Floats) -> Lengths:
        weight = row[-1]
        if weight == 0.0:
            return ()
        lengths = row[:-1].copy()
        lengths[::2] /= weight
        return tuple(np.maximum(lengths, 0.0).tolist())


@dataclass(frozen=True)
class AxesCoordinates(AsTheyAre):
    """The number on each axis."""

    axes: tuple[str, ...]

    @staticmethod
    def of(values: tuple[Places, ...]) -> AxesCoordinates:
        return AxesCoordinates(tuple(place.axis for place in values[0]))

    @property
    def tolerances(self) -> tuple[float, ...]:  # type: ignore[override]
        return (TOLERANCE_ON_AXIS,) * len(self.axes)

    @property
    def form(self) -> Any:
        return {"kind": "axes", "axes": list(self.axes)}

    def place(self, value: Places) -> Floats:
        return np.array([each.value for each in value], dtype=np.float64)

    def value(self, row: Floats) -> Places:
        return places(self.axes, row.tolist())
