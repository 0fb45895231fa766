"""Numbers, on the straight line between them."""

from __future__ import annotations

from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats


class LinearBlend:
    def show(self, value: Any) -> Floats:
        return np.array([value], dtype=np.float64)

    def mix(self, start: Any, end: Any, progress: Floats) -> Floats:
        # Both products, so that progress 1 gives `end` to the last bit.
        return np.reshape(start * (1.0 - progress) + end * progress, (-1, 1))

    def value(self, row: Floats) -> float:
        return float(row[0])


LINEAR = LinearBlend()
