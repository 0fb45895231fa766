"""Values with nothing in between: the new one from the first moment of the motion."""

from __future__ import annotations

from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats


class DiscreteBlend:
    """Rows hold no numbers: what does not vary between states is not on a tape."""

    def show(self, value: Any) -> Floats:
        return np.empty(0)

    def mix(self, start: Any, end: Any, progress: Floats) -> Floats:
        return np.empty((len(progress), 0))

    def value(self, row: Floats) -> Any:
        return None


DISCRETE = DiscreteBlend()
