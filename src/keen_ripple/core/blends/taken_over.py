"""The blend of motions that are taken over on their way."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from keen_ripple.core.arrays import Floats
from keen_ripple.core.blends.blend import Between, Blend
from keen_ripple.core.blends.coordinates import OutlineCoordinates, Passing, settled


@dataclass(frozen=True)
class TakenOver:
    """The blend of the property, for values some of which are places in mid-motion."""

    blend: Blend

    @property
    def columns(self) -> int | None:
        return self.blend.columns

    def show(self, value: Any) -> Floats:
        return self.blend.show(settled(value))

    def between(self, start: Any, end: Any) -> Between:
        if not isinstance(start, Passing):
            return self.blend.between(start, end)
        if isinstance(start.coordinates, OutlineCoordinates) and start.spring is None:
            return start.coordinates.line(start.place, end)
        return start.towards(end)
