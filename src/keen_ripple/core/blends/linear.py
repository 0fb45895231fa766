"""Numbers, on the straight line between them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats


@dataclass(frozen=True)
class LinearBetween:
    start: float
    end: float
    form: None = None
    tolerances: None = None

    def rows(self, progress: Floats) -> Floats:
        # Both products, so that progress 1 gives `end` to the last bit.
        return np.reshape(self.start * (1.0 - progress) + self.end * progress, (-1, 1))

    def value(self, row: Floats) -> float:
        return float(row[0])


class LinearBlend:
    columns = 1

    def show(self, value: Any) -> Floats:
        return np.array([value], dtype=np.float64)

    def between(self, start: Any, end: Any) -> LinearBetween:
        return LinearBetween(start, end)


@dataclass(frozen=True)
class VisibleBetween:
    """A number too: the share by which a layer is seen."""

    start: bool
    end: bool
    form: None = None
    tolerances: None = None

    def rows(self, progress: Floats) -> Floats:
        return np.clip(np.reshape(self.start * (1.0 - progress) + self.end * progress, (-1, 1)), 0.0, 1.0)

    def value(self, row: Floats) -> float | bool:
        share = float(row[0])
        return bool(share) if share in (0.0, 1.0) else share


class VisibleBlend:
    columns = 1

    def show(self, value: Any) -> Floats:
        return np.array([value], dtype=np.float64)

    def between(self, start: Any, end: Any) -> VisibleBetween:
        return VisibleBetween(start, end)


LINEAR = LinearBlend()
VISIBLE = VisibleBlend()
