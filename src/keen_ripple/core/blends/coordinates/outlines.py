"""Coordinates of outlines: those of all points, once all outlines of a layer are written with the same commands."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.coordinates.passing import AsTheyAre
from keen_ripple.core.blends.outlines import TOLERANCE_PX, path_text
from keen_ripple.core.outlines import alike


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
        return len(self.values) > 2

    @property
    def tolerances(self) -> tuple[float, ...]:  # type: ignore[override]
        return (TOLERANCE_PX,) * len(self._alike[1][self.values[0]])

    @property
    def form(self) -> Any:
        return {"kind": "outline", "commands": self._alike[0]}

    def place(self, value: Any) -> Floats:
        return self._alike[1][value]

    def value(self, row: Floats) -> str:
        return path_text(self._alike[0], np.asarray(row))
