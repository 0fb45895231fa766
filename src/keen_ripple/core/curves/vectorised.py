"""One evaluation for floats and arrays alike."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from keen_ripple.core.arrays import Floats


def for_float_or_array(evaluate: Callable[[Any, Floats], Floats]) -> Any:
    """Wraps a method on 1-d arrays so that it takes a float and gives a float, or takes any array shape."""

    def method(self: Any, x: Any) -> Any:
        values = np.asarray(x, dtype=np.float64)
        result = evaluate(self, np.atleast_1d(values).ravel()).reshape(values.shape)
        return result if values.ndim else float(result)

    method.__doc__ = evaluate.__doc__
    method.__name__ = evaluate.__name__
    return method
