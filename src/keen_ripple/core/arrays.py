"""The one kind of array in the core."""

from __future__ import annotations

from typing import Any, TypeAlias

import numpy as np

# As numpy.typing has it, which takes a while to load.
Floats: TypeAlias = np.ndarray[tuple[Any, ...], np.dtype[np.float64]]
