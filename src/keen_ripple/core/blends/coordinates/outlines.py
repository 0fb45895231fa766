"""Coordinates of outlines: those of all points, once all outlines of a layer are written with the same commands."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.coordinates.passing import AsTheyAre, Place
from keen_ripple.core.blends.outlines import TOLERANCE_PX, OutlineBetween, path_text
from keen_ripple.core.outlines import alike, are_alike


@dataclass(frozen=True)
class OutlineCoordinates(AsTheyAre):
    """x and y of each point of the outlines `values`, px of the path."""

    values: tuple[str, ...]

    @cached_property
    def _alike(self) -> tuple[str, dict[str, Floats]]:
        commands, places = alike(self.values)
        # As they are printed, so that they are the same wherever they are written.
        return commands, {value: place.round(4) for value, place in zip(self.values, places, strict=True)}

    @property
    def shared(self) -> bool:  # type: ignore[override]
        return len(self.values) > 2 and not are_alike(self.values)

    @property
    def tolerances(self) -> tuple[float, ...]:  # type: ignore[override]
        return (TOLERANCE_PX,) * len(self._alike[1][self.values[0]])

    def line(self, start: Place, end: Any) -> OutlineBetween:
        """The way from a place to one of the outlines, of which progress is enough to be told."""
        return OutlineBetween(self._alike[0], np.array(start), self.place(end))

    @property
    def form(self) -> Any:
        return {"kind": "outline", "commands": self._alike[0]}

    def place(self, value: Any) -> Floats:
        return self._alike[1][value]

    def value(self, row: Floats) -> str:
        return path_text(self._alike[0], np.asarray(row))
