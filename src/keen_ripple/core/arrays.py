"""Names for the arrays of the core."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Number = float | Floats
